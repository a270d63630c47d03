import { SECONDS } from '../rules/units'
/** A setting that moves money: into purses, or out of them. */
export interface Stream {
  /** Its file and pointer, as `extras/Purse/settings.yml#/payouts/fire-kiln`. */
  readonly id: string
  readonly name: string
  readonly plugin: string
  readonly file: string
  readonly pointer: string
  readonly way: 'in' | 'out'
  /** What moves each time: money, or where `isShare`, a share of the balance. */
  readonly amount: number
  /** Whether the amount is a share of what a player has, taken or given once a day, as interest and taxes are. */
  readonly isShare: boolean
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
  /** How often an hour each stream is done, by its id; none where it is not named. */
  readonly rates: Readonly<Record<string, number>>
}

/** Hours of a day. */
export const DAY = 24

/**
 * How often an hour somebody does it who would do it `rate` times an hour: no oftener than the cooldown lets, and over a day no oftener
 * than its limit.
 */
export function timesAnHour({ cooldown, limit }: Pick<Stream, 'cooldown' | 'limit'>, rate: number, hours: number): number {
  const byPause = cooldown === null || cooldown <= 0 ? rate : Math.min(rate, SECONDS['hour']! / cooldown)
  return limit === null || hours <= 0 ? byPause : Math.min(byPause, limit / hours)
}
