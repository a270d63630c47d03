import { defineStore } from 'pinia'
import {
  LineIndex,
  OperationError,
  RuleBook,
  addEntry,
  applyEdits,
  duplicateEntry,
  editDocument,
  findMoves,
  getNode,
  inferRules,
  formatOf,
  layer,
  parse,
  parsePointer,
  removeEntry,
  setValue,
  valueOf,
  type Document,
  type Edit,
  type Finding,
  type FormatId,
  type Value,
} from '@pasticcio/core'
import { useChecker } from '~/composables/use-checker'
import type { FileView } from '~/utils/types'
import { sheetRows, type SheetRow } from '~/utils/sheet-rows'

export interface PlacedFinding extends Finding {
  readonly line: number
  readonly column: number
  readonly fromServer?: boolean
}

const SAVE_AFTER_MS = 350

/** The settings file at hand: one draft that sheet, source and margin show and change. */
export const useFileStore = defineStore('file', () => {
  const server = useServerStore()
  const tray = useTrayStore()
  const view = shallowRef<FileView | null>(null)
  const text = ref('')
  const problem = ref('')
  const saving = ref(false)
  const focus = ref('')
  const undoStack: string[] = []
  const redoStack: string[] = []
  let timer: ReturnType<typeof setTimeout> | null = null

  const format = computed<FormatId | null>(() => (view.value ? formatOf(view.value.path) : null))
  const read = (source: string | null | undefined): Document | null =>
    source === null || source === undefined || !format.value ? null : parse(source, format.value, view.value!.reading)
  const document = computed(() => read(text.value))
  const index = computed(() => new LineIndex(text.value))
  const factory = computed(() => read(view.value?.factory))
  const base = computed(() => read(view.value?.text))
  const update = computed(() => read(view.value?.update?.text))
  const rules = computed(() => new RuleBook(factory.value ? inferRules(factory.value) : []))
  const moves = computed(() => (factory.value && update.value ? findMoves(factory.value, update.value) : new Map<string, string>()))
  const rows = computed<SheetRow[]>(() =>
    document.value && base.value
      ? sheetRows({
          moves: moves.value,
          document: document.value,
          index: index.value,
          factory: factory.value,
          base: base.value,
          update: update.value,
          rules: rules.value,
        })
      : [],
  )
  const customisations = computed(() => (factory.value && document.value ? layer(factory.value, document.value).length : 0))
  const checked = useChecker(() =>
    view.value && !view.value.record
      ? { path: view.value.path, reading: view.value.reading, text: text.value, factory: view.value.factory }
      : null,
  )
  const isStaged = computed(() => view.value !== null && text.value !== view.value.text)

  const findings = computed<PlacedFinding[]>(() => {
    const own = checked.value.map((finding) => ({ ...finding, ...index.value.position(finding.from) }))
    const said = server.complaints
      .filter((item) => item.path === view.value?.path && !isStaged.value)
      .map((item): PlacedFinding => {
        const line = item.line ?? 1
        const from = index.value.startOf(line)
        return {
          code: 'syntax',
          severity: 'error',
          from,
          to: from,
          line,
          column: 1,
          message: `The server says: ${item.reason}`,
          fromServer: true,
        }
      })
    return [...said, ...own].sort((a, b) => a.line - b.line)
  })

  async function open(path: string): Promise<void> {
    if (view.value?.path !== path) {
      view.value = null
      focus.value = ''
    }
    problem.value = ''
    try {
      const loaded = await callApi<FileView>(`${server.base}/file?path=${encodeURIComponent(path)}`)
      view.value = loaded
      text.value = loaded.draft?.text ?? loaded.text
      undoStack.length = redoStack.length = 0
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  /** Takes a new text of the draft; it is kept on the server a moment later. */
  function setText(next: string, remember = true): void {
    if (next === text.value) return
    if (remember) {
      undoStack.push(text.value)
      redoStack.length = 0
    }
    text.value = next
    if (timer) clearTimeout(timer)
    timer = setTimeout(() => void save(), SAVE_AFTER_MS)
  }

  async function save(): Promise<void> {
    timer = null
    if (!view.value) return
    saving.value = true
    try {
      const { path, draft, sha } = view.value
      const kept = { path, text: text.value, baseSha: draft?.baseSha ?? sha }
      const { draftSha } = await callApi<{ draftSha: string | null }>(`${server.base}/draft`, {
        method: 'PUT',
        body: { ...kept, draftSha: draft?.sha ?? null },
      })
      view.value = { ...view.value, draft: draftSha ? { text: kept.text, sha: draftSha, baseSha: kept.baseSha, changedBy: '' } : null }
      problem.value = ''
      await Promise.all([tray.refresh(), server.refresh()])
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      saving.value = false
    }
  }

  /** What waits to be kept is kept now. */
  async function flush(): Promise<void> {
    if (!timer) return
    clearTimeout(timer)
    await save()
  }

  /** The page is being left: what waits is sent along, since there is no later. */
  function flushOnLeaving(): void {
    if (!timer || !view.value) return
    clearTimeout(timer)
    timer = null
    const { path, draft, sha } = view.value
    const body = JSON.stringify({ path, text: text.value, baseSha: draft?.baseSha ?? sha, draftSha: draft?.sha ?? null })
    void fetch(`${server.base}/draft`, { method: 'PUT', body, headers: { 'content-type': 'application/json' }, keepalive: true })
  }

  function step(from: string[], to: string[]): void {
    const before = from.pop()
    if (before === undefined) return
    to.push(text.value)
    setText(before, false)
  }

  /** Runs one operation of the core on the draft. @returns whether it could be done */
  function edit(make: (document: Document) => readonly Edit[]): boolean {
    if (!document.value) return false
    try {
      const edits = make(document.value)
      editDocument(document.value, edits)
      problem.value = ''
      setText(applyEdits(document.value.text, edits))
      return true
    } catch (error) {
      if (!(error instanceof OperationError)) throw error
      problem.value = `This cannot be done: ${error.message}.`
      return false
    }
  }

  const set = (pointer: string, value: Value): boolean => edit((current) => setValue(current, keysOf(pointer), value))
  const remove = (pointer: string): boolean => edit((current) => removeEntry(current, keysOf(pointer)))
  const duplicate = (pointer: string, name: string | null): boolean => edit((current) => duplicateEntry(current, keysOf(pointer), name))

  /** Gives a setting the value the plugin shipped; one that was removed comes back. */
  function toFactory(pointer: string): void {
    const shipped = factory.value
    const node = shipped && getNode(shipped, keysOf(pointer))
    if (!shipped || !node) return
    const keys = keysOf(pointer)
    edit((current) =>
      getNode(current, keys)
        ? setValue(current, keys, valueOf(shipped, node))
        : addEntry(current, keys.slice(0, -1), keys[keys.length - 1]!, valueOf(shipped, node)),
    )
  }

  function applyFix(finding: PlacedFinding): void {
    if (finding.fix) setText(applyEdits(text.value, finding.fix.edits))
  }

  return {
    view,
    text,
    format,
    document,
    index,
    factory,
    base,
    update,
    rules,
    rows,
    customisations,
    findings,
    problem,
    saving,
    focus,
    isStaged,
    open,
    setText,
    flush,
    flushOnLeaving,
    edit,
    set,
    remove,
    duplicate,
    toFactory,
    applyFix,
    undo: () => step(undoStack, redoStack),
    redo: () => step(redoStack, undoStack),
  }
})

function keysOf(pointer: string): string[] {
  return parsePointer(pointer) ?? []
}
