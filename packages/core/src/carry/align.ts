import { amountOf, kindOf, sameNode } from '../tree/compare'
import { isContainer, type Container, type Document, type Entry, type ListNode, type MapNode, type Node } from '../tree/nodes'
import { ownEnd } from '../formats/splice'
import type { Found } from './decide'
import { hasParts } from './groups'
import type { TreeIndex } from './index-tree'
import { likeness } from './section-likeness'
import { Items } from './pairing/items'
import { pairItems, type Link } from './pairing/pair-items'
import type { Prints } from './pairing/prints'
import type { Evidence, Reason } from './reasons'
import { commentLikeness, nameLikeness, nameWords } from './likeness'
import { scaleChange } from './scale'

/** Which entry of the old factory copy is which of the new one. */
export interface Alignment {
  readonly forward: ReadonlyMap<Entry, Entry>
  readonly backward: ReadonlyMap<Entry, Entry>
  /** Only for entries that were found again elsewhere, or lie in a section that was. */
  readonly found: ReadonlyMap<Entry, Found>
  /** For items of lists that are not written alike: how each was found. */
  readonly links: ReadonlyMap<Entry, Link>
  /** Entries of the old copy that are written in the new one just as they were, comments and all. */
  readonly identical: ReadonlySet<Entry>
  /** The same for entries of the new copy. */
  readonly unchanged: ReadonlySet<Entry>
  /** Pairs the entries inside one of `identical`, one level down. */
  expand(f: Entry): void
}

/** Where there is no factory copy, nothing is known to be the same. */
export const NOTHING_ALIGNED: Alignment = { forward: new Map(), backward: new Map(), found: new Map(), links: new Map(), identical: new Set(), unchanged: new Set(), expand: () => undefined }

/** Whether parts of a section may stand elsewhere in the file, as assignments. */
function isApart(entry: Entry): boolean {
  return entry.names !== undefined || (entry.value.type === 'map' && entry.value.prefix !== undefined)
}

/** Whether two entries are written alike, with their comments. */
export function isSameSource(aDoc: Document, a: Entry, bDoc: Document, b: Entry): boolean {
  const [aFrom, bFrom] = [a.lead[0]?.from ?? a.from, b.lead[0]?.from ?? b.from]
  const [aTo, bTo] = [ownEnd(a), ownEnd(b)]
  if (aTo - aFrom !== bTo - bFrom || aDoc.format !== bDoc.format || isApart(a) || isApart(b)) return false
  return aDoc.text.slice(aFrom, aTo) === bDoc.text.slice(bFrom, bTo)
}

const SURE_ENOUGH = 0.52
const MARGIN = 0.05
const MOST_CANDIDATES = 60

/** Two files of which one became the other; null where there is only one of the two. */
export interface FilePair {
  readonly factory: Document | null
  readonly update: Document | null
}

/**
 * Aligns two factory copies: same names in same places first, then whole sections that moved, also to other files, then
 * single settings.
 */
export function align(factory: TreeIndex, update: TreeIndex, pairs: readonly FilePair[], prints: Prints): Alignment {
  const aligner = new Aligner(factory, update, prints)
  for (const pair of pairs) aligner.files(pair)
  aligner.findSections()
  aligner.findSettings()
  return aligner
}

interface Candidate {
  readonly from: Entry
  readonly to: Entry
  readonly score: number
  readonly reason: Reason
}

class Aligner implements Alignment {
  readonly forward = new Map<Entry, Entry>()
  readonly backward = new Map<Entry, Entry>()
  readonly found = new Map<Entry, Found>()
  readonly links = new Map<Entry, Link>()
  readonly identical = new Set<Entry>()
  readonly unchanged = new Set<Entry>()
  private readonly lostSections: Entry[] = []
  private readonly lostSettings: Entry[] = []
  private readonly newSections = new Set<Entry>()
  private readonly newSettings = new Set<Entry>()
  /** Files that are new in the update: a section may have become a whole one. */
  private readonly newRoots: MapNode[] = []

  constructor(private readonly factory: TreeIndex, private readonly update: TreeIndex, private readonly prints: Prints) {}

