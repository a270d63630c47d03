import { matchSequences } from '../tree/sequence'

export interface MergedSequence {
  /** Positions in the update's list that go. */
  readonly removed: readonly number[]
  /** Positions in mine that come, each after a position of the update's list (-1: first). */
  readonly inserted: readonly { readonly item: number; readonly after: number }[]
  /** The whole result in order. */
  readonly order: readonly { readonly from: 'mine' | 'update'; readonly index: number }[]
}

/** Puts what mine added to and removed from the factory's list onto the update's list, in order. Items are compared as text. */
export function mergeSequences(factory: readonly string[], mine: readonly string[], update: readonly string[]): MergedSequence {
  const mineOf = new Map(matchSequences(factory, mine))
  const updateOf = new Map(matchSequences(factory, update))
  const fromMine = new Map([...mineOf].map(([f, m]) => [m, f]))
  const fromUpdate = new Map([...updateOf].map(([f, u]) => [u, f]))
  const removed: number[] = []
  for (const [f, u] of updateOf) if (!mineOf.has(f)) removed.push(u)
  // what both added is not added twice
  const fresh = new Map<string, number>()
  update.forEach((item, u) => {
    if (!fromUpdate.has(u)) fresh.set(item, u)
  })
  const inserted: { item: number; after: number }[] = []
  let after = -1
  mine.forEach((item, m) => {
    const f = fromMine.get(m)
    const known = f !== undefined ? updateOf.get(f) : fresh.get(item)
    if (known !== undefined) after = Math.max(after, known)
    else if (f === undefined) inserted.push({ item: m, after })
  })
  return { removed, inserted, order: listOrder(update.length, new Set(removed), inserted) }
}

function listOrder(length: number, removed: ReadonlySet<number>, inserted: readonly { item: number; after: number }[]): MergedSequence['order'] {
  const order: { from: 'mine' | 'update'; index: number }[] = []
  for (let u = -1; u < length; u++) {
    if (u >= 0 && !removed.has(u)) order.push({ from: 'update', index: u })
    for (const item of inserted) if (item.after === u) order.push({ from: 'mine', index: item.item })
  }
  return order
}
