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
  for (const f of lost) {
    const next = there.findIndex((triple) => triple.f! > f)
    const [from, to] = [there[(next < 0 ? there.length : next) - 1]?.u ?? -1, there[next]?.u ?? Infinity]
    for (const u of fresh) if (u > from && u < to) result.add(u)
  }
  return result
}

/** What leaves in doubt whether an item of mine and one of the update are one; nothing where the update left it alone. */
export function doubtIn({ mine, update }: Triple): Link | null {
  if (!update || update.how === 'equal') return null
  if (update.confidence < SURE) return update
  return mine && mine.confidence < SURE ? mine : null
}
