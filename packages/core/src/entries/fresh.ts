import { nameWords } from '../carry/likeness'
import { readTable, type Column, type Row } from '../ledger/read'
import { rowsIn, tableKind } from '../ledger/tables'
import type { RuleBook } from '../rules/book'
import { isContainer, type Document } from '../tree/nodes'
import { getNode } from '../tree/pointer'

/** A number that every entry has for itself, chosen anew for a copy. */
export interface ChosenValue {
  /** The column's id: a JSON Pointer below the entry. */
  readonly column: string
  readonly from: string
  readonly to: string
}

/** What of a copy has to be another than in the entry it is one of. */
export interface Fresh {
  readonly chosen: readonly ChosenValue[]
  /** Columns whose texts tell all entries apart, so that the copy should say something else. */
  readonly differ: readonly string[]
}

const FEWEST_TEXTS = 3
const NUMBERED = new Set(['id', 'number', 'no', 'nr', 'index', 'order', 'slot', 'position', 'port'])

/** What of a copy of one entry of a group has to be another. @param group the keys of the section or list it is in */
export function freshValues(document: Document, group: readonly string[], key: string, book: RuleBook): Fresh {
  const node = getNode(document, group)
  if (!node || !isContainer(node) || !tableKind(node) || rowsIn(node).length < 2) return { chosen: [], differ: [] }
  const { columns, rows, idColumn } = readTable(document, group)
  const own = rows.find((row) => row.key === key)
  const chosen: ChosenValue[] = []
  const differ: string[] = []
  for (const column of columns) {
    const cell = own?.cells.get(column.id)
    if (!cell?.editable || column.id === '' || column.id === idColumn || !areAllDifferent(column, rows)) continue
    const rule = book.find([...group, key, ...column.keys])
    if (column.kind === 'number') {
      const to = isNumbered(column, rows, rule?.means) ? freeNumber(column, rows, rule ?? {}) : null
      if (to !== null) chosen.push({ column: column.id, from: cell.text, to })
    } else if (column.kind === 'text' && rows.length >= FEWEST_TEXTS && cell.text !== '') differ.push(column.id)
  }
  return { chosen, differ }
}

function areAllDifferent({ id, count }: Column, rows: readonly Row[]): boolean {
  if (count < rows.length) return false
  return new Set(rows.map(({ cells }) => cells.get(id)!.text)).size === rows.length
}

const amounts = (id: string, rows: readonly Row[]): number[] => rows.map(({ cells }) => cells.get(id)!.amount ?? NaN).sort((a, b) => a - b)

/** Whether a number says which of them an entry is: its name or its rule says so, or they go up in even steps. */
function isNumbered(column: Column, rows: readonly Row[], means: string | undefined): boolean {
  const all = amounts(column.id, rows)
  if (!all.every(Number.isSafeInteger)) return false
  if (means === 'slot' || means === 'port' || means === 'id') return true
  if (NUMBERED.has(nameWords(column.keys.at(-1) ?? '').at(-1) ?? '')) return true
  return rows.length >= FEWEST_TEXTS && all.every((amount, i) => i === 0 || amount - all[i - 1]! === 1)
}

interface Bounds {
  readonly means?: string
  readonly first?: number
  readonly min?: number
  readonly max?: number
}

/** The number that comes next, or the first that is free where that is too large; null where all are taken. */
function freeNumber({ id }: Column, rows: readonly Row[], { means, first, min, max }: Bounds): string | null {
  const all = amounts(id, rows)
  const taken = new Set(all)
  const lowest = first ?? min ?? Math.min(0, all[0]!)
  const next = all.at(-1)! + 1
  // slots fill up from the first one; numbers that count go on after the last
  if (means !== 'slot' && next <= (max ?? Infinity)) return String(next)
  for (let free = lowest; free <= Math.min(max ?? Infinity, next); free++) if (!taken.has(free)) return String(free)
  return null
}
