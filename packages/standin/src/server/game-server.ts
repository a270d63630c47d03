import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { coerce, satisfies } from 'semver'
import type { Host } from '../behaviours/behaviour'
import type { Ranks } from '../behaviours/ranks'
import { layoutOf, type Layout, type Pack, type ServerSettings } from '../layouts'
import { GameClock } from './clock'
import type { ServerConsole } from './console'
import { effectRegistry, itemRegistry, soundRegistry } from './items'
import { playerRegistry } from './players'
import { Plugin } from './plugin'

/** What a tick takes without plugins and players, and what a player adds to it, in milliseconds. */
const BASE_MS = 28
const PLAYER_MS = 0.35
/** What it holds without them, in megabytes. */
const MEMORY_MB = 310

/** The simulated game server: plugins in load order, players that come and go, and a console. */
export class GameServer {
  private readonly plugins = new Map<string, Plugin>()
  private readonly online = new Set<string>()
  private readonly layout: Layout
  private readonly settings: ServerSettings
  /** Nodes that were granted where no plugin keeps ranks. */
  private readonly granted = new Set<string>()
  private ticks = 0
  private readonly profile: string
  private readonly clock: GameClock

  constructor(
    private readonly folder: string,
    private readonly console: ServerConsole,
    private readonly random: () => number,
    time: () => number,
    { profile = 'profile', startedAt = new Date() }: { profile?: string; startedAt?: Date } = {},
  ) {
    this.layout = layoutOf(folder)
    this.profile = profile
    this.settings = this.layout.settings(folder, profile)
    this.clock = new GameClock(time, startedAt)
  }

  start(): void {
    this.console.line('info', `Brackwater ${this.settings.game} starting for ${this.settings.name}`)
    mkdirSync(join(this.folder, 'registry'), { recursive: true })
    const players = playerRegistry([...new Set([...this.settings.operators, ...this.settings.players])])
    for (const [name, list] of Object.entries({ items: itemRegistry(), sounds: soundRegistry(), effects: effectRegistry(), players }))
      writeFileSync(join(this.folder, 'registry', `${name}.json`), JSON.stringify(list, null, 1) + '\n')
    for (const pack of this.inOrder(this.scan())) this.load(pack)
    this.tick()
    this.console.line('info', `ready, ${this.plugins.size} plugins running`)
  }

  /** What lies there; of two that are the same plugin the first counts. */
  private scan(): Pack[] {
    const packs: Pack[] = []
    for (const pack of this.layout.scan(this.folder, (text) => this.console.line('error', text))) {
      const { name } = pack.descriptor
      const twin = packs.find((other) => other.descriptor.name === name)
      if (twin) this.console.line('error', `${name} ${twin.descriptor.version} is there already, so another of it is passed over`)
      else packs.push(pack)
    }
    return packs
  }

  /** Those that others need come first, and then those they work with; of two, the one that needs the other comes later. */
  private inOrder(packs: readonly Pack[]): Pack[] {
    const ordered: Pack[] = []
    const named = (name: string): Pack | undefined => packs.find((item) => item.descriptor.name === name)
    const needs = ({ descriptor }: Pack, name: string, seen: readonly string[] = []): boolean =>
      Object.keys(descriptor.requires).some((other) => {
        const next = seen.includes(other) ? undefined : named(other)
        return other === name || (next !== undefined && needs(next, name, [...seen, other]))
      })
    const visit = (pack: Pack, path: readonly string[]): void => {
      const { name: own, requires, optional } = pack.descriptor
      if (ordered.includes(pack) || path.includes(own)) return
      const wanted = Object.keys(optional)
        .flatMap((name) => named(name) ?? [])
        .filter((other) => !needs(other, own))
      for (const other of [...Object.keys(requires).flatMap((name) => named(name) ?? []), ...wanted]) visit(other, [...path, own])
      ordered.push(pack)
    }
    for (const pack of packs) visit(pack, [])
    return ordered
  }

  private load(pack: Pack): void {
    const why = this.against(pack)
    if (why !== null) return this.console.line('error', this.layout.failed(pack, why))
    const plugin = new Plugin(pack, this.folder, (item) => this.host(item), this.profile)
    this.plugins.set(pack.descriptor.name, plugin)
    for (const path of plugin.generate()) this.console.line('info', this.layout.generated(pack, path))
    this.startOne(plugin, false)
  }

  /** Why a plugin is not loaded; null for nothing. */
  private against({ descriptor: { game, requires } }: Pack): string | null {
    if (!fits(this.settings.game, game)) return `it is for game ${game}, and this is ${this.settings.game}`
    for (const [needed, range] of Object.entries(requires)) {
      const other = this.plugins.get(needed)
      if (!other?.running) return `it needs ${needed} ${range}, which is not running`
      if (!fits(other.pack.descriptor.version, range)) return `it needs ${needed} ${range}, and there is ${other.pack.descriptor.version}`
    }
    return null
  }

  private startOne(plugin: Plugin, again: boolean): void {
    if (plugin.start()) {
      const isSilent = plugin.pack.behaviour.silent === true && !again
      return isSilent ? undefined : this.console.line('info', this.layout.loaded(plugin.pack, plugin.running!.summary, again))
    }
    const { file, line, message } = plugin.problem!
    this.console.line('error', this.layout.failed(plugin.pack, `${file} line ${line}: ${message}`))
  }

