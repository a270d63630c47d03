import { amountOf, kindOf, sameNode } from '../tree/compare'
import { isContainer, type Entry, type Node } from '../tree/nodes'
import { assign } from './assignment'
import type { TreeIndex } from './index-tree'
import { commentLikeness, nameLikeness, nameWords, wordLikeness } from './likeness'
import type { Evidence, Reason } from './reasons'
import { scaleChange } from './scale'

/** A setting or section of the factory copy that may be one of the update under another name or place. */
export interface Candidate {
  readonly from: Entry
  readonly to: Entry
  readonly score: number
  readonly reason: Reason
}

export const SURE_ENOUGH = 0.52
export const MOST_CANDIDATES = 60
const MARGIN = 0.05

/** What is known already: which entries of the two copies belong together. */
interface Known {
  readonly forward: ReadonlyMap<Entry, Entry>
  readonly backward: ReadonlyMap<Entry, Entry>
}

/** Where an entry went, with the name of its file if that is another one. */
export function whereabouts(factory: TreeIndex, update: TreeIndex, from: Entry, to: Entry): { path: string; file?: string } {
  const { file } = update.documentOf(to)
  const elsewhere = file !== undefined && file !== factory.documentOf(from).file
  return { path: update.keys(to).join('.'), ...(elsewhere ? { file } : {}) }
}

/**
 * Finds settings again that the update has under another name or place: name, place, value, comment and neighbours vote,
 * and the best choice over all files is taken at once, one to one.
 */
export class Search {
  private readonly uses: ReadonlyMap<string, number>

  constructor(
    private readonly factory: TreeIndex,
    private readonly update: TreeIndex,
    private readonly known: Known,
  ) {
    this.uses = countKeys(factory, update)
  }

  find(lost: readonly Entry[], fresh: ReadonlySet<Entry>): Candidate[] {
    const lookup = new CandidateLookup(this.update, fresh, this.known.backward)
    const candidates: Candidate[] = []
    for (const entry of lost) {
      if (this.known.forward.has(entry)) continue
      for (const other of lookup.near(this.factory, entry, this.known.forward)) {
        const candidate = this.judge(entry, other)
        if (candidate.score >= SURE_ENOUGH) candidates.push(candidate)
      }
    }
    const chosen = assign(candidates)
    const taken = new Map(chosen.map((item) => [item.to, item]))
    const byFrom = new Map<Entry, Candidate[]>()
    for (const item of candidates) byFrom.set(item.from, [...(byFrom.get(item.from) ?? []), item])
    // where another one fits as well, and nobody else has it, it would be a guess
    const isClear = (item: Candidate): boolean =>
      byFrom.get(item.from)!.every((other) => other === item || item.score - other.score >= MARGIN || taken.has(other.to))
    return chosen.filter(isClear)
  }

  private judge(from: Entry, to: Entry): Candidate {
    const rare = (this.uses.get(from.key) ?? 0) <= 1 && (this.uses.get('>' + to.key) ?? 0) <= 1
    const name = Math.max(nameLikeness(from.key, to.key) * (rare ? 1 : 0.6), this.pathLikeness(from, to))
    const sayF = this.factory.comment(from)
    const sayU = this.update.comment(to)
    const words = commentLikeness(sayF, sayU)
    const same = sameNode(
      { document: this.factory.documentOf(from), node: from.value },
      { document: this.update.documentOf(to), node: to.value },
    )
    const scaled = !same && this.scaled(from, to, sayF, sayU)
    const place = this.samePlace(from, to)
    const kind = kindOf(from.value) === kindOf(to.value)
    const value = same ? sameValue(from.value) : scaled ? 0.2 : kind ? 0 : -0.1
    const beside = place ? this.neighbours(from, to) : 0
    const score = name * 0.45 + words * 0.3 + value + (place ? 0.1 : 0) + beside * 0.07
    const evidence: (Evidence | false)[] = [
      name >= 0.99 ? 'same-name' : name > 0.4 && 'like-name',
      words > 0.6 && 'same-comment',
      same && 'same-default',
      place && 'same-section',
      beside > 1 && 'same-neighbours',
    ]
    return {
      from,
      to,
      score,
      reason: { code: 'found', ...whereabouts(this.factory, this.update, from, to), evidence: evidence.filter((item) => item !== false) },
    }
  }

