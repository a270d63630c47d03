import {
  authorsComment,
  formatPointer,
  kindOf,
  plainLabel,
  toJson,
  type Document,
  type Entry,
  type ListNode,
  type Node,
  type Rule,
} from '@pasticcio/core'
import { keysOf, type RowSketch, type SheetInput } from './sheet-sketch'

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
