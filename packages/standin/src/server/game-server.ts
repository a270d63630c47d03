import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { coerce, satisfies } from 'semver'
import { parse } from 'yaml'
import type { Host } from '../behaviours/behaviour'
import type { Ranks } from '../behaviours/ranks'
import { readPack, type Pack } from '../pack/read-pack'
import type { ServerConsole } from './console'
import { itemRegistry } from './items'
import { Plugin } from './plugin'

/** `brackwater.yml` in the server's folder. */
export interface ServerSettings {
  readonly name: string
  readonly 'game-version': string
  readonly places: readonly string[]
  readonly players: readonly string[]
  readonly 'tick-rate': number
  readonly banner: string
  readonly welcome: string
}

/** The simulated game server: plugins in load order, players that come and go, and a console. */
export class GameServer {
  private readonly plugins = new Map<string, Plugin>()
  private readonly online = new Set<string>()
  private readonly settings: ServerSettings
  private ticks = 0

  constructor(
    private readonly folder: string,
    private readonly console: ServerConsole,
    private readonly random: () => number,
    private readonly clock: () => number,
  ) {
    this.settings = parse(readFileSync(join(folder, 'brackwater.yml'), 'utf8')) as ServerSettings
  }

  start(): void {
    this.console.line('info', `Brackwater ${this.settings['game-version']} starting for ${this.settings.name}`)
    mkdirSync(join(this.folder, 'registry'), { recursive: true })
    writeFileSync(join(this.folder, 'registry', 'items.json'), JSON.stringify(itemRegistry(), null, 1) + '\n')
    for (const pack of this.inOrder(this.scan())) this.load(pack)
    this.tick()
    this.console.line('info', `ready, ${this.plugins.size} plugins running`)
  }

  private scan(): Pack[] {
    const extras = join(this.folder, 'extras')
    if (!existsSync(extras)) return []
    const packs: Pack[] = []
    for (const file of readdirSync(extras)
      .filter((name) => name.endsWith('.pack'))
      .sort()) {
      try {
        const pack = readPack(join(extras, file))
        const twin = packs.find((other) => other.descriptor.name === pack.descriptor.name)
        if (twin)
          this.console.line(
            'error',
            `${file}: ${pack.descriptor.name} ${twin.descriptor.version} is there already, so this file is passed over`,
          )
        else packs.push(pack)
      } catch (error) {
        this.console.line('error', `${file}: not a package: ${(error as Error).message}`)
      }
    }
    return packs
  }

  /** Those that others need come first. */
  private inOrder(packs: readonly Pack[]): Pack[] {
    const ordered: Pack[] = []
    const visit = (pack: Pack, path: readonly string[]): void => {
      if (ordered.includes(pack) || path.includes(pack.descriptor.name)) return
      for (const name of [...Object.keys(pack.descriptor.requires), ...Object.keys(pack.descriptor.optional)]) {
        const other = packs.find((item) => item.descriptor.name === name)
        if (other) visit(other, [...path, pack.descriptor.name])
      }
      ordered.push(pack)
    }
    for (const pack of packs) visit(pack, [])
    return ordered
  }

  private load(pack: Pack): void {
    const { name, version, requires, game } = pack.descriptor
    if (!fits(this.settings['game-version'], game))
      return this.console.line('error', `${name} ${version} failed: it is for game ${game}, and this is ${this.settings['game-version']}`)
    for (const [needed, range] of Object.entries(requires)) {
      const other = this.plugins.get(needed)
      if (!other?.running) return this.console.line('error', `${name} ${version} failed: it needs ${needed} ${range}, which is not running`)
      if (!fits(other.pack.descriptor.version, range))
        return this.console.line(
          'error',
          `${name} ${version} failed: it needs ${needed} ${range}, and there is ${other.pack.descriptor.version}`,
        )
    }
    const plugin = new Plugin(pack, join(this.folder, 'extras', name), (item) => this.host(item))
    this.plugins.set(name, plugin)
    for (const file of plugin.generate()) this.console.line('info', `${name} generated ${file}`)
    if (plugin.start()) this.console.line('info', `${name} ${version} loaded: ${plugin.running!.summary}`)
    else this.complain(plugin)
  }

  private complain(plugin: Plugin): void {
    const { file, line, message } = plugin.problem!
    this.console.line('error', `${plugin.name} ${plugin.pack.descriptor.version} failed: ${file} line ${line}: ${message}`)
  }

