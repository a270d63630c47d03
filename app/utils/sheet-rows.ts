import {
  DOTS,
  amountOf,
  authorsComment,
  formatPointer,
  kindOf,
  plainLabel,
  tableKind,
  toJson,
  type Document,
  type Node,
  type Rule,
} from '@pasticcio/core'
import { controlFor, type ControlKind } from './control-kinds'
import { rackBeside, shareOf, waitsFor, type Rack } from './row-neighbours'
import { keysOf, type RowSketch, type SheetInput } from './sheet-sketch'

export type { ControlKind }

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
  /** What each source says of it. */
  readonly rules: readonly Rule[]
  /** What the value comes to, where it is a number, also one of arithmetic. */
  readonly amount: number | null
  /** Why it does not count now; null where it does. */
  readonly waits: string | null
  /** Of a weight: its share of all, in percent. */
  readonly share: number | null
  /** Of slots: what lies in each. */
  readonly rack: Rack | null
}

export interface HeadRow extends BaseRow {
  readonly type: 'section' | 'entry'
  readonly settings: number
  readonly mineCount: number
  /** Whether entries can be duplicated and taken out here. */
  readonly list: boolean
  /** Whether what is in it are like things, which can be seen as a ledger. */
  readonly table: boolean
}

/** A setting the factory copy has and mine has not. */
export interface RemovedRow extends BaseRow {
  readonly type: 'removed'
  readonly factory: string
}

/** A setting that stands in a comment. */
export interface OffRow extends BaseRow {
  readonly type: 'off'
  /** Its value in the comment. */
  readonly source: string
}

/** What stands on a line of its own. */
export type LineRow = SettingRow | RemovedRow | OffRow
export type SheetRow = LineRow | HeadRow

/** A row with everything that is shown of it. */
export function rowOf(input: SheetInput, row: RowSketch): SheetRow {
  if (row.type === 'removed') return removedRow(input, row)
  if (row.type === 'off') return offRow(input, row)
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
  const isSecret = rule?.means === 'secret'
  const shown = (document: Document | null, node: Node | null): string | null =>
    document && node ? (isSecret ? DOTS : shortSource(document, node)) : null
  const base = baseRow(input, row, keys)
  return {
    ...base,
    // what the author declares is said where the file has no words of its own
    label: rule?.title ?? base.label,
    comment: base.comment || (rule?.says ?? ''),
    update: isSecret && base.update !== null ? DOTS : base.update,
    type: 'setting',
    control: controlFor(input.document, entry, rule),
    value: toJson(input.document, entry.value),
    source: shortSource(input.document, entry.value),
    factory: shown(input.factory, sides.factory),
    onServer: shown(input.base, sides.base),
    rule,
    rules: input.rules.said(keys),
    amount: amountOf(input.document, entry.value),
    waits: waitsFor(input, keys, rule),
    share: rule?.means === 'weight' ? shareOf(row) : null,
    rack: rule?.means === 'slot' ? rackBeside(input, row, rule) : null,
  }
}

function headRow(input: SheetInput, row: RowSketch): HeadRow {
  const group = row.type === 'entry'
  return {
    ...baseRow(input, row, keysOf(row)),
    type: group ? 'entry' : 'section',
    label: group ? row.entry.key : plainLabel(row.entry.key),
    list: group,
    table: tableKind(row.entry.value) !== null,
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

function offRow(input: SheetInput, row: RowSketch): OffRow {
  const { source, comment } = row.off!
  return { ...baseRow(input, row, keysOf(row)), type: 'off', source, comment }
}
