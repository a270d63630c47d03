/*
 * The walk over factory copy, mine and update: which settings are which is told by the alignment and by `pairLists`, what
 * becomes of each by `decide`, and how it is written by `Renderer`. It goes down mine, section by section.
 */
import { isContainer, type Container, type Document, type Entry, type ListNode, type MapNode } from '../tree/nodes'
import { OperationError } from '../formats/error'
import { NOTHING_ALIGNED, align, isSameSource, type Alignment } from './align'
import { KnownComments, hasSameComments } from './comments'
import { decide, type Facts, type Found } from './decide'
import { hasParts, isGroup, isTextLines } from './groups'
import type { TreeIndex } from './index-tree'
import { orderOf, type ListOrder } from './list-order'
import { Items } from './pairing/items'
import { likeness } from './pairing/likeness'
import { SURE, pairItems, type Link, type Pair } from './pairing/pair-items'
import { pairLists, type ListIn, type PairedLists, type Triple } from './pairing/pair-lists'
import { Prints } from './pairing/prints'
import { doubtIn, inPlaceOfMine } from './pairing/triples'
import { ALIKE } from './pairing/votes'
import { Notes } from './notes'
import { Renderer, type Beside, type Setting } from './render'
import { ListRenderer } from './render-lists'
import type { Reordered } from './reorder'
import { Sides, type MergedFile } from './sides'
import type { Choice } from './types'

/** One section or list through the versions, and the update's entry it is the value of. */
interface Level {
  readonly f: Container | null
  readonly m: Container
  readonly u: Container | null
  readonly owner: Entry | null
  /** How the section was found again, if it stands elsewhere. */
  readonly found: Found | null
  /** Its entries are an administrator's to add and take out. */
  readonly group: boolean
  /** Where what is only mine goes; worked out when first asked, as most sections have nothing of the kind. */
  readonly order: () => ListOrder
}

/** Whose a group of entries is: I took some out, I only put some in, or neither. */
type Owned = Facts['group'] & (string | null)

/** Carries mine onto the update: decisions are in `notes`, edits of the update's text in `patch`. */
export class Walk {
  readonly notes: Notes
  readonly render: Renderer
  private readonly listRender: ListRenderer
  private readonly sides: Sides
  private readonly alignment: Alignment
  private readonly prints: Prints
  private readonly known: KnownComments
  private readonly usedMine = new Set<Entry>()
  private readonly seenUpdate = new Set<Entry>()
  /** The item of a list one is in was found by little. */
  private doubt: Link | null = null

  constructor(
    private readonly factory: TreeIndex | null,
    private readonly mine: TreeIndex,
    private readonly update: TreeIndex,
    choices: Readonly<Record<string, Choice>>,
    private readonly files: readonly MergedFile[],
  ) {
    this.sides = new Sides(factory, mine, update, files)
    this.prints = new Prints([...(factory?.documents ?? []), ...mine.documents, ...update.documents])
    this.alignment = factory
      ? align(
          factory,
          update,
          files.filter((file) => file.factory !== null || file.update !== null),
          this.prints,
        )
      : NOTHING_ALIGNED
    this.notes = new Notes(this.sides, choices)
    this.known = new KnownComments(factory ? [factory, update] : [update])
    this.render = new Renderer(this.sides, this.notes, this.known)
    this.listRender = new ListRenderer(this.sides, this.notes, this.render)
  }

  run(): void {
    for (const { factory, mine, update } of this.files) {
      if (!mine) continue
      const f = factory?.root ?? null
      const m = mine.root
      const u = update?.root ?? null
      if (m.type === 'map' && (u === null || u.type === 'map')) this.maps(f?.type === 'map' ? f : null, m, u, null, null)
      else if (m.type === 'list' && u?.type === 'list') this.items(f?.type === 'list' ? f : null, m, u, null, null)
    }
    for (const { update } of this.files) if (update && isContainer(update.root)) this.noteNewIn(update.root)
  }

  /** The lists of a document that shall stand in my order, by their pointers in the result. */
  reordersIn(document: Document): Reordered[] {
    return this.listRender.reordersIn(document)
  }

  // ---- sections -----------------------------------------------------------------------------------------------

  private maps(f: MapNode | null, m: MapNode, u: MapNode | null, owner: Entry | null, found: Found | null): void {
    const triples = this.pairKeys(f, m, u)
    const group = isGroup([f, m, u])
    const level: Level = { f, m, u, owner, found, group, order: once(() => orderOf(triples, u?.entries.length ?? 0)) }
    for (const { f: ef, m: em, u: eu } of this.settings(triples, f, m, u)) {
      if (em && !this.usedMine.has(em)) this.one(ef, em, eu, level)
      else if (ef && !em) this.removed(ef)
    }
    if (u && group && u.entries.some((entry) => this.isNew(entry))) {
      const whose = this.whose(triples, f, m)
      for (const entry of u.entries) this.newInGroup(entry, whose)
    }
    this.render.tail(m, u, owner)
  }

