import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { parse as parseProperties } from 'dot-properties'
import { answers } from '../behaviours/answers'
import { bundles } from '../behaviours/bundles'
import type { Host, Loaded, Running } from '../behaviours/behaviour'
import { money } from '../behaviours/money'
import { ranks } from '../behaviours/ranks'
import { satchels } from '../behaviours/satchels'
import type { Pack } from '../layouts'
import { SettingsError, SettingsFile } from './settings-file'

const STARTERS = { money, ranks, bundles, answers, satchels } as const

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

  constructor(
    readonly pack: Pack,
    private readonly folder: string,
    private readonly host: (plugin: Plugin) => Host,
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
    try {
      const settings = new SettingsFile(file, readFileSync(join(this.folder, file), 'utf8'))
      const used = settings.use(pack.behaviour.reads)
      const state = (this.running?.service as { state?: unknown } | undefined)?.state
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

  private texts(path: string): Record<string, string> {
    return existsSync(path) ? (parseProperties(readFileSync(path, 'utf8')) as Record<string, string>) : {}
  }
}

function fillText(text: string, values: Readonly<Record<string, string>>): string {
  return text.replace(/\{(\w+)\}/g, (whole, name: string) => values[name] ?? whole)
}
