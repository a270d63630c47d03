import {
  authorsComment,
  formatPointer,
  isGroup,
  isNameless,
  kindOf,
  plainLabel,
  sameNode,
  toJson,
  type Document,
  type Entry,
  type ListNode,
  type MapNode,
  type Node,
  type Rule,
  type RuleBook,
} from '@pasticcio/core'

export type ControlKind = 'switch' | 'number' | 'text' | 'choice' | 'tokens' | 'lines' | 'slots' | 'block' | 'reference'

interface BaseRow {
  readonly pointer: string
  readonly keys: readonly string[]
  readonly key: string
  readonly label: string
  /** Line in the file, from 1; 0 for what is not in it. */
  readonly line: number
  readonly depth: number
  readonly comment: string
  readonly mine: boolean
  readonly staged: boolean
  readonly inFactory: boolean
  /** What an update has in this place: its value, or that it is gone. Null where nothing changes. */
  readonly update: string | null
}

export interface SettingRow extends BaseRow {
  readonly type: 'setting'
  readonly control: ControlKind
  readonly value: unknown
  /** The source of the value. */
  readonly source: string
  readonly factory: string | null
  readonly onServer: string | null
  readonly rule: Rule | null
}

export interface HeadRow extends BaseRow {
  readonly type: 'section' | 'entry'
  readonly settings: number
  readonly mineCount: number
  /** Whether entries can be duplicated and taken out here. */
  readonly list: boolean
}

/** A setting the factory copy has and mine has not. */
export interface RemovedRow extends BaseRow {
  readonly type: 'removed'
  readonly factory: string
}

/** What stands on a line of its own. */
export type LineRow = SettingRow | RemovedRow
export type SheetRow = LineRow | HeadRow

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
}

interface Sides {
  readonly factory: Node | null
  readonly base: Node | null
  readonly update: Node | null
}

/** A row as far as it must be known of every one of them; `rowOf` makes the rest of those that are looked at. */
export interface RowSketch {
  readonly type: SheetRow['type']
  readonly entry: Entry
  readonly sides: Sides
  /** The row of the section it stands in. */
  readonly parent: RowSketch | null
  readonly depth: number
  readonly mine: boolean
  readonly staged: boolean
  readonly changes: boolean
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
  for (const entry of node.entries) {
    // calls, loops and branches of a program are no settings
    if (isNameless(entry)) continue
    const next: Sides = {
      factory: lookup.child(sides.factory, entry.key),
      base: lookup.child(sides.base, entry.key),
      update: lookup.child(sides.update, entry.key),
    }
    const holds = holdsSettings(entry.value)
    const row = sketch(input, entry, next, parent, depth, !holds ? 'setting' : group ? 'entry' : 'section')
    rows.push(row)
    if (holds) visit(input, entry.value as MapNode | ListNode, next, row, depth + 1, rows, lookup)
    count(row)
  }
  if (sides.factory?.type !== 'map' || node.type !== 'map') return
  for (const entry of sides.factory.entries) {
    if (isNameless(entry) || lookup.child(node, entry.key)) continue
    const staged = lookup.child(sides.base, entry.key) !== null
    const row: RowSketch = { type: 'removed', entry, sides, parent, depth, mine: true, staged, changes: false, settings: 0, mineCount: 0 }
    rows.push(row)
    count(row)
  }
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

/** A row with everything that is shown of it. */
export function rowOf(input: SheetInput, row: RowSketch): SheetRow {
  if (row.type === 'removed') return removedRow(input, row)
  return row.type === 'setting' ? settingRow(input, row) : headRow(input, row)
}

function baseRow(input: SheetInput, row: RowSketch, keys: readonly string[]): BaseRow {
  const { entry, depth, mine, staged } = row
  return {
    pointer: formatPointer(keys),
    keys,
    key: entry.key,
    label: plainLabel(entry.key),
    line: input.lineOf(entry.from),
    depth,
    comment: authorsComment(input.document, entry),
    mine,
    staged,
    inFactory: row.sides.factory !== null,
    update: updateHint(input, row, keys),
  }
}

function updateHint(input: SheetInput, { sides, changes }: RowSketch, keys: readonly string[]): string | null {
  if (!changes || !input.update) return null
  if (!sides.update) return input.moves.has(formatPointer(keys)) ? 'renamed' : 'gone'
  return kindOf(sides.update) === 'map' ? 'split' : shortSource(input.update, sides.update)
}

/** The source of a value on one line. */
export function shortSource(document: Document, node: Node): string {
  if (node.type === 'scalar' && node.kind === 'code') return document.text.slice(node.from, node.to).split('\n')[0]!.slice(0, 80)
  if (node.type === 'scalar') return node.kind === 'text' ? String(node.value) : document.text.slice(node.from, node.to) || 'empty'
  return JSON.stringify(toJson(document, node)).replaceAll('"', '').replaceAll(',', ', ')
}

function settingRow(input: SheetInput, row: RowSketch): SettingRow {
  const { entry, sides } = row
  const keys = keysOf(row)
  const rule = input.rules.find(keys)
  const shown = (document: Document | null, node: Node | null): string | null => (document && node ? shortSource(document, node) : null)
  return {
    ...baseRow(input, row, keys),
    type: 'setting',
    control: controlFor(entry, rule),
    value: toJson(input.document, entry.value),
    source: shortSource(input.document, entry.value),
    factory: shown(input.factory, sides.factory),
    onServer: shown(input.base, sides.base),
    rule,
  }
}

function controlFor(entry: Entry, rule: Rule | null): ControlKind {
  const { value } = entry
  if (value.type === 'alias') return 'reference'
  if (value.type === 'map') return 'block'
  if (value.type === 'list') return listControl(entry.key, value)
  // code is shown, and changed in the source view only
  if (value.kind === 'code') return 'reference'
  if (value.kind === 'bool') return 'switch'
  if (value.kind === 'number') return 'number'
  if (rule?.choices && value.kind === 'text') return 'choice'
  if (rule?.kind === 'number') return 'number'
  return String(value.value ?? '').includes('\n') ? 'block' : 'text'
}

function listControl(key: string, list: ListNode): ControlKind {
  const scalars = list.entries.map((entry) => (entry.value.type === 'scalar' ? entry.value : null))
  const slots =
    scalars.length > 0 &&
    scalars.every(
      (item) => item?.kind === 'number' && Number.isInteger(item.value) && (item.value as number) >= 0 && (item.value as number) < 54,
    )
  if (slots && /slot/i.test(key)) return 'slots'
  return scalars.some((item) => String(item?.value ?? '').includes(' ')) ? 'lines' : 'tokens'
}

function headRow(input: SheetInput, row: RowSketch): HeadRow {
  const group = row.type === 'entry'
  return {
    ...baseRow(input, row, keysOf(row)),
    type: group ? 'entry' : 'section',
    label: group ? row.entry.key : plainLabel(row.entry.key),
    list: group,
    settings: row.settings,
    mineCount: row.mineCount,
  }
}

function removedRow(input: SheetInput, row: RowSketch): RemovedRow {
  const { entry, depth, staged } = row
  const keys = keysOf(row)
  return {
    type: 'removed',
    pointer: formatPointer(keys),
    keys,
    key: entry.key,
    label: plainLabel(entry.key),
    line: 0,
    depth,
    comment: authorsComment(input.factory!, entry),
    mine: true,
    staged,
    inFactory: true,
    update: null,
    factory: entry.value.type === 'map' ? `a section of ${entry.value.entries.length}` : shortSource(input.factory!, entry.value),
  }
}
