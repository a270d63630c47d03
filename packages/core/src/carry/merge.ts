/*
 * The walk over factory copy, mine and update that decides for every setting and collects the edits of the update's
 * text. It is one class because every row of the table needs the same three indexes and the one patch.
 */
import { amountOf, kindOf, sameNode } from '../tree/compare'
import { isContainer, type Container, type Document, type Entry, type ListNode, type MapNode, type Node } from '../tree/nodes'
import { commentedOut, type OffSetting } from '../formats/commented'
import { OperationError } from '../formats/error'
import { formatPointer } from '../tree/pointer'
import { fromJson, toJson } from '../tree/values'
import { align, isSameSource, type Alignment, type FilePair } from './align'
import { KnownComments, hasSameComments, myComments, placeComments, placeTail } from './comments'
import { identityKey, isGroup, isSectionList, isTextLines } from './groups'
import type { TreeIndex } from './index-tree'
import { fingerprint, matchItems } from './items'
import { Patch, type Spot } from './patch'
import { carryEntry, placeData, placeTurnedOn, placeValue } from './place'
import { namesOf, type Reordered } from './reorder'
import { convert, scaleChange } from './scale'
import { isStamp } from './stamp'
import { mergeSequences } from './sequence-merge'
import type { Choice, ChoiceId, Decision, Option, Outcome } from './types'

interface Noted {
  readonly spot: Spot
  readonly decision: Omit<Decision, 'path'>
}

interface Note {
  readonly id: string
  readonly spot: Spot
  readonly outcome: Outcome
  readonly attention: boolean
  readonly reason: string
  readonly f?: Entry | null | undefined
  readonly m?: Entry | null | undefined
  readonly u?: Entry | null | undefined
  readonly result?: unknown
  readonly options?: readonly Option[]
  readonly chosen?: ChoiceId | undefined
  readonly confidence?: number | undefined
}

/** Which entries belong together in one section or list of sections. */
interface Matcher {
  factoryOf(mine: Entry): Entry | null
  /** The update's entry for one that the old factory copy does not have. */
  updateOf(mine: Entry): Entry | null
}

/** The three versions of one file, as far as they are there. */
export interface MergedFile {
  readonly factory: Document | null
  readonly mine: Document | null
  readonly update: Document | null
}

/** Files that one side has anew or no more can only give to and take from others. */
function filePairs(files: readonly MergedFile[]): FilePair[] {
  return files.filter((file) => file.factory !== null || file.update !== null)
}

export class Merge {
  readonly patch: Patch
  readonly notes: Noted[] = []
  /** Lists of the update that shall stand in the order of mine. */
  readonly reorders: { readonly owner: Entry; readonly identity: string; readonly names: readonly string[] }[] = []
  private readonly alignment: Alignment
  private readonly known: KnownComments
  private readonly usedMine = new Set<Entry>()
  private readonly seenUpdate = new Set<Entry>()

  constructor(
    private readonly factory: TreeIndex | null, private readonly mine: TreeIndex, private readonly update: TreeIndex,
    private readonly choices: Readonly<Record<string, Choice>>, private readonly files: readonly MergedFile[],
  ) {
    this.patch = new Patch(update)
    this.alignment = factory ? align(factory, update, filePairs(files)) : { forward: new Map(), backward: new Map(), found: new Map(), identical: new Set(), unchanged: new Set(), expand: () => undefined }
    this.known = new KnownComments(factory ? [factory, update] : [update])
  }

  run(): void {
    for (const { factory, mine, update } of this.files) {
      if (!mine) continue
      const f = factory?.root ?? null
      const m = mine.root
      const u = update?.root ?? null
      if (m.type === 'map' && (u === null || u.type === 'map')) this.maps(f?.type === 'map' ? f : null, m, u, null)
      else if (m.type === 'list' && u?.type === 'list') this.sections(f?.type === 'list' ? f : null, m, u, null)
    }
    for (const { update } of this.files) if (update && isContainer(update.root)) this.noteNewIn(update.root)
  }

  // ---- reporting ----------------------------------------------------------------------------------------------

