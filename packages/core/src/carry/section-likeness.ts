import { sameNode } from '../tree/compare'
import type { Document, Entry, Node } from '../tree/nodes'
import { nameWords } from './likeness'

/** The share of settings two sections have in common, those of the same value counting twice; spelling of names aside. */
export function likeness(aDoc: Document, a: Node, bDoc: Document, b: Node): number {
  if (a.type !== 'map' || b.type !== 'map') return 0
  const others = new Map(b.entries.map((entry) => [entry.key, entry]))
  let respelt: Map<string, Entry> | null = null
  const letters = (entry: Entry): string => nameWords(entry.key).join('')
  let score = 0
  for (const entry of a.entries) {
    const other = others.get(entry.key) ?? (respelt ??= new Map(b.entries.map((item) => [letters(item), item]))).get(letters(entry))
    if (!other) continue
    score += sameNode({ document: aDoc, node: entry.value }, { document: bDoc, node: other.value }) ? 2 : 0.8
  }
  return score / Math.max(1, a.entries.length + b.entries.length)
}
