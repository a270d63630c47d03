import { valueFor } from './goal'
import { shareOf, sharesADay, timesAnHour, type Kind, type Stream } from './model'

/** Longer than this nobody saves. */
const MOST_DAYS = 3650

/** What one player begins with, and what an average day brings and takes, without shares of what there is. */
export interface Day {
  readonly given: number
  readonly earned: number
  readonly spent: number
}

/**
 * Hours of play until one of a kind can first pay a price, where every day is an average one: what was earned that day counts before it is
 * spent, and shares of the balance come at the end of each day.
 * @returns null where that takes more than ten years, or never comes
 */
export function hoursToAfford(streams: readonly Stream[], kind: Kind, price: number): number | null {
  const { given, earned, spent } = dayOf(streams, kind)
  if (given >= price) return 0
  const shares = streams.filter(({ isShare }) => isShare)
  let purse = given
  for (let day = 0; day < MOST_DAYS; day++) {
    if (purse + earned >= price) return (day + (price - purse) / earned) * kind.hours
    const before = purse
    purse = Math.max(0, purse + earned - spent)
    let moved = 0
    for (const share of shares) moved += (share.way === 'in' ? 1 : -1) * shareOf(share, purse) * sharesADay(share, kind)
    purse = Math.max(0, purse + moved)
    if (purse >= price) return (day + 1) * kind.hours
    // what does not grow any more never comes to it
    if (purse <= before) return null
  }
  return null
}

export function dayOf(streams: readonly Stream[], kind: Kind): Day {
  let [given, earned, spent] = [0, 0, 0]
  for (const stream of streams) {
    if (stream.isShare) continue
    if (stream.isOnce) given += stream.way === 'in' ? stream.amount * stream.chance : 0
    else {
      const moved = timesAnHour(stream, kind.rates[stream.activity] ?? 0, kind.hours) * kind.hours * stream.amount * stream.chance
      if (stream.way === 'in') earned += moved
      else spent += moved
    }
  }
  return { given, earned, spent }
}

/** A setting is looked for up to so many times what it is. */
const MOST_TIMES = 100

/**
 * The value of one setting with which a kind of player affords a price after so many hours of play.
 * @param id of the streams that the setting moves
 * @returns null where no value up to a hundred times today's does it
 */
export function amountFor(streams: readonly Stream[], id: string, kind: Kind, price: number, hours: number): number | null {
  const now = streams.find((stream) => stream.id === id)
  if (!now || now.amount <= 0) return null
  const outcome = (amount: number): number => hoursToAfford(withAmount(streams, id, amount), kind, price) ?? Number.MAX_VALUE
  return valueFor(outcome, hours, 0, now.amount * MOST_TIMES)
}

/** The price that a kind of player can first pay after so many hours of play, up to a hundred times one; null where none does. */
export const priceFor = (streams: readonly Stream[], kind: Kind, hours: number, price: number): number | null =>
  valueFor((wanted) => hoursToAfford(streams, kind, wanted) ?? Number.MAX_VALUE, hours, 0, price * MOST_TIMES)

/** The same streams, one setting changed: what is paid along with it, as a tax, changes in proportion. */
export function withAmount<S extends Stream>(streams: readonly S[], id: string, amount: number): readonly S[] {
  const now = streams.find((stream) => stream.id === id)?.amount
  if (!now) return streams
  const activities = new Set(streams.flatMap((stream) => (stream.id === id ? [stream.activity] : [])))
  return streams.map((stream) =>
    stream.id === id || (stream.way === 'out' && activities.has(stream.activity))
      ? { ...stream, amount: (stream.amount * amount) / now }
      : stream,
  )
}
