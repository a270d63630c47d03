/** A pair that could be, with how much speaks for it. */
export interface Scored<A, B> {
  readonly from: A
  readonly to: B
  readonly score: number
}

/** Groups of candidates that compete with each other are solved exactly up to so many on a side. */
const MOST_EXACT = 48

/**
 * The one-to-one choice among candidates with the highest sum of scores: two neighbours that were both renamed do not
 * take each other's place because one of them fits a little better. Exact for groups of up to 48; larger ones go best first.
 */
export function assign<A, B, S extends Scored<A, B>>(candidates: readonly S[]): S[] {
  return components(candidates).flatMap((group) => {
    const [rows, columns] = [[...new Set(group.map((item) => item.from))], [...new Set(group.map((item) => item.to))]]
    return Math.max(rows.length, columns.length) <= MOST_EXACT ? bestOf(group, rows, columns) : greedy(group)
  })
}

function components<A, B, S extends Scored<A, B>>(candidates: readonly S[]): S[][] {
  const byFrom = groupBy(candidates, (item) => item.from)
  const byTo = groupBy(candidates, (item) => item.to)
  const seen = new Set<S>()
  const groups: S[][] = []
  for (const first of candidates) {
    if (seen.has(first)) continue
    seen.add(first)
    const group: S[] = []
    const waiting = [first]
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      group.push(next)
      for (const other of [...byFrom.get(next.from)!, ...byTo.get(next.to)!]) {
        if (seen.has(other)) continue
        seen.add(other)
        waiting.push(other)
      }
    }
    groups.push(group)
  }
  return groups
}

function groupBy<K, S>(items: readonly S[], key: (item: S) => K): Map<K, S[]> {
  const groups = new Map<K, S[]>()
  for (const item of items) {
    const there = groups.get(key(item))
    if (there) there.push(item)
    else groups.set(key(item), [item])
  }
  return groups
}

function greedy<A, B, S extends Scored<A, B>>(group: readonly S[]): S[] {
  const [from, to] = [new Set<A>(), new Set<B>()]
  return [...group]
    .sort((a, b) => b.score - a.score)
    .filter((item) => {
      if (from.has(item.from) || to.has(item.to)) return false
      from.add(item.from)
      to.add(item.to)
      return true
    })
}

/** The Hungarian method with potentials (Kuhn 1955; in the shape of e-maxx), on the costs 1 - score; no pair costs 1. */
function bestOf<A, B, S extends Scored<A, B>>(group: readonly S[], rows: readonly A[], columns: readonly B[]): S[] {
  const size = Math.max(rows.length, columns.length)
  const [rowOf, columnOf] = [new Map(rows.map((row, i) => [row, i])), new Map(columns.map((column, j) => [column, j]))]
  const there = Array.from({ length: size }, () => new Array<S | null>(size).fill(null))
  for (const item of group) {
    const [i, j] = [rowOf.get(item.from)!, columnOf.get(item.to)!]
    if (item.score > (there[i]![j]?.score ?? 0)) there[i]![j] = item
  }
  const cost = (i: number, j: number): number => 1 - (there[i - 1]![j - 1]?.score ?? 0)
  const [u, v] = [new Float64Array(size + 1), new Float64Array(size + 1)]
  const matched = new Int32Array(size + 1)
  for (let row = 1; row <= size; row++) augment(row, size, cost, u, v, matched)
  const chosen: S[] = []
  for (let j = 1; j <= size; j++) {
    const item = there[matched[j]! - 1]![j - 1]
    if (item) chosen.push(item)
  }
  return chosen
}

function augment(
  row: number,
  size: number,
  cost: (i: number, j: number) => number,
  u: Float64Array,
  v: Float64Array,
  matched: Int32Array,
): void {
  const least = new Float64Array(size + 1).fill(Infinity)
  const way = new Int32Array(size + 1)
  const used = new Uint8Array(size + 1)
  matched[0] = row
  let at = 0
  do {
    used[at] = 1
    const i = matched[at]!
    let delta = Infinity
    let next = 0
    for (let j = 1; j <= size; j++) {
      if (used[j]) continue
      const reduced = cost(i, j) - u[i]! - v[j]!
      if (reduced < least[j]!) {
        least[j] = reduced
        way[j] = at
      }
      if (least[j]! < delta) {
        delta = least[j]!
        next = j
      }
    }
    for (let j = 0; j <= size; j++) {
      if (used[j]) {
        u[matched[j]!]! += delta
        v[j]! -= delta
      } else least[j]! -= delta
    }
    at = next
  } while (matched[at] !== 0)
  do {
    matched[at] = matched[way[at]!]!
    at = way[at]!
  } while (at !== 0)
}
