import { isContainer, type Container, type Document, type Entry, type Node } from '../tree/nodes'

/** Where an entry stands in its document. */
export interface Seat {
  readonly document: Document
  readonly parent: Container
  readonly owner: Entry | null
  readonly index: number
}

/** Finds entries by key; of two alike the last. Short sections are searched, long ones indexed when first asked. */
export class KeyIndex {
  private readonly byKey = new Map<Container, Map<string, Entry>>()

  find(container: Container | null, key: string): Entry | null {
    if (!container) return null
    const { entries } = container
    if (entries.length <= 8) {
      for (let i = entries.length - 1; i >= 0; i--) if (entries[i]!.key === key) return entries[i]!
      return null
    }
    let keys = this.byKey.get(container)
    if (!keys) {
      keys = new Map()
      for (const entry of entries) keys.set(entry.key, entry)
      this.byKey.set(container, keys)
    }
    return keys.get(key) ?? null
  }

  /** The entry a list of keys leads to from the root of a document. */
  at(keys: readonly string[], document: Document): Entry | null {
    let node: Node = document.root
    let entry: Entry | null = null
    for (const key of keys) {
      entry = isContainer(node) ? this.find(node, key) : null
      if (!entry) return null
      node = entry.value
    }
    return entry
  }
}

/**
 * Documents with their entries findable by key, and parent and document findable by entry. Sections are taken in as
 * they are entered from above; what is asked for out of turn takes in all the rest.
 */
export class TreeIndex {
  private readonly seats = new Map<Entry, Seat>()
  private readonly around = new Map<Container, Document>()
  private readonly keyIndex = new KeyIndex()
  private complete = false
  readonly documents: readonly Document[]

  constructor(documents: Document | readonly Document[]) {
    this.documents = Array.isArray(documents) ? (documents as readonly Document[]) : [documents as Document]
    for (const document of this.documents) if (isContainer(document.root)) this.take(document.root, null, document)
  }

  /** The first of the documents, for those who have only one. */
  get document(): Document {
    return this.documents[0]!
  }

  private take(parent: Container, owner: Entry | null, document: Document): void {
    this.around.set(parent, document)
    const { entries } = parent
    for (let index = 0; index < entries.length; index++) this.seats.set(entries[index]!, { document, parent, owner, index })
  }

  /** Takes in the entries of an entry's section, which the caller is about to look at. */
  enter(entry: Entry): void {
    const { value } = entry
    if ((value.type === 'map' || value.type === 'list') && !this.around.has(value)) this.take(value, entry, this.seat(entry).document)
  }

  private takeAll(): void {
    if (this.complete) return
    this.complete = true
    for (const document of this.documents) {
      const waiting: Container[] = isContainer(document.root) ? [document.root] : []
      for (let next = waiting.pop(); next; next = waiting.pop()) {
        for (const entry of next.entries) {
          this.enter(entry)
          if (entry.value.type === 'map' || entry.value.type === 'list') waiting.push(entry.value)
        }
      }
    }
  }

  get entries(): IterableIterator<Entry> {
    this.takeAll()
    return this.seats.keys()
  }

  /** The document an entry stands in. */
  documentOf(entry: Entry): Document {
    return this.documents.length === 1 ? this.documents[0]! : this.seat(entry).document
  }

  /** The document a section or list stands in. */
  documentAround(container: Container): Document {
    if (this.documents.length === 1) return this.documents[0]!
    if (!this.around.has(container)) this.takeAll()
    const document = this.around.get(container)
    if (!document) throw new RangeError('the section is not of these documents')
    return document
  }

  find(container: Container | null, key: string): Entry | null {
    return this.keyIndex.find(container, key)
  }

  seat(entry: Entry): Seat {
    let seat = this.seats.get(entry)
    if (!seat) {
      this.takeAll()
      seat = this.seats.get(entry)
    }
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
    return this.keyIndex.at(keys, document)
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
  return source
    .replace(/^(\/\*+|\/\/+|#+|!+|--\[=*\[|--+|;+|<!--+)/, '')
    .replace(/(\*+\/|--+>|\]=*\])$/, '')
    .trim()
}
