import { sameNode } from '../tree/compare'
import type { Document, Node } from '../tree/nodes'

/** The share of settings two sections have in common, those of the same value counting twice. */
export function likeness(aDoc: Document, a: Node, bDoc: Document, b: Node): number {
  if (a.type !== 'map' || b.type !== 'map') return 0
  const others = new Map(b.entries.map((entry) => [entry.key, entry.value]))
  let score = 0
  for (const entry of a.entries) {
    const other = others.get(entry.key)
    if (!other) continue
    score += sameNode({ document: aDoc, node: entry.value }, { document: bDoc, node: other }) ? 2 : 0.8
  }
  return score / Math.max(1, a.entries.length + b.entries.length)
}
