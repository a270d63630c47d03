import { defineStore } from 'pinia'
import { DraftChanged, createDraft, type Draft, type Kept } from '~/drafts/draft'
import { openWorkerEngine, type WorkerEngine } from '~/drafts/worker-engine'
import type { DraftView, FileView, SavedDraft } from '~/utils/types'

interface OpenDraft {
  readonly draft: Draft
  readonly engine: WorkerEngine['engine']
  close(): void
}

/** The settings files somebody works on, by path. One is at hand; others stay until what waits in them is kept. */
export const useDraftsStore = defineStore('drafts', () => {
  const server = useServerStore()
  const tray = useTrayStore()
  const known = useKnownStore()
  const open = new Map<string, OpenDraft>()
  const current = shallowRef<OpenDraft | null>(null)
  const problem = ref('')
  /** The last path that was asked for: an answer that comes later than that of another one is dropped. */
  let wanted = ''
  let onText: () => void = () => undefined
  let onFollowed: (path: string, hasDraft: boolean) => void = () => undefined
  let onMerged: (path: string, by: string) => void = () => undefined

  async function load(path: string): Promise<OpenDraft> {
    // the lists are read with each file: a plugin that was just installed may have brought some
    const [view] = await Promise.all([callApi<FileView>(`${server.base}/file?path=${encodeURIComponent(path)}`), known.ready()])
    const input = {
      known: known.ids,
      rules: view.rules,
      ...(server.overview ? { plugins: server.overview.plugins.map(({ name }) => name) } : {}),
      path,
      plugin: view.plugin,
      reading: view.reading,
      text: view.draft?.text ?? view.text,
      base: view.text,
      factory: view.factory,
      update: view.update?.text ?? null,
      checked: !view.record,
    }
    const { engine, close } = await openWorkerEngine(input)
    const draft = createDraft(view, {
      engine,
      keep,
      changed(what, mergedWith) {
        if (what === 'text') return onText()
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
      },
    }
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
      const known = open.get(path)
      const draft = known ?? (await load(path))
      if (wanted !== path) return known ? undefined : draft.close()
      open.set(path, draft)
      current.value = draft
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
    if (at.draft.state.value === 'conflict' || at.draft.state.value === 'failed') return
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
    await show(path)
  }

  /** The file at hand was written on the server: it is shown as it is now, with what waits here carried onto it. */
  async function follow(paths: readonly string[]): Promise<void> {
    const at = current.value
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

  /** The page is being left: what waits is sent along, since there is no later. */
  function sendWaiting(): void {
    for (const { draft } of open.values()) {
      const kept = draft.takeWaiting()
      if (!kept) continue
      const body = JSON.stringify(kept)
      void fetch(`${server.base}/draft`, { method: 'PUT', body, headers: { 'content-type': 'application/json' }, keepalive: true })
    }
  }

  /** Whether something is only here: a side of a conflict, or what could not be kept. */
  const hasUnkept = (): boolean => [...open.values()].some(({ draft }) => ['conflict', 'failed'].includes(draft.state.value))

  return {
    current,
    problem,
    show,
    leave,
    hasUnkept,
    reload,
    sendWaiting,
    whenText: (hear: () => void) => (onText = hear),
    whenFollowed: (hear: typeof onFollowed) => (onFollowed = hear),
    whenMerged: (hear: typeof onMerged) => (onMerged = hear),
  }
})
