import { isContainer, type MapNode, type Node } from '../tree/nodes'

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
  return (
    names.size >= 2 &&
    fullest !== null &&
    areAlike(fullest.entries.length > 1 ? [fullest] : (nodes.filter((node) => node?.type === 'map') as MapNode[]))
  )
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

/** Whether any of these lists holds a section or a list, so that its items are more than values. */
export function hasParts(nodes: readonly (Node | null)[]): boolean {
  return nodes.some((node) => node?.type === 'list' && node.entries.some((entry) => isContainer(entry.value)))
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
