import { boxOf, isFar, type Box } from './box'
import { HOUR } from './model'

/** A place where players get an item for money, or money for an item. */
export interface Offer {
  readonly item: string
  readonly category: string | null
  /** Who buys and sells there, as a stall of a plugin. */
  readonly where: string
  readonly file: string
  readonly pointer: string
  /** Whether players buy there, or sell. */
  readonly way: 'buy' | 'sell'
  readonly amount: number
  /** What one of the money its setting is said in is worth, where that is another than the server's. */
  readonly rate?: number
  /** For so many of the item. */
  readonly count: number
  /** Seconds until it may be done again; null for at once. */
  readonly cooldown: number | null
  /** The setting that says which share of what the item costs is paid, where the amount is such a share. */
  readonly share?: { readonly file: string; readonly pointer: string; readonly amount: number }
}

/** What one of an item costs or brings at an offer. */
export const unitPrice = ({ amount, count }: Pick<Offer, 'amount' | 'count'>): number => (count > 0 ? amount / count : amount)

/** Buying somewhere and selling elsewhere for more, again and again. */
export interface MoneyLoop<O extends Offer = Offer> {
  readonly item: string
  readonly buy: O
  readonly sell: O
  /** For one of the item. */
  readonly gain: number
  /** A round is so many of the item. */
  readonly count: number
  readonly gainARound: number
  /** Seconds a round takes, at least. */
  readonly seconds: number
  readonly gainAnHour: number
}

/** One item with all its prices. */
export interface PriceRow<O extends Offer = Offer> {
  readonly item: string
  readonly category: string | null
  readonly buys: readonly O[]
  readonly sells: readonly O[]
  /** The cheapest to buy at, and the dearest to sell at. */
  readonly buy: O | null
  readonly sell: O | null
  /** What is lost by buying and selling one again: the one price less the other; null where it is not bought or not sold. */
  readonly spread: number | null
  /** The spread as a share of the price it is bought for. */
  readonly margin: number | null
  readonly loop: MoneyLoop<O> | null
  /** Whether its price is far from those of its category. */
  readonly isFar: boolean
}

export interface PriceBook<O extends Offer = Offer> {
  readonly rows: readonly PriceRow<O>[]
  /** What one of an item costs in each category, as a box; only where there are enough of them. */
  readonly boxes: ReadonlyMap<string, Box>
}

/** A round of going from one place to the other takes so long where no cooldown says it, in seconds. */
export const WALK_SECONDS = 15

/** All items that are bought or sold anywhere, each with its prices; loops first, the worst of them foremost, then by name. */
export function priceBook<O extends Offer>(offers: readonly O[], walk = WALK_SECONDS): PriceBook<O> {
  const byItem = new Map<string, O[]>()
  for (const offer of offers) byItem.set(offer.item, [...(byItem.get(offer.item) ?? []), offer])
  const bare = [...byItem].map(([item, all]) => rowOf(item, all, walk))
  const boxes = boxesOf(bare)
  const rows = bare.map((row): PriceRow<O> => {
    const box = row.category === null ? undefined : boxes.get(row.category)
    const price = priceOf(row)
    return { ...row, isFar: box !== undefined && price !== null && isFar(box, price) }
  })
  return { rows: rows.sort((a, b) => (b.loop?.gainAnHour ?? 0) - (a.loop?.gainAnHour ?? 0) || a.item.localeCompare(b.item)), boxes }
}

function rowOf<O extends Offer>(item: string, all: readonly O[], walk: number): Omit<PriceRow<O>, 'isFar'> {
  const sorted = [...all].sort((a, b) => unitPrice(a) - unitPrice(b))
  const buys = sorted.filter(({ way }) => way === 'buy')
  const sells = sorted.filter(({ way }) => way === 'sell').reverse()
  const [buy = null, sell = null] = [buys[0], sells[0]]
  const spread = buy && sell ? unitPrice(buy) - unitPrice(sell) : null
  const margin = spread !== null && unitPrice(buy!) > 0 ? spread / unitPrice(buy!) : null
  const category = all.find((offer) => offer.category !== null)?.category ?? null
  return { item, category, buys, sells, buy, sell, spread, margin, loop: buy && sell ? loopOf(item, buy, sell, walk) : null }
}

