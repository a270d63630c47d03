import type { Edit } from '../text/edits'
import { isContainer, type Container, type Document, type Entry } from '../tree/nodes'
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

  /** All edits of a document, one list for each change that stands or falls as a whole. */
  groups(document: Document): Edit[][] {
    const result: Edit[][] = []
    for (const container of new Set([...this.removals.keys(), ...this.insertions.keys()])) {
      if (this.target.documentAround(container) !== document) continue
      const entry = this.owners.get(container) ?? null
      const owner = entry ? { entry, parent: this.target.seat(entry).parent } : null
      result.push(insertInto(document, container, owner, this.insertions.get(container) ?? [], this.removals.get(container) ?? new Set()))
    }
    return [...result, ...this.edits.filter((item) => item.document === document).map((item) => item.group)]
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

  private keys(entry: Entry): string[] {
    return this.target.chain(entry).map((item) => {
      const { parent, index } = this.target.seat(item)
      return parent.type === 'list' ? String(this.shifted(parent, index)) : item.key
    })
  }

  private shifted(list: Container, index: number): number {
    const removed = [...(this.removals.get(list) ?? [])].filter((at) => at < index).length
    const inserted = (this.insertions.get(list) ?? []).filter((item) => item.after < index).length
    return index - removed + inserted
  }

  private insertedIndex(list: Container, token: object): number {
    const all = (this.insertions.get(list) ?? []).map((item, order) => ({ item, order })).sort((a, b) => a.item.after - b.item.after || a.order - b.order)
    const place = all.findIndex(({ item }) => item.token === token)
    const after = all[place]!.item.after
    const removed = this.removals.get(list) ?? new Set()
    let kept = 0
    for (let i = 0; i <= Math.min(after, list.entries.length - 1); i++) if (!removed.has(i)) kept++
    return kept + place
  }
}
