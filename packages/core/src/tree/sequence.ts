/** Pairs of positions that stand for the same item, rising in both. */
export type Matching = readonly (readonly [number, number])[]

/** So many cells of a table are filled to match a stretch exactly; above, only keys that occur once are matched in it. */
export const MOST_CELLS = 4096

/**
 * A common subsequence of two lists of keys: equal ends, then the longest rising run of keys that occur once in each,
 * then, between those, a longest common one where it is short enough to look for. Takes about linear time.
 */
export function matchSequences<K extends string | number>(a: readonly K[], b: readonly K[]): Matching {
  const pairs: (readonly [number, number])[] = []
  let [i, j] = [0, 0]
  for (const [toA, toB] of [...matchOnce(a, b), [a.length, b.length] as const]) {
    for (const [x, y] of matchStretch(a.slice(i, toA), b.slice(j, toB))) pairs.push([x + i, y + j])
    if (toA < a.length) pairs.push([toA, toB])
    ;[i, j] = [toA + 1, toB + 1]
  }
  return pairs
}

/** Keys that occur once in each list, and the equal ends. */
function matchOnce<K extends string | number>(a: readonly K[], b: readonly K[]): Matching {
  let start = 0
  while (start < a.length && start < b.length && a[start] === b[start]) start++
  let end = 0
  while (end < a.length - start && end < b.length - start && a[a.length - 1 - end] === b[b.length - 1 - end]) end++
  const pairs: (readonly [number, number])[] = []
  for (let i = 0; i < start; i++) pairs.push([i, i])
  for (const [i, j] of patience(a.slice(start, a.length - end), b.slice(start, b.length - end))) pairs.push([i + start, j + start])
  for (let i = end; i > 0; i--) pairs.push([a.length - i, b.length - i])
  return pairs
}

function matchStretch<K extends string | number>(a: readonly K[], b: readonly K[]): Matching {
  return a.length * b.length <= MOST_CELLS ? longestCommon(a, b) : []
}

function longestCommon<K extends string | number>(a: readonly K[], b: readonly K[]): Matching {
  const width = b.length + 1
  const table = new Uint32Array((a.length + 1) * width)
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      table[i * width + j] =
        a[i] === b[j] ? table[(i + 1) * width + j + 1]! + 1 : Math.max(table[(i + 1) * width + j]!, table[i * width + j + 1]!)
  const pairs: [number, number][] = []
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    if (a[i] === b[j]) pairs.push([i++, j++])
    else if (table[(i + 1) * width + j]! >= table[i * width + j + 1]!) i++
    else j++
  }
  return pairs
}

function patience<K extends string | number>(a: readonly K[], b: readonly K[]): Matching {
  const onceA = once(a)
  const onceB = once(b)
  const pairs = [...onceA]
    .filter(([key]) => onceB.has(key))
    .map(([key, i]) => [i, onceB.get(key)!] as const)
    .sort((x, y) => x[0] - y[0])
  return longestRising(pairs)
}

/** The longest run of pairs, given in the order of their first numbers, whose second numbers rise. */
export function longestRising<P extends readonly [number, number]>(pairs: readonly P[]): P[] {
  const ends: number[] = []
  const previous = new Int32Array(pairs.length).fill(-1)
  pairs.forEach(([, j], at) => {
    let low = 0
    let high = ends.length
    while (low < high) {
      const middle = (low + high) >> 1
      if (pairs[ends[middle]!]![1] < j) low = middle + 1
      else high = middle
    }
    if (low > 0) previous[at] = ends[low - 1]!
    ends[low] = at
  })
  const result: P[] = []
  for (let at = ends.length > 0 ? ends[ends.length - 1]! : -1; at >= 0; at = previous[at]!) result.push(pairs[at]!)
  return result.reverse()
}

function once<K extends string | number>(keys: readonly K[]): Map<K, number> {
  const seen = new Map<K, number>()
  const twice = new Set<K>()
  keys.forEach((key, i) => {
    if (seen.has(key)) twice.add(key)
    seen.set(key, i)
  })
  for (const key of twice) seen.delete(key)
  return seen
}
