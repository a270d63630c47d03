import { isContainer } from '../../tree/nodes'
import { MOST_CELLS, longestRising, matchSequences } from '../../tree/sequence'
import type { Items } from './items'
import { areStrangers, likeness, sharedKeys } from './likeness'
import { ALIKE, Ballot } from './votes'

/** How an item of one list was taken for one of another. */
export type How = 'equal' | 'name' | 'place' | 'likeness'

export interface Link {
  readonly how: How
  /** 0 to 1; from `SURE` on it needs no look by itself. */
  readonly confidence: number
}

export interface Pair extends Link {
  readonly a: number
  readonly b: number
}

/** Links from here on ask nothing by themselves. */
export const SURE = 0.9
/** How alike items must be that stand elsewhere. */
const MOVED = 0.6
/** How alike items of mine must be where some were added or taken out among them. */
const MINE_ALIKE = 0.34
/** Values that so many items hold tell nothing about who moved. */
const RARE = 4
/** So much better must another order be than the one they stand in. */
const CLEARLY = 0.5

/**
 * Which item of one list is which of another, in the order of the first. `edited`: the second list is the first after
 * somebody edited it, so what stands in the same place is an edit; otherwise it is another version of its author.
 */
export function pairItems(a: Items, b: Items, edited: boolean): Pair[] {
  return new Pairing(a, b, edited).run()
}

class Pairing {
  private readonly pairs: Pair[] = []
  private readonly freeA: Set<number>
  private readonly freeB: Set<number>
  private ballot: Ballot | null = null

  constructor(
    private readonly a: Items,
    private readonly b: Items,
    private readonly edited: boolean,
  ) {
    this.freeA = new Set(a.entries.keys())
    this.freeB = new Set(b.entries.keys())
  }

  run(): Pair[] {
    this.equal()
    if (this.waiting()) this.votes()
    if (this.waiting()) this.places()
    if (this.waiting()) this.moves()
    return this.pairs.sort((x, y) => x.a - y.a)
  }

  private waiting(): boolean {
    return this.freeA.size > 0 && this.freeB.size > 0
  }

  private take(pair: Pair): void {
    this.pairs.push(pair)
    this.freeA.delete(pair.a)
    this.freeB.delete(pair.b)
  }

  /** Items that say the same: first in order, then those that moved. */
  private equal(): void {
    const prints = (items: Items): number[] => items.entries.map((_entry, i) => items.print(i))
    const [left, right] = [prints(this.a), prints(this.b)]
    for (const [a, b] of matchSequences(left, right)) this.take({ a, b, how: 'equal', confidence: 1 })
    const places = new Map<number, number[]>()
    for (const b of this.freeB) {
      const there = places.get(right[b]!)
      if (there) there.push(b)
      else places.set(right[b]!, [b])
    }
    for (const list of places.values()) list.reverse()
    for (const a of [...this.freeA]) {
      const b = places.get(left[a]!)?.pop()
      if (b !== undefined) this.take({ a, b, how: 'equal', confidence: 0.95 })
    }
  }

  private votes(): void {
    const some = (items: Items, free: ReadonlySet<number>): boolean => [...free].some((i) => isContainer(items.node(i)))
    if (!some(this.a, this.freeA) || !some(this.b, this.freeB)) return
    this.ballot = new Ballot(this.a, this.b)
    for (const pair of this.ballot.pairs(this.freeA, this.freeB, this.edited ? SURE : 0)) this.take(pair)
  }

  // ---- place --------------------------------------------------------------------------------------------------

  /** What is left between items that are paired in order. */
  private places(): void {
    const anchors = longestRising(this.pairs.map(({ a, b }) => [a, b] as const).sort((x, y) => x[0] - y[0]))
    let [fromA, fromB] = [0, 0]
    for (const [toA, toB] of [...anchors, [this.a.length, this.b.length] as const]) {
      this.gap(within(this.freeA, fromA, toA), within(this.freeB, fromB, toB))
      ;[fromA, fromB] = [toA + 1, toB + 1]
    }
  }

