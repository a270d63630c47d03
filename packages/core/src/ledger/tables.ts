import { isGroup } from '../carry/groups'
import { isContainer, isNameless, type Container, type Document, type Entry, type Node } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'

/** What a table is made of: sections with names of their own, a list of sections, or a section of single values. */
export type TableKind = 'group' | 'list' | 'values'

/** Like things of a file, which can be seen as rows. */
export interface TableFound {
  readonly pointer: string
  readonly keys: readonly string[]
  readonly kind: TableKind
  /** How many rows it has. */
  readonly size: number
}

/** Fewer single values than this are settings of their own, and no rows. */
const FEWEST_VALUES = 4

/** Whether a name is one of the things a server lists, as an item of the game. */
export type IsListed = (name: string) => boolean

/**
 * What a container is as a table; null for what is none.
 * @param isListed where values by such names are looked for: few of them are a table too, and so is a section for them
 */
export function tableKind(node: Node, isListed?: IsListed): TableKind | null {
  if (!isContainer(node)) return null
  const entries = rowsIn(node)
  if (entries.length === 0) return isListed && node.type === 'map' ? 'values' : null
  const sections = entries.filter(({ value }) => value.type === 'map' && value.entries.length > 0)
  if (node.type === 'list') return sections.length === entries.length && areAlike(entries) ? 'list' : null
  if (sections.length === entries.length) return isGroup([node]) ? 'group' : null
  const areRows = entries.length >= FEWEST_VALUES || (isListed !== undefined && entries.every(({ key }) => isListed(key)))
  return areRows && entries.every(({ value }) => isNumber(value)) ? 'values' : null
}

/** Entries of a container that are rows: calls and branches of a program are none. */
export const rowsIn = (node: Container): readonly Entry[] => node.entries.filter((entry) => node.type === 'list' || !isNameless(entry))

const isNumber = (node: Node): boolean => node.type === 'scalar' && node.kind === 'number'

/** Whether the items of a list are made of much the same keys: every other one has what most have. */
function areAlike(entries: readonly Entry[]): boolean {
  const counts = new Map<string, number>()
  for (const { value } of entries)
    if (value.type === 'map') for (const { key } of value.entries) counts.set(key, (counts.get(key) ?? 0) + 1)
  return [...counts.values()].some((count) => count * 2 > entries.length)
}

/** All tables of a file, outer ones before what is in them. */
export function tablesIn(document: Document, isListed?: IsListed): TableFound[] {
  const found: TableFound[] = []
  const look = (node: Node, keys: readonly string[]): void => {
    if (!isContainer(node)) return
    // an empty file may be for them; an empty section is for whatever it likes
    const kind = node.entries.length === 0 && keys.length > 0 ? null : tableKind(node, isListed)
    if (kind) found.push({ pointer: formatPointer(keys), keys, kind, size: rowsIn(node).length })
    for (const entry of node.entries) look(entry.value, [...keys, entry.key])
  }
  look(document.root, [])
  return found
}
