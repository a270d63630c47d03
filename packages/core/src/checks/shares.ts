/** So many of an item. */
export interface Share {
  readonly item: string
  readonly count: number
}

/** An item and how many of it, as `clay 64`; null for what is no such. */
export function shareIn(text: string): Share | null {
  const found = /^(\S+?)[\s:x*]+(\d+)$/i.exec(text)
  return found ? { item: found[1]!, count: Number(found[2]) } : null
}