  private host(plugin: Plugin): Host {
    return {
      clock: this.clock,
      random: this.random,
      say: (text) => this.console.line('info', `[chat] ${text}`),
      info: (text) => this.console.line('info', `${plugin.name}: ${text}`),
      service: <T>(name: string): T | null =>
        ([...this.plugins.values()].find((item) => item.running && item.pack.descriptor.provides.includes(name))?.running?.service as
          T | undefined) ?? null,
      placeOf: () => this.settings.places[0] ?? 'delta',
      online: () => this.online.size,
      hasNode: (player, node) => this.hasNode(player, node),
      record: (name, text) => writeFileSync(join(plugin.folder, name), text),
    }
  }

  private hasNode(player: string, node: string): boolean {
    return (
      this.host([...this.plugins.values()][0]!)
        .service<Ranks>('ranks')
        ?.has(player, node) ?? false
    )
  }

  private tickRate(): number {
    return Math.round((this.settings['tick-rate'] - (this.ticks % 7 === 3 ? this.random() * 1.5 : this.random() * 0.1)) * 10) / 10
  }

  /** Once in a while: players come and go, and the state is told. */
  tick(): void {
    this.ticks++
    for (const player of this.settings.players) {
      if (!this.online.has(player) && (this.ticks === 1 || this.random() < 0.1)) {
        this.online.add(player)
        this.console.line('info', `${player} joined`)
        if (this.ticks > 1) for (const plugin of this.plugins.values()) plugin.running?.joined?.(player)
      } else if (this.ticks > 1 && this.random() < 0.04) {
        this.online.delete(player)
        this.console.line('info', `${player} left`)
        for (const plugin of this.plugins.values()) plugin.running?.left?.(player)
      }
    }
    this.console.line('info', `state: ${this.online.size} players, ${this.tickRate().toFixed(1)} ticks/s`)
  }

  /** Runs one console line. @returns false when the server shall stop. */
  command(line: string): boolean {
    const words = line.trim().split(/\s+/)
    const [name, ...rest] = words
    switch (name) {
      case '':
        break
      case 'stop':
        this.console.line('info', 'stopping')
        return false
      case 'plugins':
        for (const plugin of this.plugins.values())
          this.console.line('reply', `${plugin.name} ${plugin.pack.descriptor.version}: ${plugin.running ? 'running' : 'not running'}`)
        break
      case 'players':
        this.console.line('reply', [...this.online].join(', ') || 'nobody')
        break
      case 'say':
        this.console.line('info', `[chat] ${rest.join(' ')}`)
        break
      case 'reload':
        this.reload(rest[0] ?? '')
        break
      case 'grant':
        this.grant(rest[0] ?? '', rest[1] ?? '')
        break
      case 'as':
        this.asPlayer(rest[0] ?? '', rest.slice(1))
        break
      default:
        this.pluginCommand(words)
    }
    return true
  }

  private reload(name: string): void {
    const plugin = this.plugins.get(name)
    if (!plugin) return this.console.line('error', `reload: there is no plugin ${name}`)
    if (plugin.start()) this.console.line('info', `${name} ${plugin.pack.descriptor.version} reloaded: ${plugin.running!.summary}`)
    else this.complain(plugin)
  }

  private grant(player: string, node: string): void {
    const first = [...this.plugins.values()][0]
    const service = first ? this.host(first).service<Ranks>('ranks') : null
    if (!service || !node) return this.console.line('error', service ? 'grant <player> <node>' : 'grant: no plugin keeps ranks')
    service.grant(player, node)
    this.console.line('info', `${player} holds ${node} now`)
  }

  private asPlayer(player: string, words: readonly string[]): void {
    // plugins may answer in place of the game
    const lines = this.fromPlugins((plugin) => plugin.running?.asPlayer(player, words) ?? null) ?? this.fromGame(player, words[0] ?? '')
    for (const line of lines) this.console.line('reply', `${player} reads: ${line}`)
  }

  private fromGame(player: string, command: string): string[] {
    if (command === 'banner') return [this.settings.banner]
    if (command === 'join') return [this.settings.welcome.replaceAll('{player}', player)]
    return [`There is no command /${command}.`]
  }

  private pluginCommand(words: readonly string[]): void {
    const lines = this.fromPlugins((plugin) => plugin.running?.asConsole?.(words) ?? null)
    if (!lines) this.console.line('error', `there is no command ${words[0]}`)
    for (const line of lines ?? []) this.console.line('reply', line)
  }

  private fromPlugins(ask: (plugin: Plugin) => string[] | null): string[] | null {
    for (const plugin of this.plugins.values()) {
      const lines = ask(plugin)
      if (lines) return lines
    }
    return null
  }
}

function fits(version: string, range: string): boolean {
  return satisfies(coerce(version)?.version ?? '0.0.0', range)
}
