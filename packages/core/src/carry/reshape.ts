import { applyEdits, type Edit } from '../text/edits'
import { sameNode } from '../tree/compare'
import type { Container, Document, Entry } from '../tree/nodes'
import { insertInto } from '../formats/operations'
import type { NewEntry } from '../formats/writer'
import { hasParts } from './groups'
import { TreeIndex } from './index-tree'
import { readAlike } from './lists'
import { Items } from './pairing/items'
import { pairItems } from './pairing/pair-items'
import { Prints } from './pairing/prints'
import { carryEntry, placeValue } from './place'

/** Edits my text until it reads like `wanted`, keeping my order, comments and style. */
export function reshape(mine: Document, wanted: Document): string {
  const [own, aim] = readAlike([mine, wanted]) as [Document, Document]
  const job = new Reshape(new TreeIndex(own), new TreeIndex(aim))
  const { root } = own
  const goal = aim.root
  if (root.type !== goal.type || root.type === 'scalar' || root.type === 'alias' || goal.type === 'scalar' || goal.type === 'alias')
    return wanted.text
  job.container(root, goal, null)
  return applyEdits(mine.text, job.edits)
}

class Reshape {
  readonly edits: Edit[] = []
  private readonly prints: Prints

  constructor(
    private readonly mine: TreeIndex,
    private readonly wanted: TreeIndex,
  ) {
    this.prints = new Prints([mine.document, wanted.document])
  }

  container(m: Container, w: Container, owner: Entry | null): void {
    const pairs = this.pairs(m, w)
    const back = new Map([...pairs].map(([em, ew]) => [ew, em]))
    const removals = new Set<number>()
    m.entries.forEach((em, i) => {
      if (!pairs.has(em)) removals.add(i)
    })
    const insertions: { after: number; entry: NewEntry }[] = []
    let after = -1
    for (const ew of w.entries) {
      const em = back.get(ew)
      if (em) after = Math.max(after, this.mine.seat(em).index)
      else {
        insertions.push({ after, entry: carryEntry(this.wanted, ew, this.mine, m, owner) })
      }
    }
    if (removals.size + insertions.length > 0)
      this.edits.push(
        ...insertInto(this.mine.document, m, owner ? { entry: owner, parent: this.mine.seat(owner).parent } : null, insertions, removals),
      )
    for (const [em, ew] of pairs) this.entry(em, ew)
  }

  private inOrder(m: Container, w: Container): boolean {
    const places = [...this.pairs(m, w)]
      .sort(([a], [b]) => this.mine.seat(a).index - this.mine.seat(b).index)
      .map(([, ew]) => this.wanted.seat(ew).index)
    return places.every((place, i) => i === 0 || place > places[i - 1]!)
  }

  private pairs(m: Container, w: Container): Map<Entry, Entry> {
    if (m.type === 'list' && w.type === 'list') {
      const pairs = pairItems(new Items(this.mine.document, m, this.prints), new Items(this.wanted.document, w, this.prints), true)
      return new Map(pairs.map(({ a, b }) => [m.entries[a]!, w.entries[b]!]))
    }
    const result = new Map<Entry, Entry>()
    for (const em of m.entries) {
      const ew = this.wanted.find(w, em.key)
      if (ew && this.mine.find(m, em.key) === em) result.set(em, ew)
    }
    return result
  }

  private entry(em: Entry, ew: Entry): void {
    const a = em.value
    const b = ew.value
    if (sameNode({ document: this.mine.document, node: a }, { document: this.wanted.document, node: b })) return
    if ((a.type === 'map' && b.type === 'map') || (a.type === 'list' && b.type === 'list' && hasParts([a, b]) && this.inOrder(a, b)))
      this.container(a as Container, b as Container, em)
    else this.edits.push(...placeValue(this.mine, em, this.wanted, ew))
  }
}
