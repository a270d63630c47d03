import { defineStore } from 'pinia'
import type { ApplyRow, TrayFile, TrayText } from '~/utils/types'

/** What is staged for the server at hand. Nothing reaches it but through here. */
export const useTrayStore = defineStore('tray', () => {
  const server = useServerStore()
  const files = ref<TrayFile[]>([])
  const applying = ref(false)
  const problem = ref('')

  const changeCount = computed(() => files.value.reduce((sum, file) => sum + Math.max(1, file.count), 0))
  /** Errors that keep a file from being read at all: nothing is applied before they are mended. */
  const blockingCount = computed(() => files.value.reduce((sum, file) => sum + file.blocking, 0))
  /** All errors in staged files, also values that the factory copy speaks against. */
  const errorCount = computed(() =>
    (server.overview?.plugins ?? []).flatMap((plugin) => plugin.files).reduce((sum, file) => sum + (file.staged ? file.errors : 0), 0),
  )
  const plugins = computed(() => [...new Set(files.value.map((file) => file.plugin))])
  const drifted = computed(() => files.value.filter((file) => file.drifted))

  async function refresh(): Promise<void> {
    files.value = await callApi<TrayFile[]>(`${server.base}/tray`)
  }

  /** The texts of one staged file, for comparing them. */
  const textOf = (path: string): Promise<TrayText> => callApi<TrayText>(`${server.base}/tray/text?path=${encodeURIComponent(path)}`)

  async function discard(path?: string): Promise<void> {
    await callApi(`${server.base}/tray${path ? `?path=${encodeURIComponent(path)}` : ''}`, { method: 'DELETE' })
    await Promise.all([refresh(), server.refresh()])
  }

  /** Writes everything staged to the server. */
  async function apply(): Promise<ApplyRow | null> {
    applying.value = true
    problem.value = ''
    try {
      const row = await callApi<ApplyRow>(`${server.base}/tray/apply`, { method: 'POST' })
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

  return { files, applying, problem, changeCount, blockingCount, errorCount, plugins, drifted, refresh, textOf, discard, apply }
})
