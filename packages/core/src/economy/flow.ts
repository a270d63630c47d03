import { DAY, onlineOf, shareOf, sharesADay, timesAnHour, type Kind, type Stream } from './model'

/** Money an hour between a stream and a kind of player, over the whole of a day. */
export interface Ribbon {
  readonly stream: string
  readonly kind: string
  readonly way: Stream['way']
  readonly amount: number
}

/** Money an hour, of all. */
export interface Flow {
  readonly ribbons: readonly Ribbon[]
  readonly comesIn: number
  readonly goesOut: number
  /** What stays in purses: what comes in less what goes out. */
  readonly stays: number
}

/** Money an hour that one stream moves for one kind of player. */
export function movedBy(stream: Stream, kind: Kind): number {
  if (stream.isOnce) return (stream.amount * stream.chance * kind.joins) / DAY
  if (stream.isShare) return (shareOf(stream, kind.balance) * sharesADay(stream, kind) * kind.players) / DAY
  const times = timesAnHour(stream, kind.rates[stream.activity] ?? 0, kind.hours)
  return times * stream.amount * stream.chance * onlineOf(kind)
}

/** Money an hour that one stream moves for all of them. */
export const movedByAll = (stream: Stream, kinds: readonly Kind[]): number => kinds.reduce((sum, kind) => sum + movedBy(stream, kind), 0)

/** Who moves how much. What moves nothing has no ribbon. */
export function flowOf(streams: readonly Stream[], kinds: readonly Kind[]): Flow {
  const ribbons = streams.flatMap((stream) =>
    kinds.flatMap((kind): Ribbon[] => {
      const amount = movedBy(stream, kind)
      return amount === 0 ? [] : [{ stream: stream.id, kind: kind.name, way: stream.way, amount }]
    }),
  )
  const sum = (way: Stream['way']): number => ribbons.reduce((all, ribbon) => all + (ribbon.way === way ? ribbon.amount : 0), 0)
  const [comesIn, goesOut] = [sum('in'), sum('out')]
  return { ribbons, comesIn, goesOut, stays: comesIn - goesOut }
}
