import type { Document, Entry, Node, ScalarKind, ScalarNode } from '../../tree/nodes'
import type { Prints } from './prints'

/** A single value inside an item, by the names that lead to it; positions in lists are `*`. */
export interface Leaf {
  readonly path: string
  readonly print: number
  readonly node: Node
}

/** A value of an item that may tell it from the others. */
export interface Voter {
  readonly path: string
  readonly print: number
  /** 0 to 1: how much its kind and its depth let one believe it. */
  readonly trust: number
  /** Whether it looks like a name: a short text right in the item, the key of its one section; a number may be one. */
  readonly looks: 'name' | 'number' | 'other'
}

/** More of one item is not looked at. */
const MOST_LEAVES = 200

/** The items of a list (or the entries of a group) with what pairing needs to know of them, each worked out when first asked. */
export class Items {
  readonly entries: readonly Entry[]
  private readonly leavesOf: (readonly Leaf[] | undefined)[] = []
  private readonly votersOf: (readonly Voter[] | undefined)[] = []

  constructor(
    readonly document: Document,
    { entries }: { readonly entries: readonly Entry[] },
    private readonly prints: Prints,
  ) {
    this.entries = entries
  }

  get length(): number {
    return this.entries.length
  }

  node(i: number): Node {
    return this.entries[i]!.value
  }

  print(i: number): number {
    return this.prints.of(this.document, this.node(i))
  }

  leaves(i: number): readonly Leaf[] {
    return (this.leavesOf[i] ??= this.describe(i))
  }

  voters(i: number): readonly Voter[] {
    return (this.votersOf[i] ??= this.findVoters(i))
  }

  private describe(i: number): Leaf[] {
    const leaves: Leaf[] = []
    const visit = (node: Node, path: string): void => {
      if (leaves.length >= MOST_LEAVES) return
      if ((node.type !== 'map' && node.type !== 'list') || node.entries.length === 0)
        leaves.push({ path, print: this.prints.of(this.document, node), node })
      else for (const entry of node.entries) visit(entry.value, `${path}/${node.type === 'map' ? entry.key : '*'}`)
    }
    visit(this.node(i), '')
    return leaves
  }

  private findVoters(i: number): Voter[] {
    const voters: Voter[] = []
    const add = (node: Node, path: string, trust: number, looks: Voter['looks']): void =>
      void voters.push({ path, print: this.prints.of(this.document, node), trust: trust * trustIn(node), looks })
    const visit = (node: Node, path: string, depth: number): void => {
      if (voters.length >= MOST_LEAVES) return
      if (node.type === 'list') return node.entries.length > 0 ? add(node, `${path}[]`, 0.7 ** (depth - 1), 'other') : undefined
      if (node.type !== 'map') return add(node, path, 0.7 ** (depth - 1), depth === 1 ? looksLike(node) : 'other')
      for (const entry of node.entries) visit(entry.value, `${path}/${entry.key}`, depth + 1)
    }
    const item = this.node(i)
    if (item.type === 'map') visit(item, '', 0)
    const name = sectionName(item)
    if (name !== null) voters.push({ path: SECTION_NAME, print: this.prints.ofText(name), trust: 1.5, looks: 'name' })
    return voters
  }
}

/** Stands for the key of an item that is one section, among the paths of voters. */
export const SECTION_NAME = '#'

/** How much the kind of a value says: a switch has two values only, and small numbers meet by chance. */
function trustIn(node: Node): number {
  if (node.type !== 'scalar') return 0.7
  return { text: 1, number: 0.7, bool: 0.1, null: 0.05, code: 0.8 }[spokenKind(node)]
}

/** The kind of a value as people take it: formats without kinds write numbers and switches as text. */
function spokenKind(node: ScalarNode): ScalarKind {
  if (node.kind !== 'text') return node.kind
  const text = String(node.value)
  if (text.length > 20) return 'text'
  return /^[-+]?\d+([.,]\d+)?$/.test(text) ? 'number' : /^(true|false|yes|no|on|off)$/i.test(text) ? 'bool' : text === '' ? 'null' : 'text'
}

function looksLike(node: Node): Voter['looks'] {
  if (node.type !== 'scalar') return 'other'
  const kind = spokenKind(node)
  if (kind === 'number') return 'number'
  return kind === 'text' && String(node.value).length <= 60 && String(node.value).trim().split(/\s+/).length <= 4 ? 'name' : 'other'
}

/** The key of an item that is one section, as in `- side: {…}`; null for any other item. */
export function sectionName(item: Node): string | null {
  if (item.type !== 'map' || item.entries.length !== 1) return null
  const { key, value } = item.entries[0]!
  return value.type === 'map' || value.type === 'list' ? key : null
}
