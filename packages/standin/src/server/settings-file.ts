import type { Reading } from '../pack/descriptor'
import { SettingsError, readTree, type SettingsTree } from './trees'

export { SettingsError } from './trees'

export type Used = Readonly<Record<string, unknown>>

/** One settings file as a plugin reads it. */
export class SettingsFile {
  private readonly tree: SettingsTree

  /** @throws SettingsError for a text that does not read. */
  constructor(path: string, text: string) {
    this.tree = readTree(path, text)
  }

  /** The values a plugin uses, each checked. @throws SettingsError for the first that it cannot use. */
  use(reads: Readonly<Record<string, Reading>>): Used {
    return Object.fromEntries(Object.entries(reads).map(([name, reading]) => [name, this.take(reading.at!.split('.'), reading)]))
  }

  /** The entries of a section, each with its checked values and everything else it has. */
  entries(at: string, reads: Readonly<Record<string, Reading>>): { key: string; values: Record<string, unknown> }[] {
    const section = this.at(at.split('.'))
    if (!isSection(section)) return []
    return Object.entries(section).map(([key, value]) => {
      const path = [...at.split('.'), key]
      if (!isSection(value)) throw new SettingsError(this.tree.lineOf(path), `${path.join('.')} must be a section`)
      const checked = Object.fromEntries(Object.entries(reads).map(([name, reading]) => [name, this.take([...path, name], reading)]))
      return { key, values: { ...value, ...checked } }
    })
  }

  private at(path: readonly string[]): unknown {
    return path.reduce<unknown>((value, key) => (isSection(value) && Object.hasOwn(value, key) ? value[key] : undefined), this.tree.data)
  }

  private take(path: readonly string[], reading: Reading): unknown {
    const name = path.join('.')
    const fail = (what: string): never => {
      throw new SettingsError(this.tree.lineOf(path), `${name} ${what}`)
    }
    const value = this.at(path)
    if (value === undefined) return reading.otherwise === undefined ? fail('is missing') : reading.otherwise
    if (reading.kind === 'section') return isSection(value) ? value : fail('must be a section')
    if (reading.kind === 'list') return Array.isArray(value) ? value : fail('must be a list')
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
}

const isSection = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value)

function show(value: unknown): string {
  return value === null ? 'nothing' : JSON.stringify(value)
}
