import {
  DOTS,
  formatPointer,
  getNode,
  isContainer,
  locate,
  plainLabel,
  readTable,
  saidAbout,
  tableKind,
  tablesIn,
  type Cell,
  type CellKind,
  type Document,
  type Entry,
  type Node,
  type FileFinding,
  type IsListed,
  type LineIndex,
  type Rule,
  type RuleBook,
  type Row,
  type TableKind,
} from '@pasticcio/core'

/** One cell as it is drawn. */
export interface TableCell {
  readonly text: string
  readonly kind: CellKind
  readonly editable: boolean
  /** Whether it is another than the factory's, or the factory has none. */
  readonly mine: boolean
  /** Whether it is another than on the server. */
  readonly staged: boolean
  /** What the factory has here, where that is another; null where it has none. */
  readonly ships?: string | null
  /** What is on the server, where that is another; null where it has none. */
  readonly was?: string | null
  /** What the value stands for, as “as the game has it” for -1. */
  readonly says?: string
}

/** A finding of one cell, by its pointer. */
export interface CellFinding {
  readonly pointer: string
  readonly severity: 'error' | 'warning' | 'note'
  readonly message: string
}

/** What is to be said of one cell. */
export interface CellAbout {
  readonly comment: string
  /** Its line in the file, from 1; 0 where it is not there. */
  readonly line: number
  readonly rule: Rule | null
}

export interface TableColumn {
  readonly id: string
  readonly label: string
  /** The key as the file has it. */
  readonly key: string
  readonly kind: CellKind
  readonly count: number
}

export interface TableRow {
  readonly pointer: string
  readonly id: string
  /** In the order of the columns; null where the row has none. */
  readonly cells: readonly (TableCell | null)[]
  /** Whether the plugin ships such a row. */
  readonly inFactory: boolean
  readonly mine: boolean
  readonly staged: boolean
}

/** A table of a file, with what its rows are made of. */
export interface TableOption {
  readonly pointer: string
  readonly kind: TableKind
  readonly size: number
  readonly columns: readonly string[]
}

/** Where like things stand that can be seen as tables, the most first. */
export const tableOptions = (document: Document, isListed?: IsListed): TableOption[] =>
  tablesIn(document, isListed)
    .map(({ pointer, keys, kind, size }) => ({
      pointer,
      kind,
      size,
      columns: readTable(document, keys, isListed).columns.map(({ id }) => id),
    }))
    .sort((a, b) => b.size - a.size)

/** Like things of the file at hand, with what of each cell is whose. */
export interface TableView {
  readonly pointer: string
  readonly kind: TableKind
  readonly columns: readonly TableColumn[]
  readonly rows: readonly TableRow[]
  /** Where the id of a row stands among its own cells; null where it is the row's name. */
  readonly idColumn: string | null
}

/** What is another than it was told last: rows by their place, and all of them where they moved. */
export interface TableNews extends Omit<TableView, 'rows'> {
  readonly count: number
  readonly rows: readonly { readonly at: number; readonly row: TableRow }[]
  /** Whether these are all rows there are. */
  readonly all: boolean
  readonly findings: readonly CellFinding[]
}

/** What of a table is another than before. */
export function newsOf(before: TableView | null, now: TableView): Omit<TableNews, 'findings'> {
  const { rows, ...rest } = now
  const same = before !== null && before.pointer === now.pointer && before.rows.length === rows.length && sameColumns(before, now)
  const changed = rows.flatMap((row, at) => (same && isSameRow(before.rows[at]!, row) ? [] : [{ at, row }]))
  return { ...rest, rows: changed, count: rows.length, all: !same }
}

const sameColumns = (a: TableView, b: TableView): boolean =>
  a.columns.map(({ id }) => id).join('\n') === b.columns.map(({ id }) => id).join('\n')

const isSameRow = (a: TableRow, b: TableRow): boolean =>
  a.id === b.id &&
  a.pointer === b.pointer &&
  a.mine === b.mine &&
  a.staged === b.staged &&
  a.cells.every((cell, i) => {
    const other = b.cells[i]
    return (
      cell === other ||
      (cell && other && cell.text === other.text && cell.kind === other.kind && cell.mine === other.mine && cell.staged === other.staged)
    )
  })

/** The table with its news. */
export function withNews(before: TableView | null, { count, all, rows, findings: _findings, ...rest }: TableNews): TableView {
  const next = all || !before ? new Array<TableRow>(count) : [...before.rows]
  for (const { at, row } of rows) next[at] = row
  return { ...rest, rows: next }
}

export interface Layers {
  readonly document: Document
  readonly base: Document
  readonly factory: Document | null
  /** What is known of the settings: secrets are shown as dots, and changed in the sheet. */
  readonly rules: RuleBook
  /** Of files the running server writes: what is one of its items, whose values it keeps there. */
  readonly isListed?: IsListed | undefined
}

