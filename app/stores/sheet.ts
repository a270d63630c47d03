import { defineStore } from 'pinia'
import type { Edit, Rule, Value } from '@pasticcio/core'
import type { Operation, PlacedFinding, SeekFor, SheetSnapshot } from '~/drafts/engine'
import { toWire } from '~/drafts/wire'
import type { FindingsAnswer } from '~/utils/types'
import { DRAWN_WHOLE, RowPlaces } from '~/utils/row-places'
import type { SheetRow } from '~/utils/sheet-rows'

/** A finding as the sheet shows it: one of ours, or a complaint of the running server. */
export interface ShownFinding extends PlacedFinding {
  readonly fromServer?: boolean
}

/** As many as are drawn of a small file: larger ones ask for less once they know their size. */
const FIRST_ROWS = DRAWN_WHOLE
/** Larger files have what is mine counted when nobody types for a moment. */
const COUNT_AT_ONCE = 200_000
const COUNT_AFTER_MS = 400
/** Files of fewer letters have everything looked for at each key (drafts/engine.ts). */
const FULLY_CHECKED = 40_000

/** The settings file at hand as its sheet: rows, findings and the line in focus. */
export const useSheetStore = defineStore('sheet', () => {
  const server = useServerStore()
  const drafts = useDraftsStore()
  const focus = ref('')
  const onlyMine = ref(false)
  const range = shallowRef({ from: 0, to: FIRST_ROWS })
  const snapshot = shallowRef<SheetSnapshot | null>(null)
  /** Where the rows stand, as far as that is known without drawing them. */
  const places = shallowRef(new RowPlaces())
  const found = shallowRef<readonly PlacedFinding[]>([])
  const mineLines = shallowRef<Uint32Array>(new Uint32Array())
  const updateLines = shallowRef<Uint32Array>(new Uint32Array())
  const customisations = ref(0)
  let asking: Promise<void> | null = null
  let stale = false
  /** Whether nothing of the file at hand is known here yet. */
  let fresh = true
  let counting: ReturnType<typeof setTimeout> | null = null

  const draft = computed(() => drafts.current?.draft ?? null)
  const view = computed(() => draft.value?.view ?? null)
  const text = computed(() => draft.value?.text.value ?? '')
  const version = computed(() => draft.value?.version.value ?? 0)
  const problem = computed(() => draft.value?.problem.value || drafts.problem)
  const theirs = computed(() => draft.value?.theirs.value ?? null)
  /** What came of the entry that was copied, added or renamed last. */
  const told = computed(() => draft.value?.told.value ?? null)
  const isStaged = computed(() => view.value !== null && text.value !== view.value.text)
  const rows = computed<readonly SheetRow[]>(() => snapshot.value?.rows ?? [])
  const inFocus = computed(() => rows.value.find((row) => row.pointer === focus.value) ?? snapshot.value?.focus?.row ?? null)

  const said = computed(() =>
    isStaged.value
      ? []
      : server.complaints
          .filter((item) => item.path === view.value?.path)
          .map((item): ShownFinding => {
            const line = item.line ?? 1
            const message = `The server says: ${item.reason}`
            const place = { from: 0, to: 0, line, column: 1, pointer: saidAt.value.get(line) ?? '' }
            return { ...place, code: 'syntax', severity: 'error', message, file: item.path!, check: 'server', fromServer: true }
          }),
  )
  /** Rows of the lines that the server complained about. */
  const saidAt = shallowRef<ReadonlyMap<number, string>>(new Map())
  const findings = computed<readonly ShownFinding[]>(() => [...said.value, ...found.value].sort((a, b) => a.line - b.line))

  /** Asks the engine what is to be seen now; questions that come meanwhile become one. */
  function refresh(): Promise<void> {
    stale = true
    asking ??= ask().finally(() => (asking = null))
    return asking
  }

  /** What is not told again is as it was. */
  function take(now: SheetSnapshot): void {
    if (now.shapes) places.value.take(now.shapes)
    if (now.findings) found.value = now.findings
    if (now.mineLines) mineLines.value = now.mineLines
    if (now.updateLines) updateLines.value = now.updateLines
    snapshot.value = now
  }

  async function ask(): Promise<void> {
    while (stale && drafts.current) {
      stale = false
      const { engine } = drafts.current
      const query = { ...range.value, onlyMine: onlyMine.value, focus: focus.value, fresh }
      fresh = false
      const now = await engine.sheet(query)
      if (drafts.current?.engine !== engine) continue
      take(now)
    }
    count()
  }

  function count(): void {
    if (counting) clearTimeout(counting)
    const run = async (): Promise<void> => {
      const at = drafts.current
      const mine = await at?.engine.customisations()
      if (mine !== undefined && drafts.current === at) customisations.value = mine
    }
    if (text.value.length >= FULLY_CHECKED) void checkLater()
    if (text.value.length < COUNT_AT_ONCE) void run()
    else counting = setTimeout(() => void run(), COUNT_AFTER_MS)
  }

  /** Checks that look at all of a large file wait until nobody types. */
  const checkLater = useDebounceFn(async () => {
    if (await drafts.current?.engine.rest()) void refresh()
  }, COUNT_AFTER_MS)

  /** Asks what the server finds in the file at hand, who looks at all files; where somebody typed meanwhile, the next answer counts. */
  async function hearServer(): Promise<void> {
    const at = drafts.current
    if (!at || at.draft.view.record || !['clean', 'kept'].includes(at.draft.state.value)) return
    const asked = at.draft.version.value
    const query = new URLSearchParams({ path: at.draft.view.path })
    const answer = await callApi<FindingsAnswer>(`${server.base}/findings?${query}`).catch(() => null)
    if (!answer || drafts.current !== at || at.draft.version.value !== asked) return
    await at.engine.hear(answer.findings.map((finding) => ({ ...toRaw(finding), aside: finding.aside !== null })))
    await refresh()
  }

  async function findComplaints(): Promise<void> {
    const lines = server.complaints.filter((item) => item.path === view.value?.path).map((item) => item.line ?? 1)
    const engine = drafts.current?.engine
    if (engine) saidAt.value = new Map(await Promise.all(lines.map(async (line) => [line, await engine.pointerAtLine(line)] as const)))
  }

  /** While something else of the file is looked at, the sheet follows when nobody types for a moment. */
  const isAside = ref(false)
  const refreshLater = useDebounceFn(refresh, COUNT_AFTER_MS)
  drafts.whenText(() => void (isAside.value ? refreshLater() : refresh()))
  watch([onlyMine, range], () => void refresh())
  watch(focus, (pointer) => {
    if (!rows.value.some((row) => row.pointer === pointer) || snapshot.value?.focus?.row.pointer !== pointer) void refresh()
  })
  watch(() => server.complaints, findComplaints)
  watch(
    () => drafts.current,
    () => {
      fresh = true
      snapshot.value = null
      places.value = new RowPlaces()
      found.value = []
      mineLines.value = updateLines.value = new Uint32Array()
      customisations.value = 0
      range.value = { from: 0, to: FIRST_ROWS }
      saidAt.value = new Map()
    },
    // at once: what is asked next is of the new file
    { flush: 'sync' },
  )

  /** Shows a file; resolves when its rows are there. */
  async function open(path: string): Promise<void> {
    if (view.value?.path !== path) focus.value = ''
    await drafts.show(path)
    await Promise.all([refresh(), findComplaints()])
    // somewhere to begin
    if (focus.value === '') focus.value = rows.value.find((row) => row.type === 'setting')?.pointer ?? ''
  }

  async function reload(): Promise<void> {
    await draft.value?.flush()
    await drafts.reload()
    await refresh()
  }

  const operate = async (operation: Operation): Promise<boolean> => (await draft.value?.operate(operation)) ?? false
  const set = (pointer: string, value: Value): Promise<boolean> => operate({ kind: 'set', pointer, value: toWire(value) })
  const remove = (pointer: string): Promise<boolean> => operate({ kind: 'remove', pointer })
  const duplicate = (pointer: string, name: string | null): Promise<boolean> => operate({ kind: 'duplicate', pointer, name })
  /** An entry and the one before or after it change places. */
  const move = (pointer: string, by: 1 | -1): Promise<boolean> => operate({ kind: 'move', pointer, by })
  const add = (group: string, like: string, name: string | null): Promise<boolean> => operate({ kind: 'add', pointer: group, like, name })
  const toFactory = (pointer: string): Promise<boolean> => operate({ kind: 'to-factory', pointer })
  /** Sets what stands in a comment, and puts a setting into one. */
  const turnOn = (pointer: string): Promise<boolean> => operate({ kind: 'turn-on', pointer })
  const turnOff = (pointer: string): Promise<boolean> => operate({ kind: 'turn-off', pointer })
  const edit = (edits: readonly Edit[]): void => draft.value?.edit(edits)

  function applyFix(finding: ShownFinding): void {
    if (finding.fix) edit(finding.fix.edits)
  }

  /** Says what a setting is, or takes that back; the sheet is made anew with it. */
  async function giveRule(rule: Rule): Promise<void> {
    await callApi(`${server.base}/rules`, { method: 'PUT', body: { path: view.value!.path, rule } })
    await reload()
  }
  async function dropRule(pointer: string): Promise<void> {
    const query = new URLSearchParams({ path: view.value!.path, pointer })
    await callApi(`${server.base}/rules?${query}`, { method: 'DELETE' })
    await reload()
  }

  /** The row after or before the one in focus. */
  async function seek(by: 1 | -1, what: SeekFor): Promise<string> {
    return (await drafts.current?.engine.seek(focus.value, by, what, onlyMine.value)) ?? focus.value
  }

  /** The row of a line of the file; empty where there is none. */
  async function pointerAtLine(line: number): Promise<string> {
    return (await drafts.current?.engine.pointerAtLine(line)) ?? ''
  }

  return {
    draft,
    view,
    text,
    version,
    problem,
    theirs,
    isStaged,
    focus,
    onlyMine,
    range,
    isAside,
    snapshot,
    places,
    mineLines,
    updateLines,
    rows,
    inFocus,
    customisations,
    findings,
    open,
    reload,
    refresh,
    hearServer,
    set,
    remove,
    duplicate,
    move,
    add,
    told,
    toFactory,
    turnOn,
    turnOff,
    giveRule,
    dropRule,
    edit,
    applyFix,
    seek,
    pointerAtLine,
    undo: () => drafts.undo(),
    redo: () => drafts.redo(),
  }
})
