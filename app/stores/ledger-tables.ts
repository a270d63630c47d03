import { defineStore } from 'pinia'
import type { CellChange } from '@pasticcio/core'
import type { OpenDraft } from '~/stores/drafts'
import { withNews, type CellFinding, type TableOption, type TableView } from '~/drafts/table-view'
import { Follower, defaultRows, defaultsIn, mayFollow, type Categories, type Defaults } from '~/utils/ledger-defaults'
import {
  LedgerMerge,
  absentRows,
  areAlike,
  filesBeside,
  setsOf,
  type LedgerRow,
  type LedgerSource,
  type LedgerTable,
  type ReadSource,
  type TableSet,
} from '~/utils/ledger-files'

/** What a ledger shows: a table of the file at hand, a set of them (`*`), or one of all files beside it. */
export interface LedgerView {
  readonly pointer: string
  readonly isOverFiles: boolean
}

/** A file that cannot be in the ledger, and why. */
export interface UnreadFile {
  readonly path: string
  readonly problem: string
}

/** So many other files of a plugin are looked into for defaults. */
const MOST_LOOKED_INTO = 12

const NOTHING: LedgerView = { pointer: '', isOverFiles: false }

/** Like things of the file at hand, or of several, as one table: where they are read from, and how they are written. */
export const useLedgerTablesStore = defineStore('ledger-tables', () => {
  const server = useServerStore()
  const sheet = useSheetStore()
  const drafts = useDraftsStore()
  const known = useKnownStore()
  const view = shallowRef<LedgerView>(NOTHING)
  const options = shallowRef<readonly TableOption[]>([])
  const sources = shallowRef<readonly LedgerSource[]>([])
  const unread = shallowRef<readonly UnreadFile[]>([])
  const table = shallowRef<LedgerTable | null>(null)
  const problem = ref('')
  /** Findings of single cells, by the file and the pointer of each. */
  const findings = shallowRef<ReadonlyMap<string, CellFinding>>(new Map())
  /** Where what rows leave out is said, and what it says there. */
  const defaultsAt = shallowRef<LedgerSource | null>(null)
  const defaults = shallowRef<Defaults | null>(null)
  let merge = new LedgerMerge()
  /** What each engine told last; whose engine it was tells whether it may leave out what is the same. */
  let told = new Map<string, { readonly engine: OpenDraft['engine']; readonly view: TableView }>()

  const sets = computed<readonly TableSet[]>(() => setsOf(options.value))
  /** Files that may hold the same beside the one at hand, itself among them. */
  const files = computed(() => {
    const path = sheet.view?.path
    const plugin = server.overview?.plugins.find(({ name }) => name === sheet.view?.plugin)
    return path && plugin
      ? filesBeside(
          path,
          plugin.files.map((file) => file.path),
        )
      : []
  })

  /** The tables of the file at hand, read anew with it. */
  async function look(): Promise<void> {
    options.value = (await drafts.current?.engine.tables()) ?? []
  }

  const pathAtHand = (): string => drafts.current?.draft.view.path ?? ''

  async function sourcesFor({ pointer, isOverFiles }: LedgerView): Promise<readonly LedgerSource[]> {
    const path = pathAtHand()
    if (!isOverFiles)
      return (sets.value.find(({ pattern }) => pattern === pointer)?.pointers ?? [pointer]).map((one) => ({ path, pointer: one }))
    const own = options.value.find((option) => option.pointer === pointer)
    const missed: UnreadFile[] = []
    const found = await Promise.all(
      files.value.map(async (file): Promise<LedgerSource[]> => {
        try {
          const like = (await drafts.ask(file, async ({ engine }) => engine.tables())).find((option) => option.pointer === pointer)
          return like && own && areAlike(like, own) ? [{ path: file, pointer }] : []
        } catch (error) {
          missed.push({ path: file, problem: wordsOf(error) })
          return []
        }
      }),
    )
    unread.value = missed
    return found.flat()
  }

  /** Shows another table, with what says what its rows leave out. */
  async function open(next: LedgerView): Promise<void> {
    view.value = next
    unread.value = []
    problem.value = ''
    merge = new LedgerMerge()
    told = new Map()
    table.value = null
    defaultsAt.value = defaults.value = null
    const found = await sourcesFor(next)
    if (view.value !== next) return
    sources.value = found
    await read()
    await findDefaults(found)
    // what has a value from its category is worth looking at; else only what the file has
    isWhole.value = defaults.value !== null && absent.value.length > 0
  }

  const categories = computed<Categories>(() => {
    const groups = new Map(known.picksOf('items').map(({ id, group }) => [id, group]))
    return { of: (id) => groups.get(id) || null, all: new Set([...groups.values()].filter(Boolean)) }
  })

  /** Looks for what says what rows leave out: in the file at hand first, then in others of the plugin. */
  async function findDefaults(asked: readonly LedgerSource[]): Promise<void> {
    const now = table.value
    if (!now || !mayFollow(now, categories.value)) return
    const path = pathAtHand()
    const plugin = server.overview?.plugins.find(({ name }) => name === sheet.view?.plugin)
    const others = (plugin?.files ?? []).map((file) => file.path).filter((file) => file !== path && !asked.some((one) => one.path === file))
    for (const file of [path, ...others.slice(0, MOST_LOOKED_INTO)]) {
      for (const { pointer } of await drafts.ask(file, async ({ engine }) => engine.tables()).catch(() => [])) {
        if (asked.some((one) => one.path === file && one.pointer === pointer)) continue
        const found = await readDefaults({ path: file, pointer }, now)
        if (sources.value !== asked) return
        if (!found) continue
        defaultsAt.value = { path: file, pointer }
        defaults.value = found
        return
      }
    }
  }

  async function readDefaults(source: LedgerSource, now: LedgerTable): Promise<Defaults | null> {
    const news = await drafts.ask(source.path, async ({ engine }) => engine.table(source.pointer, true))
    const other = news && new LedgerMerge().merge([{ ...source, view: withNews(null, news) }])
    return other && defaultsIn(now, other, categories.value)
  }

  const follower = computed(() => defaults.value && table.value && new Follower(defaults.value, table.value, categories.value))
  const rowsOfDefaults = computed(() => (defaults.value ? defaultRows(defaults.value) : []))

  /** Reads all tables anew. @returns whether rows came, went or moved */
  async function read(): Promise<boolean> {
    const asked = sources.value
    let hasMoved = false
    const found = new Map<string, CellFinding>()
    const all = await Promise.all(
      asked.map(async (source): Promise<ReadSource[]> => {
        const name = `${source.path} ${source.pointer}`
        const { news, engine, isFresh } = await drafts.ask(source.path, async ({ engine: asks }) => {
          const wasTold = told.get(name)?.engine === asks
          return { engine: asks, isFresh: !wasTold, news: await asks.table(source.pointer, !wasTold) }
        })
        if (!news) return []
        hasMoved ||= news.all
        // what came meanwhile is what the news are news to
        const now = withNews(isFresh ? null : told.get(name)!.view, news)
        for (const one of news.findings) found.set(`${source.path} ${one.pointer}`, one)
        told.set(name, { engine, view: now })
        return [{ ...source, view: now }]
      }),
    )
    if (sources.value !== asked) return false
    table.value = merge.merge(all.flat())
    findings.value = found
    if (defaultsAt.value && table.value) defaults.value = await readDefaults(defaultsAt.value, table.value)
    return hasMoved
  }

  const findingAt = ({ source, pointer }: LedgerRow, column: string): CellFinding | undefined =>
    findings.value.get(`${source.path} ${pointer}${column}`)
  /** Files and pointers of everything that a finding stands in. */
  const wrongRows = computed(() => {
    const all = [...findings.value.keys()]
    return new Set(all.flatMap((at) => at.split('/').map((_part, i, parts) => parts.slice(0, i + 1).join('/'))))
  })
  /** Whether what the server lists and the file does not have stands there too. */
  const isWhole = ref(false)
  const absent = computed(() => {
    const [source, ...others] = sources.value
    if (!table.value || !source || others.length > 0) return []
    return absentRows(
      table.value,
      source,
      known.picksOf('items').map(({ id }) => id),
    )
  })
  const whole = computed(() =>
    table.value && isWhole.value ? { ...table.value, rows: [...table.value.rows, ...absent.value] } : table.value,
  )
  const byAt = computed(() => new Map([...(whole.value?.rows ?? []), ...rowsOfDefaults.value].map((row) => [row.at, row])))

  /** Writes cells, whose rows are named by `at`: all or none, and taken back in one step. @returns whether it was done */
  async function write(changes: readonly CellChange[]): Promise<boolean> {
    problem.value = ''
    const byFile = new Map<string, CellChange[]>()
    for (const change of changes) {
      const row = byAt.value.get(change.row)
      if (!row) continue
      const { path } = row.source
      byFile.set(path, [...(byFile.get(path) ?? []), { ...change, row: row.pointer }])
    }
    const steps = [...byFile].map(([path, own]) => ({ path, operation: { kind: 'cells', pointer: '', changes: own } as const }))
    problem.value = await drafts.together(steps)
    if (problem.value === '') return true
    // what was shown at once did not come to be
    told = new Map()
    return false
  }

  /** A row shown in another way before its file has answered. */
  function showInstead(row: LedgerRow, next: LedgerRow): void {
    const now = table.value
    const at = now?.rows.indexOf(row) ?? -1
    if (now && at >= 0) table.value = { ...now, rows: now.rows.with(at, next) }
  }

  return {
    view,
    options,
    sets,
    files,
    sources,
    unread,
    table: whole,
    isWhole,
    absent,
    problem,
    findings,
    findingAt,
    byAt,
    wrongRows,
    follower,
    rowsOfDefaults,
    look,
    open,
    read,
    write,
    showInstead,
  }
})