  private note(note: Note): void {
    const { f, m, u } = note
    const decision: Record<string, unknown> = { id: note.id, outcome: note.outcome, attention: note.attention, reason: note.reason }
    if (f && this.factory) decision['factory'] = toJson(this.factory.documentOf(f), f.value)
    if (m) decision['mine'] = toJson(this.mine.documentOf(m), m.value)
    if (u) decision['update'] = toJson(this.update.documentOf(u), u.value)
    if ('result' in note) decision['result'] = note.result
    if (note.options) decision['options'] = note.options
    if (note.chosen) decision['chosen'] = note.chosen
    if (note.confidence !== undefined) decision['confidence'] = note.confidence
    if (m) decision['from'] = formatPointer(this.mine.keys(m))
    if (m && this.mine.documentOf(m).file !== undefined) decision['fromFile'] = this.mine.documentOf(m).file
    this.notes.push({ spot: note.spot, decision: decision as unknown as Omit<Decision, 'path'> })
  }

  private idOf(f: Entry | null, m: Entry | null, u: Entry | null): string {
    if (m) return this.name(this.mine, m)
    return f ? this.name(this.factory!, f) : this.name(this.update, u!)
  }

  /** The pointer of an entry; with several files at hand, behind the name of its file. */
  private name(index: TreeIndex, entry: Entry): string {
    const { file } = index.documentOf(entry)
    return (file === undefined ? '' : `${file}#`) + formatPointer(index.keys(entry))
  }

  /** The other versions of the file that an entry of any of them stands in. */
  private peers(index: TreeIndex, entry: Entry): MergedFile | null {
    return this.files.find((file) => file.factory === index.documentOf(entry) || file.mine === index.documentOf(entry) || file.update === index.documentOf(entry)) ?? null
  }

  /** The entry of the same name in another version of the same file. */
  private sameNamed(index: TreeIndex, entry: Entry, other: TreeIndex, side: keyof MergedFile): Entry | null {
    const document = this.peers(index, entry)?.[side] ?? null
    return document ? other.at(index.keys(entry), document) : null
  }

  /** The spot of what is not in the result: its name in mine, or in the factory copy, under its file. */
  private nowhere(f: Entry | null, m: Entry | null, u: Entry | null): Spot {
    const [index, entry] = m ? [this.mine, m] : f ? [this.factory!, f] : [this.update, u!]
    const peers = this.peers(index, entry)
    return { type: 'elsewhere', pointer: formatPointer(index.keys(entry)), document: peers?.update ?? peers?.mine ?? undefined }
  }

  private json(index: TreeIndex, entry: Entry): unknown {
    return toJson(index.documentOf(entry), entry.value)
  }

  private same(a: TreeIndex, left: Entry, b: TreeIndex, right: Entry): boolean {
    return sameNode({ document: a.documentOf(left), node: left.value }, { document: b.documentOf(right), node: right.value })
  }

  /** The lists of a document that shall stand in my order, by their pointers in the result. */
  reordersIn(document: Document): Reordered[] {
    return this.reorders.filter((item) => this.update.documentOf(item.owner) === document).map((item) => ({ ...item, pointer: this.patch.pointer({ type: 'entry', entry: item.owner }) }))
  }

  // ---- sections -----------------------------------------------------------------------------------------------

  private maps(f: MapNode | null, m: MapNode, u: MapNode | null, owner: Entry | null): void {
    const matcher: Matcher = {
      factoryOf: (entry) => (f ? this.factory!.find(f, entry.key) : null),
      updateOf: (entry) => this.update.find(u, entry.key),
    }
    const group = isGroup([f, m, u])
    const owned = group && f !== null && (f.entries.length !== m.entries.length || f.entries.some((entry) => !this.mine.find(m, entry.key)))
    this.children(f, m, u, owner, matcher, group)
    if (u) for (const entry of u.entries) this.newInGroup(entry, group, owned)
    this.tail(m, u, owner)
  }

  private children(f: Container | null, m: Container, u: Container | null, owner: Entry | null, matcher: Matcher, group: boolean): void {
    const present = new Set<Entry>()
    for (const em of m.entries) {
      if (m.type === 'map' && this.mine.find(m, em.key) !== em) continue
      const ef = matcher.factoryOf(em)
      if (ef) present.add(ef)
      if (this.usedMine.has(em)) continue
      const eu = ef ? (this.alignment.forward.get(ef) ?? null) : this.freshUpdate(em, matcher)
      this.orAside(ef, em, eu, () => {
        if (eu) this.both(ef, em, eu)
        else if (ef) this.goneFromUpdate(ef, em, u, owner, group)
        else if (!this.waitsForRename(em, u)) this.added(f, em, u, owner)
      })
    }
    for (const ef of f?.entries ?? []) if (!present.has(ef) && (f!.type === 'list' || this.factory!.find(f!, ef.key) === ef)) this.removedByMe(ef)
  }

