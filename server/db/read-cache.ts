/** Statements that were run and are no mere reading, by all connections of this process. */
let writes = 0

/** To be told of each statement that was run. */
export function countStatement(sql: string): void {
  if (!/^\s*(select|pragma)\b/i.test(sql)) writes++
}

/**
 * What was read from the database, for as long as nothing is written to it. No other process writes to it (the data
 * folder is held by one), so that what counts statements here knows of every change.
 */
export class ReadCache {
  private readonly known = new Map<string, { readonly at: number; readonly value: unknown }>()

  async get<T>(key: string, read: () => Promise<T>): Promise<T> {
    const there = this.known.get(key)
    if (there?.at === writes) return there.value as T
    const at = writes
    const value = await read()
    // what was written while it was read may be in it or not
    if (at === writes) this.keep(key, at, value)
    return value
  }

  private keep(key: string, at: number, value: unknown): void {
    if (this.known.size >= MOST) this.known.delete(this.known.keys().next().value!)
    this.known.set(key, { at, value })
  }
}

const MOST = 1000
