import { nameWords } from '../carry/likeness'
import type { Bound } from '../checks/stream-facts'
import type { TextAround } from '../checks/written'
import { formatPointer } from '../tree/pointer'
import type { EconomyFacts, Placed } from './gather'
import type { Stream } from './model'
import type { GatheredOffer } from './offers'
import { priceBook, unitPrice, type PriceBook } from './prices'

/** What a stream is, which tells how often it is likely to be done. */
export type Doing = 'once' | 'payout' | 'price' | 'fee' | 'share' | 'tax' | 'sells' | 'buys' | 'loop'

/** A stream with all that is to be shown of it. */
export interface Moving extends Stream, Placed {
  readonly doing: Doing
  readonly name: string
  /** What its deed is called: as it is, or as the table of which it is one. */
  readonly deed: string
  /** The setting that says how much; empty for what is put together from several. */
  readonly pointer: string
  /** The names of its sections and its own; none for what is put together from several. */
  readonly keys: readonly string[]
  /** What the setting says, where the amount is reckoned of it. */
  readonly says: number
  /** Whether it says how much a deed pays at least, or at most; null for all that says it by itself. */
  readonly bound: Bound | null
  /** The share of a balance or a price that it says; null for money. */
  readonly share: number | null
  /** Where it stands in a text, what is around it; null where it is the value itself. */
  readonly around: TextAround | null
  /** How many settings it is put together from. */
  readonly settings: number
  readonly isShipped: boolean
  /** The section its entry stands in; empty for one in none, and for what is put together from several. */
  readonly section: string
  /** What it belongs with in a picture. */
  readonly group: string
}

/** The money of a server: what moves it, what items cost, and what could not be put into one money. */
export interface Economy {
  readonly streams: readonly Moving[]
  readonly book: PriceBook<GatheredOffer>
  /** Streams and offers in money of which nobody says what it is worth, by its name. */
  readonly foreign: ReadonlyMap<string, number>
}

/**
 * Puts together what moves money, all in one money.
 * @param kinds categories of items by the server's own list, for those of which no plugin says one
 */
export function economyOf(facts: EconomyFacts, kinds: Readonly<Record<string, string>> = {}): Economy {
  const rates = new Map(facts.exchange.map(({ currency, rate }) => [currency, rate]))
  const foreign = new Map<string, number>()
  /** What one of a money is worth; null for one that nobody says. The one that is used most is the server's own. */
  const main = mainCurrency(facts)
  const worth = (currency: string | null): number | null => {
    if (currency === null || currency === main) return 1
    const rate = rates.get(currency)
    if (rate === undefined) foreign.set(currency, (foreign.get(currency) ?? 0) + 1)
    return rate ?? null
  }
  const offers = facts.offers.flatMap((offer): GatheredOffer[] => {
    const rate = worth(offer.currency)
    const category = offer.category ?? (Object.hasOwn(kinds, offer.item) ? kinds[offer.item]! : null)
    // what is said in the money of the server needs not be told of
    const currency = offer.currency === main ? null : offer.currency
    return rate === null ? [] : [{ ...offer, category, currency, amount: offer.amount * rate, ...(rate === 1 ? {} : { rate }) }]
  })
  const own = facts.streams.flatMap((fact): Moving[] => {
    const rate = fact.shareOf === null ? worth(fact.currency) : 1
    return rate === null || fact.shareOf === 'price' ? [] : [streamOf(fact, fact.amount * rate)]
  })
  const book = priceBook(offers.filter(({ amount }) => amount > 0))
  const streams = [...own, ...tradesOf(offers.filter(({ by }) => by !== 'deal')), ...loopsOf(book)]
  return { streams: [...streams, ...taxesOf(facts, streams)], book, foreign }
}

/** The money that most settings name, where not more of them name none. */
function mainCurrency({ offers, streams, exchange }: EconomyFacts): string | null {
  const counts = new Map<string | null, number>()
  for (const { currency } of [...offers, ...streams]) counts.set(currency, (counts.get(currency) ?? 0) + 1)
  // what has a rate is told in the money of the server, and is not that money
  for (const { currency } of exchange) counts.delete(currency)
  return [...counts].sort(([, a], [, b]) => b - a)[0]?.[0] ?? null
}

const EVER = {
  bound: null,
  share: null,
  around: null,
  cooldown: null,
  limit: null,
  most: null,
  chance: 1,
  isShare: false,
  isOnce: false,
  keys: [] as readonly string[],
  section: '',
} as const

