import { longestRising } from '../tree/sequence'
import type { Triple } from './pairing/pair-lists'

/** Where the items of mine go among those of the update. */
export interface ListOrder {
  /** For an item of mine that the update's list does not have: the position in the update's list behind which it goes; -1: first. */
  readonly after: ReadonlyMap<number, number>
  /** Items of mine, by position, that I put elsewhere than the factory copy has them. */
  readonly moved: ReadonlySet<number>
  /** Those, and what I put in behind them: they stand where mine has them, whatever the order of the update. */
  readonly free: ReadonlySet<number>
  /** How many shipped items I took out without putting one in their place, and how many I put in otherwise. */
  readonly takenOut: number
  readonly putIn: number
}

/**
 * The order of a merged list: the update's, with what is only mine behind the item it follows in mine; what I put in the
 * place of a shipped item stands in the place of that.
 */
export function orderOf(triples: readonly Triple[], updateLength: number): ListOrder {
  const ofMine = new Map(triples.flatMap((triple) => (triple.m === undefined ? [] : [[triple.m, triple] as const])))
  const kept = triples.filter((triple) => triple.f !== undefined && triple.m !== undefined).sort((x, y) => x.f! - y.f!)
  const still = new Set(longestRising(kept.map((triple) => [triple.f!, triple.m!] as const)).map(([, m]) => m))
  const moved = new Set(kept.map((triple) => triple.m!).filter((m) => !still.has(m)))
  const gone = new Map(triples.flatMap((triple) => (triple.f !== undefined && triple.m === undefined ? [[triple.f, triple] as const] : [])))
  const after = new Map<number, number>()
  const free = new Set(moved)
  let behindMoved = false
  let putIn = 0
  let nextFactory = 0
  let place: number | null = null
  const mine = [...ofMine.keys()].sort((x, y) => x - y)
  const before = placesBefore(mine, ofMine, still)
  for (const m of mine) {
    const triple = ofMine.get(m)!
    if (triple.f !== undefined && still.has(m)) nextFactory = triple.f + 1
    if (triple.f === undefined) {
      const replaced = gone.get(nextFactory)
      if (replaced) {
        gone.delete(nextFactory++)
        if (replaced.u !== undefined) [place, behindMoved] = [replaced.u, false]
      } else putIn++
    }
    if (triple.u !== undefined) [place, behindMoved] = [triple.u, moved.has(m)]
    else {
      after.set(m, place ?? before.get(m) ?? updateLength - 1)
      if (behindMoved) free.add(m)
    }
  }
  return { after, moved, free, takenOut: gone.size, putIn }
}

/** For each item of mine the position before the next one behind it that the update has, too, where it did not move. */
function placesBefore(mine: readonly number[], ofMine: ReadonlyMap<number, Triple>, still: ReadonlySet<number>): Map<number, number> {
  const places = new Map<number, number>()
  let next: number | null = null
  for (let i = mine.length - 1; i >= 0; i--) {
    if (next !== null) places.set(mine[i]!, next)
    const { f, u } = ofMine.get(mine[i]!)!
    if (u !== undefined && (f === undefined || still.has(mine[i]!))) next = u - 1
  }
  return places
}

/** An item of mine as it stands in the result, by its position there; `free`: it goes behind those before it in mine. */
export interface Standing {
  readonly at: number
  readonly free: boolean
}

/** The positions of a result in the order they shall have, given the items of mine in my order. */
export function reordered(length: number, mine: readonly Standing[]): number[] {
  const free = new Set(mine.filter((item) => item.free).map((item) => item.at))
  const next = new Map<number, number[]>()
  let last = -1
  const firstFixed = mine.find((item) => !item.free)
  const behind = (at: number): number[] => {
    let list = next.get(at)
    if (!list) next.set(at, (list = []))
    return list
  }
  for (const { at, free: isFree } of mine) {
    if (isFree) behind(last).push(at)
    else last = Math.max(last, at)
  }
  const order: number[] = []
  for (let at = 0; at < length; at++) {
    if (firstFixed?.at === at) order.push(...(next.get(-1) ?? []))
    if (!free.has(at)) order.push(at, ...(next.get(at) ?? []))
  }
  return firstFixed ? order : [...(next.get(-1) ?? []), ...order]
}
