import {
  emptyScalar,
  isGroup,
  isNameless,
  notSet,
  sameNode,
  type Document,
  type Entry,
  type ListNode,
  type MapNode,
  type Node,
  type NotSet,
  type RuleBook,
} from '@pasticcio/core'

export interface SheetInput {
  readonly document: Document
  /** The line of an offset, from 1. */
  readonly lineOf: (offset: number) => number
  readonly factory: Document | null
  /** The file as it is on the server. */
  readonly base: Document
  readonly update: Document | null
  readonly rules: RuleBook
  /** Settings that have another name or place in the update, old pointer to new. */
  readonly moves: ReadonlyMap<string, string>
  /** Names of the plugins on the server; null where they are not known. */
  readonly plugins: ReadonlySet<string> | null
}

export interface Sides {
  readonly factory: Node | null
  readonly base: Node | null
  readonly update: Node | null
}

/** A row as far as it must be known of every one of them; `rowOf` makes the rest of those that are looked at. */
export interface RowSketch {
  readonly type: 'setting' | 'section' | 'entry' | 'removed' | 'off'
  readonly entry: Entry
  readonly sides: Sides
  /** The row of the section it stands in. */
  readonly parent: RowSketch | null
  readonly depth: number
  readonly mine: boolean
  readonly staged: boolean
  readonly changes: boolean
  /** Of a setting that stands in a comment. */
  readonly off?: NotSet
  /** Settings in it, and how many of them are mine. */
  settings: number
  mineCount: number
}

/** The lines of the settings sheet, in the file's own order. */
export function sheetSketch(input: SheetInput): RowSketch[] {
  const rows: RowSketch[] = []
  const { root } = input.document
  const sides: Sides = { factory: input.factory?.root ?? null, base: input.base.root, update: input.update?.root ?? null }
  if (root.type === 'map' || root.type === 'list') visit(input, root, sides, null, 0, rows, new Lookup())
  return rows
}

/** Finds entries by name, also in long sections, each of which is indexed once. */
class Lookup {
  private readonly indexes = new Map<Node, Map<string, Node>>()

  child(node: Node | null, key: string): Node | null {
    if (node?.type !== 'map' && node?.type !== 'list') return null
    if (node.entries.length < 8) return node.entries.findLast((entry) => entry.key === key)?.value ?? null
    let index = this.indexes.get(node)
    if (!index) {
      index = new Map(node.entries.map((entry) => [entry.key, entry.value]))
      this.indexes.set(node, index)
    }
    return index.get(key) ?? null
  }
}

function visit(
  input: SheetInput,
  node: MapNode | ListNode,
  sides: Sides,
  parent: RowSketch | null,
  depth: number,
  rows: RowSketch[],
  lookup: Lookup,
): void {
  const group = node.type === 'list' || isGroup([node, sides.factory])
  const off = group ? [] : notSet(input.document, node)
  const offKeys = new Set(off.map(({ key }) => key))
  /** Settings in comments stand where their comments do. */
  const showOff = (before: number): void => {
    while (off.length > 0 && off[0]!.from < before) rows.push(offRow(input, off.shift()!, sides, parent, depth, lookup))
  }
  for (const entry of node.entries) {
    showOff(entry.from)
    // calls, loops and branches of a program are no settings
    if (isNameless(entry)) continue
    const next: Sides = {
      factory: lookup.child(sides.factory, entry.key),
      base: lookup.child(sides.base, entry.key),
      update: lookup.child(sides.update, entry.key),
    }
    const holds = holdsSettings(entry.value) && !isOneValue(input, parent, entry)
    const row = sketch(input, entry, next, parent, depth, !holds ? 'setting' : group ? 'entry' : 'section')
    rows.push(row)
    if (holds) visit(input, entry.value as MapNode | ListNode, next, row, depth + 1, rows, lookup)
    count(row)
  }
  showOff(Infinity)
  if (sides.factory?.type !== 'map' || node.type !== 'map') return
  for (const entry of sides.factory.entries) {
    if (isNameless(entry) || lookup.child(node, entry.key) || offKeys.has(entry.key)) continue
    const staged = lookup.child(sides.base, entry.key) !== null
    const row: RowSketch = { type: 'removed', entry, sides, parent, depth, mine: true, staged, changes: false, settings: 0, mineCount: 0 }
    rows.push(row)
    count(row)
  }
}

/** A setting in a comment; yours where the plugin ships it set. */
function offRow(input: SheetInput, off: NotSet, sides: Sides, parent: RowSketch | null, depth: number, lookup: Lookup): RowSketch {
  const value = emptyScalar(off.from)
  const entry: Entry = {
    key: off.key,
    keyFrom: off.from,
    keyTo: off.from,
    value,
    from: off.from,
    to: off.to,
    lead: [],
    trail: null,
    comma: -1,
  }
  const mine = lookup.child(sides.factory, off.key) !== null
  const staged = lookup.child(sides.base, off.key) !== null
  return { type: 'off', entry, sides, parent, depth, mine, staged, changes: false, off, settings: 0, mineCount: 0 }
}

/** Whether a section is one value in several parts, as a place is. */
function isOneValue({ rules }: SheetInput, parent: RowSketch | null, entry: Entry): boolean {
  // asked for every section at every change, so that most must be told without looking them up
  if (entry.value.type !== 'map' || !rules.knows('coordinates')) return false
  return rules.find([...(parent ? keysOf(parent) : []), entry.key])?.means === 'coordinates'
}

/** Whether a value is shown as lines of its own below its name. */
function holdsSettings(value: Node): boolean {
  if (value.type === 'map') return value.entries.length > 0
  return value.type === 'list' && value.entries.some((item) => item.value.type === 'map' || item.value.type === 'list')
}

function sketch(
  { document, factory, base, update }: SheetInput,
  entry: Entry,
  sides: Sides,
  parent: RowSketch | null,
  depth: number,
  type: RowSketch['type'],
): RowSketch {
  const differs = (other: Document | null, node: Node | null): boolean =>
    other !== null && (node === null || !sameNode({ document, node: entry.value }, { document: other, node }))
  const changes =
    update !== null &&
    factory !== null &&
    sides.factory !== null &&
    (sides.update === null || !sameNode({ document: factory, node: sides.factory }, { document: update, node: sides.update }))
  const [mine, staged] = [differs(factory, sides.factory), differs(base, sides.base)]
  return { type, entry, sides, parent, depth, mine, staged, changes, settings: 0, mineCount: 0 }
}

/** Adds a row to the numbers of all sections around it. */
function count(row: RowSketch): void {
  const single = row.type === 'setting' || row.type === 'removed'
  if (!single) return
  for (let around = row.parent; around; around = around.parent) {
    if (row.type === 'setting') around.settings++
    if (row.mine) around.mineCount++
  }
}

/** The names that lead to a row. */
export function keysOf(row: RowSketch): string[] {
  const keys: string[] = []
  for (let at: RowSketch | null = row; at; at = at.parent) keys.push(at.entry.key)
  return keys.reverse()
}
