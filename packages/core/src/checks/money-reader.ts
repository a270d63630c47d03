import { lastWord, nameWords } from '../carry/likeness'
import type { Role } from '../rules/rule'
import { amountInText, amountsInText } from '../rules/money-text'
import { amountOf } from '../tree/compare'
import type { Document } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import type { ValueLook } from './looks'
import { writtenIn, type TextAround, type Written } from './written'

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
    const written = amountSaid(document, value)
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
  return amountInText(text)?.amount ?? null
}

/** What a value says, where that is no percent. */
function amountSaid(document: Document, value: ValueLook): Written | null {
  const written = writtenIn(document, value)
  return written?.isPercent && written.around ? null : written
}

/** Names of settings that say which item an entry is about; what stands for it in a menu is another thing. */
const ITEM = new Set(['item', 'id', 'material', 'type', 'good', 'product'])
const COUNT = new Set(['count', 'amount', 'quantity', 'number'])
const LEAST = new Set(['min', 'minimum', 'least'])
const MOST = new Set(['max', 'maximum', 'most'])

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

/** How many come on average, where an entry may say from how many to how many: `amount: 1-3`, `min: 1` and `max: 3`. */
export function meanCountIn(document: Document, own: readonly ValueLook[]): number {
  const plain = own.filter(({ rule }) => !rule?.role)
  const text = plain.find(({ keys, node }) => node.kind === 'text' && COUNT.has(lastWord(keys.at(-1)!)))?.text ?? ''
  const bound = (words: ReadonlySet<string>): number | null => {
    // of how many, and of nothing else: `max-level` bounds who gets it
    const isOfCount = (name: readonly string[]): boolean => name.every((word) => words.has(word) || COUNT.has(word))
    const found = plain.find(({ keys }) => {
      const name = nameWords(keys.at(-1)!)
      return isOfCount(name) && name.some((word) => words.has(word))
    })
    return found ? amountOf(document, found.node) : null
  }
  const said = amountsInText(text)
  const [least, most] = said.length === 2 ? said.map(({ amount }) => amount) : [bound(LEAST), bound(MOST)]
  const isRange = typeof least === 'number' && typeof most === 'number' && least >= 0 && most >= least && most > 0
  return isRange ? (least + most) / 2 : countIn(document, own)
}

export function first<T, R>(list: readonly T[], look: (item: T) => R | null): R | null {
  for (const item of list) {
    const found = look(item)
    if (found !== null) return found
  }
  return null
}

/** What the money of an entry is called, where it says so. */
export const currencyIn = (siblings: readonly ValueLook[]): string | null =>
  siblings.find(({ keys, node, text }) => node.kind === 'text' && text !== '' && lastWord(keys.at(-1) ?? '') === 'currency')?.text ?? null