  private gap(as: readonly number[], bs: readonly number[]): void {
    if (as.length === 0 || bs.length === 0) return
    if (as.length * bs.length > MOST_CELLS) return as.length === bs.length ? this.inOrder(as, bs) : this.byShape(as, bs)
    const least = this.edited ? MINE_ALIKE : ALIKE
    const scores = as.map((a) => bs.map((b) => this.score(a, b)))
    const best = align(scores, least)
    if (as.length !== bs.length) {
      for (const [x, y] of best) this.alike(as[x]!, bs[y]!, scores[x]![y]!)
      return this.edited ? this.byKind(as, bs) : undefined
    }
    const sum = (pairs: readonly (readonly [number, number])[]): number => pairs.reduce((total, [x, y]) => total + scores[x]![y]!, 0)
    if (sum(best) <= sum(as.map((_a, i) => [i, i])) + CLEARLY) return this.inOrder(as, bs)
    let [fromA, fromB] = [0, 0]
    for (const [toA, toB] of [...best, [as.length, bs.length] as const]) {
      if (toA - fromA === toB - fromB) this.inOrder(as.slice(fromA, toA), bs.slice(fromB, toB))
      if (toA < as.length) this.alike(as[toA]!, bs[toB]!, scores[toA]![toB]!)
      ;[fromA, fromB] = [toA + 1, toB + 1]
    }
  }

  /** Of what is left in a stretch of mine: as many items of one shape on both sides, and no two of other shapes. */
  private byKind(as: readonly number[], bs: readonly number[]): void {
    const group = (items: Items, free: ReadonlySet<number>, at: readonly number[]): Map<string, number[]> => {
      const groups = new Map<string, number[]>()
      for (const i of at) if (free.has(i)) groups.set(shapeOf(items, i), [...(groups.get(shapeOf(items, i)) ?? []), i])
      return groups
    }
    const right = group(this.b, this.freeB, bs)
    for (const [shape, left] of group(this.a, this.freeA, as))
      if (right.get(shape)?.length === left.length) this.inOrder(left, right.get(shape)!)
  }

  /** How alike two items are that may be one by their place; 0 for those that cannot be. */
  private score(a: number, b: number): number {
    if (!this.fits(a, b)) return 0
    const score = likeness(this.a, a, this.b, b)
    // a short item keeps its name and gets another value
    const short = this.edited && score > 0 && this.a.leaves(a).length === 1 && this.b.leaves(b).length === 1
    return short && isContainer(this.a.node(a)) ? Math.max(score, MINE_ALIKE) : score
  }

  private fits(a: number, b: number): boolean {
    const [left, right] = [this.a.node(a), this.b.node(b)]
    if (isContainer(left) !== isContainer(right) || (isContainer(left) && left.type !== right.type)) return false
    if (!isContainer(left) && !this.edited) return false
    return !this.ballot?.contradicts(a, b)
  }

  private alike(a: number, b: number, score: number): void {
    this.take({ a, b, how: 'likeness', confidence: Math.min(0.89, score) })
  }

  /** As many on both sides: the first is the first, and so on, where nothing speaks against it. */
  private inOrder(as: readonly number[], bs: readonly number[]): void {
    as.forEach((a, at) => {
      const b = bs[at]!
      if (!this.fits(a, b)) return
      if (this.edited ? areStrangers(this.a, a, this.b, b) : !this.holdsItsPlace(a, b)) return
      this.take({ a, b, how: 'place', confidence: this.edited ? SURE : Math.min(0.89, 0.5 + 0.4 * likeness(this.a, a, this.b, b)) })
    })
  }

  /** Whether the author's item is still that one: where items have names, place is not enough. */
  private holdsItsPlace(a: number, b: number): boolean {
    if (this.ballot?.named) return likeness(this.a, a, this.b, b) >= ALIKE
    return sharedKeys(this.a, a, this.b, b) >= 0.5
  }

