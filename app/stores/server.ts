import { defineStore } from 'pinia'
import type { ApplyRow, Complaint, HistoryRow, NumberedLine, Overview, ServerState } from '~/utils/types'

/** Where the console says more than can be shown, the numbers of its lines tell how many were left out. */
function leftOut(last: NumberedLine | undefined, next: NumberedLine | undefined): NumberedLine[] {
  const count = last && next ? next.seq - last.seq - 1 : 0
  if (count <= 0) return []
  return [{ seq: last!.seq + 0.5, time: next!.time, level: 'info', text: `… ${count} lines left out`, event: null }]
}

/** A server of which nothing was told yet. */
const UNKNOWN: ServerState = { status: 'stopped', players: null, ticks: null, memory: null, since: null }

/** So many console lines are shown. */
const MOST_LINES = 600

/** The server at hand: what is on it, how it runs, and its console. */
export const useServerStore = defineStore('server', () => {
  const slug = ref('')
  const overview = ref<Overview | null>(null)
  const problem = ref('')
  const state = ref<ServerState>(UNKNOWN)
  const lines = ref<NumberedLine[]>([])
  const busy = ref('')
  /** The last change that plugins complained about, while it is in force. */
  const complained = ref<ApplyRow | null>(null)
  /** Files that were written by others than us, as they are seen to be. */
  const changedFiles = shallowRef<readonly string[]>([])
  let source: EventSource | null = null

  const base = computed(() => `/api/servers/${slug.value}`)
  /** What plugins complained about: after the last change, and as the server started. */
  const complaints = computed<readonly Complaint[]>(() => {
    const after = complained.value?.outcome.complaints ?? []
    const atStart = (overview.value?.plugins ?? []).flatMap(({ name, run }): Complaint[] =>
      run?.state === 'failed' ? [{ plugin: name, path: run.path, line: run.line, reason: run.reason }] : [],
    )
    return [...after, ...atStart.filter(({ plugin, path }) => !after.some((item) => item.plugin === plugin && item.path === path))]
  })

  async function open(name: string): Promise<void> {
    if (slug.value === name && source) return
    close()
    slug.value = name
    overview.value = null
    lines.value = []
    source = new EventSource(`${base.value}/events`)
    // a stream that breaks off may mean that the session ended, which any answer tells
    source.addEventListener('error', () => void callApi('/api/me').catch(() => undefined))
    source.addEventListener('state', (event) => (state.value = JSON.parse(event.data as string) as ServerState))
    source.addEventListener('lines', (event) => (lines.value = JSON.parse(event.data as string) as NumberedLine[]))
    source.addEventListener('files', (event) => {
      changedFiles.value = JSON.parse(event.data as string) as string[]
      void refresh()
    })
    source.addEventListener('more', (event) => {
      const more = JSON.parse(event.data as string) as NumberedLine[]
      lines.value = [...lines.value, ...leftOut(lines.value.at(-1), more[0]), ...more].slice(-MOST_LINES)
      // files appear when a plugin writes them for the first time; what a running server says of a plugin is of that one alone
      const telling = state.value.status === 'running' ? ['ready', 'loaded', 'failed'] : ['ready']
      if (more.some((line) => line.event && telling.includes(line.event.type))) void refresh()
    })
    await Promise.all([refresh(), lookForComplaints()])
  }

  function close(): void {
    source?.close()
    source = null
  }

  async function refresh(): Promise<void> {
    try {
      overview.value = await callApi<Overview>(`${base.value}/overview`)
      problem.value = ''
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  async function lookForComplaints(): Promise<void> {
    const [latest] = await callApi<HistoryRow[]>(`${base.value}/history`).catch(() => [])
    complained.value = latest?.status === 'complained' ? latest : null
  }

  async function control(action: 'start' | 'stop' | 'restart' | 'kill'): Promise<void> {
    busy.value = action
    try {
      await callApi(`${base.value}/control`, { body: { action } })
      problem.value = ''
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      busy.value = ''
      await refresh()
    }
  }

  /** Goes back to before a change. */
  async function undo(id: number): Promise<ApplyRow> {
    const row = await callApi<ApplyRow>(`${base.value}/history/${id}/undo`, { method: 'POST' })
    await Promise.all([refresh(), lookForComplaints()])
    return row
  }

  return {
    slug,
    base,
    overview,
    problem,
    state,
    lines,
    busy,
    complained,
    complaints,
    changedFiles,
    open,
    close,
    refresh,
    lookForComplaints,
    control,
    undo,
  }
})
