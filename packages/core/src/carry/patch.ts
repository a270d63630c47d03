import type { Edit } from '../text/edits'
import { isContainer, type Container, type Document, type Entry, type ListNode } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { insertInto } from '../formats/operations'
import type { NewEntry } from '../formats/writer'
import type { TreeIndex } from './index-tree'

/** Where a setting ends up; worked out into a pointer when all edits are known, since positions in lists shift. */
export type Spot =
  | { readonly type: 'entry'; readonly entry: Entry; readonly below?: readonly string[] }
  | { readonly type: 'inserted'; readonly container: Container; readonly token: object; readonly key: string | null }
  | { readonly type: 'elsewhere'; readonly pointer: string; readonly document?: Document | undefined }

interface Pending {
  readonly after: number
  readonly entry: NewEntry
  readonly token: object
}

/** Collects what is to change in the update's text. Every edit refers to that text as it stands. */
export class Patch {
  private readonly removals = new Map<Container, Set<number>>()
  private readonly insertions = new Map<Container, Pending[]>()
  private readonly tails = new Map<Container, readonly Edit[][]>()
  private readonly owners = new Map<Container, Entry | null>()
  private readonly edits: { readonly document: Document; readonly group: Edit[] }[] = []

  constructor(private readonly target: TreeIndex) {
    for (const document of target.documents) if (isContainer(document.root)) this.owners.set(document.root, null)
  }

  remove(entry: Entry): void {
    const { parent, owner, index } = this.target.seat(entry)
    this.owners.set(parent, owner)
    const set = this.removals.get(parent) ?? new Set()
    set.add(index)
    this.removals.set(parent, set)
  }

  insert(container: Container, owner: Entry | null, after: number, entry: NewEntry, key: string | null): Spot {
    this.owners.set(container, owner)
    const token = {}
    const list = this.insertions.get(container) ?? []
    list.push({ after, entry, token })
    this.insertions.set(container, list)
    return { type: 'inserted', container, token, key }
  }

  /** Edits that make a new entry of a section out of something else in it. */
  becomes(container: Container, owner: Entry | null, edits: readonly Edit[], key: string): Spot {
    this.owners.set(container, owner)
    this.editIn(container, edits)
    return { type: 'inserted', container, token: {}, key }
  }

  /** Edits at an entry. */
  edit(at: Entry, edits: readonly Edit[]): void {
    if (edits.length > 0) this.edits.push({ document: this.target.documentOf(at), group: [...edits] })
  }

  /** Edits somewhere in a section. */
  editIn(container: Container, edits: readonly Edit[]): void {
    if (edits.length > 0) this.edits.push({ document: this.target.documentAround(container), group: [...edits] })
  }

  /** Edits behind the last entry of a section, the value of `owner`. */
  append(container: Container, owner: Entry | null, edits: readonly Edit[]): void {
    this.owners.set(container, owner)
    this.tails.set(container, [...(this.tails.get(container) ?? []), [...edits]])
  }

  /**
   * All edits of a document, one list for each change that stands or falls as a whole. Where several put something at the
   * same place, what belongs into an inner section comes before what follows that section.
   */
  groups(document: Document): Edit[][] {
    const containers = [...new Set([...this.removals.keys(), ...this.insertions.keys(), ...this.tails.keys()])]
      .filter((container) => this.target.documentAround(container) === document)
      .map((container) => ({ container, owner: this.owners.get(container) ?? null }))
      .map((item) => ({ ...item, depth: item.owner ? this.target.chain(item.owner).length : 0 }))
      .sort((a, b) => b.depth - a.depth)
    const inside = containers.flatMap(({ container, owner }) => {
      const [insertions, removals] = [this.insertions.get(container) ?? [], this.removals.get(container) ?? new Set<number>()]
      const parent = owner ? { entry: owner, parent: this.target.seat(owner).parent } : null
      const changes = insertions.length + removals.size > 0 ? [insertInto(document, container, parent, insertions, removals)] : []
      return [...changes, ...(this.tails.get(container) ?? [])]
    })
    return [...inside, ...this.edits.filter((item) => item.document === document).map((item) => item.group)]
  }

  /** The document a spot lies in; null for one that is in none. */
  documentOf(spot: Spot): Document | null {
    if (spot.type === 'elsewhere') return spot.document ?? null
    return spot.type === 'entry' ? this.target.documentOf(spot.entry) : this.target.documentAround(spot.container)
  }

  /** The JSON Pointer of a spot in the result. */
  pointer(spot: Spot): string {
    if (spot.type === 'elsewhere') return spot.pointer
    if (spot.type === 'entry') return formatPointer([...this.keys(spot.entry), ...(spot.below ?? [])])
    const owner = this.owners.get(spot.container) ?? null
    const base = owner ? this.keys(owner) : []
    const key = spot.container.type === 'map' ? (spot.key ?? '') : String(this.insertedIndex(spot.container, spot.token))
    return formatPointer([...base, key])
  }

  /** The position of a spot in a list of the result. */
  position(list: ListNode, spot: Spot): number {
    if (spot.type === 'elsewhere') throw new RangeError('the spot is in no list')
    return spot.type === 'entry' ? this.shifted(list, this.target.seat(spot.entry).index) : this.insertedIndex(list, spot.token)
  }

  private keys(entry: Entry): string[] {
    return this.target.chain(entry).map((item) => {
      const { parent, index } = this.target.seat(item)
      return parent.type === 'list' ? String(this.shifted(parent, index)) : item.key
    })
  }

  private shifted(list: Container, index: number): number {
    return this.layout(list).kept[index]!
  }

  private insertedIndex(list: Container, token: object): number {
    return this.layout(list).inserted.get(token)!
  }

  private readonly layouts = new Map<Container, Layout>()

  /** Where the entries of a list end up; worked out again when something was put in or taken out. */
  private layout(list: Container): Layout {
    const [removed, inserted] = [this.removals.get(list) ?? new Set<number>(), this.insertions.get(list) ?? []]
    const changes = removed.size + inserted.length
    let layout = this.layouts.get(list)
    if (layout?.changes === changes) return layout
    layout = { changes, kept: [], inserted: new Map() }
    this.layouts.set(list, layout)
    const waiting = [...inserted].sort((a, b) => a.after - b.after)
    let at = 0
    let next = 0
    for (let index = -1; index < list.entries.length; index++) {
      if (index >= 0) {
        layout.kept.push(at)
        if (!removed.has(index)) at++
      }
      for (; next < waiting.length && waiting[next]!.after === index; next++) layout.inserted.set(waiting[next]!.token, at++)
    }
    return layout
  }
}

/** The positions of a list's entries in the result, by their positions now and by the tokens of those put in. */
interface Layout {
  readonly changes: number
  readonly kept: number[]
  readonly inserted: Map<object, number>
}
