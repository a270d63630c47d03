import { isContainer, type Container, type Document, type Entry, type Node } from '../tree/nodes'

/** Where an entry stands in its document. */
export interface Seat {
  readonly parent: Container
  readonly owner: Entry | null
  readonly index: number
}

/** A document with its entries findable by key and their parents findable by entry, each in constant time. */
export class TreeIndex {
  private readonly seats = new Map<Entry, Seat>()
  private readonly byKey = new Map<Container, Map<string, Entry>>()

  constructor(readonly document: Document) {
    this.add(document.root, null)
  }

  private add(node: Node, owner: Entry | null): void {
    const waiting: { node: Node; owner: Entry | null }[] = [{ node, owner }]
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const parent = next.node
      if (!isContainer(parent)) continue
      const keys = new Map<string, Entry>()
      parent.entries.forEach((entry, index) => {
        keys.set(entry.key, entry)
        this.seats.set(entry, { parent, owner: next!.owner, index })
        waiting.push({ node: entry.value, owner: entry })
      })
      this.byKey.set(parent, keys)
    }
  }

  get entries(): IterableIterator<Entry> {
    return this.seats.keys()
  }

  find(container: Container | null, key: string): Entry | null {
    return container ? (this.byKey.get(container)?.get(key) ?? null) : null
  }

  seat(entry: Entry): Seat {
    const seat = this.seats.get(entry)
    if (!seat) throw new RangeError('the entry is not of this document')
    return seat
  }

  /** Entries from the root down to and with this one. */
  chain(entry: Entry): Entry[] {
    const chain: Entry[] = []
    for (let at: Entry | null = entry; at; at = this.seat(at).owner) chain.unshift(at)
    return chain
  }

  keys(entry: Entry): string[] {
    return this.chain(entry).map((item) => item.key)
  }

  at(keys: readonly string[]): Entry | null {
    let node: Node = this.document.root
    let entry: Entry | null = null
    for (const key of keys) {
      entry = isContainer(node) ? this.find(node, key) : null
      if (!entry) return null
      node = entry.value
    }
    return entry
  }

  /** The author's words about an entry: comments above it and behind it, without their markers. */
  comment(entry: Entry): string {
    return [...entry.lead, ...(entry.trail ? [entry.trail] : [])].map((item) => bareComment(this.document.text.slice(item.from, item.to))).join(' ')
  }
}

/** A comment without marker and outer blanks. */
export function bareComment(source: string): string {
  return source.replace(/^(\/\*+|\/\/+|#+|!+|--+|;+)/, '').replace(/\*+\/$/, '').trim()
}
