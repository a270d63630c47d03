import type { Node } from '../tree/nodes'

/** Keys whose value names an entry of a list of sections; in XML they are attributes as a rule. */
const IDENTITY = ['id', 'key', 'name', 'item', 'node', 'player', 'world', 'place', 'title', 'label', 'slot', 'port', 'module', 'type']

const NOT_A_GROUP = 0.5

/**
 * Whether a section is a group of like entries that the administrator adds to (hampers, stalls, pits): all its entries
 * are sections, over all versions there are at least two, and they are made of much the same keys.
 */
export function isGroup(nodes: readonly (Node | null)[]): boolean {
  const shapes = new Map<string, Set<string>>()
  for (const node of nodes) {
    if (!node || node.type !== 'map') continue
    for (const entry of node.entries) {
      if (entry.value.type !== 'map' || entry.value.entries.length === 0) return false
      const shape = shapes.get(entry.key) ?? new Set()
      for (const inner of entry.value.entries) shape.add(inner.key)
      shapes.set(entry.key, shape)
    }
  }
  if (shapes.size < 2) return false
  const counts = new Map<string, number>()
  for (const shape of shapes.values()) for (const key of shape) counts.set(key, (counts.get(key) ?? 0) + 1)
  const common = [...counts].filter(([, count]) => count * 2 > shapes.size).map(([key]) => key)
  if (common.length === 0) return false
  let likeness = 0
  for (const shape of shapes.values()) likeness += (2 * common.filter((key) => shape.has(key)).length) / (common.length + shape.size)
  return likeness / shapes.size > NOT_A_GROUP
}

/** Whether a list is one of sections, whose items are matched by what names them. */
export function isSectionList(nodes: readonly (Node | null)[]): boolean {
  let seen = 0
  for (const node of nodes) {
    if (!node || node.type !== 'list') continue
    for (const entry of node.entries) {
      if (entry.value.type !== 'map') return false
      seen++
    }
  }
  return seen > 0
}

/** The key whose values tell the items of these lists apart; null where none does. */
export function identityKey(nodes: readonly (Node | null)[]): string | null {
  const lists = nodes.filter((node) => node?.type === 'list' && node.entries.length > 0)
  return IDENTITY.flatMap((key) => [`@${key}`, key]).find((key) => lists.every((node) => namesAll(node!, key))) ?? null
}

function namesAll(node: Node, key: string): boolean {
  if (node.type !== 'list') return false
  const seen = new Set<string>()
  for (const entry of node.entries) {
    const name = identityOf(entry.value, key)
    if (name === null || seen.has(name)) return false
    seen.add(name)
  }
  return true
}

/** What names an item, as text; null where that key holds no scalar. */
export function identityOf(node: Node, key: string): string | null {
  if (node.type !== 'map') return null
  const value = node.entries.find((entry) => entry.key === key)?.value
  return value?.type === 'scalar' && value.value !== null ? String(value.value) : null
}

/**
 * Whether the items of a list are the lines of one text (a message, a lore), which is kept or taken as a whole:
 * its key says so, or most items are sentences.
 */
export function isTextLines(key: string, nodes: readonly (Node | null)[]): boolean {
  if (/command|node|permission|alias|list|ids?$/i.test(key)) return false
  const texts: string[] = []
  for (const node of nodes) {
    if (node?.type !== 'list') continue
    for (const entry of node.entries) {
      if (entry.value.type !== 'scalar' || entry.value.kind !== 'text') return false
      texts.push(String(entry.value.value))
    }
  }
  if (texts.length === 0) return false
  if (/line|lore|message|text|motd|header|footer|banner|greeting|description|page/i.test(key)) return texts.some((text) => /\s/.test(text))
  return texts.filter((text) => text.split(/\s+/).length >= 4).length * 2 > texts.length
}
