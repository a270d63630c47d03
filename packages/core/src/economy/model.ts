import { SECONDS } from '../rules/units'

/** What moves money: into purses, or out of them. */
export interface Stream {
  /** The setting that says how much, as `extras/Purse/settings.yml#/payouts/fire-kiln`; or what is put together from several. */
  readonly id: string
  /** What players do, by its own name: rates are told of it, and several streams may go with it, as a price and its tax. */
  readonly activity: string
  readonly way: 'in' | 'out'
  /** What moves each time: money, or where `isShare`, a share of the balance. */
  readonly amount: number
  /** Whether the amount is a share of what a player has, taken or given once a day where no rate says another number of times. */
  readonly isShare: boolean
  /** Of a share: no more than this at once; null for any. */
  readonly most: number | null
  /** How likely it is each time, 0 to 1. */
  readonly chance: number
  /** Seconds until it may be done again; null for at once. */
  readonly cooldown: number | null
  /** How often a day; null for ever so often. */
  readonly limit: number | null
  /** Whether each player has it once and never again, as starting money. */
  readonly isOnce: boolean
}

/** A kind of player. */
export interface Kind {
  readonly name: string
  readonly players: number
  /** Hours played a day. */
  readonly hours: number
  /** How many of them begin each day. */
  readonly joins: number
  /** What one has, typically: shares are reckoned of it. */
  readonly balance: number
  /** How often an hour each activity is done, and of shares how often a day; never where it is not named, and shares once. */
  readonly rates: Readonly<Record<string, number>>
}

/** Hours of a day. */
export const DAY = 24
/** Seconds of an hour. */
export const HOUR = SECONDS['hour']!

/** How many of a kind are there at any hour. */
export const onlineOf = ({ players, hours }: Pick<Kind, 'players' | 'hours'>): number => (players * hours) / DAY

/**
 * How often an hour of play somebody does it who would do it `rate` times: no oftener than its pause lets, and over a day no oftener than
 * its limit. A pause longer than what is played in a day is waited for once a day, and one longer than a day for as long as it takes.
 */
export function timesAnHour({ cooldown, limit }: Pick<Stream, 'cooldown' | 'limit'>, rate: number, hours: number): number {
  if (hours <= 0) return 0
  const byPause = cooldown === null || cooldown <= 0 ? rate : Math.min(rate, timesByPause(cooldown, hours) / hours)
  return limit === null ? byPause : Math.min(byPause, limit / hours)
}

const timesByPause = (cooldown: number, hours: number): number =>
  cooldown <= hours * HOUR ? (hours * HOUR) / cooldown : Math.min(1, (DAY * HOUR) / cooldown)

/** How often a day a share is given or taken of somebody. */
export const sharesADay = ({ activity, cooldown }: Pick<Stream, 'activity' | 'cooldown'>, { rates }: Pick<Kind, 'rates'>): number => {
  const times = rates[activity] ?? 1
  return cooldown === null || cooldown <= 0 ? times : Math.min(times, (DAY * HOUR) / cooldown)
}

/** What a share comes to, of a balance. */
export const shareOf = ({ amount, most }: Pick<Stream, 'amount' | 'most'>, balance: number): number =>
  Math.min(amount * Math.max(0, balance), most ?? Number.POSITIVE_INFINITY)
