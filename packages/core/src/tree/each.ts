import { isContainer, type Document, type Entry, type Node } from './nodes'

/** Every entry of a document with the keys that lead to it, sections before what is in them. */
export function* eachSetting(document: Document): Generator<{ readonly keys: readonly string[]; readonly entry: Entry }> {
  yield* below(document.root, [])
}

function* below(node: Node, keys: readonly string[]): Generator<{ readonly keys: readonly string[]; readonly entry: Entry }> {
  if (!isContainer(node)) return
  for (const entry of node.entries) {
    const path = [...keys, entry.key]
    yield { keys: path, entry }
    yield* below(entry.value, path)
  }
}