  /** What the new file's format cannot hold is kept aside, with the reason. */
  private orAside(ef: Entry | null, em: Entry, eu: Entry | null, place: () => void): void {
    try {
      place()
    } catch (error) {
      if (!(error instanceof OperationError)) throw error
      const spot: Spot = eu ? { type: 'entry', entry: eu } : this.nowhere(ef, em, eu)
      this.note({ id: this.idOf(ef, em, eu), spot, f: ef, m: em, u: eu, outcome: 'kept-aside', attention: true, reason: `it cannot be written into the new file: ${error.message}`, ...(eu ? { result: this.json(this.update, eu) } : {}) })
    }
  }

  private freshUpdate(em: Entry, matcher: Matcher): Entry | null {
    const eu = matcher.updateOf(em)
    return eu && !this.alignment.backward.has(eu) ? eu : null
  }

  /** Mine has the update's new name already (from an earlier carrying): the factory's old name will ask for it. */
  private waitsForRename(em: Entry, u: Container | null): boolean {
    const eu = u?.type === 'map' ? this.update.find(u, em.key) : null
    const ef = eu ? this.alignment.backward.get(eu) : undefined
    if (!ef) return false
    if (!this.sameNamed(this.factory!, ef, this.mine, 'mine')) return true
    this.note({ id: this.idOf(null, em, null), spot: this.nowhere(null, em, null), outcome: 'kept-aside', attention: true, m: em, u: eu, reason: `the update uses this name for what was ${formatPointer(this.factory!.keys(ef))}, which you have too` })
    return true
  }

  private removedByMe(ef: Entry): void {
    const eu = this.alignment.forward.get(ef) ?? null
    const renamed = eu ? this.sameNamed(this.update, eu, this.mine, 'mine') : null
    if (renamed && eu && !this.sameNamed(this.update, eu, this.factory!, 'factory')) {
      this.usedMine.add(renamed)
      this.both(ef, renamed, eu)
      return
    }
    if (!eu) return
    const changed = !this.same(this.factory!, ef, this.update, eu)
    const id = this.idOf(ef, null, null)
    const choice = this.choices[id]
    this.markSeen(eu)
    const options: Option[] = [{ id: 'drop' }, { id: 'update', value: this.json(this.update, eu) }]
    const found = this.alignment.found.get(ef)
    if (found) {
      // taking out what may be another setting would be a guess: it stays until somebody says so
      if (choice?.id === 'drop') this.patch.remove(eu)
      const spot: Spot = choice?.id === 'drop' ? this.nowhere(ef, null, null) : { type: 'entry', entry: eu }
      this.note({ id, f: ef, u: eu, spot, outcome: choice?.id === 'drop' ? 'stays-removed' : 'moved', attention: !choice, chosen: choice?.id, options, confidence: found.confidence, reason: `you removed it, and ${found.reason}; it is left in until you decide` })
      return
    }
    const restore = choice?.id === 'update' || choice?.id === 'keep'
    if (!restore) this.patch.remove(eu)
    this.note({
      id, f: ef, u: eu, outcome: 'stays-removed', attention: changed && !choice, chosen: choice?.id, options,
      spot: restore ? { type: 'entry', entry: eu } : this.nowhere(ef, null, null),
      ...(restore ? { result: this.json(this.update, eu) } : {}),
      reason: changed ? 'you removed it, and the update changed it' : 'you removed it',
    })
  }

  private markSeen(eu: Entry): void {
    const waiting = [eu]
    for (let entry = waiting.pop(); entry; entry = waiting.pop()) {
      this.seenUpdate.add(entry)
      if (isContainer(entry.value)) waiting.push(...entry.value.entries)
    }
  }

