import { OperationError } from '../formats/error'
import { addEntry, removeEntry, setValue } from '../formats/operations'
import { parseLike } from '../formats/registry'
import { applyEdits, type Edit } from '../text/edits'
import type { Document } from '../tree/nodes'
import { formatPointer, getNode, locate, parsePointer } from '../tree/pointer'
import { NumberText, type Value } from '../tree/values'
import { readDecimal } from './decimal'

/** What one cell shall hold, as it is typed; null takes it out of its row. */
export interface CellChange {
  /** The row's JSON Pointer. */
  readonly row: string
  /** The column's id: the JSON Pointer below the row. */
  readonly column: string
  readonly value: string | null
}

/**
 * Writes cells: the text that comes of setting one after the other, with nothing else touched. Of several for one cell the
 * last counts. Null takes a cell out of its row, and a cell that a row has not is added to it.
 * @throws OperationError naming the cell and what is wrong
 */
export function writeCells(document: Document, changes: readonly CellChange[]): string {
  const last = new Map(changes.map((change) => [`${change.row} ${change.column}`, change] as const))
  let now = document
  for (const batch of batchesOf(document, [...last.values()])) {
    const text = applyEdits(
      now.text,
      batch.flatMap((change) => editsFor(now, change)),
    )
    if (text !== now.text) now = parseLike(document, text)
  }
  return now.text
}

/**
 * What can be written at once: all cells that stand there and stay, whatever their number; then of what comes and goes one
 * in each row, as two would meet at one place.
 */
function batchesOf(document: Document, changes: readonly CellChange[]): CellChange[][] {
  const batches: CellChange[][] = [[]]
  const inRow = new Map<string, number>()
  for (const change of changes) {
    const stays = change.value !== null && locate(document, keysOf(change)) !== null
    const at = stays ? 0 : (inRow.get(change.row) ?? 0) + 1
    if (!stays) inRow.set(change.row, at)
    ;(batches[at] ??= []).push(change)
  }
  return batches
}

const keysOf = ({ row, column }: CellChange): string[] => [...(parsePointer(row) ?? []), ...(parsePointer(column) ?? [])]

function editsFor(document: Document, change: CellChange): Edit[] {
  const keys = keysOf(change)
  const { value } = change
  const isThere = locate(document, keys) !== null
  if (value === null) return isThere ? removeEntry(document, keys) : []
  if (isThere) return setValue(document, keys, typed(document, keys, value))
  const parent = keys.slice(0, -1)
  if (!getNode(document, parent))
    throw new OperationError('no-such-setting', `there is no ${formatPointer(parent) || 'file'} to put ${keys.at(-1)} into`)
  return addEntry(document, parent, keys.at(-1)!, plainValue(document, value))
}

/** What is typed into a cell, of the kind the cell has now. */
function typed(document: Document, keys: readonly string[], text: string): Value {
  const node = getNode(document, keys)
  if (node?.type !== 'scalar')
    throw new OperationError('cannot-hold', `${formatPointer(keys)} has parts of its own, which a row cannot hold`)
  return node.kind === 'text' ? text : plainValue(document, text)
}

/** What is typed for something new: a number or a switch where it looks like one. */
function plainValue({ traits }: Document, text: string): Value {
  if (traits.values === 'text') return text
  if (text === 'true' || text === 'false') return text === 'true'
  return readDecimal(text) ? new NumberText(text) : text
}