  private host(plugin: Plugin): Host {
    return {
      clock: this.clock.now,
      date: this.clock.date,
      random: this.random,
      say: (text) => this.console.line('info', `[chat] ${text}`),
      info: (text) => this.console.line('info', `${plugin.name}: ${text}`),
      service: <T>(name: string): T | null =>
        ([...this.plugins.values()].find((item) => item.running && item.pack.descriptor.provides.includes(name))?.running?.service as
          T | undefined) ?? null,
      placeOf: () => this.settings.places[0] ?? 'delta',
      online: () => this.online.size,
      hasNode: (player, node) => this.hasNode(player, node),
      recorded: (name) => plugin.recorded(name),
      record: (name, text) => plugin.record(name, text),
    }
  }

  private ranks(): Ranks | null {
    const first = [...this.plugins.values()][0]
    return first ? this.host(first).service<Ranks>('ranks') : null
  }

  private hasNode(player: string, node: string): boolean {
    if (this.settings.operators.includes(player)) return true
    const said = this.ranks()?.verdict(player, node) ?? (this.granted.has(`${player} ${node}`) || null)
    return said ?? [...this.plugins.values()].some(({ pack }) => pack.descriptor.open.includes(node))
  }

  /** What all plugins and players together cost of a tick, in milliseconds, keeps the rate down from some point on. */
  private tickRate(): number {
    const costs = [...this.plugins.values()].reduce((sum, plugin) => sum + plugin.cost, BASE_MS + this.online.size * PLAYER_MS)
    const most = Math.min(this.settings.tickRate, 1000 / costs)
    return Math.round((most - (this.ticks % 7 === 3 ? this.random() * 1.5 : this.random() * 0.1)) * 10) / 10
  }

  /** Lets plugins do what falls due by the clock. */
  private letTimePass(): void {
    const span = this.clock.passed()
    for (const plugin of this.plugins.values()) plugin.running?.passed?.(span)
  }

  /** Tells the time of day, or sets the clock on by so many seconds. */
  private tellTime(more: string): void {
    this.clock.setOnBy(Number(more))
    this.letTimePass()
    this.console.line('reply', this.clock.timeOfDay)
  }

  /** What each plugin costs of a tick. */
  private tellTimes(): void {
    for (const plugin of this.plugins.values())
      if (plugin.running) this.console.line('reply', `time: ${plugin.pack.said} ${plugin.cost.toFixed(2)} ms`)
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
    this.letTimePass()
    const memory = MEMORY_MB + this.online.size * 6 + this.plugins.size * 9
    this.console.line('info', `state: ${this.online.size} players, ${this.tickRate().toFixed(1)} ticks/s, ${memory} MB`)
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
      case 'reberth':
        this.reload(rest.join(' '))
        break
      case 'clock':
        this.tellTime(rest[0] ?? '')
        break
      case 'times':
        this.tellTimes()
        break
      case 'load':
        this.loadNew(rest.join(' '))
        break
      case 'flush':
        this.flush(rest.join(' '))
        break
      case 'open':
        this.openPlace(rest.join(' '))
        break
      case 'grant':
        this.grant(rest[0] ?? '', rest[1] ?? '')
        break
      case 'may':
        this.tellRights(rest[0] ?? '')
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
    const plugin = [...this.plugins.values()].find((item) => item.name === name || item.pack.said === name)
    if (!plugin) return this.console.line('error', `reload: there is no plugin ${name}`)
    this.startOne(plugin, true)
  }

  /** Loads one that came since the start, with what it needs by then. */
  private loadNew(name: string): void {
    const pack = this.scan().find((item) => item.descriptor.name === name)
    if (!pack) return this.console.line('error', `load: there is no plugin ${name}`)
    if (this.plugins.get(name)?.running) return this.reload(name)
    this.load(pack)
  }

  /** Opens a place by its folder, of which capitals count on every disk. */
  private openPlace(name: string): void {
    const folder = join(this.folder, 'places')
    const isThere = existsSync(folder) && readdirSync(folder).includes(name)
    this.console.line(isThere ? 'info' : 'error', isThere ? `${name} is open` : `open: there is no place ${name}`)
  }

  private flush(name: string): void {
    const lines = this.plugins.get(name)?.running?.asConsole?.(['flush', name]) ?? [`flush: ${name} keeps nothing`]
    for (const line of lines) this.console.line('reply', line)
  }

  private grant(player: string, node: string): void {
    if (!node) return this.console.line('error', 'grant <player> <node>')
    const ranks = this.ranks()
    if (ranks) ranks.grant(player, node)
    else this.granted.add(`${player} ${node}`)
    this.console.line('info', `${player} holds ${node} now`)
  }

  /** All nodes of the plugins here that a player holds. */
  private tellRights(player: string): void {
    if (player === '') return this.console.line('error', 'may <player>')
    const nodes = [...this.plugins.values()].flatMap(({ pack }) => Object.keys(pack.descriptor.nodes))
    this.console.line('info', `may: ${player}: ${nodes.filter((node) => this.hasNode(player, node)).join(' ') || 'nothing'}`)
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
