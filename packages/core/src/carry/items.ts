import { sameNode } from '../tree/compare'
import type { Document, Entry, ListNode, Node } from '../tree/nodes'
import { printValue, valueOf } from '../tree/values'
import { identityOf } from './groups'
import { matchSequences } from '../tree/sequence'

/** A text that is the same for nodes that read the same. */
export function fingerprint(document: Document, node: Node): string {
  return printValue(valueOf(document, node))
}

/** Which item of one list of sections is which of another: by what names them, else those that read the same, else by likeness. */
export function matchItems(aDoc: Document, a: ListNode, bDoc: Document, b: ListNode, identity: string | null): Map<Entry, Entry> {
  const result = new Map<Entry, Entry>()
  if (identity !== null) {
    const named = new Map(b.entries.map((entry) => [identityOf(entry.value, identity), entry]))
    for (const entry of a.entries) {
      const other = named.get(identityOf(entry.value, identity))
      if (other) result.set(entry, other)
    }
    return result
  }
  const pairs = matchSequences(a.entries.map((entry) => fingerprint(aDoc, entry.value)), b.entries.map((entry) => fingerprint(bDoc, entry.value)))
  for (const [i, j] of pairs) result.set(a.entries[i]!, b.entries[j]!)
  matchAlike(aDoc, a, bDoc, b, result)
  return result
}

/** Between two matched items, those left over pair off in order when they share most of their settings. */
function matchAlike(aDoc: Document, a: ListNode, bDoc: Document, b: ListNode, result: Map<Entry, Entry>): void {
  const taken = new Set(result.values())
  let free = b.entries.filter((entry) => !taken.has(entry))
  for (const entry of a.entries) {
    if (result.has(entry) || free.length === 0) continue
    let best: Entry | null = null
    let bestScore = 0.4
    for (const other of free.slice(0, 50)) {
      const score = likeness(aDoc, entry.value, bDoc, other.value)
      if (score > bestScore) {
        best = other
        bestScore = score
      }
    }
    if (!best) continue
    result.set(entry, best)
    free = free.filter((other) => other !== best)
  }
}

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