  /** How alike the whole ways are: `apt_x` may have become `apt.x`. Only a way of the same words counts. */
  private pathLikeness(from: Entry, to: Entry): number {
    const words = (index: TreeIndex, entry: Entry): string[] => index.keys(entry).flatMap(nameWords)
    const [left, right] = [words(this.factory, from), words(this.update, to)]
    return left.length === right.length && wordLikeness(left, right) === 1 ? 1 : 0
  }

  private scaled(from: Entry, to: Entry, sayF: string, sayU: string): boolean {
    const before = amountOf(this.factory.documentOf(from), from.value)
    const after = amountOf(this.update.documentOf(to), to.value)
    if (before === null || after === null) return false
    const scale = scaleChange({ key: from.key, comment: sayF, value: before }, { key: to.key, comment: sayU, value: after })
    return scale !== null && Math.abs(before * scale.factor - after) < 1e-9 * Math.abs(after) + 1e-12
  }

  private samePlace(from: Entry, to: Entry): boolean {
    const parentF = this.factory.seat(from).owner
    const parentU = this.update.seat(to).owner
    return parentF === null ? parentU === null : parentU !== null && this.known.forward.get(parentF) === parentU
  }

  /** Of the entries right before and behind, how many are the same ones on both sides; the ends of a section count. */
  private neighbours(from: Entry, to: Entry): number {
    const [f, u] = [this.factory.seat(from), this.update.seat(to)]
    const same = (step: number): boolean => {
      const [left, right] = [f.parent.entries[f.index + step], u.parent.entries[u.index + step]]
      return left ? this.known.forward.get(left) === right : !right
    }
    return Number(same(-1)) + Number(same(1))
  }
}

/** Finds the new settings worth comparing with a lost one, without comparing all with all. */
class CandidateLookup {
  private readonly byWord = new Map<string, Entry[]>()
  private readonly byParent = new Map<Entry | null, Entry[]>()

  constructor(update: TreeIndex, fresh: ReadonlySet<Entry>, taken: ReadonlyMap<Entry, Entry>) {
    for (const entry of fresh) {
      if (taken.has(entry)) continue
      const words = new Set([...nameWords(entry.key), ...nameWords(update.comment(entry).slice(0, 300))])
      for (const word of words) push(this.byWord, word, entry)
      push(this.byParent, update.seat(entry).owner, entry)
    }
  }

  near(factory: TreeIndex, entry: Entry, forward: ReadonlyMap<Entry, Entry>): Set<Entry> {
    const result = new Set<Entry>()
    const owner = factory.seat(entry).owner
    const add = (entries: readonly Entry[] | undefined): void => {
      for (const other of entries ?? []) if (result.size < MOST_CANDIDATES) result.add(other)
    }
    // rare words first: they tell most
    const words = [...nameWords(entry.key), ...nameWords(factory.comment(entry).slice(0, 300))]
    words.sort((a, b) => (this.byWord.get(a)?.length ?? 0) - (this.byWord.get(b)?.length ?? 0))
    for (const word of nameWords(entry.key)) add(this.byWord.get(word))
    for (const word of words) add(this.byWord.get(word))
    add(this.byParent.get(owner ? (forward.get(owner) ?? null) : null))
    return result
  }
}

function push<K>(map: Map<K, Entry[]>, key: K, entry: Entry): void {
  const list = map.get(key)
  if (list) list.push(entry)
  else map.set(key, [entry])
}

/** How often each key occurs in the old copy, and, behind `>`, in the new one. */
function countKeys(factory: TreeIndex, update: TreeIndex): Map<string, number> {
  const counts = new Map<string, number>()
  for (const entry of factory.entries) counts.set(entry.key, (counts.get(entry.key) ?? 0) + 1)
  for (const entry of update.entries) counts.set('>' + entry.key, (counts.get('>' + entry.key) ?? 0) + 1)
  return counts
}

/** How much it says that a value is found again: a long list much, a switch little. */
function sameValue(node: Node): number {
  if (isContainer(node)) return node.entries.length > 2 ? 0.4 : node.entries.length > 0 ? 0.25 : 0.15
  if (node.type === 'alias') return 0.15
  const telling =
    node.kind === 'text' ? String(node.value).length > 3 : node.kind === 'number' && ![0, 1, -1, 2, 10, 100].includes(node.value as number)
  return telling ? 0.25 : 0.15
}
