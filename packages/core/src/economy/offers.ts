import type { FileFacts } from '../checks/facts'
import type { MoneyFact } from '../checks/money-facts'
import type { Offer } from './prices'

/** An offer with the setting it stands in. */
export interface GatheredOffer extends Offer, Pick<MoneyFact, 'from' | 'to' | 'isShipped'> {
  readonly plugin: string
}

type Files = readonly Pick<FileFacts, 'plugin' | 'path' | 'goods' | 'categories' | 'resale'>[]

/**
 * What each item costs and brings in all files: what it says itself, else what its category says, else, where nothing is said of selling,
 * the share of its price that the plugin pays for all.
 */
export function offersOf(files: Files): readonly GatheredOffer[] {
  const shares = new Map(files.flatMap(({ plugin, resale }) => (resale ? [[plugin, resale] as const] : [])))
  const categories = new Map(
    files.flatMap(({ plugin, path, categories: list }) => list.map((one) => [`${plugin} ${one.item}`, { ...one, path }] as const)),
  )
  return files.flatMap(({ path, plugin, goods }) =>
    goods.flatMap((good): GatheredOffer[] => {
      const category = good.category === null ? undefined : categories.get(`${plugin} ${good.category}`)
      const offer = (way: Offer['way'], money: MoneyFact | null, file: string): GatheredOffer | null =>
        money && {
          item: good.item,
          category: good.category,
          where: plugin ?? '',
          plugin: plugin ?? '',
          file,
          way,
          count: 1,
          cooldown: null,
          ...money,
        }
      const costs = offer('buy', good.costs, path) ?? offer('buy', category?.costs ?? null, category?.path ?? '')
      const pays = offer('sell', good.pays, path) ?? offer('sell', category?.pays ?? null, category?.path ?? '')
      const share = shares.get(plugin)
      const resold = costs && !pays && share ? { ...costs, way: 'sell' as const, amount: costs.amount * shareOf(share) } : null
      return [costs, pays ?? resold].filter((one) => one !== null)
    }),
  )
}

/** A share above one is a mistake that is told of by itself; what was shipped counts. */
const shareOf = ({ amount, shipped }: MoneyFact): number => (amount <= 1 ? amount : (shipped ?? 1))