  files({ factory, update }: FilePair): void {
    if (factory && update) this.containers(factory.root, update.root, null)
    else if (factory && isContainer(factory.root)) for (const entry of factory.root.entries) this.lose(entry)
    else if (update && isContainer(update.root)) {
      if (update.root.type === 'map') this.newRoots.push(update.root)
      for (const entry of update.root.entries) this.gain(entry)
    }
  }

  containers(f: Node, u: Node, found: Found | null): void {
    if (f.type === 'map' && u.type === 'map') this.maps(f, u, found)
    else if (f.type === 'list' && u.type === 'list' && hasParts([f, u])) this.lists(f, u, found)
  }

  private pair(f: Entry, u: Entry, found: Found | null): void {
    this.forward.set(f, u)
    this.backward.set(u, f)
    if (found) this.found.set(f, found)
    else if (isSameSource(this.factory.documentOf(f), f, this.update.documentOf(u), u)) return this.pairIdentical(f, u)
    this.factory.enter(f)
    this.update.enter(u)
    this.containers(f.value, u.value, found)
  }

  /** Two that are written alike: what is in them is paired when somebody looks inside. */
  private pairIdentical(f: Entry, u: Entry): void {
    this.identical.add(f)
    this.unchanged.add(u)
  }

  expand(f: Entry): void {
    const u = this.identical.has(f) ? this.forward.get(f) : undefined
    if (!u || !isContainer(f.value) || !isContainer(u.value)) return
    const below = u.value.entries
    f.value.entries.forEach((entry, i) => {
      const other = below[i]
      if (!other || this.forward.has(entry)) return
      this.forward.set(entry, other)
      this.backward.set(other, entry)
      this.pairIdentical(entry, other)
    })
  }

  private maps(f: Container, u: Container, found: Found | null): void {
    for (const entry of f.entries) {
      if (this.factory.find(f, entry.key) !== entry) continue
      const other = this.update.find(u, entry.key)
      if (other) this.pair(entry, other, found)
      else this.lose(entry)
    }
    for (const entry of u.entries) if (!this.backward.has(entry)) this.gain(entry)
  }

  private lists(f: ListNode, u: ListNode, found: Found | null): void {
    const items = (index: TreeIndex, list: ListNode): Items => new Items(index.documentAround(list), list, this.prints)
    for (const { a, b, how, confidence } of pairItems(items(this.factory, f), items(this.update, u), false)) {
      const [from, to] = [f.entries[a]!, u.entries[b]!]
      this.links.set(from, { how, confidence })
      this.pair(from, to, found)
    }
  }

  private lose(entry: Entry): void {
    if (entry.value.type === 'map' && entry.value.entries.length > 0) this.lostSections.push(entry)
    else this.lostSettings.push(entry)
  }

  private gain(entry: Entry): void {
    if (entry.value.type === 'map' && entry.value.entries.length > 0) this.newSections.add(entry)
    else this.newSettings.add(entry)
  }

  /** Whole sections that stand elsewhere; those that do not are searched setting by setting. */
  findSections(): void {
    for (let i = 0; i < this.lostSections.length; i++) {
      const section = this.lostSections[i]!
      const best = this.bestSection(section)
      const root = best ? null : this.bestRoot(section)
      if (root && isContainer(section.value)) {
        this.newRoots.splice(this.newRoots.indexOf(root.root), 1)
        for (const entry of root.root.entries) this.newSections.delete(entry)
        this.containers(section.value, root.root, { confidence: root.score, reason: { code: 'section-is-file', section: section.key } })
      } else if (best) {
        this.newSections.delete(best.to)
        this.pair(section, best.to, { confidence: best.score, reason: best.reason })
      } else if (isContainer(section.value)) {
        this.factory.enter(section)
        for (const entry of section.value.entries) this.lose(entry)
      }
    }
    for (const section of this.newSections) {
      this.update.enter(section)
      if (isContainer(section.value)) for (const entry of section.value.entries) this.gain(entry)
    }
  }

