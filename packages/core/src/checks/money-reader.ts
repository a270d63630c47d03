import { lastWord, nameWords } from '../carry/likeness'
import type { Role } from '../rules/rule'
import { amountsInText } from '../rules/money-text'
import { SECONDS, timeUnit } from '../rules/units'
import { amountOf } from '../tree/compare'
import type { Document } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { readDuration } from '../values/duration'
import type { ValueLook } from './looks'
import type { Sections } from './sections'
import { writtenIn, type TextAround, type Written } from './written'
import type { WorkspaceFile } from './workspace'

/** An amount of money and where it stands. */
export interface MoneyFact {
  readonly pointer: string
  readonly from: number
  readonly to: number
  readonly amount: number
  readonly isShipped: boolean
  /** What the plugin ships in its place. */
  readonly shipped: number | null
  /** What the money is called, where its entry says it. */
  readonly currency: string | null
  /** Where it stands in a text, what is around it; null where it is the value itself. */
  readonly around: TextAround | null
}

/** Reads amounts of money of a file. */
export type MoneyReader = (value: ValueLook | undefined, siblings: readonly ValueLook[], ...roles: readonly Role[]) => MoneyFact | null

export function moneyReader(document: Document): MoneyReader {
  return (value, siblings, ...roles) => {
    if (!value?.rule?.role || !roles.includes(value.rule.role)) return null
    // what cannot be read is told as such, and nothing else is wrong by it
    const shipped = value.shipped === null ? null : amountIn(value.shipped)
    const written = moneyIn(document, value)
    const amount = written?.amount ?? shipped
    // what has words of its own is no amount
    if (amount === null || value.rule.said?.some((said) => said.value === String(amount))) return null
    const { from, to } = value.node
    const currency = currencyIn(siblings)
    const around = written?.around ?? null
    return { pointer: formatPointer(value.keys), from, to, amount, isShipped: value.isShipped, shipped, currency, around }
  }
}

function amountIn(text: string): number | null {
  const amount = Number(text)
  if (!Number.isNaN(amount)) return amount
  const [one, ...others] = amountsInText(text)
  return one && others.length === 0 ? one.amount : null
}

/** What a value says, where that is no percent. */
function moneyIn(document: Document, value: ValueLook): Written | null {
  const written = writtenIn(document, value)
  return written?.isPercent && written.around ? null : written
}

/** Names of settings that say which item an entry is about; what stands for it in a menu is another thing. */
const ITEM = new Set(['item', 'id', 'material', 'type', 'good', 'product'])
const COUNT = new Set(['count', 'amount', 'quantity', 'number', 'stack'])

/** The item that an entry says it is about; null where it says none of the server's. */
export const itemIn = (own: readonly ValueLook[]): string | null =>
  own.find(({ keys, rule, text }) => rule?.means === 'id' && rule.registry === 'items' && text !== '' && ITEM.has(lastWord(keys.at(-1)!)))
    ?.text ?? null

/** How many of it an entry says, one where it says nothing. */
export function countIn(document: Document, own: readonly ValueLook[]): number {
  const said = own.find(({ keys, rule }) => !rule?.role && COUNT.has(lastWord(keys.at(-1)!)))
  const amount = said ? amountOf(document, said.node) : null
  return amount !== null && amount > 0 ? amount : 1
}

export function first<T, R>(list: readonly T[], look: (item: T) => R | null): R | null {
  for (const item of list) {
    const found = look(item)
    if (found !== null) return found
  }
  return null
}

/** The seconds that one has to wait, where one of some settings says so. */
export function pauseIn({ document }: WorkspaceFile, siblings: readonly ValueLook[]): number | null {
  const pause = siblings.find(({ rule }) => rule?.role === 'cooldown')
  return pause ? secondsOf(document, pause) : null
}

