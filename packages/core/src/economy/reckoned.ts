import { fitKinds, NOTHING_ASSUMED, type Assumed, type Origin, type Seen } from './assume'
import { economyOf } from './derive'
import { groupedFlow, type Sums } from './flow-groups'
import { movedByAll } from './flow'
import { withPart, type EconomyFacts, type EconomyPart } from './gather'
import { onlineOf } from './model'
import { movers } from './moves'
import type { GatheredOffer } from './offers'
import { mendsOf, unitPrice, type PriceRow } from './prices'
import { drawTables, worthOfDraw, type Outcome } from './tables'
import { valuedDeals, worthIn, type ValuedDeal } from './worth'

/** What an economy is reckoned of. */
export interface ToReckon {
  /** As the drafts have it. */
  readonly facts: EconomyFacts
  /** As it stands, of plugins whose drafts change it; null for none. */
  readonly standing: EconomyPart | null
  /** Categories of items by the server's own list. */
  readonly kinds: Readonly<Record<string, string>>
  /** Null where nobody assumed anything yet. */
  readonly assumed: Assumed | null
  readonly seen: Seen
}

/** The place of a number that can be changed. */
interface At {
  readonly plugin: string
  readonly file: string
  readonly pointer: string
}

/** A price with where it stands. */
export interface Quote extends At {
  readonly amount: number
  readonly count: number
  /** Of one. */
  readonly each: number
}

/** All numbers that the page of the economy shows, for scripts. */
export interface Reckoned {
  readonly people: readonly {
    readonly id: string
    readonly name: string
    readonly players: number
    readonly hours: number
    readonly online: number
    readonly from: { readonly players: Origin; readonly hours: Origin }
    /** How often an hour, or of shares a day, by activity. */
    readonly rates: Readonly<Record<string, number>>
  }[]
  /** Money an hour. */
  readonly flow: { readonly today: Sums; readonly draft: Sums; readonly streams: readonly FlowingStream[] }
  readonly prices: readonly QuotedItem[]
  readonly tables: readonly (At & {
    readonly name: string
    readonly isByWeight: boolean
    readonly outcomes: readonly Outcome[]
    /** Of a draw, in money. */
    readonly worth: number
    /** Tables that lead back to where they came from; null for none. */
    readonly circle: readonly string[] | null
  })[]
  readonly deals: readonly ValuedDeal[]
  /** What a tenth more of a setting changes of what stays an hour, the most first. */
  readonly movers: readonly (At & { readonly name: string; readonly change: number })[]
  /** How many amounts are left out, by the name of money of which nobody says what it is worth. */
  readonly foreign: Readonly<Record<string, number>>
}

/** A stream with what it moves an hour, with today's settings and with the drafts'; null where it is not there. */
export interface FlowingStream extends At {
  readonly activity: string
  readonly name: string
  readonly doing: string
  readonly way: 'in' | 'out'
  readonly today: number | null
  readonly draft: number | null
}

export interface QuotedItem {
  readonly item: string
  readonly category: string | null
  readonly buys: readonly Quote[]
  readonly sells: readonly Quote[]
  readonly spread: number | null
  readonly margin: number | null
  readonly isFar: boolean
  /** Null for none that pays. */
  readonly loop: {
    readonly gainARound: number
    readonly gainAnHour: number
    readonly seconds: number
    readonly mends: readonly { readonly file: string; readonly pointer: string; readonly amount: number; readonly gainARound: number }[]
  } | null
}

/** Reckons with an economy all that is told of it, days to come left out: these take seconds, and are lived where they are looked at. */
export function reckonedOf({ facts, standing, kinds, assumed, seen }: ToReckon): Reckoned {
  const draft = economyOf(facts, kinds)
  const today = standing ? economyOf(withPart(facts, standing), kinds) : draft
  const people = fitKinds(today, [...today.streams, ...draft.streams], assumed ?? NOTHING_ASSUMED, seen)
  const own = people.map(({ kind }) => kind)
  const flow = groupedFlow(today.streams, draft.streams, own)
  const worth = worthIn(draft.book)
  const movedIn = (streams: typeof today.streams): ReadonlyMap<string, number> =>
    new Map(streams.map((stream) => [keyOf(stream), movedByAll(stream, own)]))
  const [now, then] = [movedIn(today.streams), movedIn(draft.streams)]
  const all = new Map([...today.streams, ...draft.streams].map((stream) => [keyOf(stream), stream]))
  return {
    people: people.map(({ id, name, players, hours, rates, kind }) => ({
      id,
      name,
      players: players.value,
      hours: hours.value,
      online: onlineOf(kind),
      from: { players: players.from, hours: hours.from },
      rates: Object.fromEntries(Object.entries(rates).map(([activity, { value }]) => [activity, value])),
    })),
    flow: {
      today: flow.now,
      draft: flow.draft,
      streams: [...all].map(([key, { activity, name, doing, way, plugin, file, pointer }]) => {
        const moved = { today: now.get(key) ?? null, draft: then.get(key) ?? null }
        return { activity, name, doing, way, plugin, file, pointer, ...moved }
      }),
    },
    prices: draft.book.rows.map(quotedItem),
    tables: drawTables(facts).map(({ name, plugin, file, pointer, isByWeight, outcomes, circle }) => {
      const value = worthOfDraw(outcomes, worth.of)
      return { name, plugin, file, pointer, isByWeight, outcomes, worth: value, circle }
    }),
    deals: valuedDeals(facts, draft.book),
    movers: movers(today, own).map(({ stream, side, file, pointer, change }) => {
      const name = side === null ? stream.name : `${stream.name}, ${side}`
      return { name, plugin: stream.plugin, file, pointer, change }
    }),
    foreign: Object.fromEntries(draft.foreign),
  }
}

/** A tax is one setting that goes along with many deeds. */
const keyOf = ({ id, activity }: { readonly id: string; readonly activity: string }): string => `${id} ${activity}`

const quoteOf = (offer: GatheredOffer): Quote => {
  const { plugin, file, pointer, amount, count } = offer
  return { plugin, file, pointer, amount, count, each: unitPrice(offer) }
}

function quotedItem({ item, category, buys, sells, spread, margin, isFar, loop }: PriceRow<GatheredOffer>): QuotedItem {
  const mends = loop ? mendsOf(loop).map(({ file, pointer, amount, gainARound }) => ({ file, pointer, amount, gainARound })) : []
  return {
    item,
    category,
    buys: buys.map(quoteOf),
    sells: sells.map(quoteOf),
    spread,
    margin,
    isFar,
    loop: loop && { gainARound: loop.gainARound, gainAnHour: loop.gainAnHour, seconds: loop.seconds, mends },
  }
}