  /** Entries of sections by their names; of two alike in one section only the last is read by anyone. */
  private pairKeys(f: MapNode | null, m: MapNode, u: MapNode | null): Triple[] {
    const triples: Triple[] = []
    const placeIn = (eu: Entry | null): { u?: number } => (eu && this.update.seat(eu).parent === u ? { u: this.update.seat(eu).index } : {})
    m.entries.forEach((em, at) => {
      if (this.mine.find(m, em.key) !== em) return
      const ef = f ? this.factory!.find(f, em.key) : null
      const eu = ef ? (this.alignment.forward.get(ef) ?? null) : this.fresh(this.update.find(u, em.key))
      triples.push({ m: at, ...(ef ? { f: this.factory!.seat(ef).index } : {}), ...placeIn(eu) })
    })
    f?.entries.forEach((ef, at) => {
      if (this.factory!.find(f, ef.key) !== ef || this.mine.find(m, ef.key)) return
      triples.push({ f: at, ...placeIn(this.alignment.forward.get(ef) ?? null) })
    })
    return triples
  }

  /** Whether I took entries of a named group out, or only put some in; one that I renamed is neither. */
  private whose(triples: readonly Triple[], f: MapNode | null, m: MapNode): Owned {
    if (!f || !this.factory) return null
    const out = triples.flatMap((triple) => (triple.m === undefined ? [f.entries[triple.f!]!] : []))
    const put = triples.flatMap((triple) => (triple.f === undefined ? [m.entries[triple.m!]!] : []))
    if (out.length + put.length === 0) return null
    const items = (index: TreeIndex, section: MapNode, entries: readonly Entry[]): Items =>
      new Items(index.documentAround(section), { entries }, this.prints)
    const [left, right] = [items(this.factory, f, out), items(this.mine, m, put)]
    const renamed = pairItems(left, right, false).filter(({ a, b }) => likeness(left, a, right, b) >= ALIKE).length
    return out.length > renamed ? 'mine' : put.length > renamed ? 'joined' : null
  }

  /** The entries of triples: the update's is the one the factory's went to, wherever that is. */
  private settings(triples: readonly Triple[], f: Container | null, m: Container, u: Container | null): Setting[] {
    return triples.map((triple) => {
      const ef = triple.f === undefined ? null : f!.entries[triple.f]!
      const there = triple.u === undefined ? null : u!.entries[triple.u]!
      return { f: ef, m: triple.m === undefined ? null : m.entries[triple.m]!, u: ef ? (this.alignment.forward.get(ef) ?? there) : there }
    })
  }

  private one(ef: Entry | null, em: Entry, eu: Entry | null, level: Level): void {
    try {
      if (eu) this.both(ef, em, eu)
      else if (ef) this.gone(ef, em, level)
      else if (!this.waitsForRename(em, level.u)) this.added(em, level)
    } catch (error) {
      // what the new file's format cannot hold is kept aside, with the reason
      if (!(error instanceof OperationError)) throw error
      this.render.cannotHold({ f: ef, m: em, u: eu }, error.message)
    }
  }

  private fresh(eu: Entry | null): Entry | null {
    return eu && !this.alignment.backward.has(eu) ? eu : null
  }

  /** Mine has the update's new name already (from an earlier carrying): the factory's old name will ask for it. */
  private waitsForRename(em: Entry, u: Container | null): boolean {
    const eu = u?.type === 'map' ? this.update.find(u, em.key) : null
    const ef = eu ? this.alignment.backward.get(eu) : undefined
    if (!eu || !ef) return false
    if (this.sides.sameNamed({ index: this.factory!, entry: ef }, this.mine, 'mine')) this.render.nameTaken(em, eu, ef)
    return true
  }

  private removed(ef: Entry): void {
    const eu = this.alignment.forward.get(ef) ?? null
    if (!eu) return
    const renamed = this.sides.sameNamed({ index: this.update, entry: eu }, this.mine, 'mine')
    if (renamed && !this.sides.sameNamed({ index: this.update, entry: eu }, this.factory!, 'factory')) {
      this.usedMine.add(renamed)
      return this.both(ef, renamed, eu)
    }
    this.markSeen(eu)
    const updateIsFactory = this.sides.same(this.factory!, ef, this.update, eu)
    const found = this.alignment.found.get(ef) ?? null
    this.render.removed(
      ef,
      eu,
      decide({
        baseline: true,
        inFactory: true,
        inMine: false,
        inUpdate: true,
        updateIsFactory,
        found,
        doubt: this.doubt ?? this.doubtOf(ef),
      }),
      found,
    )
  }

