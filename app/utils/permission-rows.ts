import type { PermissionBook, Subject } from '@pasticcio/core'
import type { Column } from '~/stores/permissions'
import type { ShownNode } from './types'

/** How nodes are put together: by the plugin they are of, by what a setting opens with them, or by their names. */
export type NodeOrder = 'plugin' | 'feature' | 'name'

export interface NodeFilter {
  readonly plugin: string
  readonly words: string
  /** Only nodes that not all subjects have alike. */
  readonly onlyDifferences: boolean
  /** Only what one of the columns may, by its id; empty for all. */
  readonly held: string
  /** Only what a danger is about; empty for all. */
  readonly among: NodeDanger | ''
}

/** Kinds of dangers that nodes are about. */
export type NodeDanger = 'gone' | 'idle' | 'staff' | 'wildcard'
export const NO_FILTER: NodeFilter = { plugin: '', words: '', onlyDifferences: false, held: '', among: '' }

export interface NodeHead {
  readonly kind: 'head'
  readonly id: string
  readonly title: string
  /** What all its nodes begin with. */
  readonly prefix: string
  readonly nodes: readonly string[]
}
export interface NodeLine {
  readonly kind: 'node'
  readonly id: string
  readonly node: ShownNode
  /** What it is for, in words. */
  readonly words: string
  /** Its name without what its head says. */
  readonly name: string
}
export type NodeRow = NodeHead | NodeLine

/** A column of the grid in sight, and the place of what is drawn for it: that is used again for what comes into sight. */
export interface ShownColumn {
  readonly column: Column
  readonly left: number
  readonly slot: number
}

/** What a node is for: its author’s words, else those of the first setting that asks for it, else its own. */
export function nodeWords({ says, asked, node }: Pick<ShownNode, 'says' | 'asked' | 'node'>): string {
  if (says !== '') return says
  const entry = asked[0]?.pointer.split('/').slice(1, -1).at(-1)
  const words = (entry ?? node.split('.').slice(1).join(' ') ?? node).replaceAll(/[-_.*]+/g, ' ').trim()
  return words === '' ? node : words[0]!.toUpperCase() + words.slice(1)
}

/** The beginning that all of some nodes have in common, to the end of a part: `hampers.`; empty for none. */
export function prefixOf(nodes: readonly string[]): string {
  const [first = '', ...others] = nodes
  const parts = first.split('.').slice(0, -1)
  while (parts.length > 0 && !others.every((node) => node.startsWith(`${parts.join('.')}.`))) parts.pop()
  return parts.length === 0 ? '' : `${parts.join('.')}.`
}

/** Nodes under their heads; plugins in the order of their names, what nobody here declares at the end. */
export function nodeRows(nodes: readonly ShownNode[], order: NodeOrder): readonly NodeRow[] {
  const groups = new Map<string, ShownNode[]>()
  for (const node of nodes) {
    const key = headOf(node, order)
    groups.set(key, [...(groups.get(key) ?? []), node])
  }
  const sorted = [...groups].sort(([a], [b]) => (a === '' ? 1 : b === '' ? -1 : a.localeCompare(b)))
  return sorted.flatMap(([title, all]): NodeRow[] => {
    const prefix = order === 'name' ? '' : prefixOf(all.map(({ node }) => node))
    const lines = all.map((node): NodeLine => ({
      kind: 'node',
      id: node.node,
      node,
      words: nodeWords(node),
      name: node.node.slice(prefix.length),
    }))
    return [
      { kind: 'head', id: `head ${title}`, title: title || 'Of no plugin that is here', prefix, nodes: all.map(({ node }) => node) },
      ...lines.sort((a, b) => Number(a.node.isStaff) - Number(b.node.isStaff) || a.words.localeCompare(b.words)),
    ]
  })
}

function headOf({ plugin, node, asked, isDeclared }: ShownNode, order: NodeOrder): string {
  if (order === 'plugin') return plugin
  if (order === 'name') return node.includes('.') ? node.slice(0, node.indexOf('.')) : node
  if (asked.length > 0) return `${asked[0]!.plugin}, what settings open`
  return isDeclared ? `${plugin}, by itself` : ''
}

/**
 * Nodes that fit what is looked for.
 * @param subjects whose rights must differ, where only differences are asked for, by the ids of their columns
 * @param dangers nodes by what is dangerous about them
 */
export function filterNodes(
  nodes: readonly ShownNode[],
  { plugin, words, onlyDifferences, held, among }: NodeFilter,
  book: PermissionBook,
  subjects: ReadonlyMap<string, Subject>,
  dangers: Readonly<Record<NodeDanger, ReadonlySet<string>>>,
): readonly ShownNode[] {
  const wanted = words.trim().toLowerCase()
  const all = [...subjects.values()]
  const holder = subjects.get(held)
  const differs = ({ node }: ShownNode): boolean => {
    const first = all[0] && book.may(all[0], node)
    return all.some((subject) => book.may(subject, node) !== first)
  }
  return nodes.filter(
    (one) =>
      (plugin === '' || one.plugin === plugin) &&
      (among === '' || dangers[among].has(one.node)) &&
      (wanted === '' || one.node.toLowerCase().includes(wanted) || nodeWords(one).toLowerCase().includes(wanted)) &&
      (!holder || book.may(holder, one.node)) &&
      (!onlyDifferences || differs(one)),
  )
}

/** Nodes by what is dangerous about them. @param idle nodes of denials that never count */
export function dangersOf(
  nodes: readonly ShownNode[],
  book: PermissionBook,
  idle: readonly string[],
): Readonly<Record<NodeDanger, ReadonlySet<string>>> {
  const { groups, players, everybody } = book.permissions
  const granted = new Set([...groups, ...players].flatMap(({ grants }) => grants.map(({ node }) => node)))
  const wide = groups.flatMap(({ grants }) =>
    grants.filter(({ node, isDenied }) => node.endsWith('*') && !isDenied).map(({ node }) => node),
  )
  const isWide = (node: string): boolean => wide.some((one) => one === '*' || node.startsWith(one.slice(0, -1)))
  const pick = (fits: (node: ShownNode) => boolean): ReadonlySet<string> => new Set(nodes.filter(fits).map(({ node }) => node))
  return {
    // of a plugin that is not here, and that no setting asks for
    gone: pick(({ node, isDeclared, asked }) => !isDeclared && asked.length === 0 && granted.has(node)),
    idle: new Set(idle),
    staff: pick(({ node, isStaff }) => isStaff && everybody !== null && book.may({ group: everybody }, node)),
    wildcard: pick(({ node }) => isWide(node)),
  }
}

/** What of the rights of somebody is another after a change. */
export interface Gain {
  readonly name: string
  readonly kind: 'group' | 'player'
  readonly gained: readonly string[]
  readonly lost: readonly string[]
}

/** Who may more, and who less, by the drafts than by what stands on the server. */
export function gainsOf(before: PermissionBook, after: PermissionBook, nodes: readonly string[]): readonly Gain[] {
  const of = (kind: Gain['kind'], name: string, subject: Subject): Gain => {
    const was = (node: string): boolean => before.may(subject, node)
    const is = (node: string): boolean => after.may(subject, node)
    return { name, kind, gained: nodes.filter((node) => is(node) && !was(node)), lost: nodes.filter((node) => was(node) && !is(node)) }
  }
  const all = [
    ...after.permissions.groups.map(({ name }) => of('group', name, { group: name })),
    ...after.permissions.players.map(({ id, name }) => of('player', name || id, { player: id })),
  ]
  return all.filter(({ gained, lost }) => gained.length + lost.length > 0)
}
