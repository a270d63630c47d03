import { lastWord, nameWords } from '../carry/likeness'
import { writtenId } from '../rules/id-forms'
import type { Document } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { textOf, type FileLooks, type ValueLook } from './looks'
import { itemIn, meanCountIn } from './money-reader'
import { shareIn, type Share } from './shares'
import { isPart, sectionsOf } from './sections'
import { sleepingIn } from './sleeping'
import { moneyOf, writtenIn, type TextAround } from './written'
import type { WorkspaceFile } from './workspace'

/** A table that is drawn from. */
export interface DrawFact {
  readonly pointer: string
  /** The names of the sections it is in and its own, those that names with points stand for one by one. */
  readonly keys: readonly string[]
  readonly name: string
  /** Whether its numbers are weights, each a share of all; else each is how likely its thing is by itself. */
  readonly isByWeight: boolean
  /** Whether each draw brings one of all that is in it: by weights, or by chances that are all there is. */
  readonly isOne: boolean
  readonly entries: readonly DrawEntry[]
}

export interface DrawEntry {
  readonly name: string
  /** Whether it is a thing, or another table; else what it is is not told, but for what money it brings. */
  readonly isThing: boolean
  /** So many of it come at once, on average. */
  readonly count: number
  /** What comes in money, where it is no thing; null for things. */
  readonly money: number | null
  /** A weight, or a chance of 0 to 1. */
  readonly weight: number
  /** What the number has to be multiplied with, as it is written: 100 for chances of a hundred. */
  readonly scale: number
  readonly pointer: string
  readonly from: number
  /** Where it stands in a text, what is around it; null where it is the value itself. */
  readonly around: TextAround | null
}

interface Found {
  readonly keys: readonly string[]
  readonly isByWeight: boolean
  /** Whether any of them says that it is of a hundred. */
  isOfHundred: boolean
  readonly entries: DrawEntry[]
}

/** Words that names of single chances end with, beside those of weights. */
export const CHANCE = new Set(['chance', 'odds', 'probability', 'rarity', 'weight'])
const LIKE_CHANCE = /chance|odds|probability|rarity|weight/i
/** Of chances that leave out no more than this, one always comes. */
const ROUNDED = 0.005
/** What sections are called whose own texts of percent are chances. */
const DRAWN = /drop|loot|chance|odds|draw|table/i
/** What stands for something in a menu. */
const SHOWN = new Set(['icon', 'display', 'symbol', 'menu', 'button', 'filler'])
/** Names of settings that say what comes, the surest first. */
const COMES = ['item', 'id', 'type', 'material', 'thing', 'reward', 'table']

/**
 * Tables of a file: sections whose own numbers are weights, and groups or lists each entry of which has a weight or a chance of its own.
 * One of a single entry is no table.
 * @param items the server's own list, by which what comes is known under any name: `fish: eel`
 */