  private goneFromUpdate(ef: Entry, em: Entry, u: Container | null, owner: Entry | null, group: boolean): void {
    const untouched = this.same(this.factory!, ef, this.mine, em)
    const id = this.idOf(ef, em, null)
    if (group && u && !untouched) {
      const keep = this.choices[id]?.id !== 'drop'
      const spot: Spot = keep ? this.insertBeside(em, u, owner) : this.nowhere(ef, em, null)
      const result = keep ? { result: this.json(this.mine, em) } : {}
      this.note({ id, spot, f: ef, m: em, outcome: keep ? 'kept-mine' : 'kept-aside', attention: !this.choices[id], chosen: this.choices[id]?.id, options: [{ id: 'keep', value: this.json(this.mine, em) }, { id: 'drop' }], reason: 'the update took this entry out, and you had changed it', ...result })
      return
    }
    if (ef.value.type === 'map' && em.value.type === 'map') {
      this.lostComments(em)
      this.factory!.enter(ef)
      this.mine.enter(em)
      this.maps(ef.value, em.value, null, null)
      return
    }
    const spot = this.nowhere(ef, em, null)
    if (untouched) {
      this.note({ id, spot, f: ef, m: em, outcome: 'dropped', attention: false, reason: 'the update has it no more' })
      this.lostComments(em)
      return
    }
    this.aside(ef, em, 'the update has it no more, and nothing like it was found')
  }

  /** Mine cannot stand in the new file; it is named, and can be put back by a choice. */
  private aside(ef: Entry | null, em: Entry, reason: string): void {
    const id = this.idOf(ef, em, null)
    const root = this.peers(this.mine, em)?.update?.root ?? this.update.document.root
    const keep = this.choices[id]?.id === 'keep' && root.type === 'map' && !this.update.find(root, em.key)
    const spot: Spot = keep ? this.insertBeside(em, root as MapNode, null) : this.nowhere(ef, em, null)
    this.note({ id, spot, f: ef, m: em, outcome: keep ? 'kept-mine' : 'kept-aside', attention: !this.choices[id], chosen: this.choices[id]?.id, options: [{ id: 'drop' }, { id: 'keep', value: this.json(this.mine, em) }], reason, ...(keep ? { result: this.json(this.mine, em) } : {}) })
    if (!keep) this.lostComments(em)
  }

  private added(f: Container | null, em: Entry, u: Container | null, owner: Entry | null): void {
    const id = this.idOf(null, em, null)
    const beside = u ? { container: u, owner } : this.neighbourhood(em)
    if (!beside || (beside.container.type === 'map' && this.update.find(beside.container, em.key))) {
      this.aside(null, em, 'you added it, and the section it stood in is gone from the update')
      return
    }
    const drop = this.choices[id]?.id === 'drop'
    const off = drop || !u ? null : this.turnedOn(f, em, u)
    const spot: Spot = drop ? this.nowhere(null, em, null)
      : off ? this.patch.becomes(u!, owner, placeTurnedOn(this.mine, em, this.update, u!, owner, off, myComments(this.mine, em, this.known).attached), em.key)
      : this.insertBeside(em, beside.container, beside.owner)
    this.note({ id, spot, m: em, outcome: drop ? 'dropped' : 'kept-addition', attention: false, chosen: this.choices[id]?.id, options: [{ id: 'keep', value: this.json(this.mine, em) }, { id: 'drop' }], reason: off ? 'you switched it on' : 'you added it', ...(drop ? {} : { result: this.json(this.mine, em) }) })
  }

  /** The comment that holds this setting switched off in the update, if the factory copy had one, which mine made a setting of. */
  private turnedOn(f: Container | null, em: Entry, u: Container): OffSetting | null {
    if (!f || !this.factory || this.mine.seat(em).parent.type !== 'map') return null
    const offIn = (index: TreeIndex, container: Container): OffSetting | null => this.off(index, container).find((item) => item.key === em.key) ?? null
    return offIn(this.factory, f) && !offIn(this.mine, this.mine.seat(em).parent) ? offIn(this.update, u) : null
  }

  private readonly offSettings = new Map<Container, readonly OffSetting[]>()

  private off(index: TreeIndex, container: Container): readonly OffSetting[] {
    let known = this.offSettings.get(container)
    if (!known) this.offSettings.set(container, (known = commentedOut(index.documentAround(container), container)))
    return known
  }

  /** Where the neighbours of an entry of mine went when their section is no more. */
  private neighbourhood(em: Entry): { container: Container; owner: Entry | null } | null {
    for (const sibling of this.siblings(em)) {
      const eu = this.counterpart(sibling)
      if (eu) return { container: this.update.seat(eu).parent, owner: this.update.seat(eu).owner }
    }
    return null
  }

