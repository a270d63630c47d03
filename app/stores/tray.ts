import { defineStore } from 'pinia'
import type { ApplyRow, StagedCommand, TrayFile, TrayText } from '~/utils/types'

/** What is staged for the server at hand. Nothing reaches it but through here. */
export const useTrayStore = defineStore('tray', () => {
  const server = useServerStore()
  const files = ref<TrayFile[]>([])
  /** What is to be said to the console of single players. */
  const commands = ref<StagedCommand[]>([])
  const isEmpty = computed(() => files.value.length + commands.value.length === 0)
  const applying = ref(false)
  const problem = ref('')

  const changeCount = computed(() => files.value.reduce((sum, file) => sum + Math.max(1, file.count), 0))
  /** Errors that keep a file from being read at all: nothing is applied before they are mended. */
  const blockingCount = computed(() => files.value.reduce((sum, file) => sum + file.blocking, 0))
  /** Errors by their codes that hold the tray until they are mended, set aside, or overruled by name. */
  const held = computed(() => {
    const counts = new Map<string, number>()
    for (const { code, count } of files.value.flatMap((file) => file.held ?? [])) counts.set(code, (counts.get(code) ?? 0) + count)
    return [...counts].map(([code, count]) => ({ code, count }))
  })
  /** Why errors of a code are let through, by the code. */
  const overruled = ref<Readonly<Record<string, string>>>({})
  const isHeld = computed(() => held.value.some(({ code }) => !overruled.value[code]))

  /** All errors in staged files, also values that the factory copy speaks against. */
  const errorCount = computed(() =>
    (server.overview?.plugins ?? []).flatMap((plugin) => plugin.files).reduce((sum, file) => sum + (file.staged ? file.errors : 0), 0),
  )
  const plugins = computed(() => [...new Set(files.value.map((file) => file.plugin))])
  const drifted = computed(() => files.value.filter((file) => file.drifted))

  async function refresh(): Promise<void> {
    ;[files.value, commands.value] = await Promise.all([
      callApi<TrayFile[]>(`${server.base}/tray`),
      callApi<StagedCommand[]>(`${server.base}/tray/commands`),
    ])
  }

  /** The texts of one staged file, for comparing them. */
  const textOf = (path: string): Promise<TrayText> => callApi<TrayText>(`${server.base}/tray/text?path=${encodeURIComponent(path)}`)

  /** Discards all that is staged, or the draft of a path that was looked at. */
  const discard = (path?: string, sha = ''): Promise<void> =>
    discardBy(path === undefined ? '' : `?path=${encodeURIComponent(path)}${sha && `&sha=${sha}`}`)
  /** Discards one command. */
  const discardCommand = (id: number): Promise<void> => discardBy(`?command=${id}`)
  async function discardBy(query: string): Promise<void> {
    problem.value = ''
    try {
      await callApi(`${server.base}/tray${query}`, { method: 'DELETE' })
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      await Promise.all([refresh(), server.refresh()])
    }
  }

  /**
   * Makes a draft one of the file as it now stands on the server: with the changes of both, or as it is.
   * @returns whether it was done; where both changed the same, somebody has to choose
   */
  async function rebase(path: string, choice: 'merge' | 'mine'): Promise<boolean> {
    problem.value = ''
    try {
      await callApi(`${server.base}/tray/rebase`, { body: { path, choice } })
      return true
    } catch (error) {
      problem.value = wordsOf(error)
      return false
    } finally {
      await Promise.all([refresh(), server.refresh()])
    }
  }

  /** Writes what was looked at to the server: the drafts and commands as they are listed here, and no others. */
  async function apply(): Promise<ApplyRow | null> {
    applying.value = true
    problem.value = ''
    try {
      const row = await callApi<ApplyRow>(`${server.base}/tray/apply`, {
        body: {
          drafts: files.value.map(({ path, sha }) => ({ path, sha })),
          commands: commands.value.map(({ id }) => id),
          overrule: held.value.flatMap(({ code }) => (overruled.value[code] ? [{ code, reason: overruled.value[code] }] : [])),
        },
      })
      overruled.value = {}
      server.complained = row.status === 'complained' ? row : null
      return row
    } catch (error) {
      problem.value = wordsOf(error)
      return null
    } finally {
      applying.value = false
      await Promise.all([refresh(), server.refresh()])
    }
  }

  return {
    files,
    commands,
    isEmpty,
    applying,
    problem,
    changeCount,
    blockingCount,
    held,
    overruled,
    isHeld,
    errorCount,
    plugins,
    drifted,
    refresh,
    textOf,
    discard,
    discardCommand,
    rebase,
    apply,
  }
})