  private markSeen(eu: Entry): void {
    const waiting = [eu]
    for (let entry = waiting.pop(); entry; entry = waiting.pop()) {
      this.seenUpdate.add(entry)
      if (isContainer(entry.value)) waiting.push(...entry.value.entries)
    }
  }

  private gone(ef: Entry, em: Entry, level: Level): void {
    const { u, group } = level
    const mineIsFactory = this.sides.same(this.factory!, ef, this.mine, em)
    if (ef.value.type === 'map' && em.value.type === 'map' && !(group && u && !mineIsFactory)) {
      this.render.lostComments(em)
      this.factory!.enter(ef)
      this.mine.enter(em)
      return this.maps(ef.value, em.value, null, null, null)
    }
    const verdict = decide({ baseline: true, inFactory: true, inMine: true, inUpdate: false, mineIsFactory, entry: group && u !== null })
    this.render.gone(ef, em, verdict, verdict.take === 'mine' ? this.placeIn(em, level) : null)
  }

  private added(em: Entry, level: Level): void {
    const { u, found } = level
    const beside = u ? this.placeIn(em, level) : this.neighbourhood(em, level)
    const taken = beside?.container.type === 'map' && this.update.find(beside.container, em.key) !== null
    const landing: Facts['landing'] = !beside || taken ? 'nowhere' : { found, gone: u === null }
    const verdict = decide({ baseline: this.factory !== null, inFactory: false, inMine: true, inUpdate: false, landing, doubt: this.doubt })
    this.render.added(em, verdict, beside, level)
  }

  private placeIn(em: Entry, { u, owner, order }: Level): Beside | null {
    return u && { container: u, owner, after: order().after.get(this.mine.seat(em).index) ?? u.entries.length - 1 }
  }

  private readonly neighbourhoods = new Map<Container, readonly (Beside | null)[]>()

  /** Where the neighbours of an entry of mine went when their section is no more. */
  private neighbourhood(em: Entry, level: Level): Beside | null {
    let known = this.neighbourhoods.get(level.m)
    if (!known) this.neighbourhoods.set(level.m, (known = this.findNeighbours(level)))
    return known[this.mine.seat(em).index] ?? null
  }

  /** For each entry of a section of mine, the place of the nearest before it that is in the update, or of the nearest behind. */
  private findNeighbours({ f, m }: Level): (Beside | null)[] {
    const places = m.entries.map((em) => {
      const ef = f?.type === 'map' ? this.factory!.find(f, em.key) : null
      const eu = ef ? this.alignment.forward.get(ef) : undefined
      return eu ? this.update.seat(eu) : null
    })
    const result: (Beside | null)[] = []
    let last: Beside | null = null
    for (const seat of places) result.push((last = seat ? { container: seat.parent, owner: seat.owner, after: seat.index } : last))
    last = null
    for (let i = places.length - 1; i >= 0; i--) {
      const seat = places[i]
      if (seat) last = { container: seat.parent, owner: seat.owner, after: seat.index - 1 }
      result[i] ??= last
    }
    return result
  }

  // ---- one setting in both ------------------------------------------------------------------------------------

  private both(f: Entry | null, m: Entry, u: Entry): void {
    this.seenUpdate.add(u)
    // where all three are written alike, comments and all, there is nothing to decide
    if (f && this.alignment.identical.has(f) && isSameSource(this.factory!.documentOf(f), f, this.mine.documentOf(m), m)) return
    if (f) {
      this.factory!.enter(f)
      this.alignment.expand(f)
    }
    this.mine.enter(m)
    this.update.enter(u)
    if (!f || !hasSameComments(this.factory!.documentOf(f), f, this.mine.documentOf(m), m)) this.render.comments(m, u)
    const [a, b, c] = [m.value, u.value, f?.value ?? null]
    const found = f ? (this.alignment.found.get(f) ?? null) : null
    // what was neither section nor list before is no common ground to merge the two new ones on
    if (c && isContainer(a) && c.type !== a.type && a.type === b.type) this.leaf(f, m, u)
    else if (a.type === 'map' && b.type === 'map') this.maps(c?.type === 'map' ? c : null, a, b, u, found)
    else if (a.type === 'list' && b.type === 'list') this.lists({ f, m, u }, c?.type === 'list' ? c : null, a, b, found)
    else this.leaf(f, m, u)
  }

  private leaf(f: Entry | null, m: Entry, u: Entry): void {
    const facts = this.render.facts(f, m, u, f ? (this.alignment.found.get(f) ?? null) : null, this.doubt)
    const inner = this.render.leaf(f, m, u, decide(facts), facts)
    if (inner) this.markSeen(inner)
  }

  // ---- lists --------------------------------------------------------------------------------------------------