  /** The other entries of the same section, nearest first, those before an entry ahead of those after it. */
  private siblings(em: Entry): Entry[] {
    const { parent, index } = this.mine.seat(em)
    return [...parent.entries.slice(0, index).reverse(), ...parent.entries.slice(index + 1)]
  }

  private counterpart(em: Entry): Entry | null {
    const ef = this.factory ? this.sameNamed(this.mine, em, this.factory, 'factory') : null
    if (ef) return this.alignment.forward.get(ef) ?? null
    return this.sameNamed(this.mine, em, this.update, 'update')
  }

  private insertBeside(em: Entry, container: Container, owner: Entry | null): Spot {
    const { parent, index } = this.mine.seat(em)
    let after: number | null = null
    for (let i = index - 1; i >= 0 && after === null; i--) after = this.indexIn(parent.entries[i]!, container)
    for (let i = index + 1; i < parent.entries.length && after === null; i++) {
      const next = this.indexIn(parent.entries[i]!, container)
      if (next !== null) after = next - 1
    }
    return this.patch.insert(container, owner, after ?? container.entries.length - 1, carryEntry(this.mine, em, this.update, container, owner), em.key)
  }

  private indexIn(sibling: Entry, container: Container): number | null {
    const eu = this.itemOf.get(sibling) ?? this.counterpart(sibling)
    if (!eu) return null
    const seat = this.update.seat(eu)
    return seat.parent === container ? seat.index : null
  }

  /** The update's item for an item of mine in lists of sections, where keys are positions and say nothing. */
  private readonly itemOf = new Map<Entry, Entry>()

  // ---- one setting in both ------------------------------------------------------------------------------------

  private both(f: Entry | null, m: Entry, u: Entry): void {
    this.seenUpdate.add(u)
    this.itemOf.set(m, u)
    // where all three are written alike, comments and all, there is nothing to decide
    if (f && this.alignment.identical.has(f) && isSameSource(this.factory!.documentOf(f), f, this.mine.documentOf(m), m)) return
    if (f) {
      this.factory!.enter(f)
      this.alignment.expand(f)
    }
    this.mine.enter(m)
    this.update.enter(u)
    if (!f || !hasSameComments(this.factory!.documentOf(f), f, this.mine.documentOf(m), m)) {
      const lost = placeComments(myComments(this.mine, m, this.known), this.update, u, this.patch)
      if (lost.length > 0) this.noteLost(m, lost)
    }
    const a = m.value
    const b = u.value
    const c = f?.value ?? null
    // what was neither section nor list before is no common ground to merge the two new ones on
    if (f && c && isContainer(a) && c.type !== a.type && a.type === b.type) this.leaf(f, m, u)
    else if (a.type === 'map' && b.type === 'map') this.maps(c?.type === 'map' ? c : null, a, b, u)
    else if (a.type === 'list' && b.type === 'list') this.lists(f, m, u, c?.type === 'list' ? c : null, a, b)
    else this.leaf(f, m, u)
  }

  private leaf(f: Entry | null, m: Entry, u: Entry): void {
    const mineIsUpdate = this.same(this.mine, m, this.update, u)
    const mineIsFactory = f !== null && this.same(this.factory!, f, this.mine, m)
    const updateIsFactory = f !== null && this.same(this.factory!, f, this.update, u)
    const found = f ? this.alignment.found.get(f) : undefined
    const base = { id: this.idOf(f, m, u), spot: { type: 'entry', entry: u } as Spot, f, m, u, confidence: found?.confidence }
    if (!updateIsFactory && (f !== null || !this.factory) && isStamp(u.key, u.value)) {
      if (!mineIsUpdate) this.note({ ...base, outcome: 'stamp', attention: f !== null && !mineIsFactory, result: this.json(this.update, u), reason: 'it tells the plugin which version wrote the file, so the update’s stands' })
      return
    }
    if (mineIsFactory && !this.choices[base.id]) {
      if (!updateIsFactory) this.note({ ...base, outcome: 'took-update', attention: false, result: this.json(this.update, u), reason: 'you had left it as the plugin shipped it', options: this.options(f, m, u) })
      return
    }
    if (mineIsUpdate && !this.choices[base.id]) {
      this.note({ ...base, outcome: 'same-change', attention: false, result: this.json(this.update, u), reason: 'the update has what you had set' })
      return
    }
    const sameKind = kindOf(m.value) === kindOf(u.value)
    if (!sameKind && !updateIsFactory && f !== null && kindOf(f.value) !== kindOf(u.value)) return this.kindChanged(f, m, u, base)
    const scale = sameKind ? this.scale(f, m, u) : null
    const outcome: Outcome = scale ? 'scale-changed' : found ? 'moved' : updateIsFactory || (!f && !this.factory) ? 'kept-mine' : sameKind ? 'default-moved' : 'kind-changed'
    const reason = scale ? scale.reason + (found ? `; ${found.reason}` : '') : found ? found.reason : updateIsFactory ? 'you set it, and the update left it alone' : !f ? (this.factory ? 'you added it, and so did the update, with another value' : 'there is no factory copy to compare with, so yours stands') : 'the default moved under your value'
    const attention = outcome !== 'kept-mine'
    const options = this.options(f, m, u, scale ? scale.converted : undefined)
    this.settle({ ...base, outcome, attention, reason, options }, 'mine')
  }

