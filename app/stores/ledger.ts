import { defineStore } from 'pinia'
import { previewPaste, type CellChange, type PastePreview, type Reckoning, type Table } from '@pasticcio/core'
import { withNews, type TableRow, type TableView } from '~/drafts/table-view'
import {
  cellsIn,
  fillDown,
  pasteBlock,
  rangeOf,
  reckonCells,
  sortRows,
  type Reckoned,
  type Shown,
  type SortKey,
  type Spot,
} from '~/utils/ledger-range'

/** What was pasted and matched by id, until it is used or left. */
export interface Pasted {
  readonly lines: readonly (readonly string[])[]
  readonly instead: Readonly<Record<string, string>>
  readonly preview: PastePreview
}

const TOP: Spot = { row: 0, column: 0 }

/** Like things of the file at hand as a ledger: what is shown of them, what is selected, and what would become of it. */
export const useLedgerStore = defineStore('ledger', () => {
  const sheet = useSheetStore()
  const drafts = useDraftsStore()
  const pointer = ref('')
  const table = shallowRef<TableView | null>(null)
  const filter = ref('')
  const onlyMine = ref(false)
  const hidden = ref<readonly string[]>([])
  const sort = ref<readonly SortKey[]>([])
  /** Rows by pointer as they were put in order; they stay where they are while somebody edits. */
  const order = shallowRef<readonly string[]>([])
  const cursor = ref<Spot>(TOP)
  const anchor = ref<Spot>(TOP)
  const reckoning = ref<Reckoning | null>(null)
  const pasted = shallowRef<Pasted | null>(null)
  const problem = ref('')
  /** Whose engine told the table that is shown. */
  let told: typeof drafts.current = null

  const columns = computed(() =>
    (table.value?.columns ?? [])
      .map((column, at) => ({ ...column, at }))
      .filter(({ id }) => !hidden.value.includes(id) && id !== table.value?.idColumn),
  )
  const shown = computed<Shown>(() => {
    const byPointer = new Map((table.value?.rows ?? []).map((row) => [row.pointer, row]))
    return { rows: order.value.flatMap((at) => byPointer.get(at) ?? []), columns: columns.value }
  })
  const range = computed(() => rangeOf(cursor.value, anchor.value))
  const selected = computed(() => cellsIn(shown.value, range.value))
  const inFocus = computed(() => cellsIn(shown.value, rangeOf(cursor.value, cursor.value))[0] ?? null)

  /** What a reckoning would make of the selection; empty without one, with the reason where it is none. */
  const reckoned = computed<{ readonly changes: readonly Reckoned[]; readonly left: number; readonly problem: string }>(() => {
    if (!reckoning.value) return { changes: [], left: 0, problem: '' }
    try {
      return { ...reckonCells(selected.value, reckoning.value), problem: '' }
    } catch (error) {
      return { changes: [], left: 0, problem: wordsOf(error) }
    }
  })
  const previewed = computed(() => new Map(reckoned.value.changes.map((change) => [`${change.row} ${change.column}`, change])))

  /** Puts the rows that fit in order. */
  function arrange(): void {
    const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
    const fits = (row: TableRow): boolean => {
      if (onlyMine.value && !row.mine && !row.staged) return false
      const text = [row.id, ...row.cells.map((cell) => cell?.text ?? '')].join(' ').toLowerCase()
      return words.every((word) => text.includes(word))
    }
    order.value = sortRows((table.value?.rows ?? []).filter(fits), table.value?.columns ?? [], sort.value).map((row) => row.pointer)
    select(cursor.value)
  }
  watch([filter, onlyMine, sort], arrange)

  /** Reads the table anew. Rows that came are put at the end, those that went are gone, and the others stay in place. */
  async function read(): Promise<void> {
    const { current } = drafts
    const at = pointer.value
    const fresh = table.value?.pointer !== at || told !== current
    const news = (await current?.engine.table(at, fresh)) ?? null
    if (drafts.current !== current || pointer.value !== at) return
    told = current
    const now = news && withNews(table.value, news)
    table.value = now
    const known = new Set(order.value)
    if (order.value.length === 0) return arrange()
    if (!news?.all) return
    const there = new Set((now?.rows ?? []).map((row) => row.pointer))
    const came = [...there].filter((row) => !known.has(row))
    order.value = [...order.value.filter((row) => there.has(row)), ...came]
  }
  async function open(at: string): Promise<void> {
    pointer.value = at
    filter.value = ''
    onlyMine.value = false
    hidden.value = []
    sort.value = []
    order.value = []
    table.value = null
    leave()
    cursor.value = anchor.value = TOP
    await read()
  }
  drafts.whenText(() => void (table.value && read()))

  function select(spot: Spot, extend = false): void {
    const last = { row: shown.value.rows.length - 1, column: columns.value.length - 1 }
    cursor.value = {
      row: Math.max(0, Math.min(last.row, spot.row)),
      column: Math.max(0, Math.min(last.column, spot.column)),
    }
    if (!extend) anchor.value = cursor.value
  }
  const move = (rows: number, across: number, extend = false): void =>
    select({ row: cursor.value.row + rows, column: cursor.value.column + across }, extend)

  async function write(changes: readonly CellChange[]): Promise<boolean> {
    if (changes.length === 0) return true
    problem.value = ''
    const isDone = (await sheet.draft?.operate({ kind: 'cells', pointer: pointer.value, changes })) ?? false
    if (isDone) return true
    problem.value = sheet.problem
    // what was shown at once did not come to be
    told = null
    await read()
    return false
  }
  /** What is typed stands in its cell before the file has answered. */
  function showAtOnce(row: TableRow, column: string, text: string): void {
    const now = table.value
    const at = now?.columns.findIndex(({ id }) => id === column) ?? -1
    const cell = row.cells[at]
    if (!now || !cell) return
    const next = {
      ...row,
      staged: true,
      cells: row.cells.map((other, i) => (i === at ? { ...cell, text, staged: true, was: cell.was ?? cell.text } : other)),
    }
    table.value = { ...now, rows: now.rows.map((other) => (other === row ? next : other)) }
  }
  /** What is typed into the cell at the cursor; nothing takes it out of its row. */
  function type(text: string): Promise<boolean> {
    const at = inFocus.value
    if (!at || text === (at.cell?.text ?? '')) return Promise.resolve(true)
    const value = text === '' && at.cell?.kind !== 'text' ? null : text
    showAtOnce(at.row, at.column.id, text)
    return write([{ row: at.row.pointer, column: at.column.id, value }])
  }
  const clear = (): Promise<boolean> =>
    write(
      selected.value
        .filter(({ cell }) => cell?.editable && table.value?.kind !== 'values')
        .map(({ row, column }) => ({ row: row.pointer, column: column.id, value: null })),
    )
  const fill = (): Promise<boolean> => write(fillDown(shown.value, range.value))
  async function takeReckoning(): Promise<void> {
    if (await write(reckoned.value.changes.map(({ row, column, to }) => ({ row, column, value: to })))) reckoning.value = null
  }

  /** What was pasted: rows that begin with ids of this table wait for a look; anything else goes where the cursor is. */
  async function paste(lines: readonly (readonly string[])[]): Promise<void> {
    const ids = new Set((table.value?.rows ?? []).map(({ id }) => id))
    const named = lines.filter((line) => line.length > 1 && ids.has(line[0]!.trim()))
    if (named.length * 2 > lines.length - 1 && named.length > 0) match(lines, {})
    else await write(pasteBlock(shown.value, range.value, lines))
  }
  function match(lines: readonly (readonly string[])[], instead: Readonly<Record<string, string>>): void {
    const preview = previewPaste(asTable(table.value!), lines, { instead, columns: columns.value.map(({ id }) => id) })
    pasted.value = { lines, instead, preview }
  }
  /** Takes an unknown id for one of the table. */
  function useInstead(ids: Readonly<Record<string, string>>): void {
    if (pasted.value) match(pasted.value.lines, { ...pasted.value.instead, ...ids })
  }
  async function takePaste(): Promise<void> {
    if (pasted.value && (await write(pasted.value.preview.changes))) pasted.value = null
  }
  /** Takes back what waits to be used. */
  function leave(): void {
    reckoning.value = null
    pasted.value = null
    problem.value = ''
  }

  return {
    pointer,
    table,
    filter,
    onlyMine,
    hidden,
    sort,
    cursor,
    anchor,
    columns,
    shown,
    range,
    selected,
    inFocus,
    reckoning,
    reckoned,
    previewed,
    pasted,
    problem,
    open,
    arrange,
    select,
    move,
    type,
    clear,
    fill,
    takeReckoning,
    paste,
    useInstead,
    takePaste,
    leave,
  }
})

/** The same as the core's own, for matching. */
function asTable({ kind, columns, rows, idColumn }: TableView): Table {
  return {
    keys: [],
    kind,
    idColumn,
    columns: columns.map(({ id, key, kind: of, count }) => ({ id, keys: key === '' ? [] : key.split('.'), kind: of, count })),
    rows: rows.map(({ pointer, id, cells }) => ({
      key: id,
      pointer,
      id,
      cells: new Map(
        columns.flatMap(({ id: column }, i) => {
          const cell = cells[i]
          return cell ? [[column, { text: cell.text, kind: cell.kind, editable: cell.editable, amount: null }] as const] : []
        }),
      ),
    })),
  }
}
