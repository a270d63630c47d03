/*
 * What a change cost: how many ticks a second a server made before it and after it, with like numbers of players. Ticks
 * fall with players, and people change things when it is quiet: so each number of players is compared with itself only.
 */

/** One measure of a running server. */
export interface LoadSample {
  /** Seconds since 1970. */
  readonly at: number
  readonly players: number
  /** Ticks a second. */
  readonly ticks: number
}

export interface Cost {
  /** Ticks a second, with like numbers of players. */
  readonly before: number
  readonly after: number
  /** `after` less `before`. */
  readonly change: number
  /** The least and the most players that were compared. */
  readonly players: readonly [least: number, most: number]
}

/** Why there is no number: not enough time since, too little was measured, or never with as many players as before. */
export type NoCost = 'too-early' | 'too-few' | 'not-alike'

export interface CostWindow {
  /** Seconds since 1970 of the change. */
  readonly at: number
  readonly now: number
  /** Other changes before and after it: what lies beyond them is theirs. */
  readonly previous?: number
  readonly next?: number
}

/** So many seconds are looked at on each side. */
export const WINDOW = 2 * 60 * 60
/** What is measured so shortly after a change is of the start, and counts for nothing. */
export const SETTLES_WITHIN = 2 * 60
/** So many measures are needed on each side. */
export const LEAST_SAMPLES = 5

/**
 * What a change cost. `samples` are in any order; of those around the change the means for each number of players that
 * was there before and after are compared, each weighted by how often it was there on the side where it was rarer.
 */
export function costOf(samples: readonly LoadSample[], { at, now, previous, next }: CostWindow): Cost | NoCost {
  const begin = Math.max(at - WINDOW, previous === undefined ? -Infinity : previous + SETTLES_WITHIN)
  const end = Math.min(at + WINDOW, next ?? Infinity)
  const before = samples.filter((sample) => sample.at >= begin && sample.at < at)
  const after = samples.filter((sample) => sample.at >= at + SETTLES_WITHIN && sample.at < end)
  if (after.length < LEAST_SAMPLES && now < end) return 'too-early'
  if (before.length < LEAST_SAMPLES || after.length < LEAST_SAMPLES) return 'too-few'
  return compare(byPlayers(before), byPlayers(after))
}

interface Mean {
  sum: number
  count: number
}

function byPlayers(samples: readonly LoadSample[]): Map<number, Mean> {
  const means = new Map<number, Mean>()
  for (const { players, ticks } of samples) {
    const mean = means.get(players) ?? { sum: 0, count: 0 }
    means.set(players, { sum: mean.sum + ticks, count: mean.count + 1 })
  }
  return means
}

function compare(before: ReadonlyMap<number, Mean>, after: ReadonlyMap<number, Mean>): Cost | NoCost {
  let weights = 0
  let sumBefore = 0
  let sumAfter = 0
  const alike = [...before.keys()].filter((players) => after.has(players))
  for (const players of alike) {
    const [one, other] = [before.get(players)!, after.get(players)!]
    const weight = Math.min(one.count, other.count)
    weights += weight
    sumBefore += (weight * one.sum) / one.count
    sumAfter += (weight * other.sum) / other.count
  }
  if (weights < LEAST_SAMPLES) return 'not-alike'
  return {
    before: sumBefore / weights,
    after: sumAfter / weights,
    change: (sumAfter - sumBefore) / weights,
    players: [Math.min(...alike), Math.max(...alike)],
  }
}
