import type { Document, Entry, ListNode } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import type { Facts } from './decide'
import type { TreeIndex } from './index-tree'
import { reordered, type ListOrder } from './list-order'
import type { Notes } from './notes'
import type { Triple } from './pairing/pair-lists'
import { replacedByUpdate } from './pairing/triples'
import type { Spot } from './patch'
import { carryEntry, placeValue } from './place'
import type { Both, Renderer, Setting } from './render'
import type { Reordered } from './reorder'
import type { Sides } from './sides'

/** A list that shall stand in my order, with the places of the items of mine. */
interface PendingOrder {
  readonly id: string
  readonly list: ListNode
  readonly owner: Entry | null
  readonly items: readonly { readonly spot: Spot; readonly free: boolean }[]
}

/** Writes merged lists of single values, and remembers which lists shall stand in my order. */
export class ListRenderer {
  private readonly mine: TreeIndex
  private readonly update: TreeIndex
  private readonly reorders: PendingOrder[] = []

  constructor(
    private readonly sides: Sides,
    private readonly notes: Notes,
    private readonly renderer: Renderer,
  ) {
    this.mine = sides.mine
    this.update = sides.update
  }

  /** A list of single values: what I put in, took out and replaced goes onto the update's list; one decision for all. */
  values(
    { f, m, u }: Both,
    { c, a, b }: { c: ListNode; a: ListNode; b: ListNode },
    triples: readonly Triple[],
    order: ListOrder,
    facts: Facts,
  ): void {
    const standing = new Map<number, Spot>()
    const says = new Map<Spot, unknown>()
    const stand = (m: number, spot: Spot, entry: Entry): void => {
      standing.set(m, spot)
      says.set(spot, this.sides.json(this.mine, entry))
    }
    let overlap = false
    const isReplaced = replacedByUpdate(triples, c.entries.length)
    for (const triple of [...triples].sort((x, y) => (x.m ?? Infinity) - (y.m ?? Infinity))) {
      const em = triple.m === undefined ? null : a.entries[triple.m]!
      const eu = triple.u === undefined ? null : b.entries[triple.u]!
      const ef = triple.f === undefined ? null : c.entries[triple.f]!
      const edited = em !== null && ef !== null && !this.sides.same(this.sides.factory!, ef, this.mine, em)
      if (em && eu) {
        if (edited) this.renderer.patch.edit(eu, placeValue(this.update, eu, this.mine, em))
        stand(triple.m!, { type: 'entry', entry: eu }, em)
      } else if (em && (!ef || edited)) {
        const after = order.after.get(triple.m!) ?? b.entries.length - 1
        stand(triple.m!, this.renderer.patch.insert(b, u, after, carryEntry(this.mine, em, this.update, b, u), null), em)
      } else if (eu && ef) this.renderer.patch.remove(eu)
      else if (eu) says.set({ type: 'entry', entry: eu }, this.sides.json(this.update, eu))
      if (ef && !eu && (edited || (!em && isReplaced(triple.f!)))) overlap = true
    }
    const items = [...standing].sort(([x], [y]) => x - y).map(([at, spot]) => ({ spot, free: order.free.has(at) }))
    const id = this.sides.idOf(f, m, u)
    if (order.moved.size > 0) this.reorders.push({ list: b, owner: u, items, id })
    const { found, updateIsFactory } = facts
    const code = overlap ? 'list-overlap' : updateIsFactory ? 'list-mine' : 'list-both'
    const weight = facts.doubt ? 'decide' : overlap || (found && !found.respelt) ? 'look' : null
    this.notes.add(
      {
        id,
        spot: { type: 'entry', entry: u },
        f,
        m,
        u,
        options: this.renderer.options({ f, m, u }),
        confidence: found?.confidence,
        result: this.merged(b, says, order.moved.size > 0 ? items : []),
      },
      { outcome: found ? 'moved' : overlap ? 'default-moved' : 'kept-mine', weight, because: [...(found ? [found.reason] : []), { code }] },
    )
  }

  /** What a merged list says, item by item. */
  private merged(list: ListNode, says: ReadonlyMap<Spot, unknown>, mine: readonly { spot: Spot; free: boolean }[]): unknown[] {
    const there: unknown[] = []
    for (const [spot, value] of says) there[this.renderer.patch.position(list, spot)] = value
    return reordered(
      there.length,
      mine.map(({ spot, free }) => ({ at: this.renderer.patch.position(list, spot), free })),
    ).map((at) => there[at])
  }

  /** The items of mine shall stand in my order. */
  reorder(rows: readonly (Setting & { triple: Triple })[], order: ListOrder, u: ListNode, owner: Entry | null): void {
    const mine = rows.filter((row) => row.m).sort((x, y) => x.triple.m! - y.triple.m!)
    const items = mine.flatMap(({ m, u: eu, triple }) => {
      const spot = eu && this.update.seat(eu).parent === u ? ({ type: 'entry', entry: eu } as Spot) : this.renderer.insertedAs.get(m!)
      return spot ? [{ spot, free: order.free.has(triple.m!) }] : []
    })
    const pointer = owner ? formatPointer(this.update.keys(owner)) : ''
    const id = `${this.update.documentAround(u).file ?? ''}${pointer}#order`
    this.reorders.push({ list: u, owner, items, id })
    const spot: Spot = owner ? { type: 'entry', entry: owner } : { type: 'elsewhere', pointer: '', document: this.update.documentAround(u) }
    this.notes.add({ id, spot }, { outcome: 'kept-mine', weight: null, because: [{ code: 'order-mine' }] })
  }

  /** The lists of a document that shall stand in my order, by their pointers in the result. */
  reordersIn(document: Document): Reordered[] {
    return this.reorders
      .filter((item) => this.update.documentAround(item.list) === document)
      .map(({ id, list, owner, items }) => ({
        id,
        pointer: owner ? this.renderer.patch.pointer({ type: 'entry', entry: owner }) : '',
        items: items.map(({ spot, free }) => ({ at: this.renderer.patch.position(list, spot), free })),
      }))
  }
}
