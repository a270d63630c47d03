import type { FileFacts } from '../checks/facts'
import type { MoneyFact } from '../checks/money-reader'
import type { Offer } from './prices'

/** An offer with the setting it stands in. */
export interface GatheredOffer extends Offer, Pick<MoneyFact, 'from' | 'to' | 'isShipped' | 'currency'> {
  readonly plugin: string
  /** Whether the item says it itself, its category says it for all of its kind, or it is a share of what the item costs. */
  readonly by: 'item' | 'category' | 'share'
}

type Files = readonly Pick<FileFacts, 'plugin' | 'path' | 'goods' | 'categories' | 'resale'>[]

/**
 * What each item costs and brings in all files: what it says itself, else what its category says, else, where nothing is said of selling,
 * the share of its price that the plugin pays for all.
 */
export function offersOf(files: Files): readonly GatheredOffer[] {
  const shares = new Map(files.flatMap(({ plugin, path, resale }) => (resale ? [[plugin, { ...resale, file: path }] as const] : [])))
  const categories = new Map(
    files.flatMap(({ plugin, path, categories: list }) => list.map((one) => [`${plugin} ${one.item}`, { ...one, path }] as const)),
  )
  return files.flatMap(({ path, plugin, goods }) =>
    goods.flatMap((good): GatheredOffer[] => {
      const category = good.category === null ? undefined : categories.get(`${plugin} ${good.category}`)
      const offer = (way: Offer['way'], money: MoneyFact | null, by: GatheredOffer['by'], file: string): GatheredOffer | null =>
        money && {
          item: good.item,
          category: good.category,
          where: plugin ?? '',
          plugin: plugin ?? '',
          file,
          way,
          count: good.count,
          cooldown: good.cooldown,
          by,
          ...money,
        }
      const costs = offer('buy', good.costs, 'item', path) ?? offer('buy', category?.costs ?? null, 'category', category?.path ?? '')
      const pays = offer('sell', good.pays, 'item', path) ?? offer('sell', category?.pays ?? null, 'category', category?.path ?? '')
      const share = shares.get(plugin)
      const resold =
        costs && !pays && share
          ? { ...costs, way: 'sell' as const, by: 'share' as const, amount: costs.amount * partOf(share), share: shareAt(share) }
          : null
      return [costs, pays ?? resold].filter((one) => one !== null)
    }),
  )
}

/** A share above one is a mistake that is told of by itself; what was shipped counts. */
const partOf = ({ amount, shipped }: MoneyFact): number => (amount <= 1 ? amount : (shipped ?? 1))

const shareAt = ({ file, pointer, amount }: MoneyFact & { readonly file: string }): NonNullable<Offer['share']> => ({
  file,
  pointer,
  amount,
})
