import {
  RuleBook,
  authorsComment,
  formatPointer,
  getEntry,
  isGroup,
  isNameless,
  kindOf,
  plainLabel,
  sameNode,
  toJson,
  type Document,
  type Entry,
  type LineIndex,
  type ListNode,
  type MapNode,
  type Node,
  type Rule,
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

export type SheetRow = SettingRow | HeadRow | RemovedRow

export interface SheetInput {
  readonly document: Document
  readonly index: LineIndex
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

/** The lines of the settings sheet, in the file's own order. */
export function sheetRows(input: SheetInput): SheetRow[] {
  const rows: SheetRow[] = []
  const sides: Sides = { factory: input.factory?.root ?? null, base: input.base.root, update: input.update?.root ?? null }
  if (input.document.root.type === 'map' || input.document.root.type === 'list') visit(input, input.document.root, sides, [], 0, rows)
  return rows
}

function visit(input: SheetInput, node: MapNode | ListNode, sides: Sides, keys: readonly string[], depth: number, rows: SheetRow[]): void {
  const group = node.type === 'list' || isGroup([node, sides.factory])
  for (const entry of node.entries) {
    // calls, loops and branches of a program are no settings
    if (isNameless(entry)) continue
    const path = [...keys, entry.key]
    const next: Sides = {
      factory: childOf(sides.factory, entry.key),
      base: childOf(sides.base, entry.key),
      update: childOf(sides.update, entry.key),
    }
    const { value } = entry
    if (
      (value.type === 'map' && value.entries.length > 0) ||
      (value.type === 'list' && value.entries.some((item) => item.value.type === 'map' || item.value.type === 'list'))
    ) {
      const at = rows.length
      visit(input, value, next, path, depth + 1, rows)
      const inside = rows.slice(at)
      rows.splice(at, 0, headRow(input, entry, next, path, depth, group, inside))
    } else rows.push(settingRow(input, entry, next, path, depth))
  }
  if (sides.factory?.type === 'map' && node.type === 'map')
    for (const entry of sides.factory.entries)
      if (!isNameless(entry) && !getEntry(node, entry.key)) rows.push(removedRow(input, entry, sides, [...keys, entry.key], depth))
}

function childOf(node: Node | null, key: string): Node | null {
  return node ? (getEntry(node, key)?.value ?? null) : null
}

function baseRow(input: SheetInput, entry: Entry, sides: Sides, keys: readonly string[], depth: number): BaseRow {
  const { document, factory, base } = input
  const differs = (other: Document | null, node: Node | null): boolean =>
    other !== null && (node === null || !sameNode({ document, node: entry.value }, { document: other, node }))
  return {
    pointer: formatPointer(keys),
    keys,
    key: entry.key,
    label: plainLabel(entry.key),
    line: input.index.position(entry.from).line,
    depth,
    comment: authorsComment(document, entry),
    mine: differs(factory, sides.factory),
    staged: differs(base, sides.base),
    inFactory: sides.factory !== null,
    update: updateHint(input, sides, formatPointer(keys)),
  }
}

function updateHint(input: SheetInput, sides: Sides, pointer: string): string | null {
  if (!input.update || !input.factory || !sides.factory) return null
  if (!sides.update) return input.moves.has(pointer) ? 'renamed' : 'gone'
  if (sameNode({ document: input.factory, node: sides.factory }, { document: input.update, node: sides.update })) return null
  return kindOf(sides.update) === 'map' ? 'split' : shortSource(input.update, sides.update)
}

/** The source of a value on one line. */
export function shortSource(document: Document, node: Node): string {
  if (node.type === 'scalar' && node.kind === 'code') return document.text.slice(node.from, node.to).split('\n')[0]!.slice(0, 80)
  if (node.type === 'scalar') return node.kind === 'text' ? String(node.value) : document.text.slice(node.from, node.to) || 'empty'
  return JSON.stringify(toJson(document, node)).replaceAll('"', '').replaceAll(',', ', ')
}

function settingRow(input: SheetInput, entry: Entry, sides: Sides, keys: readonly string[], depth: number): SettingRow {
  const rule = input.rules.find(keys)
  const shown = (document: Document | null, node: Node | null): string | null => (document && node ? shortSource(document, node) : null)
  return {
    ...baseRow(input, entry, sides, keys, depth),
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

function headRow(
  input: SheetInput,
  entry: Entry,
  sides: Sides,
  keys: readonly string[],
  depth: number,
  group: boolean,
  inside: readonly SheetRow[],
): HeadRow {
  const settings = inside.filter((row) => row.type === 'setting')
  return {
    ...baseRow(input, entry, sides, keys, depth),
    type: group ? 'entry' : 'section',
    label: group ? entry.key : plainLabel(entry.key),
    list: group,
    settings: settings.length,
    mineCount: inside.filter((row) => row.type !== 'section' && row.type !== 'entry' && row.mine).length,
  }
}

function removedRow(input: SheetInput, entry: Entry, sides: Sides, keys: readonly string[], depth: number): RemovedRow {
  const inBase = childOf(sides.base, entry.key) !== null
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
    staged: inBase,
    inFactory: true,
    update: null,
    factory: entry.value.type === 'map' ? `a section of ${entry.value.entries.length}` : shortSource(input.factory!, entry.value),
  }
}
