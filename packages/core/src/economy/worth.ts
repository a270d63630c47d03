import type { EconomyFacts } from './gather'
import { HOUR } from './model'
import type { GatheredOffer } from './offers'
import { unitPrice, type Offer, type PriceBook, type PriceRow } from './prices'

/** What items are worth: what they bring, where somebody buys them, else what they cost. */
export interface Worth {
  /** Of one; null where it is bought and sold nowhere. */
  of(item: string): number | null
}

export function worthIn({ rows }: PriceBook): Worth {
  const byItem = new Map(rows.map((row) => [row.item, row]))
  const of = (item: string): number | null => {
    const row = byItem.get(item)
    return row?.sell ? unitPrice(row.sell) : row?.buy ? unitPrice(row.buy) : null
  }
  return { of }
}

type Deal = EconomyFacts['deals'][number]

/** A bundle or a reward with what its items come to. */
export interface ValuedDeal extends Deal {
  /** All its items, sold; and bought. Those that nobody buys, or sells, count as nothing. */
  readonly brings: number
  readonly costs: number
  /** Items that nobody buys or sells. */
  readonly unknown: readonly string[]
  /** What the player gains each time: what comes in less what goes out, by what items bring, or cost to get. */
  readonly gain: number
  /** The same an hour, as often as its pause lets; null where nothing says a pause. */
  readonly gainAnHour: number | null
}

type DealtOffer = Offer & Partial<Pick<GatheredOffer, 'by'>>

/** Bundles and rewards as the sum of what is in them: by what stalls ask and pay, since what a bundle costs says nothing of what is in it. */
export function valuedDeals({ deals }: Pick<EconomyFacts, 'deals'>, book: PriceBook<DealtOffer>): readonly ValuedDeal[] {
  const worth = worthIn(book)
  const rows = new Map(book.rows.map((row) => [row.item, row]))
  return deals.map((deal): ValuedDeal => {
    const sum = (of: (row: PriceRow<DealtOffer>) => readonly DealtOffer[], best: (...prices: number[]) => number): number =>
      deal.items.reduce((all, { item, count }) => {
        const row = rows.get(item)
        const prices = (row ? of(row) : []).filter(({ by }) => by !== 'deal').map(unitPrice)
        return prices.length === 0 ? all : all + best(...prices) * count
      }, 0)
    const brings = sum(({ sells }) => sells, Math.max)
    const costs = sum(({ buys }) => buys, Math.min)
    const money = deal.money?.amount ?? 0
    const gain = deal.isBought ? brings - money : money - costs
    return {
      ...deal,
      brings,
      costs,
      gain,
      unknown: deal.items.flatMap(({ item }) => (worth.of(item) === null ? [item] : [])),
      gainAnHour: deal.cooldown !== null && deal.cooldown > 0 ? (gain * HOUR) / deal.cooldown : null,
    }
  })
}

/** Items that are given, drawn or asked for, and bought and sold nowhere. */
export function unpriced(
  { deals, draws }: Pick<EconomyFacts, 'deals' | 'draws'>,
  book: PriceBook,
  isItem: (name: string) => boolean,
): readonly string[] {
  const worth = worthIn(book)
  const named = [
    ...deals.flatMap(({ items }) => items.map(({ item }) => item)),
    ...draws.flatMap(({ entries }) => entries.map(({ name }) => name)),
  ]
  return [...new Set(named)].filter((name) => isItem(name) && worth.of(name) === null).sort()
}
