import { defineStore } from 'pinia'
import { formatOf, layer, parse, type Customisation } from '@pasticcio/core'
import type { ApplyRow, TrayFile } from '~/utils/types'

export interface StagedFile extends TrayFile {
  readonly changes: readonly Customisation[]
  readonly errors: number
}

/** What is staged for the server at hand. Nothing reaches it but through here. */
export const useTrayStore = defineStore('tray', () => {
  const server = useServerStore()
  const files = ref<StagedFile[]>([])
  const applying = ref(false)
  const problem = ref('')

  const changeCount = computed(() => files.value.reduce((sum, file) => sum + Math.max(1, file.changes.length), 0))
  /** Errors that keep a file from being read at all: nothing is applied before they are mended. */
  const blockingCount = computed(() => files.value.reduce((sum, file) => sum + file.errors, 0))
  /** All errors in staged files, also values that the factory copy speaks against. */
  const errorCount = computed(() =>
    (server.overview?.plugins ?? []).flatMap((plugin) => plugin.files).reduce((sum, file) => sum + (file.staged ? file.errors : 0), 0),
  )
  const plugins = computed(() => [...new Set(files.value.map((file) => file.plugin))])
  const drifted = computed(() => files.value.filter((file) => file.drifted !== null))

  async function refresh(): Promise<void> {
    const tray = await callApi<TrayFile[]>(`${server.base}/tray`)
    files.value = tray.map((file) => describe(file))
  }

  function describe(file: TrayFile): StagedFile {
    const format = formatOf(file.path)
    if (!format) return { ...file, changes: [], errors: 0 }
    const [base, draft] = [parse(file.base, format, file.reading), parse(file.draft, format, file.reading)]
    return { ...file, changes: layer(base, draft), errors: draft.findings.filter((finding) => finding.severity === 'error').length }
  }

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

  return { files, applying, problem, changeCount, blockingCount, errorCount, plugins, drifted, refresh, discard, apply }
})
