import type { ScalarKind, Severity } from '../tree/nodes'
import { safePattern } from './pattern'

/** What a value stands for, beyond how it is written. `docs/rules.md` explains each. */
export const MEANINGS = [
  'switch',
  'number',
  'text',
  'choice',
  'duration',
  'time',
  'id',
  'amount',
  'node',
  'colour',
  'coordinates',
  'angle',
  'link',
  'host',
  'port',
  'file',
  'picture',
  'secret',
  'slot',
  'weight',
  'command',
  'code',
] as const
export type Meaning = (typeof MEANINGS)[number]

/** What a setting is in the trade, beyond how it is written. */
export const ROLES = [
  'price',
  'payout',
  'start-money',
  'fee',
  'resale',
  'interest',
  'tax',
  'wealth-tax',
  'cooldown',
  'chance',
  'permission',
  'message',
  'secret',
  'schedule',
  'coordinate',
  'version-stamp',
] as const
export type Role = (typeof ROLES)[number]

/** What makes a changed setting count, the least first: the server takes it by a reload, is started anew, or has to be stopped before. */
export const APPLIES = ['reload', 'restart', 'stopped'] as const
export type Applies = (typeof APPLIES)[number]

/** Where a rule comes from, the most trusted first. */
export const SOURCES = ['yours', 'declared', 'comment', 'seen'] as const
export type RuleSource = (typeof SOURCES)[number]

/** What is only told from names, shapes and comments warns; what somebody declares may be an error. */
export const levelOf = (source: RuleSource | undefined): Severity => (source === 'declared' || source === 'yours' ? 'error' : 'warning')

/** What must be so for a setting to count: another setting in the same file, or a plugin, also only `for` one of its values. */
export type Need = { readonly setting: string; readonly is: boolean | string | number } | { readonly plugin: string; readonly for?: string }

/** What one value stands for, as -1 for “no limit”. */
export interface SaidValue {
  readonly value: string
  readonly says: string
}

/** What a setting may be. `path` is a JSON Pointer in which `*` stands for any one name. */
export interface Rule {
  readonly path: string
  readonly source?: RuleSource
  readonly kind?: ScalarKind | 'map' | 'list'
  /** Of a list: what each of its items stands for, but for coordinates and colours, which are one value together. */
  readonly means?: Meaning
  /** Of ids: the list of the server's they are from. */
  readonly registry?: string
  /** Of a section: the list of the server's that its names are from. */
  readonly keys?: string
  readonly min?: number
  readonly max?: number
  /** What a number is a multiple of. */
  readonly step?: number
  readonly wholeNumber?: boolean
  readonly choices?: readonly string[]
  /** Values with words of their own, which also count outside of the bounds. */
  readonly said?: readonly SaidValue[]
  /** At most so many characters; codes of the texts' markup count only with `countsCodes`. */
  readonly maxLength?: number
  /** A regular expression that is found in the text, and what it asks for in words; `^` and `$` hold it to all of the text. */
  readonly pattern?: string
  readonly patternSays?: string
  /** Whether nothing at all may stand in its place, whatever its kind. */
  readonly mayBeEmpty?: boolean
  /** Whether it has to say something. */
  readonly required?: boolean
  /** What it is in the trade. */
  readonly role?: Role
  /** What makes a change of it count. */
  readonly applies?: Applies
  /** Whether it has to be there at all, whatever the plugin takes without it. */
  readonly present?: boolean
  /** Of a section: whether it takes no settings but those that rules speak of. */
  readonly closed?: boolean
  /** The name of a port of the server's own that it must equal, as `game`. */
  readonly sameAs?: string
  readonly countsCodes?: boolean
  /** Of a list: how each of its items is written. */
  readonly items?: ScalarKind | 'map' | 'list'
  /** Of a list: at most so many items. */
  readonly maxItems?: number
  /** A unit in the singular: `second`, `tick`, `percent`, `degree`. */
  readonly unit?: string
  /** Of times of day: the zone they are written in, as `UTC`. */
  readonly zone?: string
  /** Of slots: the number of the first one, 0 or 1. */
  readonly first?: number
  /** Of pictures, in pixels. */
  readonly width?: number
  readonly height?: number
  /** Endings of files that may be named. */
  readonly endings?: readonly string[]
  /** The folder that files are named in, below that of the settings. */
  readonly folder?: string
  /** What an empty text does, as in “switches this page off”. */
  readonly emptyMeans?: string
  readonly needs?: readonly Need[]
  /** The author asks to leave it as it is. */
  readonly leave?: boolean
  /** A name and an explanation from a description of the settings. */
  readonly title?: string
  readonly says?: string
}

