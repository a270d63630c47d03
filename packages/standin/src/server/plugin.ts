import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { parse as parseProperties } from 'dot-properties'
import { answers } from '../behaviours/answers'
import { bundles } from '../behaviours/bundles'
import type { Host, Loaded, Running } from '../behaviours/behaviour'
import { money } from '../behaviours/money'
import { ranks } from '../behaviours/ranks'
import type { Pack } from '../pack/read-pack'
import { SettingsError, SettingsFile } from './settings-file'

const STARTERS = { money, ranks, bundles, answers } as const

/** A problem with one of the plugin's files. */
export interface FileProblem {
  readonly file: string
  readonly line: number
  readonly message: string
}

/** One installed plugin: its package, its folder, and what runs of it. */
export class Plugin {
  running: Running | null = null
  problem: FileProblem | null = null

  constructor(
    readonly pack: Pack,
    readonly folder: string,
    private readonly host: (plugin: Plugin) => Host,
  ) {}

  get name(): string {
    return this.pack.descriptor.name
  }

  /** Writes the files that are not there yet; gives their names. */
  generate(): string[] {
    const written: string[] = []
    for (const [name, text] of this.pack.defaults) {
      const path = join(this.folder, name)
      if (existsSync(path)) continue
      mkdirSync(this.folder, { recursive: true })
      writeFileSync(path, text)
      written.push(name)
    }
    return written
  }

  /** Reads the files and starts, or starts anew; on a problem what ran goes on only at a reload. */
  start(): boolean {
    this.problem = null
    let file = 'settings.yml'
    try {
      const settings = new SettingsFile(readFileSync(join(this.folder, file), 'utf8'))
      const used = settings.use(this.pack.behaviour.reads)
      const state = (this.running?.service as { state?: unknown } | undefined)?.state
      file = 'texts.properties'
      const texts = this.texts(join(this.folder, file))
      file = 'settings.yml'
      const loaded: Loaded = {
        used,
        file: settings,
        behaviour: this.pack.behaviour,
        text: (key, values) => fillText(texts[key] ?? `<${key}>`, values ?? {}),
      }
      this.running = STARTERS[this.pack.behaviour.kind](this.host(this), loaded, state)
      return true
    } catch (error) {
      this.problem = { file, line: error instanceof SettingsError ? error.line : 1, message: (error as Error).message }
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
