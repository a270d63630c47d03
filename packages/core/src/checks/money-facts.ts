import type { Role } from '../rules/rule'
import { amountOf } from '../tree/compare'
import type { Entry, MapNode } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { textOf, type FileLooks, type ValueLook } from './looks'
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
}

/** What an item costs, and what is paid for it; null where that is not said. */
export interface GoodFact {
  readonly item: string
  readonly category: string | null
  readonly costs: MoneyFact | null
  readonly pays: MoneyFact | null
}

/** So many of an item. */
export interface Share {
  readonly item: string
  readonly count: number
}

/** Items that are given for money, or money for items. */
export interface DealFact {
  readonly name: string
  readonly items: readonly Share[]
  readonly money: MoneyFact
  /** Whether players pay and get the items; else they bring them and are paid. */
  readonly isBought: boolean
  /** Whether it can be had again at once; null where nothing is said of it. */
  readonly hasPause: boolean | null
}

export interface MoneyFacts {
  readonly goods: readonly GoodFact[]
  /** What goods of a category cost and pay that do not say so themselves. */
  readonly categories: readonly GoodFact[]
  /** The share of its cost that is paid for any item. */
  readonly resale: MoneyFact | null
  readonly deals: readonly DealFact[]
}

/** What a file says of money that others have to do with. */
export function moneyIn(file: WorkspaceFile, looks: FileLooks): MoneyFacts {
  if (!looks.values.some(({ rule }) => rule?.role && MONEY.has(rule.role))) return NOTHING
  const byKeys = new Map(looks.values.map((value) => [value.keys.join('\n'), value]))
  const goods: GoodFact[] = []
  const categories: GoodFact[] = []
  const deals: DealFact[] = []
  const money = (value: ValueLook | undefined, ...roles: readonly Role[]): MoneyFact | null => {
    if (!value?.rule?.role || !roles.includes(value.rule.role)) return null
    // what cannot be read is told as such, and nothing else is wrong by it
    const shipped = value.shipped === null || Number.isNaN(Number(value.shipped)) ? null : Number(value.shipped)
    const amount = amountOf(file.document, value.node) ?? shipped
    // what has words of its own is no amount
    if (amount === null || value.rule.said?.some((said) => said.value === String(amount))) return null
    return { pointer: formatPointer(value.keys), from: value.node.from, to: value.node.to, amount, isShipped: value.isShipped, shipped }
  }
  const inside = (keys: readonly string[], section: MapNode): ValueLook[] =>
    section.entries.flatMap(({ key }) => byKeys.get([...keys, key].join('\n')) ?? [])
  for (const { keys, node, rule } of looks.parts) {
    if (node.type !== 'map') continue
    for (const entry of node.entries) {
      const path = [...keys, entry.key]
      if (entry.value.type === 'map') {
        const own = inside(path, entry.value)
        const costs = first(own, (value) => money(value, 'price'))
        const pays = first(own, (value) => money(value, 'payout'))
        const category = own.find(({ keys: at }) => at.at(-1) === 'category')?.text ?? null
        if (costs || pays || rule?.keys === 'items')
          (rule?.keys === 'items' ? goods : categories).push({ item: entry.key, category, costs, pays })
        const deal = dealIn(file, looks, { entry, path, section: entry.value, own, costs, pays })
        if (deal) deals.push(deal)
      } else if (rule?.keys === 'items') {
        const value = byKeys.get(path.join('\n'))
        const [costs, pays] = [money(value, 'price'), money(value, 'payout')]
        if (costs || pays) goods.push({ item: entry.key, category: null, costs, pays })
      }
    }
  }
  return { goods, categories, resale: first(looks.values, (value) => money(value, 'resale')), deals }
}

const MONEY = new Set<Role>(['price', 'payout', 'resale'])
const NOTHING: MoneyFacts = { goods: [], categories: [], resale: null, deals: [] }

function first<T, R>(list: readonly T[], look: (item: T) => R | null): R | null {
  for (const item of list) {
    const found = look(item)
    if (found !== null) return found
  }
  return null
}

interface Looked {
  readonly entry: Entry
  readonly path: readonly string[]
  readonly section: MapNode
  readonly own: readonly ValueLook[]
  readonly costs: MoneyFact | null
  readonly pays: MoneyFact | null
}

function dealIn({ document }: WorkspaceFile, { book }: FileLooks, { entry, path, section, own, costs, pays }: Looked): DealFact | null {
  if ((costs === null) === (pays === null)) return null
  const items = section.entries.flatMap(({ key, value }): Share[] => {
    const rule = value.type === 'list' ? book.find([...path, key]) : null
    if (value.type !== 'list' || rule?.means !== 'amount' || rule.registry !== 'items') return []
    return value.entries.flatMap((item) => (item.value.type === 'scalar' ? (shareIn(textOf(document, item.value)) ?? []) : []))
  })
  if (items.length === 0) return null
  const pause = own.find(({ rule }) => rule?.role === 'cooldown')
  const hasPause = pause ? amountOf(document, pause.node) !== 0 : null
  return { name: entry.key, items, money: (costs ?? pays)!, isBought: costs !== null, hasPause }
}

/** An item and how many of it, as `clay 64`; null for what is no such. */
export function shareIn(text: string): Share | null {
  const found = /^(\S+?)[\s:x*]+(\d+)$/i.exec(text)
  return found ? { item: found[1]!, count: Number(found[2]) } : null
}
