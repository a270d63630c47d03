import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { parse as parseProperties } from 'dot-properties'
import { answers, sizeOf } from '../behaviours/answers'
import { bundles } from '../behaviours/bundles'
import type { Host, Loaded, Running } from '../behaviours/behaviour'
import { crews } from '../behaviours/crews'
import { money } from '../behaviours/money'
import { ranks } from '../behaviours/ranks'
import { satchels } from '../behaviours/satchels'
import type { Pack } from '../layouts'
import type { Reading } from '../pack/descriptor'
import { SettingsError, SettingsFile, type Used } from './settings-file'

type Readings = Record<string, Reading>

const STARTERS = { money, ranks, crews, bundles, answers, satchels } as const

/** A problem with one of the plugin's files. */
export interface FileProblem {
  readonly file: string
  readonly line: number
  readonly message: string
}

/** One installed plugin: its package, its files, and what runs of it. */
export class Plugin {
  running: Running | null = null
  problem: FileProblem | null = null
  private used: Used = {}

  constructor(
    readonly pack: Pack,
    private readonly folder: string,
    private readonly host: (plugin: Plugin) => Host,
    /** The folder the server keeps what is its own in. */
    private readonly profile = '',
  ) {}

  get name(): string {
    return this.pack.descriptor.name
  }

  /** Writes the files that are not there yet; gives their paths. */
  generate(): string[] {
    const written: string[] = []
    for (const [path, text] of this.pack.defaults) {
      const file = join(this.folder, path)
      if (existsSync(file)) continue
      mkdirSync(dirname(file), { recursive: true })
      writeFileSync(file, text)
      written.push(path)
    }
    return written
  }

  /** What was recorded in one of its own files; null for nothing. */
  recorded(name: string): string | null {
    const path = join(this.folder, this.pack.record(name))
    return existsSync(path) ? readFileSync(path, 'utf8') : null
  }

  record(name: string, text: string): void {
    const path = join(this.folder, this.pack.record(name))
    mkdirSync(dirname(path), { recursive: true })
    writeFileSync(path, text)
  }

  /** Reads the files and starts, or starts anew; on a problem what ran goes on only at a reload. */
  start(): boolean {
    const { pack } = this
    this.problem = null
    let file = pack.settings
    const open = (path: string): SettingsFile => {
      file = path
      return new SettingsFile(path, readFileSync(join(this.folder, path), 'utf8'))
    }
    try {
      this.rewrite()
      const [own, elsewhere] = this.readings()
      const settings = open(pack.settings)
      const used = { ...settings.use(own) }
      for (const [path, reads] of elsewhere) Object.assign(used, open(path).use(reads))
      const state = (this.running?.service as { state?: unknown } | undefined)?.state
      this.used = used
      file = pack.texts ?? file
      const texts = pack.texts === null ? {} : this.texts(join(this.folder, pack.texts))
      file = pack.settings
      const loaded: Loaded = {
        used,
        file: settings,
        behaviour: pack.behaviour,
        text: (key, values) => fillText(texts[key] ?? `<${key}>`, values ?? {}),
      }
      this.running = STARTERS[pack.behaviour.kind](this.host(this), loaded, state)
      return true
    } catch (error) {
      this.problem = { file: pack.fileSaid(file), line: error instanceof SettingsError ? error.line : 1, message: (error as Error).message }
      return false
    }
  }

  /** What it reads of its own settings, and of other files by their paths. */
  private readings(): [Readings, Map<string, Readings>] {
    const own: Readings = {}
    const elsewhere = new Map<string, Readings>()
    for (const [name, reading] of Object.entries(this.pack.behaviour.reads)) {
      const path = reading.file?.replace('{profile}', this.profile).replace('{home}', dirname(this.pack.settings))
      if (path === undefined) own[name] = reading
      else elsewhere.set(path, { ...elsewhere.get(path), [name]: reading })
    }
    return [own, elsewhere]
  }

  /** Some plugins write a line of their settings anew whenever they start. */
  private rewrite(): void {
    const { rewrites } = this.pack.behaviour
    if (!rewrites) return
    const path = join(this.folder, this.pack.settings)
    const before = readFileSync(path, 'utf8')
    const after = before.replace(/^.*$/gm, (line) => (line.trimStart().startsWith(rewrites.line) ? rewrites.by : line))
    if (after !== before) writeFileSync(path, after)
  }

  /** What it costs of each tick, in milliseconds; nothing while it does not run. */
  get cost(): number {
    const { cost } = this.pack.behaviour
    if (!this.running || !cost) return 0
    const of = (parts: Readonly<Record<string, number>> = {}, value: (name: string, by: number) => number): number =>
      Object.entries(parts).reduce((sum, [name, by]) => sum + value(name, by), 0)
    const sizes = of(cost.each, (name, by) => sizeOf(this.used[name]) * by)
    return cost.base + sizes + of(cost.per, (name, by) => by / Math.max(Number(this.used[name]), 0.001))
  }

  private texts(path: string): Record<string, string> {
    return existsSync(path) ? (parseProperties(readFileSync(path, 'utf8')) as Record<string, string>) : {}
  }
}

function fillText(text: string, values: Readonly<Record<string, string>>): string {
  return text.replace(/\{(\w+)\}/g, (whole, name: string) => values[name] ?? whole)
}