  private lists(
    { f, m, u }: { f: Entry | null; m: Entry; u: Entry },
    c: ListNode | null,
    a: ListNode,
    b: ListNode,
    found: Found | null,
  ): void {
    const chosen = this.notes.choice(this.sides.idOf(f, m, u)) !== undefined
    const nothingToPair = c === null && (a.entries.length === 0 || b.entries.length === 0)
    if (!chosen && !nothingToPair && hasParts([c, a, b])) return this.items(c, a, b, u, found)
    if (chosen || !f || !c || isTextLines(u.key, [c, a, b])) return this.leaf(f, m, u)
    const facts = this.render.facts(f, m, u, found, this.doubt)
    if (facts.mineIsFactory || facts.mineIsUpdate) return this.leaf(f, m, u)
    const { triples } = this.pairUp(c, a, b)
    this.listRender.values({ f, m, u }, { c, a, b }, triples, orderOf(triples, b.entries.length), facts)
  }

  private pairUp(c: ListNode | null, a: ListNode, b: ListNode): PairedLists {
    const at = (index: TreeIndex, list: ListNode): ListIn => ({ document: index.documentAround(list), list })
    const known = c && hasParts([c, b]) ? this.alignedPairs(c, b) : undefined
    return pairLists(c && at(this.factory!, c), at(this.mine, a), at(this.update, b), this.prints, known)
  }

  private alignedPairs(c: ListNode, b: ListNode): Pair[] {
    return c.entries.flatMap((ef, at) => {
      const eu = this.alignment.forward.get(ef)
      if (!eu || this.update.seat(eu).parent !== b) return []
      return [{ a: at, b: this.update.seat(eu).index, ...(this.alignment.links.get(ef) ?? { how: 'equal', confidence: 1 }) }]
    })
  }

  /** Lists that hold sections or lists, item by item. */
  private items(f: ListNode | null, m: ListNode, u: ListNode, owner: Entry | null, found: Found | null): void {
    const { triples, named } = this.pairUp(f, m, u)
    const order = orderOf(triples, u.entries.length)
    const level: Level = { f, m, u, owner, found, group: true, order: () => order }
    const rows = this.settings(triples, f, m, u).map((setting, at) => ({ ...setting, triple: triples[at]! }))
    const outer = this.doubt
    for (const row of rows.filter((item) => item.m).sort((x, y) => x.triple.m! - y.triple.m!)) {
      this.doubt = outer ?? doubtIn(row.triple)
      this.one(row.f, row.m!, row.u, level)
    }
    this.doubt = outer
    for (const row of rows) if (row.f && !row.m) this.removed(row.f)
    const touched = f !== null && (order.takenOut > 0 || order.putIn > 0) && u.entries.some((entry) => this.isNew(entry)) && named()
    const inPlace = f !== null && !touched ? inPlaceOfMine(triples) : new Set<number>()
    u.entries.forEach((entry, at) =>
      this.newInGroup(entry, touched ? (order.takenOut > 0 ? 'mine' : 'joined') : inPlace.has(at) ? 'in-place' : null),
    )
    if (order.moved.size > 0) this.listRender.reorder(rows, order, u, owner)
    this.render.tail(m, u, owner)
  }

  private doubtOf(ef: Entry): Link | null {
    const link = this.alignment.links.get(ef)
    return link && link.confidence < SURE ? link : null
  }

  // ---- what the update adds -----------------------------------------------------------------------------------

  private isNew(eu: Entry): boolean {
    return !this.seenUpdate.has(eu) && !this.alignment.backward.has(eu)
  }

  private newInGroup(eu: Entry, group: Owned): void {
    if (!this.factory || !this.isNew(eu)) return
    this.markSeen(eu)
    this.render.newInGroup(eu, decide({ baseline: true, inFactory: false, inMine: false, inUpdate: true, entry: true, group }))
  }

  /** Names what is new below a section; what stands there as before has nothing new in it. */
  private noteNewIn(root: Container): void {
    const waiting: Container[] = [root]
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const below: Container[] = []
      for (const entry of next.entries) {
        if (this.alignment.unchanged.has(entry)) continue
        if (isContainer(entry.value)) {
          this.update.enter(entry)
          below.push(entry.value)
        }
        if (next.type === 'map') this.noteNew(entry)
      }
      waiting.push(...below.reverse())
    }
  }

  private noteNew(eu: Entry): void {
    if (!this.isNew(eu)) return
    if (eu.value.type === 'map' && eu.value.entries.length > 0) return
    this.markSeen(eu)
    this.render.newSetting(eu, decide({ baseline: this.factory !== null, inFactory: false, inMine: false, inUpdate: true }))
  }
}

/** A function that works its answer out once. */
function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null
  return () => (made ??= { value: make() }).value
}
