import { isContainer, type Container, type Document, type Entry, type Node } from './nodes'

/** Writes a JSON Pointer (RFC 6901). The empty list is the whole document, `""`. */
export function formatPointer(keys: readonly string[]): string {
  return keys.map((key) => '/' + key.replaceAll('~', '~0').replaceAll('/', '~1')).join('')
}

/** Reads a JSON Pointer (RFC 6901); null where it does not start with a slash. */
export function parsePointer(pointer: string): string[] | null {
  if (pointer === '') return []
  if (!pointer.startsWith('/')) return null
  return pointer
    .slice(1)
    .split('/')
    .map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~'))
}

/** The entry of that key; where a key stands twice the last, which is the one readers take. */
export function getEntry(node: Node, key: string): Entry | null {
  if (node.type === 'list') return /^\d{1,9}$/.test(key) ? (node.entries[Number(key)] ?? null) : null
  if (node.type !== 'map') return null
  for (let i = node.entries.length - 1; i >= 0; i--) if (node.entries[i]!.key === key) return node.entries[i]!
  return null
}

/** The section or list of that key, on the way to what is in it: a program may give the name to something else later on. */
function getPart(node: Node, key: string): Entry | null {
  const last = getEntry(node, key)
  if (!last || isContainer(last.value) || node.type !== 'map') return last
  return node.entries.findLast((entry) => entry.key === key && isContainer(entry.value)) ?? last
}

export interface Located {
  readonly entry: Entry
  readonly parent: Container
  readonly index: number
}

/** Finds the entry a pointer names; null where there is none, or for the root, which is no entry. */
export function locate(document: Document, keys: readonly string[]): Located | null {
  let node: Node = document.root
  let found: Located | null = null
  for (const [depth, key] of keys.entries()) {
    const entry: Entry | null = depth < keys.length - 1 ? getPart(node, key) : getEntry(node, key)
    if (!entry || !isContainer(node)) return null
    found = { entry, parent: node, index: node.entries.indexOf(entry) }
    node = entry.value
  }
  return found
}

/** The node a pointer names; the root for the empty pointer. */
export function getNode(document: Document, keys: readonly string[]): Node | null {
  return keys.length === 0 ? document.root : (locate(document, keys)?.entry.value ?? null)
}