  private bestSection(section: Entry): Candidate | null {
    let best: Candidate | null = null
    for (const other of [...this.newSections].slice(0, MOST_CANDIDATES)) {
      const shape = likeness(this.factory.documentOf(section), section.value, this.update.documentOf(other), other.value)
      const name = nameLikeness(section.key, other.key)
      const score = shape * 0.75 + name * 0.25
      if (shape >= 0.4 && score > (best?.score ?? SURE_ENOUGH)) best = { from: section, to: other, score: Math.min(1, score), reason: { code: 'section-found', section: section.key, ...this.pathOf(section, other) } }
    }
    return best
  }

  private bestRoot(section: Entry): { root: MapNode; score: number } | null {
    let best: { root: MapNode; score: number } | null = null
    for (const root of this.newRoots) {
      const shape = likeness(this.factory.documentOf(section), section.value, this.update.documentAround(root), root)
      if (shape >= 0.4 && shape > (best?.score ?? 0)) best = { root, score: Math.min(1, Math.round(shape * 100) / 100) }
    }
    return best
  }

  /** Where an entry went, with the name of its file if that is another one. */
  private pathOf(from: Entry, to: Entry): { path: string; file?: string } {
    const { file } = this.update.documentOf(to)
    const elsewhere = file !== undefined && file !== this.factory.documentOf(from).file
    return { path: this.update.keys(to).join('.'), ...(elsewhere ? { file } : {}) }
  }

  findSettings(): void {
    if (this.lostSettings.length === 0) return
    const candidates: Candidate[] = []
    const lookup = new CandidateLookup(this.update, this.newSettings, this.backward)
    const uses = countKeys(this.factory, this.update)
    for (const entry of this.lostSettings) {
      const options: Candidate[] = []
      for (const other of lookup.near(this.factory, entry, this.forward)) {
        const candidate = this.judge(entry, other, uses)
        if (candidate.score >= SURE_ENOUGH) options.push(candidate)
      }
      options.sort((a, b) => b.score - a.score)
      if (options.length === 1 || (options.length > 1 && options[0]!.score - options[1]!.score >= MARGIN)) candidates.push(options[0]!)
    }
    candidates.sort((a, b) => b.score - a.score)
    for (const item of candidates) {
      if (this.forward.has(item.from) || this.backward.has(item.to)) continue
      this.pair(item.from, item.to, { confidence: Math.round(Math.min(1, item.score) * 100) / 100, reason: item.reason })
    }
  }

  private judge(from: Entry, to: Entry, uses: ReadonlyMap<string, number>): Candidate {
    const rare = (uses.get(from.key) ?? 0) <= 1 && (uses.get('>' + to.key) ?? 0) <= 1
    const name = nameLikeness(from.key, to.key) * (rare ? 1 : 0.6)
    const sayF = this.factory.comment(from)
    const sayU = this.update.comment(to)
    const words = commentLikeness(sayF, sayU)
    const same = sameNode({ document: this.factory.documentOf(from), node: from.value }, { document: this.update.documentOf(to), node: to.value })
    const scaled = !same && this.scaled(from, to, sayF, sayU)
    const place = this.samePlace(from, to)
    const kind = kindOf(from.value) === kindOf(to.value)
    const value = same ? (isTelling(from.value) ? 0.25 : 0.15) : scaled ? 0.2 : kind ? 0 : -0.1
    const score = name * 0.45 + words * 0.3 + value + (place ? 0.1 : 0)
    const evidence: (Evidence | false)[] = [name >= 0.99 ? 'same-name' : name > 0.4 && 'like-name', words > 0.6 && 'same-comment', same && 'same-default', place && 'same-section']
    return { from, to, score, reason: { code: 'found', ...this.pathOf(from, to), evidence: evidence.filter((item) => item !== false) } }
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
    return parentF === null ? parentU === null : parentU !== null && this.forward.get(parentF) === parentU
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

/** Whether a value is rare enough that finding it again means something. */
function isTelling(node: Node): boolean {
  if (node.type !== 'scalar') return node.type !== 'alias' && node.entries.length > 0
  if (node.kind === 'text') return String(node.value).length > 3
  return node.kind === 'number' && ![0, 1, -1, 2, 10, 100].includes(node.value as number)
}
