import { DAY, timesAnHour, type Kind, type Stream } from './model'

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
  if (stream.isShare) return (stream.amount * kind.balance * kind.players) / DAY
  const times = timesAnHour(stream, kind.rates[stream.id] ?? 0, kind.hours)
  return times * stream.amount * stream.chance * kind.players * (kind.hours / DAY)
}

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

/** What more of one setting does to what stays. */
export interface Leverage {
  readonly stream: string
  /** Money an hour. */
  readonly change: number
}

/** What a tenth more of each setting changes of what stays an hour, the most first. */
export function leverages(streams: readonly Stream[], kinds: readonly Kind[], more = 0.1): readonly Leverage[] {
  return streams
    .map((stream): Leverage => {
      const moved = kinds.reduce((all, kind) => all + movedBy(stream, kind), 0)
      return { stream: stream.id, change: moved * more * (stream.way === 'in' ? 1 : -1) }
    })
    .filter(({ change }) => change !== 0)
    .sort((a, b) => Math.abs(b.change) - Math.abs(a.change))
}
