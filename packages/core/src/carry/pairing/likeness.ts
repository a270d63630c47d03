import type { Node } from '../../tree/nodes'
import { nameWords, wordLikeness } from '../likeness'
import type { Items, Leaf } from './items'

/** What one more setting in the other item takes away, in shares of one setting of this item. */
const EXTRA = 0.25

/** How much of an item is found in another, 0 to 1: the same value under the same name counts 1, another value there little. */
export function likeness(a: Items, i: number, b: Items, j: number): number {
  const mine = a.leaves(i)
  const others = new Map<string, Leaf[]>()
  for (const leaf of b.leaves(j)) {
    const there = others.get(leaf.path)
    if (there) there.push(leaf)
    else others.set(leaf.path, [leaf])
  }
  let score = 0
  let left = b.leaves(j).length
  const changed: Leaf[] = []
  for (const leaf of mine) {
    const there = others.get(leaf.path)
    const same = there?.findIndex((other) => other.print === leaf.print) ?? -1
    if (same < 0) changed.push(leaf)
    else {
      there!.splice(same, 1)
      score++
      left--
    }
  }
  for (const leaf of changed) {
    const other = others.get(leaf.path)?.shift()
    if (!other) continue
    score += valueLikeness(leaf.node, other.node)
    left--
  }
  return mine.length === 0 ? 0 : score / (mine.length + EXTRA * left)
}

/** How alike two different values are: texts by their words, others only by their kind. */
export function valueLikeness(a: Node, b: Node): number {
  if (a.type !== 'scalar' || b.type !== 'scalar' || a.kind !== b.kind) return 0.1
  if (a.kind !== 'text') return 0.2
  const words = (node: typeof a): string[] => nameWords(String(node.value).slice(0, 300))
  const alike = wordLikeness(words(a), words(b))
  return alike >= 0.5 ? alike * 0.9 : 0.2
}

/** Whether two items have nothing in common but the names of their settings, though there is enough that could be. */
export function areStrangers(a: Items, i: number, b: Items, j: number): boolean {
  const mine = a.leaves(i)
  if (mine.length < 3 || b.leaves(j).length < 3) return false
  const prints = new Map<string, Leaf[]>()
  for (const leaf of b.leaves(j)) prints.set(leaf.path, [...(prints.get(leaf.path) ?? []), leaf])
  return !mine.some((leaf) =>
    prints.get(leaf.path)?.some((other) => other.print === leaf.print || valueLikeness(leaf.node, other.node) >= 0.45),
  )
}

/** The share of an item's settings that the other has too, whatever they say. */
export function sharedKeys(a: Items, i: number, b: Items, j: number): number {
  const paths = new Set(b.leaves(j).map((leaf) => leaf.path))
  const mine = new Set(a.leaves(i).map((leaf) => leaf.path))
  let shared = 0
  for (const path of mine) if (paths.has(path)) shared++
  return mine.size === 0 ? 0 : shared / mine.size
}