  private options(f: Entry | null, m: Entry, u: Entry, converted?: number): Option[] {
    return [
      { id: 'mine', value: this.json(this.mine, m) },
      ...(converted !== undefined ? [{ id: 'converted' as const, value: converted }] : []),
      { id: 'update', value: this.json(this.update, u) },
      ...(f && !this.same(this.factory!, f, this.update, u) ? [{ id: 'factory' as const, value: this.json(this.factory!, f) }] : []),
    ]
  }

  private scale(f: Entry | null, m: Entry, u: Entry): { reason: string; converted: number } | null {
    const before = f ? amountOf(this.factory!.documentOf(f), f.value) : null
    const amount = amountOf(this.mine.documentOf(m), m.value)
    const after = amountOf(this.update.documentOf(u), u.value)
    if (!f || before === null || amount === null || after === null) return null
    const [said, says] = [this.factory!.comment(f), this.update.comment(u)]
    if (before === after && said === says && f.key === u.key) return null
    const scale = scaleChange({ key: f.key, comment: said, value: before }, { key: u.key, comment: says, value: after })
    return scale ? { reason: scale.reason, converted: convert(amount, scale) } : null
  }

  /** Takes the choice made, or the default, and writes the value. */
  private settle(note: Omit<Note, 'result'> & { m: Entry; u: Entry }, byDefault: ChoiceId): void {
    const choice = this.choices[note.id]
    const taken = choice?.id ?? byDefault
    const { m, u, f } = note
    let result: unknown
    if (taken === 'mine' || taken === 'keep') {
      this.patch.edit(u, placeValue(this.update, u, this.mine, m))
      result = this.json(this.mine, m)
    } else if (taken === 'factory' && f) {
      this.patch.edit(u, placeValue(this.update, u, this.factory!, f))
      result = this.json(this.factory!, f)
    } else if (taken === 'value' || taken === 'converted') {
      const value = taken === 'value' ? choice!.value : note.options?.find((option) => option.id === 'converted')?.value
      this.patch.edit(u, placeData(this.update, u, fromJson(value)))
      result = value
    } else result = this.json(this.update, u)
    this.note({ ...note, attention: note.attention && !choice, result, chosen: choice?.id })
  }

  private kindChanged(f: Entry, m: Entry, u: Entry, base: Omit<Note, 'outcome' | 'attention' | 'reason'> & { id: string }): void {
    const words = `it was ${kindWord(f.value)} and is now ${kindWord(u.value)}`
    const fits = m.value.type === 'scalar' && u.value.type === 'scalar' && (u.value.kind === 'text' || u.value.kind === 'null')
    const wraps = m.value.type === 'scalar' && u.value.type === 'list' && !isSectionList([u.value])
    const options = this.options(f, m, u)
    if (fits) return this.settle({ ...base, m, u, outcome: 'kind-changed', attention: true, reason: words, options }, 'mine')
    const choice = this.choices[base.id]
    if (wraps && (!choice || choice.id === 'mine')) {
      const value = [this.json(this.mine, m)]
      this.patch.edit(u, placeData(this.update, u, fromJson(value)))
      return this.note({ ...base, outcome: 'kind-changed', attention: !choice, chosen: choice?.id, result: value, options, reason: `${words}; yours became its one item` })
    }
    const inner = this.innerHome(f, u)
    if (inner && (!choice || choice.id === 'mine')) {
      this.markSeen(inner)
      this.patch.edit(inner, placeValue(this.update, inner, this.mine, m))
      return this.note({ ...base, spot: { type: 'entry', entry: inner }, outcome: 'kind-changed', attention: !choice, chosen: choice?.id, result: this.json(this.mine, m), options, reason: `${words}; its entry ${inner.key} has the old default, so yours went there` })
    }
    if (choice) return this.settle({ ...base, m, u, outcome: 'kind-changed', attention: true, reason: words, options }, 'update')
    this.note({ ...base, outcome: 'kind-changed', attention: true, result: this.json(this.update, u), options, reason: `${words}; yours does not fit there and is kept aside` })
  }