const KINDS = new Set(['null', 'bool', 'number', 'text', 'code', 'map', 'list'])
const NUMBERS = ['min', 'max', 'step', 'maxLength', 'maxItems', 'first', 'width', 'height'] as const
const TEXTS = ['registry', 'keys', 'unit', 'zone', 'folder', 'emptyMeans', 'title', 'says', 'pattern', 'patternSays', 'sameAs'] as const
const SWITCHES = ['wholeNumber', 'countsCodes', 'leave', 'required', 'mayBeEmpty', 'present', 'closed'] as const
const LISTS = ['choices', 'endings', 'said', 'needs'] as const

/** Reads one rule from JSON data. @throws TypeError naming what is wrong, after `name` */
export function readRule(item: unknown, name: string): Rule {
  const fail = (what: string): never => {
    throw new TypeError(`${name}: ${what}`)
  }
  if (typeof item !== 'object' || item === null) return fail('it must be an object')
  const rule = item as Record<string, unknown>
  const refuse = (keys: readonly string[], fits: (value: unknown) => boolean, what: string): void => {
    for (const key of keys) if (rule[key] !== undefined && !fits(rule[key])) fail(`“${key}” must be ${what}`)
  }
  if (typeof rule['path'] !== 'string' || !(rule['path'] === '' || rule['path'].startsWith('/')))
    return fail('“path” must be a JSON Pointer')
  refuse(['kind', 'items'], (value) => KINDS.has(String(value)), `one of ${[...KINDS].join(', ')}`)
  refuse(['means'], (value) => MEANINGS.includes(value as Meaning), `one of ${MEANINGS.join(', ')}`)
  refuse(['source'], (value) => SOURCES.includes(value as RuleSource), `one of ${SOURCES.join(', ')}`)
  refuse(['applies'], (value) => APPLIES.includes(value as Applies), `one of ${APPLIES.join(', ')}`)
  refuse(['role'], (value) => ROLES.includes(value as Role), `one of ${ROLES.join(', ')}`)
  refuse(['pattern'], (value) => safePattern(String(value)) !== null, 'a regular expression without repetitions within repetitions')
  refuse(NUMBERS, (value) => typeof value === 'number' && Number.isFinite(value), 'a number')
  refuse(TEXTS, (value) => typeof value === 'string', 'a text')
  refuse(SWITCHES, (value) => typeof value === 'boolean', 'true or false')
  refuse(LISTS, Array.isArray, 'a list')
  refuse(['choices', 'endings'], (value) => (value as unknown[]).every((one) => typeof one === 'string'), 'a list of texts')
  return rule as unknown as Rule
}

const rank = (rule: Rule): number => SOURCES.indexOf(rule.source ?? 'declared')

/** A rule with the source of each of its parts. */
export interface ExplainedRule {
  readonly rule: Rule
  readonly sources: Readonly<Partial<Record<keyof Rule, RuleSource>>>
}

/**
 * What several sources say of one setting, as one rule: what the most trusted says, and of the others what goes with it.
 * Where they speak of different meanings or units, the less trusted one is not heard.
 * @returns null where no source says anything
 */
export function explainRules(rules: readonly Rule[]): ExplainedRule | null {
  const [first, ...others] = [...rules].sort((a, b) => rank(a) - rank(b))
  if (!first) return null
  let rule = first
  const sources: Partial<Record<keyof Rule, RuleSource>> = {}
  const learn = (from: Rule, parts: readonly (keyof Rule)[]): void => {
    for (const part of parts) if (from[part] !== undefined) sources[part] ??= from.source ?? 'declared'
  }
  learn(first, Object.keys(first) as (keyof Rule)[])
  for (const other of others) {
    const differs = (key: 'means' | 'unit' | 'registry'): boolean =>
      rule[key] !== undefined && other[key] !== undefined && rule[key] !== other[key]
    if (differs('means') || differs('unit') || differs('registry')) {
      if (rule.kind !== undefined || other.kind === undefined) continue
      rule = { ...rule, kind: other.kind }
      learn(other, ['kind'])
    } else {
      rule = { ...other, ...rule }
      learn(other, Object.keys(other) as (keyof Rule)[])
    }
  }
  return { rule, sources }
}

/** The same without the sources. */
export const mergeRules = (rules: readonly Rule[]): Rule | null => explainRules(rules)?.rule ?? null