/** Null where nothing is gained. A round is as many as the larger of both deals asks for. */
function loopOf<O extends Offer>(item: string, buy: O, sell: O, walk: number): MoneyLoop<O> | null {
  const gain = unitPrice(sell) - unitPrice(buy)
  if (gain <= 0) return null
  const count = Math.max(buy.count, sell.count, 1)
  // each place is gone to as often as its deal asks for
  const waits = [buy, sell].map((offer) => (offer.cooldown ?? 0) * (count / Math.max(1, offer.count)))
  const seconds = Math.max(walk, ...waits)
  const gainARound = gain * count
  return { item, buy, sell, gain, count, gainARound, seconds, gainAnHour: (gainARound * HOUR) / seconds }
}

/** What one of it costs, or brings where it is only sold; null for neither. */
export const priceOf = ({ buy, sell }: Pick<PriceRow, 'buy' | 'sell'>): number | null =>
  buy ? unitPrice(buy) : sell ? unitPrice(sell) : null

function boxesOf(rows: readonly Omit<PriceRow, 'isFar'>[]): ReadonlyMap<string, Box> {
  const prices = new Map<string, number[]>()
  for (const row of rows) {
    const price = priceOf(row)
    if (row.category !== null && price !== null) prices.set(row.category, [...(prices.get(row.category) ?? []), price])
  }
  return new Map(
    [...prices].flatMap(([category, all]) => {
      const box = boxOf(all)
      return box ? [[category, box] as const] : []
    }),
  )
}

/** A change of one setting that ends a loop. */
export interface LoopMend<O extends Offer = Offer> {
  readonly offer: O
  /** The setting, and what it is to be, in its own money and in as many decimals as it has. */
  readonly file: string
  readonly pointer: string
  readonly amount: number
  /** What a round brings then; below nothing is a loss. */
  readonly gainARound: number
}

/**
 * What ends a loop: to sell it dearer to players, or to pay less for it, each by as little as the decimals of the setting allow. Where a
 * share of the price is paid, the share is what gets less.
 */
export function mendsOf<O extends Offer>({ buy, sell, count }: MoneyLoop<O>): readonly LoopMend<O>[] {
  const told = (offer: O, setting: Pick<LoopMend, 'file' | 'pointer' | 'amount'>, is: number): LoopMend<O> => {
    const of = (other: O): number => unitPrice(other === offer ? { ...other, amount: is } : other)
    return { offer, ...setting, gainARound: round((of(sell) - of(buy)) * count) }
  }
  const rateOf = ({ rate }: O): number => rate ?? 1
  const mended = (offer: O, amount: number): LoopMend<O> =>
    told(offer, { file: offer.file, pointer: offer.pointer, amount }, amount * rateOf(offer))
  const step = (amount: number): number => 10 ** -decimalsOf(amount)
  const steps = (offer: O, amount: number, whole: (steps: number) => number): number => {
    const one = step(round(offer.amount / rateOf(offer)))
    return round(whole(round(amount / rateOf(offer) / one)) * one)
  }
  const up = steps(buy, unitPrice(sell) * buy.count, Math.ceil)
  if (!sell.share) {
    return [mended(buy, up), mended(sell, steps(sell, unitPrice(buy) * sell.count, Math.floor))]
  }
  const { share } = sell
  const whole = sell.amount / share.amount
  const least = Math.min(step(share.amount), 0.01)
  const part = round(Math.floor(round((unitPrice(buy) * sell.count) / whole / least)) * least)
  return [mended(buy, up), told(sell, { file: share.file, pointer: share.pointer, amount: part }, whole * part)]
}

const decimalsOf = (amount: number): number => (String(amount).split('.')[1] ?? '').length
/** Without what binary fractions add. */
const round = (amount: number): number => Number(amount.toFixed(9))
