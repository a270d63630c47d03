import type { MapNode, Node } from '../tree/nodes'

/** Keys whose value names an entry of a list of sections; in XML they are attributes as a rule. */
const IDENTITY = ['id', 'key', 'name', 'item', 'node', 'player', 'world', 'place', 'title', 'label', 'slot', 'port', 'module', 'type']

const NOT_A_GROUP = 0.5

/**
 * Whether a section is a group of like entries that the administrator adds to (hampers, stalls, pits): all its entries
 * are sections, over all versions there are at least two, and they are made of much the same keys.
 */
export function isGroup(nodes: readonly (Node | null)[]): boolean {
  const names = new Set<string>()
  let fullest: MapNode | null = null
  for (const node of nodes) {
    if (!node || node.type !== 'map') continue
    for (const entry of node.entries) if (entry.value.type !== 'map' || entry.value.entries.length === 0) return false
    for (const entry of node.entries.slice(0, 2)) names.add(entry.key)
    if (node.entries.length > (fullest?.entries.length ?? 0)) fullest = node
  }
  // the version with most entries shows what they are made of
  return names.size >= 2 && fullest !== null && areAlike(fullest.entries.length > 1 ? [fullest] : nodes.filter((node) => node?.type === 'map') as MapNode[])
}

/** Whether the sections in these are made of much the same keys. */
function areAlike(groups: readonly MapNode[]): boolean {
  const sections = groups.flatMap((group) => group.entries.map((entry) => (entry.value as MapNode).entries))
  const counts = new Map<string, number>()
  for (const section of sections) for (const entry of section) counts.set(entry.key, (counts.get(entry.key) ?? 0) + 1)
  const common = new Set([...counts].filter(([, count]) => count * 2 > sections.length).map(([key]) => key))
  if (common.size === 0) return false
  let likeness = 0
  for (const section of sections) likeness += (2 * section.filter((entry) => common.has(entry.key)).length) / (common.size + section.length)
  return likeness / sections.length > NOT_A_GROUP
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
