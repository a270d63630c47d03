import { formatPointer, parsePointer } from '@pasticcio/core'
import type { TableCell, TableColumn, TableOption, TableRow, TableView } from '~/drafts/table-view'

/** Where rows of a ledger come from: like things of one file. */
export interface LedgerSource {
  readonly path: string
  readonly pointer: string
}

/** A row with the file it is in. */
export interface LedgerRow extends TableRow {
  /** Names it among the rows of all files. */
  readonly at: string
  readonly source: LedgerSource
  /** What tells its file or section from the others, in a word; empty where there is one alone. */
  readonly place: string
  /** Whether it says what others have unless they say otherwise. */
  readonly isDefault?: boolean
}

/** Like things of one file or several as one table. */
export interface LedgerTable extends Omit<TableView, 'rows' | 'pointer'> {
  readonly rows: readonly LedgerRow[]
}

/** What was read of one source. */
export interface ReadSource extends LedgerSource {
  readonly view: TableView
}

const baseName = (path: string): string => path.slice(path.lastIndexOf('/') + 1).replace(/\.[^.]*$/, '')
/** What tells sources apart: their files, else the sections of the one file. */
export function placesOf(sources: readonly LedgerSource[]): string[] {
  if (sources.length < 2) return sources.map(() => '')
  const files = new Set(sources.map(({ path }) => path))
  if (files.size > 1) return sources.map(({ path }) => baseName(path))
  const parts = sources.map(({ pointer }) => parsePointer(pointer) ?? [])
  // `/stalls/quay/goods` and `/stalls/kiln/goods` differ before their ends
  const at = parts[0]!.findLastIndex((part, i) => parts.some((other) => other[i] !== part))
  return parts.map((part) => part.at(at) ?? '')
}

/** Rows as they were merged last, so that those that stay are the same objects. */
export class LedgerMerge {
  private readonly known = new Map<string, { readonly mapping: string; readonly rows: WeakMap<TableRow, LedgerRow> }>()

  /** One table of several; columns of the same name are one. */
  merge(read: readonly ReadSource[]): LedgerTable | null {
    const [first] = read
    if (!first) return null
    const columns = mergedColumns(read.map(({ view }) => view.columns))
    const places = placesOf(read)
    const rows = read.flatMap(({ path, pointer, view }, i) => {
      const index = new Map(view.columns.map(({ id }, at) => [id, at]))
      const mapping = columns.map(({ id }) => index.get(id) ?? -1)
      const name = `${i} ${path} ${pointer} ${places[i]!}`
      const cache = this.cacheOf(name, mapping.join())
      const source = { path, pointer }
      return view.rows.map((row) => {
        let merged = cache.get(row)
        if (!merged)
          cache.set(row, (merged = { ...row, cells: cellsBy(mapping, row), at: `${i} ${row.pointer}`, source, place: places[i]! }))
        return merged
      })
    })
    const idColumn = read.every(({ view }) => view.idColumn === first.view.idColumn) ? first.view.idColumn : null
    return { kind: first.view.kind, columns, rows, idColumn }
  }

  private cacheOf(name: string, mapping: string): WeakMap<TableRow, LedgerRow> {
    const known = this.known.get(name)
    if (known?.mapping === mapping) return known.rows
    const rows = new WeakMap<TableRow, LedgerRow>()
    this.known.set(name, { mapping, rows })
    return rows
  }
}

const cellsBy = (mapping: readonly number[], { cells }: TableRow): readonly (TableCell | null)[] =>
  mapping.every((at, i) => at === i) && mapping.length === cells.length ? cells : mapping.map((at) => cells[at] ?? null)

function mergedColumns(all: readonly (readonly TableColumn[])[]): TableColumn[] {
  const merged: TableColumn[] = []
  for (const columns of all) {
    let after = -1
    for (const column of columns) {
      const at = merged.findIndex(({ id }) => id === column.id)
      if (at < 0) merged.splice(++after, 0, column)
      else merged[(after = at)] = { ...merged[at]!, count: merged[at]!.count + column.count }
    }
  }
  return merged
}

/** So many rows have to be things the server lists, before the others of its list stand beside them. */
const MOST_LISTED = 0.6

/**
 * Rows for what the server lists and a table of single values does not have: each can be given one. None where the table is
 * of something else.
 */
export function absentRows(table: LedgerTable, source: LedgerSource, listed: readonly string[]): LedgerRow[] {
  const names = new Set(table.rows.map(({ id }) => id))
  const known = listed.filter((id) => names.has(id)).length
  if (table.kind !== 'values' || known < MOST_LISTED * names.size || (known === 0 && names.size > 0)) return []
  return listed
    .filter((id) => !names.has(id))
    .map((id) => {
      const pointer = source.pointer + formatPointer([id])
      const cells = table.columns.map(() => null)
      return { id, pointer, at: `+${id}`, source, place: '', cells, inFactory: false, mine: false, staged: false }
    })
}

/** Tables that can be seen as one, by a pointer in which `*` stands for what tells them apart. */
export interface TableSet {
  readonly pattern: string
  readonly pointers: readonly string[]
  readonly size: number
}

/** Whether rows of two tables are made of much the same. */
export function areAlike(a: Pick<TableOption, 'kind' | 'columns'>, b: Pick<TableOption, 'kind' | 'columns'>): boolean {
  if (a.kind !== b.kind) return false
  const shared = a.columns.filter((id) => b.columns.includes(id)).length
  return shared * 2 > Math.max(a.columns.length, b.columns.length)
}

/** Tables of one file that differ in one key of their pointers, and are made of the same. */
export function setsOf(tables: readonly TableOption[]): TableSet[] {
  const byPattern = new Map<string, TableOption[]>()
  for (const table of tables) {
    const parts = table.pointer.split('/')
    for (let i = 1; i < parts.length; i++) {
      const pattern = parts.map((part, at) => (at === i ? '*' : part)).join('/')
      byPattern.set(pattern, [...(byPattern.get(pattern) ?? []), table])
    }
  }
  return [...byPattern].flatMap(([pattern, all]) => {
    const alike = all.filter((table) => areAlike(table, all[0]!))
    return alike.length < 2
      ? []
      : [{ pattern, pointers: alike.map(({ pointer }) => pointer), size: alike.reduce((sum, { size }) => sum + size, 0) }]
  })
}

/** Files beside one that may hold like things: in the same folder, with the same ending. */
export function filesBeside(path: string, files: readonly string[]): string[] {
  const folder = path.slice(0, path.lastIndexOf('/') + 1)
  const ending = path.slice(path.lastIndexOf('.'))
  return files.filter((file) => file.startsWith(folder) && !file.slice(folder.length).includes('/') && file.endsWith(ending)).sort()
}
