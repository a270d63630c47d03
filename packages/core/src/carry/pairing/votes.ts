import { SECTION_NAME, type Items, type Voter } from './items'
import { likeness } from './likeness'
import type { Pair } from './pair-items'

/** Keys whose value often names an item; in XML they are attributes as a rule. They only add weight. */
const NAMING_WORD = /^\/@?(id|key|name|item|node|player|world|place|title|label|slot|port|module|type)$/i
const NAMING_WEIGHT = 1.25
/** A name that is new on both sides speaks little against a pair: it is a rename. */
const RENAMED = 0.1
/** Numbers that happen to differ in all items speak less than names do. */
const NO_NAME = 0.5
/** What a vote has to be above even if nothing speaks against it. */
const DOUBT = 0.05
/** From so much likeness on two items are one, though their name changed. */
export const ALIKE = 0.5
/** So much weight of votes is believed without looking at the rest of the items. */
const SURE_VOTES = 1.2

/** Which items hold the values of one key. */
interface Column {
  /** How many items hold a value, and the last that does. */
  readonly cells: Map<number, { count: number; at: number }>
  /** The value each item holds. */
  readonly values: Map<number, Voter>
  looks: Voter['looks']
}

function census(items: Items): Map<string, Column> {
  const columns = new Map<string, Column>()
  for (let i = 0; i < items.length; i++) {
    for (const voter of items.voters(i)) {
      let column = columns.get(voter.path)
      if (!column) columns.set(voter.path, (column = { cells: new Map(), values: new Map(), looks: voter.looks }))
      const cell = column.cells.get(voter.print)
      if (cell) {
        cell.count++
        cell.at = i
      } else column.cells.set(voter.print, { count: 1, at: i })
      column.values.set(i, voter)
      if (voter.looks !== column.looks) column.looks = voter.looks === 'other' ? 'other' : column.looks === 'other' ? 'other' : 'name'
    }
  }
  return columns
}

/** The votes of the keys of two lists about which item of one is which of the other. */
export class Ballot {
  private readonly columnsA: ReadonlyMap<string, Column>
  private readonly columnsB: ReadonlyMap<string, Column>
  private readonly weights = new Map<string, number>()
  private readonly namesKnown = new Map<string, boolean>()
  /** Keys that name all items on both sides: only they vote against a pair. */
  private readonly names: readonly string[]
  /** Whether one of them looks like a name, so that place alone says nothing about who an item is. */
  readonly named: boolean

  constructor(
    private readonly a: Items,
    private readonly b: Items,
  ) {
    this.columnsA = census(a)
    this.columnsB = census(b)
    this.names = [...this.columnsA.keys()].filter((path) => this.namesAll(path))
    this.named = this.names.some((path) => this.isName(path))
  }

  private namesAll(path: string): boolean {
    return [[this.columnsA, this.a] as const, [this.columnsB, this.b] as const].every(([columns, items]) => {
      const column = columns.get(path)
      return column !== undefined && column.looks !== 'other' && column.values.size === items.length && column.cells.size === items.length
    })
  }

  private isName(path: string): boolean {
    let known = this.namesKnown.get(path)
    if (known === undefined) this.namesKnown.set(path, (known = this.findName(path)))
    return known
  }

  private findName(path: string): boolean {
    if (path === SECTION_NAME) return true
    const { looks } = this.columnsA.get(path)!
    const single = (items: Items): boolean => items.entries.some((_entry, i) => items.leaves(i).length > 1)
    if (!single(this.a) || !single(this.b)) return false
    return (looks === 'name' && this.columnsB.get(path)!.looks === 'name') || NAMING_WORD.test(path) || this.shared(path) >= 3
  }

  /** How many values of a key both lists hold. */
  private shared(path: string): number {
    const [a, b] = [this.columnsA.get(path)!.cells, this.columnsB.get(path)!.cells]
    let count = 0
    for (const print of a.keys()) if (b.has(print)) count++
    return count
  }

  /** How much a key tells: more if its values differ from item to item, and if they are the same ones on both sides. */
  private weight(path: string): number {
    let weight = this.weights.get(path)
    if (weight !== undefined) return weight
    const [a, b] = [this.columnsA.get(path), this.columnsB.get(path)]
    if (!a || !b) weight = 0
    else {
      const distinct = Math.min(a.cells.size / this.a.length, b.cells.size / this.b.length)
      const kept = this.shared(path) / Math.min(a.cells.size, b.cells.size)
      weight = distinct * (0.35 + 0.65 * kept) * (NAMING_WORD.test(path) ? NAMING_WEIGHT : 1)
    }
    this.weights.set(path, weight)
    return weight
  }

