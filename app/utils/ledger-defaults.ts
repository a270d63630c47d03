import type { TableCell } from '~/drafts/table-view'
import type { LedgerRow, LedgerTable } from '~/utils/ledger-files'

/** What a row has that does not say so itself: the value of its category. */
export interface Followed {
  /** The category. */
  readonly from: string
  readonly cell: TableCell
}

/** Like things that say what others have unless they say otherwise. */
export interface Defaults {
  readonly table: LedgerTable
  /** Column of the ledger whose values name them; null where the server's list of items does. */
  readonly column: string | null
  /** Of each column of the ledger, the one there; -1 for none. */
  readonly columns: readonly number[]
}

/** The items of the game and their categories, from the server's list. */
export interface Categories {
  /** Null for what the list does not have. */
  of(id: string): string | null
  readonly all: ReadonlySet<string>
}

/** Of the texts of a column, so many have to be names of the other table. */
const MOST = 0.8
const FEWEST_ROWS = 2

/**
 * How rows of one table are the defaults of another: a column names them, or the items' categories do, and they have the
 * same columns, or one value each. Null where they are not.
 */
export function defaultsIn(table: LedgerTable, other: LedgerTable, categories: Categories): Defaults | null {
  if (other.rows.length < FEWEST_ROWS) return null
  const columns = sharedColumns(table, other)
  if (!columns.some((at) => at >= 0)) return null
  const names = new Set(other.rows.map(({ id }) => id))
  const isNamed = (texts: readonly (string | null)[]): boolean => {
    const there = texts.filter((text) => text !== null && text !== '')
    return new Set(there).size > 1 && there.filter((text) => names.has(text!)).length >= MOST * there.length
  }
  for (const [at, { id, kind }] of table.columns.entries()) {
    if (kind !== 'text' || id === table.idColumn) continue
    if (isNamed(table.rows.map(({ cells }) => cells[at]?.text ?? null))) return { table: other, column: id, columns }
  }
  // rows are items, and the other table is of their categories; it need not name all of them
  if (!areItems(table, categories)) return null
  const named = [...names].filter((name) => categories.all.has(name)).length
  return named >= FEWEST_ROWS && named * 2 >= names.size ? { table: other, column: null, columns } : null
}

/** Whether the rows of a table are items of the game; one without rows may become so. */
const areItems = ({ rows, kind }: LedgerTable, categories: Categories): boolean =>
  rows.length === 0 ? kind === 'values' : rows.filter(({ id }) => categories.of(id) !== null).length * 2 > rows.length

/** More kinds of things than this are no categories. */
const MOST_CATEGORIES = 60

/** Whether rows may have something from categories: a column names few things again and again, or the items have some. */
export function mayFollow(table: LedgerTable, categories: Categories): boolean {
  const { rows, columns, idColumn } = table
  const isFew = (texts: readonly (string | null | undefined)[]): boolean => {
    const there = texts.filter((text) => text)
    const kinds = new Set(there).size
    return kinds > 1 && kinds <= MOST_CATEGORIES && kinds * 2 <= there.length
  }
  const named = columns.some(({ id, kind }, at) => kind === 'text' && id !== idColumn && isFew(rows.map(({ cells }) => cells[at]?.text)))
  return named || areItems(table, categories)
}

function sharedColumns(table: LedgerTable, other: LedgerTable): number[] {
  // single values are defaults of single values
  if (table.kind === 'values' && other.kind === 'values') return table.columns.map((_column, at) => (at === 0 ? 0 : -1))
  return table.columns.map(({ id, kind }) => other.columns.findIndex((one) => one.id === id && one.kind === kind && one.id !== ''))
}

/** Rows of defaults as rows of the ledger: with its columns. */
export const defaultRows = ({ table, columns }: Defaults): LedgerRow[] =>
  table.rows.map((row) => ({ ...row, at: `default ${row.at}`, isDefault: true, cells: columns.map((at) => row.cells[at] ?? null) }))

/** Finds what rows have from their category. */
export class Follower {
  private readonly rows: ReadonlyMap<string, LedgerRow>
  private readonly categoryAt: number

  constructor(
    private readonly defaults: Defaults,
    table: LedgerTable,
    private readonly categories: Categories,
  ) {
    this.rows = new Map(defaults.table.rows.map((row) => [row.id, row]))
    this.categoryAt = table.columns.findIndex(({ id }) => id === defaults.column)
  }

  /** The category a row is of; null for none that says anything. */
  category(row: LedgerRow): LedgerRow | null {
    const name = this.defaults.column === null ? this.categories.of(row.id) : row.cells[this.categoryAt]?.text
    return (name && this.rows.get(name)) || null
  }

  /** What a row has in a column that it leaves out; null where nothing says, and for what says it to others. @param at the place of the column */
  follow(row: LedgerRow, at: number): Followed | null {
    if (row.isDefault || row.cells[at]) return null
    const category = this.category(row)
    const cell = category?.cells[this.defaults.columns[at] ?? -1]
    return category && cell ? { from: category.id, cell } : null
  }
}
