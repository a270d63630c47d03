import { lastWord } from '../carry/likeness'
import type { Role } from '../rules/rule'
import { SECONDS } from '../rules/units'
import { amountOf } from '../tree/compare'
import type { Document, MapNode } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import type { FileLooks, ValueLook } from './looks'
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
}

/** Reads amounts of money of a file. */
export type MoneyReader = (value: ValueLook | undefined, siblings: readonly ValueLook[], ...roles: readonly Role[]) => MoneyFact | null

export function moneyReader(document: Document): MoneyReader {
  return (value, siblings, ...roles) => {
    if (!value?.rule?.role || !roles.includes(value.rule.role)) return null
    // what cannot be read is told as such, and nothing else is wrong by it
    const shipped = value.shipped === null || Number.isNaN(Number(value.shipped)) ? null : Number(value.shipped)
    const amount = amountOf(document, value.node) ?? shipped
    // what has words of its own is no amount
    if (amount === null || value.rule.said?.some((said) => said.value === String(amount))) return null
    const { from, to } = value.node
    const currency = currencyIn(siblings)
    return { pointer: formatPointer(value.keys), from, to, amount, isShipped: value.isShipped, shipped, currency }
  }
}

/** The values that stand in a section itself. */
export const ownOf = (byKeys: ReadonlyMap<string, ValueLook>, keys: readonly string[], section: MapNode): ValueLook[] =>
  section.entries.flatMap(({ key }) => byKeys.get([...keys, key].join('\n')) ?? [])

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
  const amount = pause ? amountOf(document, pause.node) : null
  return amount === null ? null : amount * (SECONDS[pause?.rule?.unit ?? 'second'] ?? 1)
}

/** What the money of an entry is called, where it says so. */
export const currencyIn = (siblings: readonly ValueLook[]): string | null =>
  siblings.find(({ keys, node, text }) => node.kind === 'text' && text !== '' && lastWord(keys.at(-1) ?? '') === 'currency')?.text ?? null

/** Values by their keys, for looking up. */
export const byKeysOf = ({ values }: FileLooks): ReadonlyMap<string, ValueLook> =>
  new Map(values.map((value) => [value.keys.join('\n'), value]))
