import { matchSequences } from '../../tree/sequence'
import { Items } from './items'
import { pairItems, type Link, type Pair } from './pair-items'
import { Ballot, hasNames } from './votes'
import type { Document, ListNode } from '../../tree/nodes'
import type { Prints } from './prints'

/** A list of one version with the document that holds it. */
export interface ListIn {
  readonly document: Document
  readonly list: ListNode
}

/** One item through the versions, by its positions; left out where a version does not have it. */
export interface Triple {
  readonly f?: number
  readonly m?: number
  readonly u?: number
  /** How mine, and how the update's, was found for the factory's; of those without it, how they were found for each other. */
  readonly mine?: Link
  readonly update?: Link
}

export interface PairedLists {
  /** Those of the factory copy in its order, then those without it in mine, then those of the update alone. */
  readonly triples: readonly Triple[]
  /** Whether the shipped items have names, so that a group of them is somebody's. */
  readonly named: () => boolean
}

/**
 * Which item is which in three versions of a list. The factory copy is the hub; what neither comes from it pairs only if
 * both sides added the same. Without a factory copy mine is compared with the update as if it were the author's.
 * `known` are pairs of factory and update, where those are known already.
 */
export function pairLists(factory: ListIn | null, mine: ListIn, update: ListIn, prints: Prints, known?: readonly Pair[]): PairedLists {
  const items = (side: ListIn): Items => new Items(side.document, side.list, prints)
  const [m, u] = [items(mine), items(update)]
  if (!factory) {
    const pairs = pairItems(m, u, false)
    const triples = pairs.map((pair): Triple => ({ m: pair.a, u: pair.b, mine: link(pair), update: link(pair) }))
    return {
      triples: [
        ...triples,
        ...leftOver(
          m,
          u,
          pairs.map((pair) => pair.a),
          pairs.map((pair) => pair.b),
        ),
      ],
      named: () => false,
    }
  }
  const f = items(factory)
  const toUpdate = known ?? pairItems(f, u, false)
  const toMine = withoutTheirs(pairItems(f, m, true), m, u, new Set(toUpdate.map((pair) => pair.b)))
  const byFactory = new Map(toMine.map((pair) => [pair.a, pair]))
  const byFactoryU = new Map(toUpdate.map((pair) => [pair.a, pair]))
  const triples = f.entries.map((_entry, at): Triple => {
    const [fm, fu] = [byFactory.get(at), byFactoryU.get(at)]
    return { f: at, ...(fm ? { m: fm.b, mine: link(fm) } : {}), ...(fu ? { u: fu.b, update: link(fu) } : {}) }
  })
  const added = addedByBoth(m, u, new Set(toMine.map((pair) => pair.b)), new Set(toUpdate.map((pair) => pair.b)))
  const both = added.map((pair): Triple => ({ m: pair.a, u: pair.b, mine: link(pair), update: link(pair) }))
  const [usedM, usedU] = [
    [...toMine.map((pair) => pair.b), ...added.map((pair) => pair.a)],
    [...toUpdate.map((pair) => pair.b), ...added.map((pair) => pair.b)],
  ]
  return { triples: [...triples, ...both, ...leftOver(m, u, usedM, usedU)], named: () => hasNames(f) }
}

const link = ({ how, confidence }: Pair): Link => ({ how, confidence })

/**
 * Pairs of factory and mine, less those where I seem to have turned an item into just what the update adds: then I took
 * one out and we both added the other, which shall not stand twice.
 */
function withoutTheirs(pairs: readonly Pair[], m: Items, u: Items, takenU: ReadonlySet<number>): readonly Pair[] {
  const isGuess = ({ how }: Pair): boolean => how === 'place' || how === 'likeness'
  if (!pairs.some(isGuess)) return pairs
  const fresh = new Map<number, number>()
  for (let j = 0; j < u.length; j++) if (!takenU.has(j)) fresh.set(u.print(j), (fresh.get(u.print(j)) ?? 0) + 1)
  return pairs.filter((pair) => {
    const left = isGuess(pair) ? (fresh.get(m.print(pair.b)) ?? 0) : 0
    if (left > 0) fresh.set(m.print(pair.b), left - 1)
    return left === 0
  })
}

/** What both sides added: the same item, or one of the same names. */
function addedByBoth(m: Items, u: Items, takenM: ReadonlySet<number>, takenU: ReadonlySet<number>): Pair[] {
  const free = (items: Items, taken: ReadonlySet<number>): number[] => [...items.entries.keys()].filter((i) => !taken.has(i))
  const [freeM, freeU] = [free(m, takenM), free(u, takenU)]
  if (freeM.length === 0 || freeU.length === 0) return []
  const equal = matchSequences(
    freeM.map((i) => m.print(i)),
    freeU.map((j) => u.print(j)),
  )
  const pairs = equal.map(([x, y]): Pair => ({ a: freeM[x]!, b: freeU[y]!, how: 'equal', confidence: 1 }))
  const [leftM, leftU] = [new Set(freeM), new Set(freeU)]
  for (const pair of pairs) {
    leftM.delete(pair.a)
    leftU.delete(pair.b)
  }
  return leftM.size > 0 && leftU.size > 0 ? [...pairs, ...new Ballot(m, u).namesakes(leftM, leftU)] : pairs
}

function leftOver(m: Items, u: Items, usedM: readonly number[], usedU: readonly number[]): Triple[] {
  const [takenM, takenU] = [new Set(usedM), new Set(usedU)]
  return [
    ...[...m.entries.keys()].filter((i) => !takenM.has(i)).map((i): Triple => ({ m: i })),
    ...[...u.entries.keys()].filter((i) => !takenU.has(i)).map((i): Triple => ({ u: i })),
  ]
}
