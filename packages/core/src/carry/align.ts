import { isContainer, isNameless, type Container, type Document, type Entry, type ListNode, type MapNode, type Node } from '../tree/nodes'
import { ownEnd } from '../formats/splice'
import type { Found } from './decide'
import { hasParts } from './groups'
import type { TreeIndex } from './index-tree'
import { likeness } from './section-likeness'
import { Items } from './pairing/items'
import { pairItems, type Link } from './pairing/pair-items'
import type { Prints } from './pairing/prints'
import { nameLikeness, nameWords } from './likeness'
import { MOST_CANDIDATES, SURE_ENOUGH, Search, whereabouts, type Candidate } from './find-again'
import { assign } from './assignment'

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
export const NOTHING_ALIGNED: Alignment = {
  forward: new Map(),
  backward: new Map(),
  found: new Map(),
  links: new Map(),
  identical: new Set(),
  unchanged: new Set(),
  expand: () => undefined,
}

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

const NOTHING_RESPELT: ReadonlyMap<Entry, Entry> = new Map()

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

  constructor(
    private readonly factory: TreeIndex,
    private readonly update: TreeIndex,
    private readonly prints: Prints,
  ) {}

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
    const lost: Entry[] = []
    for (const entry of f.entries) {
      if (this.factory.find(f, entry.key) !== entry) continue
      const other = this.update.find(u, entry.key)
      if (other) this.pair(entry, other, found)
      else lost.push(entry)
    }
    const gained = u.entries.filter((entry) => !this.backward.has(entry))
    const respelt = lost.length > 0 && gained.length > 0 ? sameLetters(lost, gained) : NOTHING_RESPELT
    for (const entry of lost) {
      const other = respelt.get(entry)
      if (other)
        this.pair(
          entry,
          other,
          found ?? { confidence: 1, reason: { code: 'respelt', ...whereabouts(this.factory, this.update, entry, other) }, respelt: true },
        )
      else this.lose(entry)
    }
    for (const entry of gained) if (!this.backward.has(entry)) this.gain(entry)
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

  /** Whole sections that stand elsewhere, outer ones first; those that do not are searched setting by setting. */
  findSections(): void {
    for (let lost = this.lostSections.splice(0); lost.length > 0; lost = this.lostSections.splice(0)) {
      const fresh = [...this.newSections]
      const chosen = new Map(assign(lost.flatMap((section) => this.likeSections(section, fresh))).map((item) => [item.from, item]))
      for (const section of lost) {
        const best = chosen.get(section)
        if (best) {
          this.newSections.delete(best.to)
          this.pair(section, best.to, { confidence: Math.min(1, best.score), reason: best.reason })
        } else this.openSection(section)
      }
    }
    for (const section of this.newSections) {
      this.update.enter(section)
      if (isContainer(section.value)) for (const entry of section.value.entries) this.gain(entry)
    }
  }

  /** A section that stands nowhere as a whole: it may be a file of its own now, or its settings are searched one by one. */
  private openSection(section: Entry): void {
    if (!isContainer(section.value)) return
    const root = this.bestRoot(section)
    if (root) {
      this.newRoots.splice(this.newRoots.indexOf(root.root), 1)
      for (const entry of root.root.entries) this.newSections.delete(entry)
      return this.containers(section.value, root.root, {
        confidence: root.score,
        reason: { code: 'section-is-file', section: section.key },
      })
    }
    this.factory.enter(section)
    for (const entry of section.value.entries) this.lose(entry)
  }

  private likeSections(section: Entry, fresh: readonly Entry[]): Candidate[] {
    const size = (entry: Entry): number => (isContainer(entry.value) ? entry.value.entries.length : 0)
    // of very many, those of the same name or size first
    const near =
      fresh.length <= MOST_CANDIDATES
        ? fresh
        : [...fresh].sort(
            (a, b) =>
              Number(b.key === section.key) - Number(a.key === section.key) ||
              Math.abs(size(a) - size(section)) - Math.abs(size(b) - size(section)),
          )
    return near.slice(0, MOST_CANDIDATES).flatMap((other) => {
      const shape = likeness(this.factory.documentOf(section), section.value, this.update.documentOf(other), other.value)
      const score = shape * 0.75 + nameLikeness(section.key, other.key) * 0.25
      if (shape < 0.4 || score <= SURE_ENOUGH) return []
      return [
        {
          from: section,
          to: other,
          score,
          reason: { code: 'section-found' as const, section: section.key, ...whereabouts(this.factory, this.update, section, other) },
        },
      ]
    })
  }

  private bestRoot(section: Entry): { root: MapNode; score: number } | null {
    let best: { root: MapNode; score: number } | null = null
    for (const root of this.newRoots) {
      const shape = likeness(this.factory.documentOf(section), section.value, this.update.documentAround(root), root)
      if (shape >= 0.4 && shape > (best?.score ?? 0)) best = { root, score: Math.min(1, Math.round(shape * 100) / 100) }
    }
    return best
  }

  findSettings(): void {
    if (this.lostSettings.length === 0) return
    const search = new Search(this.factory, this.update, this)
    for (const { from, to, score, reason } of search.find(this.lostSettings, this.newSettings))
      this.pair(from, to, { confidence: Math.round(Math.min(1, score) * 100) / 100, reason })
  }
}

/** Keys of one section that only changed their spelling (`saveEvery`, `save-every`, `save_every`): the same letters once on both sides. */
function sameLetters(lost: readonly Entry[], gained: readonly Entry[]): Map<Entry, Entry> {
  const letters = (entry: Entry): string => nameWords(entry.key).join('')
  const byLetters = (entries: readonly Entry[]): Map<string, Entry | null> => {
    const found = new Map<string, Entry | null>()
    for (const entry of entries) if (!isNameless(entry)) found.set(letters(entry), found.has(letters(entry)) ? null : entry)
    return found
  }
  const there = byLetters(gained)
  const pairs = new Map<Entry, Entry>()
  for (const [text, entry] of byLetters(lost)) {
    const other = text === '' ? null : there.get(text)
    if (entry && other) pairs.set(entry, other)
  }
  return pairs
}