  /** What the naming keys have against a pair, and whether one of them holds the same on both sides. */
  private against(i: number, j: number): { weight: number; agreed: boolean; held: boolean } {
    let weight = 0
    let agreed = false
    let held = false
    for (const path of this.names) {
      const [a, b] = [this.columnsA.get(path)!, this.columnsB.get(path)!]
      const [mine, other] = [a.values.get(i)!, b.values.get(j)!]
      if (mine.print === other.print) {
        agreed ||= mine.looks === 'name' || NAMING_WORD.test(path)
        continue
      }
      const elsewhere = a.cells.has(other.print) || b.cells.has(mine.print)
      held ||= elsewhere && (mine.looks === 'name' || NAMING_WORD.test(path))
      weight += this.weight(path) * mine.trust * (elsewhere ? 1 : RENAMED) * (this.isName(path) ? 1 : NO_NAME)
    }
    return { weight, agreed, held }
  }

  /** Whether a name of one of the two belongs to another item, so that they cannot be one. */
  contradicts(i: number, j: number): boolean {
    return this.names.length > 0 && this.against(i, j).held
  }

  /** The pairs the keys agree on, best first, among the items that are free; each is believed at `least` so much. */
  pairs(freeA: ReadonlySet<number>, freeB: ReadonlySet<number>, least = 0): Pair[] {
    const votes = new Map<number, number>()
    for (const i of freeA) {
      for (const voter of this.a.voters(i)) {
        const cell = this.columnsB.get(voter.path)?.cells.get(voter.print)
        if (cell?.count !== 1 || !freeB.has(cell.at) || this.columnsA.get(voter.path)!.cells.get(voter.print)!.count !== 1) continue
        const pair = i * this.b.length + cell.at
        votes.set(pair, (votes.get(pair) ?? 0) + this.weight(voter.path) * voter.trust)
      }
    }
    const candidates = [...votes].map(([pair, weight]) => {
      const [i, j] = [Math.floor(pair / this.b.length), pair % this.b.length]
      const { weight: against, agreed } = this.against(i, j)
      const alike = likeness(this.a, i, this.b, j)
      return { i, j, weight, against, agreed, alike, rank: weight - against + 2 * alike }
    })
    candidates.sort((x, y) => y.rank - x.rank || x.i - y.i || x.j - y.j)
    const [takenA, takenB] = [new Set<number>(), new Set<number>()]
    const pairs: Pair[] = []
    for (const { i, j, weight, against, agreed, alike } of candidates) {
      if (weight <= against || takenA.has(i) || takenB.has(j)) continue
      if (!agreed && weight < SURE_VOTES && alike < ALIKE) continue
      takenA.add(i)
      takenB.add(j)
      pairs.push({ a: i, b: j, how: 'name', confidence: Math.max(least, weight / (weight + against + DOUBT)) })
    }
    return pairs
  }

  /** Pairs of items whose names agree, with nothing against them: for what both sides added. */
  namesakes(freeA: ReadonlySet<number>, freeB: ReadonlySet<number>): Pair[] {
    const all = this.names.filter((path) => this.isName(path) && (this.columnsA.get(path)!.looks === 'name' || NAMING_WORD.test(path)))
    const called = all.filter((path) => path === SECTION_NAME || NAMING_WORD.test(path))
    const names = called.length > 0 ? called : all
    const value = (columns: ReadonlyMap<string, Column>, path: string, at: number): number => columns.get(path)!.values.get(at)!.print
    const agree = (i: number, j: number): boolean => names.every((path) => value(this.columnsA, path, i) === value(this.columnsB, path, j))
    const [takenA, takenB] = [new Set<number>(), new Set<number>()]
    const pairs: Pair[] = []
    for (const path of names) {
      for (const i of freeA) {
        const j = this.columnsB.get(path)!.cells.get(value(this.columnsA, path, i))?.at
        if (j === undefined || !freeB.has(j) || takenA.has(i) || takenB.has(j) || !agree(i, j)) continue
        takenA.add(i)
        takenB.add(j)
        pairs.push({ a: i, b: j, how: 'name', confidence: 0.95 })
      }
    }
    return pairs
  }
}

/** Whether the items of a list have names: a short text, different in each, or a key that is called so. */
export function hasNames(items: Items): boolean {
  const apart = [...census(items)].filter(([, column]) => column.values.size === items.length && column.cells.size === items.length)
  const several = items.entries.some((_entry, i) => items.leaves(i).length > 1)
  return apart.some(
    ([path, { looks }]) => path === SECTION_NAME || (several && (looks === 'name' || (looks === 'number' && NAMING_WORD.test(path)))),
  )
}
