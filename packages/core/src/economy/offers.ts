import type { FileFacts } from '../checks/facts'
import type { GoodFact } from '../checks/money-facts'
import type { MoneyFact } from '../checks/money-reader'
import type { Offer } from './prices'

/** An offer with the setting it stands in. */
export interface GatheredOffer extends Offer, Pick<MoneyFact, 'from' | 'to' | 'isShipped' | 'currency' | 'around'> {
  readonly plugin: string
  /**
   * Whether the item says it itself, its category says it for all of its kind, it is a share of what the item costs, or it is all that an
   * entry gives or asks for.
   */
  readonly by: 'item' | 'category' | 'share' | 'deal'
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
  return files.flatMap(({ path, plugin, goods, categories: own }) =>
    [...goods, ...withoutGoods(files, plugin, own)].flatMap((good): GatheredOffer[] => {
      const category = good.category === null ? undefined : categories.get(`${plugin} ${good.category}`)
      const offer = (way: Offer['way'], money: MoneyFact | null, by: GatheredOffer['by'], file: string): GatheredOffer | null =>
        // what costs less than nothing is not to be had
        money && money.amount >= 0
          ? {
              item: good.item,
              category: good.category,
              where: plugin ?? '',
              plugin: plugin ?? '',
              file,
              way,
              count: way === 'buy' ? good.count : good.soldCount,
              cooldown: good.cooldown,
              by,
              ...money,
            }
          : null
      const ofKind = (way: Offer['way'], money: MoneyFact | null): GatheredOffer | null =>
        good.without.includes(way) ? null : offer(way, money, 'category', category?.path ?? '')
      const costs = offer('buy', good.costs, 'item', path) ?? ofKind('buy', category?.costs ?? null)
      const pays = offer('sell', good.pays, 'item', path) ?? ofKind('sell', category?.pays ?? null)
      const share = shares.get(plugin)
      const resold =
        costs && !pays && share && !good.without.includes('sell')
          ? { ...costs, way: 'sell' as const, by: 'share' as const, amount: costs.amount * partOf(share), share: shareAt(share) }
          : null
      return [costs, pays ?? resold].filter((one) => one !== null)
    }),
  )
}

/**
 * Entries with both prices that are no items of the server, nor kinds of them, are things by themselves: where no list of items is known,
 * or for what another plugin brings.
 */
function withoutGoods(files: Files, plugin: string | null, categories: readonly GoodFact[]): readonly GoodFact[] {
  const areKinds = files.some((file) => file.plugin === plugin && file.goods.some(({ category }) => category !== null))
  return areKinds ? [] : categories.filter(({ costs, pays }) => costs && pays)
}

/** What an entry gives for money, or pays for, where that is one item and no more: it is bought and sold there like in any stall. */
export function dealOffers(files: readonly Pick<FileFacts, 'plugin' | 'path' | 'deals'>[]): readonly GatheredOffer[] {
  return files.flatMap(({ plugin, path, deals }) =>
    deals.flatMap(({ items, money, isBought, cooldown }): GatheredOffer[] => {
      const [only, ...others] = items
      if (!only || others.length > 0 || !money || money.amount <= 0) return []
      const of = { category: null, where: plugin ?? '', plugin: plugin ?? '', file: path, cooldown, by: 'deal' as const }
      return [{ ...money, ...of, item: only.item, count: only.count, way: isBought ? 'buy' : 'sell' }]
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
