import { OperationError } from '../formats/error'
import { amountOf } from '../tree/compare'
import { isContainer, isNameless, type Document, type Entry, type Node } from '../tree/nodes'
import { formatPointer, getNode, parsePointer } from '../tree/pointer'
import { rowsIn, tableKind, type IsListed, type TableKind } from './tables'

export type CellKind = 'number' | 'text' | 'bool' | 'null' | 'code' | 'list' | 'parts'

/** One value of a row as it stands in the file. */
export interface Cell {
  readonly kind: CellKind
  /** As it is written, without quotes; of a list its items with commas; of what has parts of its own how many. */
  readonly text: string
  /** What a number comes to; null for anything else. */
  readonly amount: number | null
  /** Whether it can be changed here. */
  readonly editable: boolean
}

export interface Column {
  /** The keys below the row; none where the row itself is the value. */
  readonly keys: readonly string[]
  /** The same as a JSON Pointer, which names the column. */
  readonly id: string
  /** The kind most of its cells have. */
  readonly kind: CellKind
  /** How many rows have it. */
  readonly count: number
}

export interface Row {
  /** The row's own key: its name, or its place in a list. */
  readonly key: string
  readonly pointer: string
  /** What people call it: its name, or in a list what tells it from the others. */
  readonly id: string
  /** Cells by column. */
  readonly cells: ReadonlyMap<string, Cell>
}

export interface Table {
  readonly keys: readonly string[]
  readonly kind: TableKind
  readonly columns: readonly Column[]
  readonly rows: readonly Row[]
  /** The column that the ids of its rows stand in; null where they are names. */
  readonly idColumn: string | null
}

/** The column of a table of single values that has none yet. */
const NO_VALUES: Column = { keys: [], id: '', kind: 'number', count: 0 }

/** Sections in a row are followed so deep; what is deeper is counted. */
const DEEPEST = 3

/** Reads like things as a table. @throws OperationError `not-a-section` for what is no table (tableKind) */
export function readTable(document: Document, keys: readonly string[], isListed?: IsListed): Table {
  const node = getNode(document, keys)
  const kind = node && tableKind(node, isListed)
  if (!node || !isContainer(node) || !kind)
    throw new OperationError('not-a-section', `${formatPointer(keys) || 'the file'} holds no like things`)
  const read = rowsIn(node).map((entry) => ({ entry, cells: cellsOf(document, entry) }))
  const found = columnsOf(read.map(({ cells }) => cells))
  const columns = kind === 'values' && found.length === 0 ? [NO_VALUES] : found
  const idColumn =
    kind === 'list'
      ? idColumnOf(
          columns,
          read.map(({ cells }) => cells),
        )
      : null
  const rows = read.map(({ entry, cells }): Row => ({
    key: entry.key,
    pointer: formatPointer([...keys, entry.key]),
    id: (idColumn === null ? undefined : cells.get(idColumn)?.text) ?? entry.key,
    cells,
  }))
  return { keys, kind, columns, rows, idColumn }
}

function cellsOf(document: Document, row: Entry): ReadonlyMap<string, Cell> {
  const cells = new Map<string, Cell>()
  const look = (node: Node, keys: readonly string[]): void => {
    const isSection = node.type === 'map' && node.entries.length > 0
    if (isSection && keys.length < DEEPEST && (keys.length === 0 || !tableKind(node)))
      for (const entry of node.entries) {
        if (!isNameless(entry)) look(entry.value, [...keys, entry.key])
      }
    else cells.set(formatPointer(keys), cellOf(document, node))
  }
  look(row.value, [])
  return cells
}

function cellOf(document: Document, node: Node): Cell {
  if (node.type === 'scalar') {
    const text = node.kind === 'text' ? String(node.value) : document.text.slice(node.from, node.to)
    return { kind: node.kind, text, amount: amountOf(document, node), editable: node.kind !== 'code' }
  }
  if (node.type === 'list' && node.entries.every(({ value }) => value.type === 'scalar')) {
    const items = node.entries.map(({ value }) => cellOf(document, value).text)
    return { kind: 'list', text: items.join(', '), amount: null, editable: false }
  }
  return { kind: 'parts', text: isContainer(node) ? String(node.entries.length) : '', amount: null, editable: false }
}

/** Columns in the order rows bring them: what a row adds stands behind what it follows there. */
function columnsOf(rows: readonly ReadonlyMap<string, Cell>[]): readonly Column[] {
  const order: string[] = []
  const kinds = new Map<string, Map<CellKind, number>>()
  for (const cells of rows) {
    let after = -1
    for (const [id, { kind }] of cells) {
      if (!kinds.has(id)) {
        order.splice(after + 1, 0, id)
        kinds.set(id, new Map())
      }
      const counts = kinds.get(id)!
      counts.set(kind, (counts.get(kind) ?? 0) + 1)
      after = order.indexOf(id)
    }
  }
  return order.map((id) => {
    const counts = [...kinds.get(id)!]
    const count = counts.reduce((sum, [, n]) => sum + n, 0)
    return { id, keys: parsePointer(id) ?? [], kind: counts.sort((a, b) => b[1] - a[1])[0]![0], count }
  })
}

const ID_NAMES = ['id', 'key', 'code', 'item', 'name', 'title']

/** The column whose texts tell all rows apart, one that is called so before others. */
function idColumnOf(columns: readonly Column[], rows: readonly ReadonlyMap<string, Cell>[]): string | null {
  const rank = ({ keys }: Column): number => {
    const at = ID_NAMES.indexOf(keys.at(-1)?.toLowerCase() ?? '')
    return at < 0 ? ID_NAMES.length : at
  }
  const able = columns.filter(({ id, kind, count }) => {
    if (kind !== 'text' || count < rows.length) return false
    const texts = rows.map((cells) => cells.get(id)!.text)
    return new Set(texts).size === texts.length && !texts.includes('')
  })
  return able.sort((a, b) => rank(a) - rank(b))[0]?.id ?? null
}
