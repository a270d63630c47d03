import { lastWord } from '../carry/likeness'
import type { Rule } from '../rules/rule'
import { amountOf } from '../tree/compare'
import { formatPointer } from '../tree/pointer'
import type { FileLooks, ValueLook } from './looks'
import type { WorkspaceFile } from './workspace'

/** A table that is drawn from. */
export interface DrawFact {
  readonly pointer: string
  readonly name: string
  /** Whether its numbers are weights, each a share of all; else each is how likely its thing is by itself. */
  readonly isByWeight: boolean
  readonly entries: readonly DrawEntry[]
}

export interface DrawEntry {
  readonly name: string
  /** A weight, or a chance of 0 to 1. */
  readonly weight: number
  /** What the number has to be multiplied with, as it is written: 100 for chances of a hundred. */
  readonly scale: number
  readonly pointer: string
  readonly from: number
}

interface Found {
  readonly keys: readonly string[]
  readonly isByWeight: boolean
  readonly entries: DrawEntry[]
}

/** Words that names of single chances end with, beside those of weights. */
const CHANCE = new Set(['chance', 'odds', 'probability', 'rarity', 'weight'])
const LIKE_CHANCE = /chance|odds|probability|rarity|weight/i
/** Names of settings that say what comes, the surest first. */
const COMES = ['item', 'id', 'type', 'material', 'thing', 'reward', 'table']

/**
 * Tables of a file: sections whose own numbers are weights, and groups or lists each entry of which has a weight or a chance of its own.
 * One of a single entry is no table.
 */
export function drawsIn({ document }: WorkspaceFile, { values }: FileLooks): DrawFact[] {
  const named = values.filter(({ rule, keys, node }) => isChance(rule, keys) && amountOf(document, node) !== null)
  // most files draw nothing
  if (named.length === 0) return []
  const texts = new Map(values.map((value) => [formatPointer(value.keys), value]))
  const chances = named.filter(({ rule, keys }) => rule?.role === 'chance' || comesOf(keys, texts, COMES) !== null || isSingle(keys))
  const counts = new Map<string, number>()
  for (const { keys } of chances) counts.set(sectionOf(keys), (counts.get(sectionOf(keys)) ?? 0) + 1)
  const tables = new Map<string, Found>()
  for (const value of chances) {
    const { keys, rule, node } = value
    const amount = amountOf(document, node) ?? 0
    const isOfEntry = counts.get(sectionOf(keys)) === 1 && keys.length > 1 && CHANCE.has(lastWord(keys.at(-1)!))
    const at = keys.slice(0, isOfEntry ? -2 : -1)
    const isByWeight = rule?.means === 'weight' || lastWord(keys.at(-1)!) === 'weight'
    const table = tables.get(formatPointer(at)) ?? { keys: at, isByWeight, entries: [] }
    const name = isOfEntry ? (comesOf(keys, texts, [...COMES, 'name']) ?? keys.at(-2)!) : keys.at(-1)!
    table.entries.push({ name, weight: amount, scale: 1, pointer: formatPointer(keys), from: node.from })
    tables.set(formatPointer(at), table)
  }
  return [...tables].flatMap(([pointer, { keys, isByWeight, entries }]) =>
    entries.length < 2 ? [] : [{ pointer, name: nameOf(keys), isByWeight, entries: isByWeight ? entries : asShares(entries) }],
  )
}

const isChance = (rule: Rule | null, keys: readonly string[]): boolean =>
  // looked for in the letters first: there are many settings and few chances
  rule?.role === 'chance' || (!rule?.role && keys.length > 1 && LIKE_CHANCE.test(keys.at(-1)!) && CHANCE.has(lastWord(keys.at(-1)!)))

/** A weight may say an order as well, and counts only beside what comes. */
const isSingle = (keys: readonly string[]): boolean => lastWord(keys.at(-1)!) !== 'weight'

const sectionOf = (keys: readonly string[]): string => formatPointer(keys.slice(0, -1))

/** A table is called by its own name and that of what it is in; the file's own section has none. */
const nameOf = (keys: readonly string[]): string => keys.slice(-2).join(' ')

/** What a setting beside a chance says that comes; null where none does. */
function comesOf(chance: readonly string[], texts: ReadonlyMap<string, ValueLook>, names: readonly string[]): string | null {
  for (const name of names) {
    const text = texts.get(formatPointer([...chance.slice(0, -1), name]))?.text
    if (text) return text
  }
  return null
}

/** Chances of a hundred, where one of them is above one, as chances of one. */
function asShares(entries: readonly DrawEntry[]): readonly DrawEntry[] {
  const scale = entries.some(({ weight }) => weight > 1) ? 100 : 1
  return entries.map((entry) => ({ ...entry, weight: Math.min(1, Math.max(0, entry.weight / scale)), scale }))
}