function streamOf(fact: EconomyFacts['streams'][number], amount: number): Moving {
  const { file, pointer, keys, plugin, name, way, shareOf, isOnce, isShipped, chance, cooldown, limit, most, around, bound, drawn } = fact
  const at = `${file}#${pointer}`
  // both bounds may stand in one text
  const isRange = bound !== null && around !== null
  const id = isRange ? `${at} ${bound}` : at
  // what is paid at least and at most is one deed, and each comes to half of it; so is all that a table draws
  const own = bound === null || isRange ? (fact.was ?? at) : aroundOf(fact.was ?? at, keys)
  const activity = drawn?.isOne ? `${file}#${drawn.pointer}` : own
  const doing = isOnce ? 'once' : shareOf ? 'share' : way === 'in' ? 'payout' : /fee$/i.test(keys.at(-1) ?? '') ? 'fee' : 'price'
  const isShare = shareOf !== null
  const moved = { id, activity, way, amount, isShare, isOnce, chance: (chance ?? 1) * (bound === null ? 1 : 0.5), cooldown, limit, most }
  return {
    ...moved,
    doing,
    name,
    deed: drawn?.isOne ? drawn.name : name,
    plugin,
    file,
    pointer,
    keys,
    says: fact.says,
    bound,
    share: shareOf === null ? null : fact.amount,
    around,
    settings: 1,
    isShipped,
    section: sectionOf(fact),
    group: doing === 'once' || doing === 'share' ? at : `${plugin} ${doing} ${sectionOf(fact)}`,
  }
}

/** What one setting of two stands in: a name with points stands for sections where its own last name is but the end of it. */
function aroundOf(id: string, keys: readonly string[]): string {
  const last = formatPointer(keys.slice(-1)).slice(1)
  return id.endsWith(`.${last}`) || id.endsWith(`/${last}`) ? id.slice(0, -last.length - 1) : id.slice(0, id.lastIndexOf('/'))
}

/** Sections that only say that money or settings are in them. */
const WRAPPERS = new Set(['economy', 'money', 'setting', 'config', 'configuration', 'option', 'general', 'main'])

/** The section of entries: the outermost above the one that the setting says something of, for in it are those of its kind. */
function sectionOf({ keys, name }: EconomyFacts['streams'][number]): string {
  const entry = keys.lastIndexOf(name)
  const around = keys.slice(0, entry < 0 ? -1 : entry)
  return around.find((key) => !/^\d+$/.test(key) && !WRAPPERS.has(nameWords(key).join(' '))) ?? ''
}

/** What players buy and sell at each plugin, as one of the middle of it. */
function tradesOf(offers: readonly GatheredOffer[]): Moving[] {
  const by = new Map<string, GatheredOffer[]>()
  for (const offer of offers) {
    if (offer.amount <= 0) continue
    const id = `${offer.way === 'buy' ? 'buys' : 'sells'} ${offer.plugin}`
    const list = by.get(id)
    if (list) list.push(offer)
    else by.set(id, [offer])
  }
  return [...by].map(([id, all]): Moving => {
    const { way, plugin, file, share } = all[0]!
    const amount = middlePrice(all.map(unitPrice))
    const at =
      share && all.every((offer) => offer.share)
        ? { file: share.file, pointer: share.pointer, says: share.amount, share: share.amount }
        : { file, pointer: '', says: 0 }
    const doing = way === 'buy' ? 'buys' : 'sells'
    const isShipped = all.every((offer) => offer.isShipped)
    return {
      ...EVER,
      ...at,
      id,
      activity: id,
      way: way === 'buy' ? 'out' : 'in',
      amount,
      doing,
      name: plugin,
      deed: plugin,
      plugin,
      settings: all.length,
      isShipped,
      group: id,
    }
  })
}

/**
 * What one thing of many costs on average, where each is dealt in as often as it is cheap, by the root of its price: a few dear ones among
 * many say little of what is paid every day.
 */
function middlePrice(prices: readonly number[]): number {
  const roots = prices.map(Math.sqrt)
  return roots.reduce((sum, root) => sum + root, 0) / roots.reduce((sum, root) => sum + 1 / root, 0)
}

/** What is gained by buying somewhere and selling elsewhere, a round at a time. */
function loopsOf({ rows }: PriceBook): Moving[] {
  return rows.flatMap(({ loop }): Moving[] => {
    if (!loop) return []
    const id = `loop ${loop.item}`
    const { file, pointer, where } = loop.sell
    const moved = { id, activity: id, way: 'in' as const, amount: loop.gainARound, cooldown: loop.seconds }
    return [
      {
        ...EVER,
        ...moved,
        doing: 'loop',
        name: loop.item,
        deed: loop.item,
        plugin: where,
        file,
        pointer,
        says: 0,
        settings: 2,
        isShipped: false,
        group: id,
      },
    ]
  })
}

/** A tax goes along with everything that is paid to the same plugin. */
function taxesOf(facts: EconomyFacts, streams: readonly Moving[]): Moving[] {
  return facts.streams.flatMap((fact) => {
    if (fact.shareOf !== 'price') return []
    const tax = streamOf(fact, fact.amount)
    return streams
      .filter(({ plugin, way, isShare }) => plugin === tax.plugin && way === 'out' && !isShare)
      .map((paid): Moving => {
        const { activity, chance, cooldown, limit } = paid
        const amount = paid.amount * fact.amount
        return { ...tax, activity, amount, chance, cooldown, limit, isShare: false, doing: 'tax', group: tax.id }
      })
  })
}
