import { isSameNumber } from './reckon'
import type { CellChange } from './cells'
import type { Table } from './read'

/** A row of what was pasted whose id no row of the table has. */
export interface UnknownRow {
  /** Counted from 0, without a head. */
  readonly line: number
  readonly id: string
  /** The id of the table that is most like it; null where none is. */
  readonly nearest: string | null
}

/** What pasting would do. */
export interface PastePreview {
  /** Columns of the table that what was pasted has, in its order; null for one that the table has not. */
  readonly columns: readonly (string | null)[]
  readonly changes: readonly CellChange[]
  /** Whether the first line is a head that names columns. */
  readonly hasHead: boolean
  /** Cells that hold the same already. */
  readonly same: number
  readonly unknown: readonly UnknownRow[]
  /** Rows with a known id. */
  readonly matched: number
  /** Rows whose id stands in several files or sections, and that do not say which is meant. */
  readonly several: readonly { readonly line: number; readonly id: string; readonly places: readonly string[] }[]
}

export interface PasteOptions {
  /** The columns after the id, where what was pasted has no head line. */
  readonly columns?: readonly string[]
  /** Ids to take for others, as somebody chose for unknown ones. */
  readonly instead?: Readonly<Record<string, string>>
  /** What file or section each row is in, by its pointer, where there are several. */
  readonly places?: ReadonlyMap<string, string>
  /** Whether a row whose id stands in several goes into all of them. */
  readonly intoAll?: boolean
}

/**
 * What rows from elsewhere change in a table: the first cell of each is the id of the row it is for. A first line whose
 * cells name columns is a head. Empty cells change nothing.
 * @param lines cells as texts, as a spreadsheet gives them
 */
export function previewPaste(table: Table, lines: readonly (readonly string[])[], options: PasteOptions = {}): PastePreview {
  const filled = lines.filter((line) => line.some((cell) => cell.trim() !== ''))
  const { head, placeAt } = shapeOf(table, filled, options.places)
  const columns = head ?? withGap(options.columns ?? table.columns.filter(({ id }) => id !== table.idColumn).map(({ id }) => id), placeAt)
  const rows = new Map<string, string[]>()
  for (const { id, pointer } of table.rows) rows.set(id, [...(rows.get(id) ?? []), pointer])
  const cells = new Map(table.rows.map((row) => [row.pointer, row.cells]))
  const [changes, unknown, several]: [CellChange[], UnknownRow[], { line: number; id: string; places: string[] }[]] = [[], [], []]
  let [same, matched] = [0, 0]
  filled.slice(head ? 1 : 0).forEach((line, i) => {
    const id = line[0]!.trim()
    const place = placeAt === null ? null : (line[placeAt]?.trim() ?? '')
    const found = rows.get(options.instead?.[id] ?? id)
    const own = found && place ? found.filter((row) => options.places?.get(row) === place) : found
    if (!own || own.length === 0)
      return void unknown.push({ line: i, id, nearest: !found && unknown.length < MOST_COMPARED ? nearestOf(id, rows.keys()) : null })
    if (own.length > 1 && !options.intoAll)
      return void several.push({ line: i, id, places: own.map((row) => options.places?.get(row) ?? '') })
    matched++
    for (const row of own)
      columns.forEach((column, at) => {
        const text = line[at + 1]?.trim() ?? ''
        if (column === null || text === '') return
        const now = cells.get(row)!.get(column)
        if (now && (now.text === text || (now.kind === 'number' && isSameNumber(now.text, text)))) same++
        else if (now?.editable ?? true) changes.push({ row, column, value: text })
      })
  })
  return { columns, hasHead: head !== null, changes, same, unknown, matched, several }
}

/** What the first line says of the columns, and which of them names the file or section of a row, counted with the id's. */
function shapeOf(
  table: Table,
  lines: readonly (readonly string[])[],
  places: ReadonlyMap<string, string> | undefined,
): { readonly head: readonly (string | null)[] | null; readonly placeAt: number | null } {
  const head = headOf(table, lines[0] ?? [])
  if (!places) return { head, placeAt: null }
  const names = new Set(places.values())
  const width = Math.max(0, ...lines.map((line) => line.length))
  const body = lines.slice(head ? 1 : 0)
  for (let at = 1; at < width; at++) {
    if (head?.[at - 1]) continue
    if (body.length > 0 && body.filter((line) => names.has(line[at]?.trim() ?? '')).length * 2 >= body.length) return { head, placeAt: at }
  }
  return { head, placeAt: null }
}

const withGap = (columns: readonly string[], at: number | null): readonly (string | null)[] =>
  at === null ? columns : [...columns.slice(0, at - 1), null, ...columns.slice(at - 1)]

/** Of so many unknown ids what is most like them is looked for: where there are more, it is another table. */
const MOST_COMPARED = 100

/** The columns that a head line names after its first cell; null where it is no head. */
function headOf({ columns, rows }: Table, line: readonly string[]): (string | null)[] | null {
  const plain = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')
  const byName = new Map(columns.flatMap(({ id, keys }) => [[plain(keys.join('')), id] as const, [plain(keys.at(-1) ?? ''), id] as const]))
  const named = line.slice(1).map((cell) => byName.get(plain(cell)) ?? null)
  const isRow = rows.some(({ id }) => id === line[0]?.trim())
  return !isRow && named.some((id) => id !== null) ? named : null
}

/** Of two letters more or less, at most a third of the id may differ. */
const MOST_DIFFERENT = 1 / 3

function nearestOf(id: string, ids: Iterable<string>): string | null {
  let best: { readonly id: string; readonly far: number } | null = null
  for (const other of ids) {
    const most = Math.min(best?.far ?? Infinity, Math.floor(Math.max(id.length, other.length) * MOST_DIFFERENT) + 1)
    if (Math.abs(id.length - other.length) >= most) continue
    const far = distance(id, other, most)
    if (far < most) best = { id: other, far }
  }
  return best?.id ?? null
}

/**
 * How many letters have to be changed, added, left out or swapped with the next one to make one text of another
 * (Damerau–Levenshtein, restricted); `most` where it is at least that.
 */
function distance(a: string, b: string, most: number): number {
  let [before, last]: [number[], number[]] = [[], Array.from({ length: b.length + 1 }, (_x, i) => i)]
  for (let i = 1; i <= a.length; i++) {
    const row = [i]
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1
      row[j] = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + cost)
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) row[j] = Math.min(row[j]!, before[j - 2]! + 1)
    }
    if (Math.min(...row) >= most) return most
    ;[before, last] = [last, row]
  }
  return last[b.length]!
}
