import { readReckoning, type CellChange, type Reckoning } from '@pasticcio/core'
import type { TableCell, TableColumn } from '~/drafts/table-view'
import type { LedgerRow } from '~/utils/ledger-files'

/** A place in the grid, counted among the rows and columns that are shown. */
export interface Spot {
  readonly row: number
  readonly column: number
}

/** Cells between two spots, both among them. */
export interface Range {
  readonly top: number
  readonly bottom: number
  readonly left: number
  readonly right: number
}

export const rangeOf = (a: Spot, b: Spot): Range => ({
  top: Math.min(a.row, b.row),
  bottom: Math.max(a.row, b.row),
  left: Math.min(a.column, b.column),
  right: Math.max(a.column, b.column),
})

/** What is shown of a table: its rows in the order they have here, and the columns with their place in each row. */
export interface Shown {
  readonly rows: readonly LedgerRow[]
  readonly columns: readonly (TableColumn & { readonly at: number })[]
}

export interface Picked {
  readonly row: LedgerRow
  readonly column: Shown['columns'][number]
  readonly cell: TableCell | null
}

export function cellsIn({ rows, columns }: Shown, { top, bottom, left, right }: Range): Picked[] {
  return rows
    .slice(top, bottom + 1)
    .flatMap((row) => columns.slice(left, right + 1).map((column) => ({ row, column, cell: row.cells[column.at] ?? null })))
}

/** A cell before and after a reckoning. */
export interface Reckoned {
  readonly row: string
  readonly column: string
  readonly from: string
  readonly to: string
}

export interface ReckonedCells {
  readonly changes: readonly Reckoned[]
  /** Cells that hold no plain number, and stay. */
  readonly left: number
  /** Cells that are left out, and have what their category says. */
  readonly following: number
  /** Cells whose value stands for something else than a number. */
  readonly said: number
}

/** What a cell has that its row leaves out. */
export type FollowedText = (cell: Picked) => string | null

/**
 * What a reckoning makes of cells. Those that are no plain numbers stay, and so do those that come to the same, stand for
 * something else (-1 for “as the game has it”), or have theirs from a category.
 * @param follow what a cell left out has @param isForAll whether those get a value of their own
 * @throws OperationError where the reckoning is none
 */
export function reckonCells(
  cells: readonly Picked[],
  reckoning: Reckoning,
  follow: FollowedText = () => null,
  isForAll = false,
): ReckonedCells {
  const reckoner = readReckoning(reckoning)
  const changes: Reckoned[] = []
  let [left, following, said] = [0, 0, 0]
  for (const picked of cells) {
    const { row, column, cell } = picked
    const followed = cell ? null : follow(picked)
    if (cell?.says) said++
    if (followed !== null) following++
    if (cell?.says || (followed !== null && !isForAll)) continue
    const from = followed ?? (cell?.editable ? cell.text : null)
    const to = from === null ? null : reckoner.of(from)
    if (from === null || to === null) left++
    else if (to !== from || !cell) changes.push({ row: row.at, column: column.id, from, to })
  }
  return { changes, left, following, said }
}

/** The first row of the range in all of its others. */
export function fillDown(shown: Shown, range: Range): CellChange[] {
  const first = cellsIn(shown, { ...range, bottom: range.top })
  return cellsIn(shown, { ...range, top: range.top + 1 }).flatMap(({ row, column, cell }) => {
    const value = first.find((source) => source.column.id === column.id)?.cell ?? null
    return (cell?.editable ?? true) && value?.editable && value.text !== cell?.text
      ? [{ row: row.at, column: column.id, value: value.text }]
      : []
  })
}

/** What is pasted as a block from one spot on; one value fills a whole range. */
export function pasteBlock(shown: Shown, range: Range, lines: readonly (readonly string[])[]): CellChange[] {
  const single = lines.length === 1 && lines[0]!.length === 1
  const target: Range = single
    ? range
    : { ...range, bottom: range.top + lines.length - 1, right: range.left + Math.max(...lines.map((line) => line.length)) - 1 }
  const top = shown.rows.slice(target.top, target.bottom + 1)
  return top.flatMap((row, i) =>
    shown.columns.slice(target.left, target.right + 1).flatMap((column, j) => {
      const text = single ? lines[0]![0]! : lines[i]?.[j]
      const cell = row.cells[column.at] ?? null
      return text !== undefined && text !== '' && (cell?.editable ?? true) && text !== cell?.text
        ? [{ row: row.at, column: column.id, value: text }]
        : []
    }),
  )
}

/** How rows are put in order: by one column, then by others; numbers by what they come to. */
export interface SortKey {
  /** A column's id; null for the id of the row. */
  readonly column: string | null
  readonly down: boolean
}

export function sortRows(rows: readonly LedgerRow[], columns: readonly TableColumn[], keys: readonly SortKey[]): LedgerRow[] {
  if (keys.length === 0) return [...rows]
  const places = keys.map(({ column, down }) => ({
    at: column === null ? -1 : columns.findIndex(({ id }) => id === column),
    sign: down ? -1 : 1,
  }))
  const text = (row: LedgerRow, at: number): string | null => (at < 0 ? row.id : (row.cells[at]?.text ?? null))
  return [...rows].sort((a, b) => {
    for (const { at, sign } of places) {
      const [x, y] = [text(a, at), text(b, at)]
      // what is left out comes last, whichever way round
      if (x === null || y === null) {
        if (x !== y) return x === null ? 1 : -1
        continue
      }
      const by = COLLATOR.compare(x, y)
      if (by !== 0) return by * sign
    }
    return 0
  })
}
const COLLATOR = new Intl.Collator('en', { numeric: true })

/** What is typed into the cell at the cursor; fresh where it takes the place of what stood there. */
export interface Editing {
  readonly text: string
  readonly isFresh: boolean
}