  /** When a value became a section, the one entry of it that holds the old default. */
  private innerHome(f: Entry, u: Entry): Entry | null {
    if (u.value.type !== 'map' || f.value.type !== 'scalar') return null
    const homes = u.value.entries.filter((entry) => this.same(this.factory!, f, this.update, entry))
    return homes.length === 1 ? homes[0]! : null
  }

  // ---- lists --------------------------------------------------------------------------------------------------

  private lists(f: Entry | null, m: Entry, u: Entry, c: ListNode | null, a: ListNode, b: ListNode): void {
    if (isSectionList([c, a, b]) && b.entries.length > 0 && a.entries.length > 0 && !this.choices[this.idOf(f, m, u)]) {
      if (!this.reordered(c, a)) return this.sections(c, a, b, u)
      const identity = identityKey([c, a, b])
      if (identity === null) return this.leaf(f, m, u)
      this.sections(c, a, b, u)
      this.reorders.push({ owner: u, identity, names: namesOf(a, identity) })
      this.note({ id: `${this.idOf(f, m, u)}#order`, spot: { type: 'entry', entry: u }, outcome: 'kept-mine', attention: false, reason: 'you changed its order' })
      return
    }
    const mineIsFactory = f !== null && this.same(this.factory!, f, this.mine, m)
    const mineIsUpdate = this.same(this.mine, m, this.update, u)
    const updateIsFactory = f !== null && this.same(this.factory!, f, this.update, u)
    const wholly = c === null || mineIsFactory || mineIsUpdate || this.choices[this.idOf(f, m, u)] !== undefined || isTextLines(u.key, [c, a, b]) || isSectionList([c, a, b])
    if (wholly) return this.leaf(f, m, u)
    this.mergeItems(f!, m, u, c, a, b, updateIsFactory)
  }

  private reordered(f: ListNode | null, m: ListNode): boolean {
    if (!f || !this.factory) return false
    let last = -1
    for (const [from, to] of matchItems(this.factory.documentAround(f), f, this.mine.documentAround(m), m, identityKey([f, m]))) {
      void from
      const at = this.mine.seat(to).index
      if (at < last) return true
      last = at
    }
    return false
  }

  /** Three-way merge of a list of single values, in order. */
  private mergeItems(f: Entry, m: Entry, u: Entry, c: ListNode, a: ListNode, b: ListNode, updateIsFactory: boolean): void {
    const print = (index: TreeIndex, list: ListNode): string[] => list.entries.map((entry) => fingerprint(index.documentOf(entry), entry.value))
    const merged = mergeSequences(print(this.factory!, c), print(this.mine, a), print(this.update, b))
    const inserted = merged.inserted.map(({ item, after }) => ({ after, entry: carryEntry(this.mine, a.entries[item]!, this.update, b, u) }))
    for (const index of merged.removed) this.patch.remove(b.entries[index]!)
    for (const { after, entry } of inserted) this.patch.insert(b, u, after, entry, null)
    const found = this.alignment.found.get(f)
    const result = merged.order.map((step) => (step.from === 'mine' ? this.json(this.mine, a.entries[step.index]!) : this.json(this.update, b.entries[step.index]!)))
    const outcome: Outcome = found ? 'moved' : updateIsFactory ? 'kept-mine' : 'default-moved'
    this.note({
      id: this.idOf(f, m, u), spot: { type: 'entry', entry: u }, f, m, u, outcome, attention: outcome !== 'kept-mine', result, confidence: found?.confidence,
      options: this.options(f, m, u), reason: found ? found.reason : updateIsFactory ? 'you changed the list, and the update left it alone' : 'you both changed the list; your additions and removals were put onto the update’s',
    })
  }

