import { isContainer, type Container, type Document, type Entry, type Node } from '../tree/nodes'

/** Where an entry stands in its document. */
export interface Seat {
  readonly document: Document
  readonly parent: Container
  readonly owner: Entry | null
  readonly index: number
}

/** Documents with their entries findable by key, and parent and document findable by entry, each in constant time. */
export class TreeIndex {
  private readonly seats = new Map<Entry, Seat>()
  private readonly holders = new Map<Container, { readonly document: Document; keys: Map<string, Entry> | null }>()
  readonly documents: readonly Document[]

  constructor(documents: Document | readonly Document[]) {
    this.documents = Array.isArray(documents) ? (documents as readonly Document[]) : [documents as Document]
    for (const document of this.documents) this.add(document)
  }

  /** The first of the documents, for those who have only one. */
  get document(): Document {
    return this.documents[0]!
  }

  private add(document: Document): void {
    const waiting: { node: Node; owner: Entry | null }[] = [{ node: document.root, owner: null }]
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const parent = next.node
      if (!isContainer(parent)) continue
      this.holders.set(parent, { document, keys: null })
      const { entries } = parent
      for (let index = 0; index < entries.length; index++) {
        const entry = entries[index]!
        this.seats.set(entry, { document, parent, owner: next.owner, index })
        if (entry.value.type === 'map' || entry.value.type === 'list') waiting.push({ node: entry.value, owner: entry })
      }
    }
  }

  get entries(): IterableIterator<Entry> {
    return this.seats.keys()
  }

  has(entry: Entry): boolean {
    return this.seats.has(entry)
  }

  /** The document an entry stands in. */
  documentOf(entry: Entry): Document {
    return this.seat(entry).document
  }

  /** The document a section or list stands in. */
  documentAround(container: Container): Document {
    const holder = this.holders.get(container)
    if (!holder) throw new RangeError('the section is not of these documents')
    return holder.document
  }

  /** A key's entry; of two alike the last. Short sections are searched, long ones indexed when first asked. */
  find(container: Container | null, key: string): Entry | null {
    const holder = container ? this.holders.get(container) : undefined
    if (!container || !holder) return null
    const { entries } = container
    if (entries.length <= 8) {
      for (let i = entries.length - 1; i >= 0; i--) if (entries[i]!.key === key) return entries[i]!
      return null
    }
    if (!holder.keys) {
      holder.keys = new Map()
      for (const entry of entries) holder.keys.set(entry.key, entry)
    }
    return holder.keys.get(key) ?? null
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

  at(keys: readonly string[], document: Document = this.document): Entry | null {
    let node: Node = document.root
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
    if (entry.lead.length === 0 && !entry.trail) return ''
    const { text } = this.documentOf(entry)
    return [...entry.lead, ...(entry.trail ? [entry.trail] : [])].map((item) => bareComment(text.slice(item.from, item.to))).join(' ')
  }
}

/** A comment without marker and outer blanks. */
export function bareComment(source: string): string {
  return source.replace(/^(\/\*+|\/\/+|#+|!+|--+|;+)/, '').replace(/\*+\/$/, '').trim()
}
