import type { Entry } from '../tree/nodes'

/** Finds names that stand twice in a section while it is read: short sections are searched, long ones indexed. */
export class Seen {
  private index: Map<string, Entry> | null = null

  /** `entries` is the section's own list, which grows as it is read. */
  constructor(private readonly entries: readonly Entry[]) {}

  /** The entry of the same name that was read before; call it before the new one joins the list. */
  before(entry: Entry): Entry | null {
    const { entries } = this
    if (!this.index && entries.length < 12) {
      for (let i = entries.length - 1; i >= 0; i--) if (entries[i]!.key === entry.key) return entries[i]!
      return null
    }
    this.index ??= new Map(entries.map((item) => [item.key, item]))
    const known = this.index.get(entry.key) ?? null
    this.index.set(entry.key, entry)
    return known
  }
}
