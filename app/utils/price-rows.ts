import {
  readReckoning,
  unitPrice,
  type EconomyFacts,
  type GatheredOffer,
  type PriceBook,
  type PriceRow,
  type Reckoning,
} from '@pasticcio/core'

/** A row with where each price stands. */
export type BookRow = PriceRow<GatheredOffer>

/** Which rows of the price book are shown. */
export interface PriceFilter {
  readonly words: string
  readonly category: string
  readonly plugin: string
  readonly only: '' | 'loops' | 'no-loss' | 'far' | 'changed'
}

export const ALL_PRICES: PriceFilter = { words: '', category: '', plugin: '', only: '' }

/** Prices of an item in another state: as it stands, as an update, another server or the past has it. */
export type PricesBefore = ReadonlyMap<string, BookRow>

export const byItem = (book: PriceBook<GatheredOffer>): PricesBefore => new Map(book.rows.map((row) => [row.item, row]))

/** What one costs or brings at an offer; null for none. */
export const priceAt = (offer: GatheredOffer | null | undefined): number | null => (offer ? unitPrice(offer) : null)

/** Whether an item costs or brings another amount than before. */
export function isOther(row: BookRow, before: PricesBefore | null): boolean {
  if (!before) return false
  const was = before.get(row.item)
  return priceAt(row.buy) !== priceAt(was?.buy) || priceAt(row.sell) !== priceAt(was?.sell)
}

export function filterPrices(rows: readonly BookRow[], filter: PriceFilter, before: PricesBefore | null): readonly BookRow[] {
  const words = filter.words.toLowerCase().split(/\s+/).filter(Boolean)
  const fits: Readonly<Record<PriceFilter['only'], (row: BookRow) => boolean>> = {
    '': () => true,
    loops: ({ loop }) => loop !== null,
    'no-loss': ({ spread }) => spread !== null && spread === 0,
    far: ({ isFar }) => isFar,
    changed: (row) => isOther(row, before),
  }
  return rows.filter(
    (row) =>
      words.every((word) => row.item.toLowerCase().includes(word)) &&
      (filter.category === '' || row.category === filter.category) &&
      (filter.plugin === '' || [...row.buys, ...row.sells].some(({ where }) => where === filter.plugin)) &&
      fits[filter.only](row),
  )
}

/** In how many bundles, rewards and tables each item is. */
export function alsoIn({ deals, draws }: Pick<EconomyFacts, 'deals' | 'draws'>): ReadonlyMap<string, string> {
  const counts = new Map<string, { bundles: Set<string>; rewards: Set<string>; tables: Set<string> }>()
  const of = (item: string): { bundles: Set<string>; rewards: Set<string>; tables: Set<string> } => {
    const found = counts.get(item) ?? { bundles: new Set(), rewards: new Set(), tables: new Set() }
    counts.set(item, found)
    return found
  }
  for (const { items, isBought, file, pointer } of deals)
    for (const { item } of items) of(item)[isBought ? 'bundles' : 'rewards'].add(`${file}#${pointer}`)
  for (const { entries, file, pointer } of draws) for (const { name } of entries) of(name).tables.add(`${file}#${pointer}`)
  return new Map(
    [...counts].map(([item, { bundles, rewards, tables }]) => [
      item,
      [
        bundles.size > 0 ? counted(bundles.size, 'bundle') : '',
        rewards.size > 0 ? `asked ${counted(rewards.size, 'time')}` : '',
        tables.size > 0 ? counted(tables.size, 'table') : '',
      ]
        .filter(Boolean)
        .join(', '),
    ]),
  )
}

/** Whether a price can be typed here: what an item says itself, in the money of the server. */
export const isOwnPrice = (offer: GatheredOffer): boolean => offer.by === 'item' && offer.currency === null

/** A price that a reckoning changes. */
export interface PriceChange {
  readonly item: string
  readonly offer: GatheredOffer
  readonly to: string
}

/** What a reckoning makes of some offers. @throws OperationError for amounts that are none */
export function reckonPrices(offers: readonly GatheredOffer[], reckoning: Reckoning): readonly PriceChange[] {
  const reckoner = readReckoning(reckoning)
  return offers.flatMap((offer): PriceChange[] => {
    const text = String(offer.amount)
    const to = isOwnPrice(offer) ? reckoner.of(text) : null
    return to === null || to === text ? [] : [{ item: offer.item, offer, to }]
  })
}