  /** Long stretches: items of the same settings, in order. */
  private byShape(as: readonly number[], bs: readonly number[]): void {
    const pairs = matchSequences(
      as.map((a) => shapeOf(this.a, a)),
      bs.map((b) => shapeOf(this.b, b)),
    )
    for (const [x, y] of pairs) {
      const score = this.score(as[x]!, bs[y]!)
      if (score >= (this.edited ? MINE_ALIKE : ALIKE)) this.alike(as[x]!, bs[y]!, score)
    }
  }

  // ---- moves --------------------------------------------------------------------------------------------------

  /** What stands elsewhere and changed: by values that few items hold, each the best of the other. */
  private moves(): void {
    const bestOfA = new Map<number, { other: number; score: number }>()
    const bestOfB = new Map<number, { other: number; score: number }>()
    const better = (best: Map<number, { other: number; score: number }>, at: number, other: number, score: number): void => {
      const known = best.get(at)
      if (!known || score > known.score) best.set(at, { other, score })
    }
    for (const [a, b] of this.candidates()) {
      if (!isContainer(this.a.node(a)) || !this.fits(a, b)) continue
      const score = likeness(this.a, a, this.b, b)
      if (score < MOVED) continue
      better(bestOfA, a, b, score)
      better(bestOfB, b, a, score)
    }
    for (const [a, { other, score }] of bestOfA) if (bestOfB.get(other)?.other === a) this.alike(a, other, score)
  }

  /** Pairs of free items that hold a rare value in common. */
  private candidates(): (readonly [number, number])[] {
    const holders = (items: Items, free: ReadonlySet<number>): Map<string, number[]> => {
      const byValue = new Map<string, number[]>()
      for (const i of free) {
        for (const { path, print } of items.leaves(i)) {
          const key = `${path}=${print}`
          const there = byValue.get(key)
          if (!there) byValue.set(key, [i])
          else if (there.length <= RARE && there[there.length - 1] !== i) there.push(i)
        }
      }
      return byValue
    }
    const left = holders(this.a, this.freeA)
    const found = new Map<number, readonly [number, number]>()
    for (const [key, bs] of holders(this.b, this.freeB)) {
      const as = left.get(key)
      if (!as || as.length > RARE || bs.length > RARE) continue
      for (const a of as) for (const b of bs) found.set(a * this.b.length + b, [a, b])
    }
    return [...found.values()].sort((x, y) => x[0] - y[0] || x[1] - y[1])
  }
}

/** What an item is made of, whatever it says. */
function shapeOf(items: Items, i: number): string {
  return items
    .leaves(i)
    .map((leaf) => leaf.path)
    .sort()
    .join('\n')
}

/** The numbers of a set from one on up to another, in order. */
function within(set: ReadonlySet<number>, from: number, to: number): number[] {
  const result: number[] = []
  for (let i = from; i < to; i++) if (set.has(i)) result.push(i)
  return result
}

/** The pairs of rows and columns, rising in both, with the highest sum; only scores from `least` on count. */
function align(scores: readonly (readonly number[])[], least: number): (readonly [number, number])[] {
  const [rows, columns] = [scores.length, scores[0]!.length]
  const width = columns + 1
  const sums = new Float64Array((rows + 1) * width)
  const with_ = (i: number, j: number): number => (scores[i]![j]! >= least ? scores[i]![j]! + sums[(i + 1) * width + j + 1]! : -1)
  for (let i = rows - 1; i >= 0; i--)
    for (let j = columns - 1; j >= 0; j--) sums[i * width + j] = Math.max(sums[(i + 1) * width + j]!, sums[i * width + j + 1]!, with_(i, j))
  const pairs: (readonly [number, number])[] = []
  for (let i = 0, j = 0; i < rows && j < columns;) {
    if (sums[i * width + j] === with_(i, j)) pairs.push([i++, j++])
    else if (sums[i * width + j] === sums[(i + 1) * width + j]) i++
    else j++
  }
  return pairs
}
