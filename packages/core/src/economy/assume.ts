import { dayOf } from './afford'
import type { Economy, Moving } from './derive'
import { DAY, HOUR, onlineOf, timesAnHour, type Kind } from './model'

/** What kinds of players there are to begin with: newcomers, those who come again and again, and those who live by trade. */
export const LIKES = ['newcomer', 'regular', 'trader'] as const
export type Like = (typeof LIKES)[number]

/** A kind of player as somebody described it; null for what is to be inferred. */
export interface AssumedKind {
  readonly id: string
  readonly name: string
  /** What it is like in what nobody said of it. */
  readonly like: Like
  readonly players: number | null
  readonly hours: number | null
}

/** Something to be affordable to a kind of player after so many hours of play. */
export interface AssumedGoal {
  /** The item or the setting of a price, by its name. */
  readonly thing: string
  /** How many of it. */
  readonly count: number
  readonly kind: string
  readonly hours: number
}

/** What people of a server assume of its players. */
export interface Assumed {
  readonly kinds: readonly AssumedKind[]
  /** How often an hour, or of shares a day, by activity and then by the id of the kind. */
  readonly rates: Readonly<Record<string, Readonly<Record<string, number>>>>
  /** Null for those that are inferred. */
  readonly goals: readonly AssumedGoal[] | null
}

export const NOTHING_ASSUMED: Assumed = {
  kinds: [
    { id: 'newcomer', name: 'Newcomers', like: 'newcomer', players: null, hours: null },
    { id: 'regular', name: 'Regulars', like: 'regular', players: null, hours: null },
    { id: 'trader', name: 'Traders', like: 'trader', players: null, hours: null },
  ],
  rates: {},
  goals: null,
}

/** What the server's own records say of its players; null for what they do not say. */
export interface Seen {
  /** How many have an account. */
  readonly players: number | null
  /** What one in the middle has. */
  readonly balance: number | null
  /** How many are online on average. */
  readonly online: number | null
  /** How often a day one player does something, on average, by its activity. */
  readonly times: Readonly<Record<string, number>>
}

export const NOTHING_SEEN: Seen = { players: null, balance: null, online: null, times: {} }

/** Where a number comes from: somebody typed it, it was read from the server's records, or it is inferred from the settings. */
export type Origin = 'typed' | 'records' | 'inferred'

export interface Known {
  readonly value: number
  readonly from: Origin
}

/** A kind of player with all its numbers, and where each comes from. */
export interface FittedKind {
  readonly id: string
  readonly name: string
  readonly like: Like
  readonly players: Known
  readonly hours: Known
  readonly rates: Readonly<Record<string, Known>>
  readonly kind: Kind
}

interface Temper {
  /** Of all players. */
  readonly part: number
  readonly hours: number
  /** Against a regular: how often one works, sells, and how much of an hour goes to loops. */
  readonly works: number
  readonly sells: number
  readonly loops: number
  /** How much of what comes in is spent again. */
  readonly spends: number
  /** Days after which one is looked at, for what one has. */
  readonly age: number
}

/** First values, from which people start; all are to be changed. docs/economy.md says what each stands for. */
const TEMPERS: Readonly<Record<Like, Temper>> = {
  newcomer: { part: 0.3125, hours: 1, works: 0.6, sells: 0.5, loops: 0, spends: 0.6, age: 3 },
  regular: { part: 0.5625, hours: 2.4, works: 1, sells: 1, loops: 0, spends: 0.7, age: 30 },
  trader: { part: 0.125, hours: 3.2, works: 0.5, sells: 2.5, loops: 0.25, spends: 0.5, age: 60 },
}
const PLAYERS = 64
/** So often an hour a regular does what pays like the middle of all, and so many items one sells. */
const WORKS = 6
const SELLS = 8
/** Of what one may do only after a pause, half is done. */
const OF_PAUSE = 0.5
/** How often one buys against claiming something that has a price. */
const SPENDS: Readonly<Partial<Record<Moving['doing'], number>>> = { buys: 6, price: 1, fee: 1 }

