import type { Traits } from '../formats/format'
import type { Document, Node } from '../tree/nodes'
import { parse } from '../formats/registry'

/** Formats that cannot tell an empty list from an empty section, or one item from none. */
const isAmbiguous = ({ traits }: Document): boolean => traits.emptyTable || traits.singleItem

/**
 * Reads documents of one file alike: what is a list in any of them is one in all, also where it is empty (Lua) or has
 * a single item (XML). Documents that are read as they should be are given back as they are.
 */
export function readAlike(documents: readonly Document[]): Document[] {
  const lists = listsOf(documents)
  if (lists.size === 0) return [...documents]
  return documents.map((document) => {
    if (!isAmbiguous(document)) return document
    return isOdd(document.root, '', document.traits, lists)
      ? parse(document.text, document.format, { ...document.reading, lists })
      : document
  })
}

/** Pointers of all lists in documents of formats where it matters, with `*` for positions. */
export function listsOf(documents: readonly Document[]): Set<string> {
  const lists = new Set<string>()
  for (const document of documents) if (isAmbiguous(document)) collect(document.root, '', document.traits.singleItem ? '' : '/*', lists)
  return lists
}

/** `position` stands for an item in pointers; XML, which has lists only of elements of one name, leaves it out. */
function collect(node: Node, path: string, position: string, lists: Set<string>): void {
  if (node.type === 'scalar' || node.type === 'alias') return
  if (node.type === 'list' && path !== '') lists.add(path)
  for (const entry of node.entries) collect(entry.value, path + (node.type === 'list' ? position : `/${entry.key}`), position, lists)
}

/** Whether something in a document is not read as a list where it is one elsewhere. */
function isOdd(node: Node, path: string, traits: Traits, lists: ReadonlySet<string>): boolean {
  if (node.type === 'scalar' || node.type === 'alias') return false
  return node.entries.some((entry) => {
    const below = node.type !== 'list' ? `${path}/${entry.key}` : traits.singleItem ? path : `${path}/*`
    const { value } = entry
    const single = traits.singleItem ? node.type === 'map' && value.type !== 'list' : value.type === 'map' && value.entries.length === 0
    return (single && lists.has(below)) || isOdd(value, below, traits, lists)
  })
}