export function drawsIn({ document }: WorkspaceFile, looks: FileLooks, items: ReadonlySet<string> = new Set()): DrawFact[] {
  const written = (value: ValueLook): ReturnType<typeof writtenIn> => writtenIn(document, value)
  const named = looks.values.filter((value) => isChance(value) && written(value) !== null && !sleepingIn(looks)(value))
  // most files draw nothing
  if (named.length === 0) return []
  const sections = sectionsOf(document, looks)
  const things = new Set(looks.parts.filter(({ rule }) => rule?.keys === 'items').map(({ keys }) => formatPointer(keys)))
  const given = itemLines(document, looks)
  const chances = named.filter((value) => value.rule?.role === 'chance' || !isOrder(value.keys))
  const counts = new Map<string, number>()
  for (const { keys } of chances) counts.set(sectionOf(keys), (counts.get(sectionOf(keys)) ?? 0) + 1)
  const tables = new Map<string, Found>()
  for (const value of chances) {
    const { keys, rule, node } = value
    const { amount, around, isPercent } = written(value)!
    const isOfEntry = counts.get(sectionOf(keys)) === 1 && keys.length > 1 && CHANCE.has(lastWord(keys.at(-1)!))
    const at = keys.slice(0, isOfEntry ? -2 : -1)
    const isByWeight = rule?.means === 'weight' || lastWord(keys.at(-1)!) === 'weight'
    const table = tables.get(formatPointer(at)) ?? { keys: at, isByWeight, isOfHundred: false, entries: [] }
    table.isOfHundred ||= isPercent
    const comes = isOfEntry ? comesIn(keys) : { name: keys.at(-1)!, isThing: true, count: 1, money: null }
    table.entries.push({ ...comes, weight: amount, scale: 1, pointer: formatPointer(keys), from: node.from, around })
    tables.set(formatPointer(at), table)
  }
  return [...tables].flatMap(([pointer, { keys, isByWeight, isOfHundred, entries: as }]) => {
    const entries = isByWeight ? as : asShares(as, isOfHundred)
    const isOne = isByWeight || Math.abs(entries.reduce((sum, { weight }) => sum + weight, 0) - 1) < ROUNDED
    return entries.length < 2 ? [] : [{ pointer, keys, name: nameOf(keys), isByWeight, isOne, entries }]
  })

  /** A weight may say an order as well, and counts only beside what comes, and in what speaks of draws. */
  function isOrder(keys: readonly string[]): boolean {
    if (lastWord(keys.at(-1)!) !== 'weight') return false
    const own = sections.entry(keys.slice(0, -1))
    const comes =
      itemIn(own) !== null || listedIn(own) !== null || textIn(own, COMES) !== null || own.some(({ rule }) => rule?.role === 'payout')
    return !comes && !things.has(formatPointer(keys.slice(0, -2))) && !keys.slice(0, -2).some((key) => DRAWN.test(key))
  }

  /** The one item that a list in an entry gives: `items: [ "clay 32" ]`; null for several, and for none. */
  function onlyShareIn(entry: readonly string[]): Share | null {
    const lines = given.get(formatPointer(entry)) ?? []
    return lines.length === 1 ? shareIn(lines[0]!) : null
  }

  function listedIn(own: readonly ValueLook[]): string | null {
    const found = own.find(({ keys, node, text, isItem }) => {
      const isShown = nameWords(keys.at(-1)!).some((word) => SHOWN.has(word))
      return !isItem && !isShown && node.kind === 'text' && writtenId(items, text) !== null
    })
    return found?.text ?? null
  }

  /** What comes with a chance of an entry: a thing and how many of it, or money. */
  function comesIn(keys: readonly string[]): Pick<DrawEntry, 'name' | 'isThing' | 'count' | 'money'> {
    const own = sections.entry(keys.slice(0, -1))
    const count = meanCountIn(document, own)
    const thing = itemIn(own) ?? textIn(own, COMES) ?? listedIn(own)
    if (thing !== null) return { name: thing, isThing: true, count, money: null }
    const share = onlyShareIn(keys.slice(0, -1))
    if (share) return { name: share.item, isThing: true, count: share.count, money: null }
    const paid = own.find(({ rule }) => rule?.role === 'payout' || rule?.role === 'start-money')
    const entry = keys.at(-2)!
    const named = textIn(own, ['name', 'title']) ?? (paid && /^\d+$/.test(entry) ? paid.keys.at(-1)! : entry)
    return { name: named, isThing: false, count: 1, money: paid ? moneyOf(document, paid) : null }
  }
}

function isChance({ rule, keys, node, text }: ValueLook): boolean {
  if (rule?.role === 'chance') return true
  if (rule?.role || keys.length < 2) return false
  // looked for in the letters first: there are many settings and few chances
  if (LIKE_CHANCE.test(keys.at(-1)!) && CHANCE.has(lastWord(keys.at(-1)!))) return true
  return node.kind === 'text' && text.endsWith('%') && DRAWN.test(keys.at(-2)!) && !isPart(keys.at(-1)!)
}

const sectionOf = (keys: readonly string[]): string => formatPointer(keys.slice(0, -1))

/** A table is called by its own name and that of what it is in; the file's own section has none. */
const nameOf = (keys: readonly string[]): string => keys.slice(-2).join(' ')

/** What a setting of one of these names says; null where none does. */
function textIn(own: readonly ValueLook[], names: readonly string[]): string | null {
  for (const name of names) {
    const found = own.find(({ keys, text, node }) => keys.at(-1) === name && text !== '' && node.kind !== 'bool')
    if (found) return found.text
  }
  return null
}

/** Lines of items that sections give, by their places. */
function itemLines(document: Document, { parts }: FileLooks): ReadonlyMap<string, readonly string[]> {
  const found = new Map<string, string[]>()
  for (const { keys, node, rule } of parts) {
    if (node.type !== 'list' || rule?.means !== 'amount' || rule.registry !== 'items') continue
    const lines = node.entries.flatMap(({ value }) => (value.type === 'scalar' ? [textOf(document, value)] : []))
    const at = sectionOf(keys)
    found.set(at, [...(found.get(at) ?? []), ...lines])
  }
  return found
}

/** Chances of a hundred, where one of them is above one or says so, as chances of one. */
function asShares(entries: readonly DrawEntry[], isOfHundred: boolean): readonly DrawEntry[] {
  const scale = isOfHundred || entries.some(({ weight }) => weight > 1) ? 100 : 1
  return entries.map((entry) => ({ ...entry, weight: Math.min(1, Math.max(0, entry.weight / scale)), scale }))
}
