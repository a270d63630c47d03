import { defineStore } from 'pinia'
import { previewPaste, type CellChange, type PastePreview, type Reckoning, type Table } from '@pasticcio/core'
import {
  cellsIn,
  fillDown,
  pasteBlock,
  rangeOf,
  reckonCells,
  sortRows,
  type Picked,
  type ReckonedCells,
  type Shown,
  type SortKey,
  type Spot,
} from '~/utils/ledger-range'
import type { LedgerRow, LedgerTable } from '~/utils/ledger-files'
import type { LedgerView } from '~/stores/ledger-tables'

/** What was pasted and matched by id, until it is used or left. */
export interface Pasted {
  readonly lines: readonly (readonly string[])[]
  readonly instead: Readonly<Record<string, string>>
  readonly intoAll: boolean
  readonly preview: PastePreview
}

/** One in so many rows that begins with an id tells that all of them do. */
const SOME = 3
const TOP: Spot = { row: 0, column: 0 }
const NOTHING: ReckonedCells = { changes: [], left: 0, following: 0, said: 0 }

/** Like things as a ledger: what is shown of them, what is selected, and what would become of it. */
export const useLedgerStore = defineStore('ledger', () => {
  const drafts = useDraftsStore()
  const tables = useLedgerTablesStore()
  const table = computed(() => tables.table)
  const filter = ref('')
  /** The file or section whose rows are shown; empty for all. */
  const place = ref('')
  const onlyMine = ref(false)
  const withFindings = ref(false)
  const hidden = ref<readonly string[]>([])
  const sort = ref<readonly SortKey[]>([])
  /** Rows by `at` as they were put in order; they stay where they are while somebody edits. */
  const order = shallowRef<readonly string[]>([])
  const cursor = ref<Spot>(TOP)
  const anchor = ref<Spot>(TOP)
  const reckoning = ref<Reckoning | null>(null)
  /** Whether a reckoning gives those a value of their own that follow their category. */
  const isForAll = ref(false)
  const pasted = shallowRef<Pasted | null>(null)

  const columns = computed(() =>
    (table.value?.columns ?? [])
      .map((column, at) => ({ ...column, at }))
      .filter(({ id }) => !hidden.value.includes(id) && id !== table.value?.idColumn),
  )
  const places = computed(() => [...new Set((table.value?.rows ?? []).map((row) => row.place))].filter(Boolean))
  const ordered = computed(() => {
    const { byAt } = tables
    const rows: LedgerRow[] = []
    for (const at of order.value) {
      const row = byAt.get(at)
      if (row) rows.push(row)
    }
    return rows
  })
  /** How many of the rows that are shown are of each category. */
  const followers = computed(() => {
    const counts = new Map<string, number>()
    for (const row of tables.follower ? ordered.value : []) {
      const category = tables.follower!.category(row)
      if (category) counts.set(category.id, (counts.get(category.id) ?? 0) + 1)
    }
    return counts
  })
  /** What rows have unless they say otherwise stands above them, of the categories that are shown. */
  const defaults = computed(() => tables.rowsOfDefaults.filter(({ id }) => followers.value.has(id)))
  const shown = computed<Shown>(() => {
    const rows = defaults.value.length > 0 ? [...defaults.value, ...ordered.value] : ordered.value
    return { rows, columns: columns.value }
  })
  const range = computed(() => rangeOf(cursor.value, anchor.value))
  const selected = computed(() => cellsIn(shown.value, range.value))
  const inFocus = computed(() => cellsIn(shown.value, rangeOf(cursor.value, cursor.value))[0] ?? null)

  const followedText = ({ row, column }: Picked): string | null => {
    const followed = tables.follower?.follow(row, column.at)
    return followed && !followed.cell.says ? followed.cell.text : null
  }
  /** What a reckoning would make of the selection; empty without one, with the reason where it is none. */
  const reckoned = computed<ReckonedCells & { readonly problem: string }>(() => {
    if (!reckoning.value) return { ...NOTHING, problem: '' }
    try {
      return { ...reckonCells(selected.value, reckoning.value, followedText, isForAll.value), problem: '' }
    } catch (error) {
      return { ...NOTHING, problem: wordsOf(error) }
    }
  })
  const previewed = computed(() => new Map(reckoned.value.changes.map((change) => [`${change.row} ${change.column}`, change])))

  /** Puts the rows that fit in order. */
  function arrange(): void {
    const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
    const fits = (row: LedgerRow): boolean => {
      if (place.value !== '' && row.place !== place.value) return false
      if (onlyMine.value && !row.mine && !row.staged) return false
      if (withFindings.value && !tables.wrongRows.has(`${row.source.path} ${row.pointer}`)) return false
      const text = [row.id, ...row.cells.map((cell) => cell?.text ?? '')].join(' ').toLowerCase()
      return words.every((word) => text.includes(word))
    }
    order.value = sortRows((table.value?.rows ?? []).filter(fits), table.value?.columns ?? [], sort.value).map((row) => row.at)
    select(cursor.value)
  }
  watch([filter, place, onlyMine, withFindings, sort, () => tables.isWhole], arrange)

  let reading: Promise<void> | null = null
  let isStale = false
  /** Reads the tables anew; what is asked meanwhile becomes one more reading. */
  function read(): Promise<void> {
    isStale = true
    reading ??= readStale().finally(() => (reading = null))
    return reading
  }
  async function readStale(): Promise<void> {
    while (isStale) {
      isStale = false
      await readOnce()
    }
  }
  /** Rows that came are put at the end, those that went are gone, and the others stay in place. */
  async function readOnce(): Promise<void> {
    const hasMoved = await tables.read()
    if (order.value.length === 0) return arrange()
    if (!hasMoved) return
    const known = new Set(order.value)
    const came = (table.value?.rows ?? []).flatMap(({ at }) => (known.has(at) ? [] : [at]))
    order.value = [...order.value.filter((row) => tables.byAt.has(row)), ...came]
  }
  async function open(view: LedgerView): Promise<void> {
    filter.value = place.value = ''
    onlyMine.value = withFindings.value = false
    hidden.value = []
    sort.value = []
    order.value = []
    leave()
    cursor.value = anchor.value = TOP
    await tables.open(view)
    arrange()
    // work begins at the first row that is one of the table
    select({ row: defaults.value.length, column: 0 })
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
    if (changes.length === 0 || (await tables.write(changes))) return true
    await read()
    return false
  }
  /** What is typed stands in its cell before the file has answered. */
  function showAtOnce(row: LedgerRow, column: string, text: string): void {
    const at = table.value?.columns.findIndex(({ id }) => id === column) ?? -1
    const cell = row.cells[at]
    if (!cell || row.isDefault) return
    const { says: _says, ...plain } = cell
    const cells = row.cells.map((other, i) => (i === at ? { ...plain, text, staged: true, was: cell.was ?? cell.text } : other))
    tables.showInstead(row, { ...row, staged: true, cells })
  }
  /** What is typed into the cell at the cursor; nothing takes it out of its row. */
  function type(text: string): Promise<boolean> {
    const at = inFocus.value
    if (!at || text === (at.cell?.text ?? '')) return Promise.resolve(true)
    const value = text === '' && at.cell?.kind !== 'text' ? null : text
    showAtOnce(at.row, at.column.id, text)
    return write([{ row: at.row.at, column: at.column.id, value }])
  }
  /** Takes cells out of their rows, so that they follow their category, or the plugin itself. */
  const clear = (): Promise<boolean> =>
    write(
      selected.value
        .filter(({ row, cell }) => cell?.editable && (table.value?.kind !== 'values' || tables.follower) && !row.isDefault)
        .map(({ row, column }) => ({ row: row.at, column: column.id, value: null })),
    )
  /** Gives cells what the plugin ships. */
  const toFactory = (): Promise<boolean> =>
    write(
      selected.value
        .filter(({ cell }) => cell?.editable && cell.mine && cell.ships !== undefined)
        .map(({ row, column, cell }) => ({ row: row.at, column: column.id, value: cell!.ships! })),
    )
  const fill = (): Promise<boolean> => write(fillDown(shown.value, range.value))
  async function takeReckoning(): Promise<void> {
    if (await write(reckoned.value.changes.map(({ row, column, to }) => ({ row, column, value: to })))) reckoning.value = null
  }
  /** Puts a copy of the row at the cursor after it, under a name of its own. @returns the name; empty where it could not be done */
  async function duplicate(): Promise<string> {
    const row = inFocus.value?.row
    if (!row || table.value?.kind === 'values') return ''
    const { path } = row.source
    const name = await drafts.ask(path, async ({ engine }) => engine.suggestedName(row.pointer))
    tables.problem = await drafts.together([{ path, operation: { kind: 'duplicate', pointer: row.pointer, name } }])
    return tables.problem === '' ? (name ?? row.id) : ''
  }

  /** What was pasted: rows below a head, or of which some begin with ids, wait for a look; a block goes where the cursor is. */
  async function paste(lines: readonly (readonly string[])[]): Promise<void> {
    const isWide = lines.some((line) => line.length > 1)
    const { preview } = matched(lines, {})
    const known = preview.matched + preview.several.length
    if (isWide && known > 0 && (preview.hasHead || known * SOME >= lines.length)) match(lines)
    else await write(pasteBlock(shown.value, range.value, lines))
  }
  function matched(lines: readonly (readonly string[])[], how: Partial<Pick<Pasted, 'instead' | 'intoAll'>>): Pasted {
    const { instead = {}, intoAll = false } = how
    const now = table.value!
    const options = { instead, intoAll, columns: columns.value.map(({ id }) => id) }
    const whose = places.value.length > 0 ? { places: new Map(now.rows.map((row) => [row.at, row.place])) } : {}
    return { lines, instead, intoAll, preview: previewPaste(asTable(now), lines, { ...options, ...whose }) }
  }
  /** Matches rows from elsewhere by id, for a look at what they would change. */
  function match(lines: readonly (readonly string[])[], how: Partial<Pick<Pasted, 'instead' | 'intoAll'>> = {}): void {
    pasted.value = matched(lines, how)
  }
  /** Takes an unknown id for one of the table. */
  function useInstead(ids: Readonly<Record<string, string>>): void {
    const now = pasted.value
    if (now) match(now.lines, { ...now, instead: { ...now.instead, ...ids } })
  }
  /** Rows whose id stands in several files go into all of them. */
  function putIntoAll(): void {
    if (pasted.value) match(pasted.value.lines, { ...pasted.value, intoAll: true })
  }
  async function takePaste(): Promise<void> {
    if (pasted.value && (await write(pasted.value.preview.changes))) pasted.value = null
  }
  /** Takes back what waits to be used. */
  function leave(): void {
    reckoning.value = null
    isForAll.value = false
    pasted.value = null
    tables.problem = ''
  }

  return {
    table,
    problem: computed(() => tables.problem),
    filter,
    place,
    places,
    onlyMine,
    withFindings,
    hidden,
    sort,
    cursor,
    anchor,
    columns,
    shown,
    range,
    selected,
    inFocus,
    defaults,
    followers,
    reckoning,
    isForAll,
    reckoned,
    previewed,
    pasted,
    open,
    arrange,
    select,
    move,
    type,
    clear,
    toFactory,
    duplicate,
    fill,
    takeReckoning,
    paste,
    match,
    useInstead,
    putIntoAll,
    takePaste,
    leave,
    undo: () => drafts.undo(true),
    redo: () => drafts.redo(true),
  }
})

/** The same as the core's own, for matching. */
function asTable({ kind, columns, rows, idColumn }: LedgerTable): Table {
  return {
    keys: [],
    kind,
    idColumn,
    columns: columns.map(({ id, key, kind: of, count }) => ({ id, keys: key === '' ? [] : key.split('.'), kind: of, count })),
    rows: rows.map(({ at, id, cells }) => ({
      key: id,
      pointer: at,
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
