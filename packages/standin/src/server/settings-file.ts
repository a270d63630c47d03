import { LineCounter, isMap, isScalar, isSeq, parseDocument, type Document, type Node } from 'yaml'
import type { Reading } from '../pack/descriptor'

/** A settings file a plugin cannot use; the line is that of the cause. */
export class SettingsError extends Error {
  constructor(
    readonly line: number,
    message: string,
  ) {
    super(message)
    this.name = 'SettingsError'
  }
}

export type Used = Readonly<Record<string, unknown>>

/** One settings file as a plugin reads it, with a general parser that knows lines. */
export class SettingsFile {
  private readonly document: Document
  private readonly lines = new LineCounter()

  /** @throws SettingsError for a text that is not YAML. */
  constructor(text: string) {
    this.document = parseDocument(text, { lineCounter: this.lines })
    const error = this.document.errors[0]
    if (error) throw new SettingsError(error.linePos?.[0].line ?? 1, error.message.split('\n')[0]!.replace(/ at line.*$/, ''))
  }

  /** The values a plugin uses, each checked. @throws SettingsError for the first that it cannot use. */
  use(reads: Readonly<Record<string, Reading>>): Used {
    return Object.fromEntries(Object.entries(reads).map(([name, reading]) => [name, this.take(reading.at!.split('.'), reading)]))
  }

  /** The entries of a section, each with its checked values and everything else it has. */
  entries(at: string, reads: Readonly<Record<string, Reading>>): { key: string; values: Record<string, unknown> }[] {
    const section = this.document.getIn(at.split('.'), true)
    if (!isMap(section)) return []
    return section.items.map((pair) => {
      const key = String(isScalar(pair.key) ? pair.key.value : pair.key)
      const path = [...at.split('.'), key]
      if (!isMap(pair.value)) throw new SettingsError(this.lineOf(path), `${path.join('.')} must be a section`)
      const checked = Object.fromEntries(Object.entries(reads).map(([name, reading]) => [name, this.take([...path, name], reading)]))
      return { key, values: { ...((pair.value as Node).toJS(this.document) as Record<string, unknown>), ...checked } }
    })
  }

  private take(path: readonly string[], reading: Reading): unknown {
    const node = this.document.getIn(path, true) as Node | undefined
    const name = path.join('.')
    const fail = (what: string): never => {
      throw new SettingsError(this.lineOf(path), `${name} ${what}`)
    }
    if (!node) return fail('is missing')
    const value: unknown = node.toJS(this.document)
    if (reading.kind === 'section') return isMap(node) ? value : fail('must be a section')
    if (reading.kind === 'list') return isSeq(node) ? value : fail('must be a list')
    if (reading.kind === 'switch') return typeof value === 'boolean' ? value : fail(`must be true or false, not ${show(value)}`)
    if (reading.kind === 'number') return this.number(value, reading, fail)
    if (typeof value !== 'string') return fail(`must be text, not ${show(value)}`)
    if (reading.choices && !reading.choices.includes(value))
      return fail(`cannot be ${show(value)}; it is one of ${reading.choices.join(', ')}`)
    if (reading.length !== undefined && value.length > reading.length)
      return fail(`has ${value.length} letters, more than ${reading.length}`)
    return value
  }

  private number(value: unknown, reading: Reading, fail: (what: string) => never): number {
    if (typeof value !== 'number' || !Number.isFinite(value)) return fail(`must be a number, not ${show(value)}`)
    if (reading.whole && !Number.isInteger(value)) return fail(`must be a whole number, not ${value}`)
    if (reading.least !== undefined && value < reading.least) return fail(`must be at least ${reading.least}, not ${value}`)
    if (reading.most !== undefined && value > reading.most) return fail(`must be at most ${reading.most}, not ${value}`)
    return value
  }

  private lineOf(path: readonly string[]): number {
    for (let length = path.length; length > 0; length--) {
      const parent = this.document.getIn(path.slice(0, length - 1), true)
      const map = length === 1 ? this.document.contents : parent
      if (!isMap(map)) continue
      const pair = map.items.find((item) => isScalar(item.key) && String(item.key.value) === path[length - 1])
      const key = pair?.key
      if (isScalar(key) && key.range) return this.lines.linePos(key.range[0]).line
    }
    return 1
  }
}

function show(value: unknown): string {
  return value === null ? 'nothing' : JSON.stringify(value)
}
