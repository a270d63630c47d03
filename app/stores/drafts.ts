import { defineStore } from 'pinia'
import { DraftChanged, createDraft, type Draft, type DraftState, type Kept } from '~/drafts/draft'
import type { Operation } from '~/drafts/engine'
import { inputFor } from '~/drafts/engine-input'
import { putDown, takeUp } from '~/drafts/left'
import { EngineClosed, openSharedEngine, openWorkerEngine, type WorkerEngine } from '~/drafts/worker-engine'
import type { DraftView, FileView, SavedDraft } from '~/utils/types'

export interface OpenDraft {
  readonly draft: Draft
  readonly engine: WorkerEngine['engine']
  close(): void
}

/** What is done to one of several files. */
export interface FileStep {
  readonly path: string
  readonly operation: Operation
}

/** Drafts that were changed as one, each with the number of its own step. */
type Joint = readonly { readonly draft: Draft; readonly step: number }[]

/** What is only here in these. */
const UNKEPT: ReadonlySet<DraftState> = new Set(['conflict', 'failed'])

/** What failed so shortly before the page was left failed because of that. */
const LEAVING_MS = 2000

/** So often a file may be read anew while its engine is asked, before it is given up. */
const MOST_TRIES = 5

/** The settings files somebody works on, by path. One is at hand; others stay until what waits in them is kept. */
export const useDraftsStore = defineStore('drafts', () => {
  const server = useServerStore()
  const tray = useTrayStore()
  const known = useKnownStore()
  const open = new Map<string, OpenDraft>()
  /** Files that are worked on beside the one at hand, as in a ledger over several. */
  const beside = shallowReactive(new Set<string>())
  let joints: Joint[] = []
  /** Steps of several files that wait for their file. */
  const toDo = new Set<FileStep>()
  const current = shallowRef<OpenDraft | null>(null)
  const problem = ref('')
  /** The last path that was asked for: an answer that comes later than that of another one is dropped. */
  let wanted = ''
  const onText = new Set<() => void>()
  let onFollowed: (path: string, hasDraft: boolean) => void = () => undefined
  let onMerged: (path: string, by: string) => void = () => undefined

  const hearText = (): void => onText.forEach((hear) => hear())

  async function load(path: string, openEngine = openWorkerEngine): Promise<OpenDraft> {
    // the lists are read with each file: a plugin that was just installed may have brought some
    const [view] = await Promise.all([callApi<FileView>(`${server.base}/file?path=${encodeURIComponent(path)}`), known.ready()])
    const plugins = server.overview ? { plugins: server.overview.plugins.map(({ name }) => name) } : {}
    const { engine, close } = await openEngine(inputFor(path, view, { known: known.ids, texts: known.texts, ...plugins }))
    const draft = createDraft(view, {
      engine,
      keep,
      changed(what, mergedWith) {
        if (what === 'text') return hearText()
        if (mergedWith) onMerged(path, mergedWith)
        void Promise.all([tray.refresh(), server.refresh()])
      },
    })
    return {
      draft,
      engine,
      close() {
        draft.close()
        close()
        joints = joints.filter((joint) => joint.every((one) => one.draft !== draft))
      },
    }
  }

  const opening = new Map<string, Promise<OpenDraft>>()
  /** The one draft of a file, however many ask for it at the same time. @throws ApiProblem where it cannot be read */
  function openOnce(path: string, openEngine: typeof openWorkerEngine): Promise<OpenDraft> {
    const known = open.get(path)
    if (known) return Promise.resolve(known)
    const started =
      opening.get(path) ??
      load(path, openEngine)
        .then((draft) => (open.set(path, draft), draft))
        .finally(() => opening.delete(path))
    opening.set(path, started)
    return started
  }

  /** Opens a file beside the one at hand; it stays until all are left. @throws ApiProblem where it cannot be read */
  async function openBeside(path: string): Promise<OpenDraft> {
    const at = current.value?.draft.view.path === path ? current.value : null
    if (!at) beside.add(path)
    try {
      return at ?? (await openOnce(path, openSharedEngine))
    } catch (error) {
      beside.delete(path)
      throw error
    }
  }

  /** Files beside the one at hand whose changes are only here: somebody else changed the same, or they could not be kept. */
  const troubled = computed(() =>
    [...beside].flatMap((path) => {
      const draft = open.get(path)?.draft
      return draft && draft !== current.value?.draft && UNKEPT.has(draft.state.value) ? [{ path, problem: draft.problem.value }] : []
    }),
  )

  /** Asks the engine of a file, and anew where the file is read anew meanwhile. @throws ApiProblem where it cannot be read */
  async function ask<T>(path: string, work: (at: OpenDraft) => Promise<T>): Promise<T> {
    for (let tries = 1; ; tries++) {
      try {
        return await work(await openBeside(path))
      } catch (error) {
        if (!(error instanceof EngineClosed) || tries === MOST_TRIES) throw error
      }
    }
  }

  /** Keeps and closes what was opened beside, or only these paths; one that could not be kept stays. */
  async function leaveBeside(paths: Iterable<string> = [...beside]): Promise<void> {
    for (const path of paths) {
      const at = open.get(path)
      if (!at || !beside.has(path) || at === current.value) continue
      await at.draft.flush()
      if (UNKEPT.has(at.draft.state.value)) continue
      beside.delete(path)
      open.delete(path)
      at.close()
    }
  }

  /**
   * Does something to several files as one: where one cannot be done, none is, and one undo takes all back.
   * @returns what is wrong, in words; empty for nothing
   */
  async function together(asked: readonly FileStep[]): Promise<string> {
    // the same may be asked for twice
    const steps = asked.map((step) => ({ ...step }))
    const done: { readonly draft: Draft; readonly before: number }[] = []
    const changed = (): typeof done => done.filter(({ draft, before }) => draft.lastStep() !== before)
    const forget = (): void => steps.forEach((step) => toDo.delete(step))
    const fail = (path: string, why: string): string => {
      for (const { draft } of changed()) draft.undo()
      return `${path}: ${why}`
    }
    for (const step of steps) toDo.add(step)
    for (const step of steps) {
      const { path, operation } = step
      try {
        const { draft } = await openBeside(path)
        // who left the page has it done by the next one
        if (!toDo.delete(step)) return ''
        done.push({ draft, before: draft.lastStep() })
        if (await draft.operate(operation)) continue
        forget()
        return fail(path, draft.problem.value)
      } catch (error) {
        // browsers stop what is on its way some time before they say that a page is being left
        setTimeout(forget, LEAVING_MS)
        return fail(path, wordsOf(error))
      }
    }
    joints.push(changed().map(({ draft }) => ({ draft, step: draft.lastStep() })))
    return ''
  }

  /**
   * Takes back the last step of the file at hand, with what was done along with it elsewhere.
   * @param anywhere the last of what was done to several files, also where none of it was in the file at hand
   */
  const undo = (anywhere = false): void => step('undo', anywhere)
  const redo = (anywhere = false): void => step('redo', anywhere)
  function step(way: 'undo' | 'redo', anywhere: boolean): void {
    const at = current.value?.draft
    const isAtHand = (part: Joint[number]): boolean => part.step === (way === 'undo' ? part.draft.lastStep() : part.draft.nextStep())
    const joint = joints.findLast((one) => one.some((part) => (anywhere || part.draft === at) && isAtHand(part)))
    const drafts = joint ? joint.filter(isAtHand).map(({ draft }) => draft) : at ? [at] : []
    for (const draft of drafts) draft[way]()
  }

  async function keep(kept: Kept): Promise<SavedDraft> {
    try {
      return await callApi<SavedDraft>(`${server.base}/draft`, { method: 'PUT', body: kept })
    } catch (error) {
      if (error instanceof ApiProblem && error.code === 'draft-changed')
        throw new DraftChanged(error.message, error.data['draft'] as DraftView)
      throw error
    }
  }

  /** Opens a file, or goes on with the draft that is open. */
  async function show(path: string): Promise<void> {
    wanted = path
    problem.value = ''
    await leave()
    if (wanted !== path || path === '') return
    try {
      const isOpen = open.has(path)
      const draft = await openOnce(path, openWorkerEngine)
      if (wanted === path) current.value = draft
      else if (!isOpen && !beside.has(path)) {
        open.delete(path)
        draft.close()
      }
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  /** Keeps what waits in the draft at hand, and closes it; one in conflict, or that could not be kept, stays open. */
  async function leave(): Promise<void> {
    const at = current.value
    current.value = null
    if (!at) return
    await at.draft.flush()
    if (UNKEPT.has(at.draft.state.value)) return
    // what was opened beside is not closed before all of it is
    if (beside.has(at.draft.view.path)) return
    open.delete(at.draft.view.path)
    at.close()
  }

  /** Loads the file at hand anew, as after something else changed it; what waits is let go. */
  async function reload(): Promise<void> {
    const path = current.value?.draft.view.path
    if (path === undefined) return
    current.value?.close()
    current.value = null
    open.delete(path)
    await leaveBeside()
    await show(path)
  }

  /** The file at hand was written on the server: it is shown as it is now, with what waits here carried onto it. */
  async function follow(paths: readonly string[]): Promise<void> {
    const at = current.value
    const others = paths.filter((path) => beside.has(path) && open.get(path) !== at)
    await leaveBeside(others)
    if (others.length > 0) hearText()
    if (!at || !paths.includes(at.draft.view.path)) return
    await at.draft.flush()
    if (current.value !== at || hasUnkept()) return
    const { path, text } = at.draft.view
    const now = await callApi<FileView>(`${server.base}/file?path=${encodeURIComponent(path)}`)
    // what we wrote ourselves is here already
    if (now.text === text || current.value !== at) return
    await reload()
    await tray.refresh()
    onFollowed(path, now.draft !== null)
  }
  watch(
    () => server.changedFiles,
    (paths) => void follow(paths).catch((error: unknown) => (problem.value = wordsOf(error))),
  )

  /** The page is being left: what waits is sent along, since there is no later, and what was begun is left to the next page. */
  function sendWaiting(): void {
    const begun = [...open].map(([path, { draft }]) => ({ server: server.slug, path, operations: draft.takeBegun() }))
    const later = [...toDo].map(({ path, operation }) => ({ server: server.slug, path, operations: [operation] }))
    toDo.clear()
    putDown([...begun, ...later].filter(({ operations }) => operations.length > 0))
    for (const { draft } of open.values()) {
      const kept = draft.takeWaiting()
      if (!kept) continue
      const body = JSON.stringify(kept)
      void fetch(`${server.base}/draft`, { method: 'PUT', body, headers: { 'content-type': 'application/json' }, keepalive: true })
    }
  }

  /** Does what the page before was left with. What cannot be done any more is told. */
  async function finishLeft(): Promise<void> {
    const steps = takeUp(server.slug).flatMap(({ path, operations }) => operations.map((operation) => ({ path, operation })))
    for (const step of steps) {
      const wrong = await together([step])
      if (wrong) problem.value = wrong
    }
    await leaveBeside(new Set(steps.map(({ path }) => path)))
  }

  /** Keeps what waits in all of them. */
  async function flushAll(): Promise<void> {
    await Promise.all([...open.values()].map(({ draft }) => draft.flush()))
  }

  /** Whether something is only here: a side of a conflict, or what could not be kept. */
  const hasUnkept = (): boolean => [...open.values()].some(({ draft }) => UNKEPT.has(draft.state.value))

  return {
    current,
    problem,
    troubled,
    show,
    leave,
    openBeside,
    ask,
    leaveBeside,
    together,
    flushAll,
    undo,
    redo,
    hasUnkept,
    reload,
    sendWaiting,
    finishLeft,
    /** Several may hear of it. */
    whenText: (hear: () => void) => void onText.add(hear),
    whenFollowed: (hear: typeof onFollowed) => (onFollowed = hear),
    whenMerged: (hear: typeof onMerged) => (onMerged = hear),
  }
})