  private sections(f: ListNode | null, m: ListNode, u: ListNode, owner: Entry | null): void {
    const identity = identityKey([f, m, u])
    const factoryOf = new Map<Entry, Entry>()
    if (f && this.factory) for (const [from, to] of matchItems(this.factory.documentAround(f), f, this.mine.documentAround(m), m, identity)) factoryOf.set(to, from)
    const updateOf = matchItems(this.mine.documentAround(m), m, this.update.documentAround(u), u, identity)
    for (const [em, ef] of factoryOf) {
      const eu = this.alignment.forward.get(ef)
      if (eu) this.itemOf.set(em, eu)
    }
    this.children(f, m, u, owner, { factoryOf: (entry) => factoryOf.get(entry) ?? null, updateOf: (entry) => updateOf.get(entry) ?? null }, true)
    const owned = f !== null && (f.entries.length !== m.entries.length || factoryOf.size !== f.entries.length)
    for (const entry of u.entries) this.newInGroup(entry, true, owned)
    this.tail(m, u, owner)
  }

  // ---- what the update adds -----------------------------------------------------------------------------------

  private newInGroup(eu: Entry, group: boolean, owned: boolean): void {
    if (!group || this.seenUpdate.has(eu) || this.alignment.backward.has(eu) || !this.factory) return
    const id = this.idOf(null, null, eu)
    const keep = owned ? this.choices[id]?.id === 'keep' || this.choices[id]?.id === 'update' : this.choices[id]?.id !== 'drop'
    this.markSeen(eu)
    if (!keep) this.patch.remove(eu)
    const result = keep ? { result: this.json(this.update, eu) } : {}
    this.note({
      id, u: eu, spot: keep ? { type: 'entry', entry: eu } : this.nowhere(null, null, eu), outcome: owned ? 'offered' : 'added-by-update', attention: owned && !this.choices[id], chosen: this.choices[id]?.id,
      options: [{ id: 'drop' }, { id: 'keep', value: this.json(this.update, eu) }],
      reason: owned ? 'the update ships a new example entry, and this group is yours; it is left out until you take it' : 'the update ships a new entry', ...result,
    })
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
    if (this.seenUpdate.has(eu) || this.alignment.backward.has(eu)) return
    if (eu.value.type === 'map' && eu.value.entries.length > 0) return
    this.markSeen(eu)
    const id = this.idOf(null, null, eu)
    const choice = this.choices[id]
    const data = choice?.id === 'value' ? choice.value : this.json(this.update, eu)
    if (choice?.id === 'value') this.patch.edit(eu, placeData(this.update, eu, fromJson(choice.value)))
    this.note({ id, spot: { type: 'entry', entry: eu }, u: eu, outcome: 'added-by-update', attention: false, result: data, chosen: choice?.id, reason: 'new in the update', options: [{ id: 'update', value: this.json(this.update, eu) }] })
  }

  // ---- comments -----------------------------------------------------------------------------------------------

  private tail(m: Container, u: Container | null, owner: Entry | null): void {
    if (!u) return
    const lost = placeTail(this.mine, m, this.update, u, this.known, this.patch)
    const document = this.update.documentAround(u)
    const pointer = owner ? formatPointer(this.update.keys(owner)) : ''
    if (lost.length > 0) this.notes.push({ spot: { type: 'elsewhere', pointer, document }, decision: { id: `#${document.file ?? ''}${pointer}`, outcome: 'kept-aside', attention: true, mine: lost.join('\n'), comment: true, reason: 'your comment found no place in the new file' } })
  }

  private lostComments(em: Entry): void {
    const own = myComments(this.mine, em, this.known)
    const lines = [...own.loose, ...own.attached, ...(own.trail ? [own.trail] : [])]
    if (lines.length > 0) this.noteLost(em, lines)
  }

  private noteLost(em: Entry, lines: readonly string[]): void {
    this.notes.push({ spot: this.nowhere(null, em, null), decision: { id: `#${this.name(this.mine, em)}`, outcome: 'kept-aside', attention: true, mine: lines.join('\n'), comment: true, reason: 'your comment stood at a setting that is gone' } })
  }
}

function kindWord(node: Node): string {
  const words: Record<string, string> = { map: 'a section', list: 'a list', text: 'text', number: 'a number', bool: 'a switch', null: 'empty', alias: 'a reference' }
  return words[kindOf(node)] ?? kindOf(node)
}
