import type { Role } from '../rules/rule'
import { dealsIn, type DealFact } from './deal-facts'
import type { FileLooks } from './looks'
import { byKeysOf, countIn, first, itemIn, moneyReader, ownOf, pauseIn, type MoneyFact } from './money-reader'
import type { WorkspaceFile } from './workspace'

/** What an item costs, and what is paid for it; null where that is not said. */
export interface GoodFact {
  readonly item: string
  readonly category: string | null
  readonly costs: MoneyFact | null
  readonly pays: MoneyFact | null
  /** For so many of it. */
  readonly count: number
  /** The seconds until it can be had again; null where nothing is said of it. */
  readonly cooldown: number | null
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
  const money = moneyReader(file.document)
  if (!looks.values.some(({ rule }) => rule?.role && MONEY.has(rule.role))) return { ...NOTHING, deals: dealsIn(file, looks) }
  const byKeys = byKeysOf(looks)
  const goods: GoodFact[] = []
  const categories: GoodFact[] = []
  for (const { keys, node, rule } of looks.parts)
    for (const entry of node.entries) {
      const path = [...keys, entry.key]
      if (entry.value.type === 'map') {
        const own = ownOf(byKeys, path, entry.value)
        const costs = first(own, (value) => money(value, own, 'price'))
        const pays = first(own, (value) => money(value, own, 'payout'))
        const isListed = rule?.keys === 'items'
        const item = isListed ? entry.key : itemIn(own)
        const category = own.find(({ keys: at }) => at.at(-1) === 'category')?.text ?? null
        const when = { count: countIn(file.document, own), cooldown: pauseIn(file, own) }
        if (item !== null && (costs || pays || isListed)) goods.push({ item, category, costs, pays, ...when })
        else if (costs || pays) categories.push({ item: entry.key, category, costs, pays, ...when })
      } else if (rule?.keys === 'items') {
        const value = byKeys.get(path.join('\n'))
        const [costs, pays] = [money(value, [], 'price'), money(value, [], 'payout')]
        if (costs || pays) goods.push({ item: entry.key, category: null, costs, pays, count: 1, cooldown: null })
      }
    }
  return { goods, categories, resale: first(looks.values, (value) => money(value, [], 'resale')), deals: dealsIn(file, looks) }
}

const MONEY = new Set<Role>(['price', 'payout', 'resale'])
const NOTHING: Omit<MoneyFacts, 'deals'> = { goods: [], categories: [], resale: null }
