/** Pairs of positions that stand for the same item, rising in both. */
export type Matching = readonly (readonly [number, number])[]

const MOST_CELLS = 4_000_000

/**
 * A longest common subsequence of two lists of keys; for very long lists that differ much, one built from the keys that
 * occur once in each (patience), which is linear but may be shorter.
 */
export function matchSequences(a: readonly string[], b: readonly string[]): Matching {
  let start = 0
  while (start < a.length && start < b.length && a[start] === b[start]) start++
  let end = 0
  while (end < a.length - start && end < b.length - start && a[a.length - 1 - end] === b[b.length - 1 - end]) end++
  const middleA = a.slice(start, a.length - end)
  const middleB = b.slice(start, b.length - end)
  const middle = middleA.length * middleB.length <= MOST_CELLS ? longestCommon(middleA, middleB) : patience(middleA, middleB)
  const pairs: [number, number][] = []
  for (let i = 0; i < start; i++) pairs.push([i, i])
  for (const [i, j] of middle) pairs.push([i + start, j + start])
  for (let i = end; i > 0; i--) pairs.push([a.length - i, b.length - i])
  return pairs
}

function longestCommon(a: readonly string[], b: readonly string[]): Matching {
  const width = b.length + 1
  const table = new Uint32Array((a.length + 1) * width)
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      table[i * width + j] = a[i] === b[j] ? table[(i + 1) * width + j + 1]! + 1 : Math.max(table[(i + 1) * width + j]!, table[i * width + j + 1]!)
  const pairs: [number, number][] = []
  for (let i = 0, j = 0; i < a.length && j < b.length; ) {
    if (a[i] === b[j]) pairs.push([i++, j++])
    else if (table[(i + 1) * width + j]! >= table[i * width + j + 1]!) i++
    else j++
  }
  return pairs
}

function patience(a: readonly string[], b: readonly string[]): Matching {
  const onceA = once(a)
  const onceB = once(b)
  const pairs = [...onceA].filter(([key]) => onceB.has(key)).map(([key, i]) => [i, onceB.get(key)!] as const).sort((x, y) => x[0] - y[0])
  // longest rising run of the second numbers, by binary search over the ends of runs
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
  const result: (readonly [number, number])[] = []
  for (let at = ends.length > 0 ? ends[ends.length - 1]! : -1; at >= 0; at = previous[at]!) result.unshift(pairs[at]!)
  return result
}

function once(keys: readonly string[]): Map<string, number> {
  const seen = new Map<string, number>()
  const twice = new Set<string>()
  keys.forEach((key, i) => {
    if (seen.has(key)) twice.add(key)
    seen.set(key, i)
  })
  for (const key of twice) seen.delete(key)
  return seen
}