const PERIODS = new Set(['interval', 'every', 'period', 'cycle'])
const NAMED: Readonly<Record<string, string>> = { hourly: 'hour', daily: 'day', weekly: 'week', hour: 'hour', day: 'day', week: 'week' }

/** Sections that speak of all entries of a file. */
const FOR_ALL = new Set(['rule', 'setting', 'general', 'option', 'default', 'global'])
const AGAIN = new Set(['again', 'cooldown'])

/**
 * The pause that is said for all entries of a file: in a section around them, or in one of general settings.
 * @param entry the keys of the entry
 */
export function pauseForAll(file: WorkspaceFile, sections: Sections, entry: readonly string[]): number | null {
  if (entry.length < 2) return null
  const isForAll = ({ keys, rule }: ValueLook): boolean =>
    rule?.role === 'cooldown' && nameWords(keys.at(-1)!).some((word) => AGAIN.has(word))
  return pauseIn(file, saidAround(sections, entry).filter(isForAll))
}

/** What sections around an entry say, the nearest first, then those of general settings and the file itself. */
function saidAround(sections: Sections, entry: readonly string[]): readonly ValueLook[] {
  const around = entry.slice(0, -1).map((_, depth) => entry.slice(0, depth + 1))
  const beside = sections.inside([]).filter((key) => nameWords(key).every((word) => FOR_ALL.has(word)))
  return [...around.reverse(), ...beside.map((key) => [key]), []].flatMap((keys) => sections.own(keys))
}

/**
 * The seconds until a payment comes round again: its entry's pause, else the stretch of time that says how often it comes, beside it or by
 * its name for all (`paycheck-interval`), else what its own name says (`upkeep-per-day`, `daily-reward`); null where nobody says.
 */
export function pauseOf(file: WorkspaceFile, sections: Sections, { keys }: ValueLook, beside: readonly ValueLook[]): number | null {
  const pause = pauseIn(file, beside)
  if (pause !== null) return pause
  const words = nameWords(keys.at(-1)!)
  // how often something else is done says nothing of it: `save-every`
  const isPeriod = (name: readonly string[]): boolean =>
    name.some((word) => PERIODS.has(word) || (words.includes(word) && PAID.has(word))) &&
    name.every((word) => PERIODS.has(word) || PAID.has(word) || timeUnit(word) !== null)
  const isTime = (value: ValueLook): boolean => value.rule?.means === 'duration' && isPeriod(nameWords(value.keys.at(-1)!))
  const isOfIt = ({ keys: at }: ValueLook): boolean => nameWords(at.at(-1)!).some((word) => words.includes(word) && PAID.has(word))
  const every = beside.find(isTime) ?? saidAround(sections, keys).find((value) => isTime(value) && isOfIt(value))
  const seconds = every ? secondsOf(file.document, every) : null
  if (seconds !== null && seconds > 0) return seconds
  const per = words[words.indexOf('per') + 1]
  const unit = words.includes('per') ? NAMED[per ?? ''] : words.map((word) => (word.endsWith('ly') ? NAMED[word] : undefined)).find(Boolean)
  return unit ? SECONDS[unit]! : null
}

const PAID = new Set(['rent', 'interest', 'salary', 'wage', 'paycheck', 'upkeep', 'tax', 'income', 'allowance', 'payout'])

/** How long a value says, in seconds: a number in its unit, or in words; null for what is no stretch of time. */
function secondsOf(document: Document, { node, rule, text }: ValueLook): number | null {
  const amount = amountOf(document, node)
  if (amount !== null) return amount * (SECONDS[rule?.unit ?? 'second'] ?? 1)
  return text === '' ? null : (readDuration(text, rule?.unit ?? null)?.seconds ?? null)
}

/** What the money of an entry is called, where it says so. */
export const currencyIn = (siblings: readonly ValueLook[]): string | null =>
  siblings.find(({ keys, node, text }) => node.kind === 'text' && text !== '' && lastWord(keys.at(-1) ?? '') === 'currency')?.text ?? null
