import { isDeed, isDoneIn, isSale, isWage } from '../rules/infer/money-words'
import type { Role } from '../rules/rule'
import { nameWords } from '../carry/likeness'
import { dealsIn, type DealFact } from './deal-facts'
import type { FileLooks, ValueLook } from './looks'
import { countIn, first, itemIn, moneyReader, type MoneyFact, type MoneyReader } from './money-reader'
import { pauseIn } from './pauses'
import { isPart, sectionsOf } from './sections'
import { sleepingIn } from './sleeping'
import type { WorkspaceFile } from './workspace'

/** What an item costs, and what is paid for it; null where that is not said. */
export interface GoodFact {
  readonly item: string
  readonly category: string | null
  readonly costs: MoneyFact | null
  readonly pays: MoneyFact | null
  /** Ways for which it says itself that there is no price, so that nothing else says one for it. */
  readonly without: readonly ('buy' | 'sell')[]
  /** For so many of it, where it is bought, and where it is sold. */
  readonly count: number
  readonly soldCount: number
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
  const deals = dealsIn(file, looks)
  if (!looks.values.some(({ rule }) => rule?.role && MONEY.has(rule.role))) return { ...NOTHING, deals }
  const sections = sectionsOf(file.document, looks)
  const isAsleep = sleepingIn(looks)
  const byKeys = new Map(looks.values.filter((value) => !isAsleep(value)).map((value) => [value.keys.join('\n'), value]))
  const goods: GoodFact[] = []
  const categories: GoodFact[] = []
  for (const { keys, node, rule } of looks.parts) {
    const isDone = isDoneIn(keys.map(nameWords))
    for (const entry of node.entries) {
      const path = [...keys, entry.key]
      const isListed = rule?.keys === 'items'
      if (entry.value.type === 'map' && !(isPart(entry.key) && keys.length > 0)) {
        const own = sections.entry(path)
        const said = saidOf(file, money, own, isDone)
        const item = isListed ? entry.key : itemIn(own)
        if (item !== null && (said.costs || said.pays || isListed)) goods.push({ item, ...said })
        else if (said.costs || said.pays) categories.push({ item: sections.entryName(path), ...said })
      } else if (isListed) {
        const value = byKeys.get(path.join('\n'))
        const [costs, pays] = [money(value, [], 'price'), isDone ? null : money(value, [], 'payout')]
        if (costs || pays) goods.push({ item: entry.key, category: null, costs, pays, without: [], count: 1, soldCount: 1, cooldown: null })
      }
    }
  }
  return { goods, categories, resale: first(looks.values, (value) => money(value, [], 'resale')), deals }
}

/** What an entry says of its price, and of what it brings; what is paid for doing something with an item is no price of it. */
function saidOf(file: WorkspaceFile, money: MoneyReader, own: readonly ValueLook[], isDone: boolean): Omit<GoodFact, 'item'> {
  const costs = firstOf(own, (value) => money(value, own, 'price'))
  const pays = firstOf(own, (value) => {
    const name = nameWords(value.keys.at(-1)!)
    return (isDone && !isSale(name)) || isWage(name) || (costs === null && isDeed(name)) ? null : money(value, own, 'payout')
  })
  const category = own.find(({ keys: at }) => at.at(-1) === 'category')?.text ?? null
  const count = (found: typeof costs): number => countIn(file.document, found ? nearestFirst(own, found.value) : own)
  const isSaid = (role: Role, money: MoneyFact | undefined): boolean =>
    money ? money.amount < 0 : own.some(({ rule, text }) => rule?.role === role && text !== '')
  return {
    category,
    without: [...(isSaid('price', costs?.money) ? (['buy'] as const) : []), ...(isSaid('payout', pays?.money) ? (['sell'] as const) : [])],
    costs: costs?.money ?? null,
    pays: pays?.money ?? null,
    count: count(costs),
    soldCount: count(pays),
    cooldown: pauseIn(file, own),
  }
}

const firstOf = (
  own: readonly ValueLook[],
  read: (value: ValueLook) => MoneyFact | null,
): { readonly value: ValueLook; readonly money: MoneyFact } | null =>
  first(own, (value) => {
    const money = read(value)
    return money && { value, money }
  })

/** Those of the same section before all others. */
function nearestFirst(own: readonly ValueLook[], { keys }: ValueLook): readonly ValueLook[] {
  const at = keys.slice(0, -1).join('\n')
  const isNear = (value: ValueLook): boolean => value.keys.slice(0, -1).join('\n') === at
  return [...own.filter(isNear), ...own.filter((value) => !isNear(value))]
}

const MONEY = new Set<Role>(['price', 'payout', 'resale'])
const NOTHING: Omit<MoneyFacts, 'deals'> = { goods: [], categories: [], resale: null }
