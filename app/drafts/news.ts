import type { PlacedFinding } from './snapshot'

type TypedArray = Uint8Array<ArrayBuffer> | Uint32Array<ArrayBuffer>

function sameNumbers(a: TypedArray, b: TypedArray): boolean {
  if (a.length !== b.length) return false
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false
  return true
}

/** What was told last need not be told again: there may be tens of thousands of it. */
export class News {
  private readonly told = new Map<string, TypedArray | string>()

  /** Tells all of it again, for somebody new. */
  forget(): void {
    this.told.clear()
  }

  /** What there is now; null where it is as it was told last. */
  of<T extends TypedArray | readonly PlacedFinding[]>(name: string, now: T): T | null {
    const before = this.told.get(name)
    const mark = ArrayBuffer.isView(now) ? now.slice() : JSON.stringify(now)
    const same = ArrayBuffer.isView(now) && ArrayBuffer.isView(before) ? sameNumbers(now, before as TypedArray) : mark === before
    this.told.set(name, mark)
    return same ? null : now
  }
}