/**
 * Fits kinds of players to an economy: what was typed counts, then what records say, then what the settings let infer.
 * @param standing the economy as it stands, from which is inferred; what drafts change does not change what people do
 * @param streams what rates are wanted of
 */
export function fitKinds(standing: Economy, streams: readonly Moving[], assumed: Assumed, seen: Seen): readonly FittedKind[] {
  const parts = assumed.kinds.reduce((sum, { like, players }) => sum + (players === null ? TEMPERS[like].part : 0), 0)
  const typed = assumed.kinds.reduce((sum, { players }) => sum + (players ?? 0), 0)
  const left = Math.max(0, (seen.players ?? PLAYERS) - typed)
  const bare = assumed.kinds.map((kind) => {
    const { part, hours } = TEMPERS[kind.like]
    const origin: Origin = seen.players === null ? 'inferred' : 'records'
    return {
      ...kind,
      players: known(kind.players, Math.round((left * part) / (parts || 1)), origin),
      hours: known(kind.hours, hours, 'inferred' as Origin),
    }
  })
  const longer = stretch(bare, seen.online)
  return bare.map((one) => {
    const hours =
      one.hours.from === 'typed'
        ? one.hours
        : longer === null
          ? one.hours
          : { value: tidy(Math.min(DAY, one.hours.value * longer)), from: 'records' as const }
    const habits = new Habits(standing.streams, one.like, hours.value, seen)
    const rates = ratesOf(streams, habits, assumed.rates, one.id)
    const plain = Object.fromEntries(Object.entries(rates).map(([activity, { value }]) => [activity, value]))
    const kind = { name: one.id, players: one.players.value, hours: hours.value, joins: 0, rates: plain }
    const { age } = TEMPERS[one.like]
    const balance = seen.balance ?? balanceAfter(standing.streams, { ...kind, balance: 0 }, age)
    return {
      id: one.id,
      name: one.name,
      like: one.like,
      players: one.players,
      hours,
      rates,
      // the others were newcomers once, and had what those begin with then
      kind: { ...kind, joins: one.like === 'newcomer' ? one.players.value / age : 0, balance },
    }
  })
}

const known = (typed: number | null, other: number, from: Origin): Known =>
  typed === null ? { value: other, from } : { value: typed, from: 'typed' }

/** By what hours have to be multiplied so that as many are online as were seen; null where that is not known. */
function stretch(kinds: readonly { readonly players: Known; readonly hours: Known }[], online: number | null): number | null {
  if (online === null) return null
  const of = (isTyped: boolean): number =>
    kinds
      .filter(({ hours }) => (hours.from === 'typed') === isTyped)
      .reduce((sum, { players, hours }) => sum + onlineOf({ players: players.value, hours: hours.value }), 0)
  const [fixed, free] = [of(true), of(false)]
  return free > 0 && online > fixed ? (online - fixed) / free : null
}

function ratesOf(streams: readonly Moving[], habits: Habits, typed: Assumed['rates'], id: string): Record<string, Known> {
  const rates: Record<string, Known> = {}
  for (const stream of streams) {
    const said = typed[stream.activity]?.[id]
    if (stream.isOnce || rates[stream.activity]) continue
    rates[stream.activity] = said === undefined ? habits.rateOf(stream) : { value: said, from: 'typed' }
  }
  return rates
}

/** What one kind of player is likely to do how often. */
class Habits {
  private readonly middle: number
  /** What each deed brings. */
  private readonly pays: ReadonlyMap<string, number>
  private readonly spending: number
  private readonly middlePrice: number
  private readonly bestLoop: string | null
  /** Plugins that buy from players: what one sells goes to all of them. */
  private readonly buyers: number

