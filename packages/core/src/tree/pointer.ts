import { isContainer, type Container, type Document, type Entry, type Node } from './nodes'

/** Writes a JSON Pointer (RFC 6901). The empty list is the whole document, `""`. */
export function formatPointer(keys: readonly string[]): string {
  return keys.map((key) => '/' + key.replaceAll('~', '~0').replaceAll('/', '~1')).join('')
}

/** Reads a JSON Pointer (RFC 6901); null where it does not start with a slash. */
export function parsePointer(pointer: string): string[] | null {
  if (pointer === '') return []
  if (!pointer.startsWith('/')) return null
  return pointer.slice(1).split('/').map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~'))
}

/** The entry of that key; where a key stands twice the last, which is the one readers take. */
export function getEntry(node: Node, key: string): Entry | null {
  if (node.type === 'list') return /^\d{1,9}$/.test(key) ? (node.entries[Number(key)] ?? null) : null
  if (node.type !== 'map') return null
  for (let i = node.entries.length - 1; i >= 0; i--) if (node.entries[i]!.key === key) return node.entries[i]!
  return null
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
  for (const key of keys) {
    const entry = getEntry(node, key)
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