/** @returns null where no table stands there any more */
export function tableView(
  { document, base, factory, rules, isListed }: Layers,
  pointer: string,
  keys: readonly string[],
): TableView | null {
  const node = getNode(document, keys)
  if (!node || !tableKind(node, isListed)) return null
  const table = readTable(document, keys, isListed)
  const onServer = otherRows(base, keys, isListed)
  const shipped = factory && otherRows(factory, keys, isListed)
  const hasSecrets = rules.knows('secret')
  const hasWords = rules.says
  const ruleOf = (row: Row, column: readonly string[]): Rule | null =>
    hasSecrets || hasWords ? rules.find([...keys, row.key, ...column]) : null
  const rows = table.rows.map((row): TableRow => {
    const was = onServer?.get(row.id)
    const ships = shipped?.get(row.id)
    const cells = table.columns.map(({ id, keys: column }): TableCell | null => {
      const cell = row.cells.get(id)
      if (!cell) return null
      const [own, server] = [ships?.cells.get(id), was?.cells.get(id)]
      const mine = factory !== null && differs(cell, own)
      const staged = differs(cell, server)
      const rule = ruleOf(row, column)
      const isSecret = rule?.means === 'secret'
      const hide = isSecret ? (text: string): string => text && DOTS : (text: string): string => text
      const says = rule?.said?.find(({ value }) => value === cell.text)?.says
      return {
        text: hide(cell.text),
        kind: cell.kind,
        editable: cell.editable && !isSecret,
        mine,
        staged,
        ...(mine ? { ships: own ? hide(own.text) : null } : {}),
        ...(staged ? { was: server ? hide(server.text) : null } : {}),
        ...(says ? { says } : {}),
      }
    })
    const gone = (other: Row | undefined): boolean => [...(other?.cells.keys() ?? [])].some((id) => !row.cells.has(id))
    return {
      pointer: row.pointer,
      id: row.id,
      cells,
      inFactory: ships !== undefined,
      mine: cells.some((cell) => cell?.mine) || (factory !== null && gone(ships)),
      staged: cells.some((cell) => cell?.staged) || gone(was),
    }
  })
  const columns = table.columns.map((column) => ({ id: column.id, ...names(column.keys), kind: column.kind, count: column.count }))
  return { pointer, kind: table.kind, columns, rows, idColumn: table.idColumn }
}

/** So many are told of one table. */
const MOST_FINDINGS = 500

/** Findings of a table's cells, each with the pointer of the innermost setting it stands in. */
export function cellFindings(document: Document, keys: readonly string[], findings: readonly FileFinding[]): CellFinding[] {
  const table = getNode(document, keys)
  if (!table || !isContainer(table)) return []
  const inside = findings.filter(({ from }) => from >= table.from && from < table.to).slice(0, MOST_FINDINGS)
  return inside.map(({ from, severity, message }) => {
    const at = [...keys]
    for (let node: Node = table; isContainer(node);) {
      const entry: Entry | undefined = node.entries.find((one) => from >= one.from && from < Math.max(one.to, one.from + 1))
      if (!entry) break
      at.push(entry.key)
      node = entry.value
    }
    return { pointer: formatPointer(at), severity, message }
  })
}

export function aboutCell(document: Document | null, rules: RuleBook, lines: LineIndex, keys: readonly string[]): CellAbout {
  const entry = document && locate(document, keys)?.entry
  const rule = rules.find(keys)
  const comment = document ? saidAbout(document, keys) : ''
  return { comment: comment || (rule?.says ?? ''), line: entry ? lines.position(entry.from).line : 0, rule }
}

const names = (keys: readonly string[]): { label: string; key: string } =>
  keys.length === 0 ? { label: 'Value', key: '' } : { label: keys.map(plainLabel).join(', '), key: keys.join('.') }

type RowsById = ReadonlyMap<string, Row>

/** What stands on the server and what was shipped stay as they are while a file is edited, and are read once. */
const readBefore = new WeakMap<Document, Map<string, RowsById | null>>()

/** Rows of another text of the file by their ids; null where it has no such table. */
function otherRows(document: Document, keys: readonly string[], isListed?: IsListed): RowsById | null {
  const known = readBefore.get(document) ?? new Map<string, RowsById | null>()
  readBefore.set(document, known)
  const pointer = formatPointer(keys)
  let rows = known.get(pointer)
  if (rows === undefined) {
    const node = getNode(document, keys)
    rows = node && tableKind(node, isListed) ? new Map(readTable(document, keys, isListed).rows.map((row) => [row.id, row])) : null
    known.set(pointer, rows)
  }
  return rows
}

const differs = (cell: Cell, other: Cell | undefined): boolean =>
  !other ||
  (cell.amount !== null && other.amount !== null ? cell.amount !== other.amount : cell.text !== other.text || cell.kind !== other.kind)