  constructor(
    streams: readonly Moving[],
    private readonly like: Like,
    private readonly hours: number,
    private readonly seen: Seen,
  ) {
    this.pays = paidByDeeds(streams)
    this.middle = middleOf([...this.pays.values()])
    this.buyers = Math.max(1, streams.filter(({ doing }) => doing === 'sells').length)
    this.bestLoop = bestOf(streams)?.activity ?? null
    const earned = sumOf(
      streams.filter(({ way, doing }) => way === 'in' && doing !== 'loop'),
      (stream) => this.income(stream),
    )
    const prices = streams.filter(({ doing }) => SPENDS[doing] !== undefined)
    this.middlePrice = middleOf(prices.map(({ amount }) => amount))
    const asked = sumOf(prices, (stream) => stream.amount * this.capped(stream, this.wants(stream)))
    this.spending = asked > 0 ? (earned * TEMPERS[like].spends) / asked : 0
  }

  rateOf(stream: Moving): Known {
    const seen = this.seen.times[stream.activity]
    if (seen !== undefined) return { value: tidy(seen / this.hours), from: 'records' }
    return { value: tidy(this.inferred(stream)), from: 'inferred' }
  }

  private inferred(stream: Moving): number {
    const { works, sells, loops } = TEMPERS[this.like]
    switch (stream.doing) {
      case 'once':
        return 1
      case 'share':
        // as often a day as it says, once where it says nothing
        return stream.cooldown !== null && stream.cooldown > 0 ? (DAY * HOUR) / stream.cooldown : 1
      case 'payout':
        return stream.cooldown !== null && stream.cooldown > 0
          ? this.capped(stream, Number.POSITIVE_INFINITY) * OF_PAUSE * works
          : this.capped(stream, Math.min(30, Math.max(1, WORKS * Math.sqrt(this.middle / this.payOf(stream)))) * works)
      case 'sells':
        return (SELLS * sells) / this.buyers
      case 'loop':
        return stream.activity === this.bestLoop ? (loops * HOUR) / (stream.cooldown ?? HOUR) : 0
      default:
        return this.capped(stream, this.wants(stream) * this.spending)
    }
  }

  private payOf({ activity, amount }: Moving): number {
    return this.pays.get(activity) ?? amount
  }

  /** How often one pays for something against something else: what is dearer less often, by the root. */
  private wants({ doing, amount }: Moving): number {
    return (SPENDS[doing] ?? 0) * Math.sqrt(this.middlePrice / amount)
  }

  private income(stream: Moving): number {
    return stream.isShare || stream.isOnce ? 0 : this.rateOf(stream).value * stream.amount * stream.chance
  }

  private capped(stream: Moving, rate: number): number {
    return timesAnHour(stream, rate, this.hours)
  }
}

/** What each deed brings: what it says, and where several settings say it, as bounds or in a table, what comes of it on average. */
function paidByDeeds(streams: readonly Moving[]): ReadonlyMap<string, number> {
  const by = new Map<string, Moving[]>()
  for (const stream of streams.filter(({ doing }) => doing === 'payout'))
    by.set(stream.activity, [...(by.get(stream.activity) ?? []), stream])
  const isAlone = (of: readonly Moving[]): boolean => of.length === 1 && of[0]!.activity === of[0]!.id
  return new Map(
    [...by].map(([activity, of]) => [activity, isAlone(of) ? of[0]!.amount : sumOf(of, ({ amount, chance }) => amount * chance)]),
  )
}

const sumOf = (streams: readonly Moving[], of: (stream: Moving) => number): number => streams.reduce((sum, stream) => sum + of(stream), 0)

/** The loop that pays most an hour. */
const bestOf = (streams: readonly Moving[]): Moving | null =>
  streams.reduce<Moving | null>((best, one) => (one.doing === 'loop' && gainOf(one) > (best ? gainOf(best) : 0) ? one : best), null)

const gainOf = ({ amount, cooldown }: Moving): number => amount / (cooldown || 1)

function middleOf(numbers: readonly number[]): number {
  const sorted = [...numbers].sort((a, b) => a - b)
  return sorted[Math.floor(sorted.length / 2)] ?? 1
}

/** To two digits: first values are not more exact than that. */
const tidy = (value: number): number => Number(value.toPrecision(2))

/** What somebody of a kind has after so many days, without shares of it. */
function balanceAfter(streams: readonly Moving[], kind: Kind, days: number): number {
  const { given, earned, spent } = dayOf(streams, kind)
  return Math.max(0, Math.round(given + (earned - spent) * days))
}
