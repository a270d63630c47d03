import { SURE, type Link } from './pair-items'
import type { Triple } from './pair-lists'

/**
 * Items that are new in the update, by position, and stand where one was that I took out and the update does not have
 * any more: they may be the same in other words.
 */
export function inPlaceOfMine(triples: readonly Triple[]): Set<number> {
  const result = new Set<number>()
  const lost = triples
    .filter((triple) => triple.f !== undefined && triple.m === undefined && triple.u === undefined)
    .map((triple) => triple.f!)
  if (lost.length === 0) return result
  const there = triples.filter((triple) => triple.f !== undefined && triple.u !== undefined).sort((x, y) => x.f! - y.f!)
  const fresh = triples.filter((triple) => triple.f === undefined && triple.m === undefined).map((triple) => triple.u!)
  fresh.sort((x, y) => x - y)
  let next = 0
  let seen = -1
  for (const f of lost.sort((x, y) => x - y)) {
    while (next < there.length && there[next]!.f! < f) next++
    // all that were lost between the same two have the same place
    if (seen === next) continue
    seen = next
    const [from, to] = [there[next - 1]?.u ?? -1, there[next]?.u ?? Infinity]
    for (let i = firstAbove(fresh, from); i < fresh.length && fresh[i]! < to; i++) result.add(fresh[i]!)
  }
  return result
}

/** What leaves in doubt whether an item of mine and one of the update are one; nothing where the update left it alone. */
export function doubtIn({ mine, update }: Triple): Link | null {
  if (!update || update.how === 'equal') return null
  if (update.confidence < SURE) return update
  return mine && mine.confidence < SURE ? mine : null
}

/** Tells whether the update put something in the place of a factory's item, by its position, that it has no more. */
export function replacedByUpdate(triples: readonly Triple[], factoryLength: number): (f: number) => boolean {
  const [before, behind] = [new Array<number>(factoryLength).fill(-1), new Array<number>(factoryLength).fill(Infinity)]
  const place = new Map(triples.flatMap(({ f, u }) => (f !== undefined && u !== undefined ? [[f, u] as const] : [])))
  for (let f = 1; f < factoryLength; f++) before[f] = Math.max(before[f - 1]!, place.get(f - 1) ?? -1)
  for (let f = factoryLength - 2; f >= 0; f--) behind[f] = Math.min(behind[f + 1]!, place.get(f + 1) ?? Infinity)
  const fresh = triples.flatMap(({ f, m, u }) => (f === undefined && m === undefined ? [u!] : [])).sort((x, y) => x - y)
  return (f) => (fresh[firstAbove(fresh, before[f]!)] ?? Infinity) < behind[f]!
}

/** Where the numbers of a rising list begin that are above one. */
function firstAbove(rising: readonly number[], bound: number): number {
  let [low, high] = [0, rising.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (rising[middle]! > bound) high = middle
    else low = middle + 1
  }
  return low
}
