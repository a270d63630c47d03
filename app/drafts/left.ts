import type { Operation } from './engine'

/** What was begun in a file and not done when its page was left. */
export interface LeftWork {
  readonly server: string
  readonly path: string
  readonly operations: readonly Operation[]
}

const KEY = 'pasticcio-left'

function read(): readonly LeftWork[] {
  try {
    const left: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]')
    return Array.isArray(left) ? (left as LeftWork[]) : []
  } catch {
    return []
  }
}

function write(left: readonly LeftWork[]): void {
  if (left.length > 0) localStorage.setItem(KEY, JSON.stringify(left))
  else localStorage.removeItem(KEY)
}

/** Puts work down for the next page that is about its server: working it out takes longer than a page has that is being left. */
export function putDown(left: readonly LeftWork[]): void {
  if (left.length > 0) write([...read(), ...left])
}

/** Takes up what was put down for a server; nobody else does it then. */
export function takeUp(server: string): readonly LeftWork[] {
  const all = read()
  const own = all.filter((left) => left.server === server)
  if (own.length > 0) write(all.filter((left) => left.server !== server))
  return own
}
