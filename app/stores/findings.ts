import { defineStore } from 'pinia'
import { inTurn } from '~/utils/in-turn'
import { groupFindings, type FindingGroup, type GroupBy } from '~/utils/finding-groups'
import type { FindingsAnswer, ServerFinding } from '~/utils/types'

/** A finding in the list, and whether it was mended since all was looked at. */
export interface ListedFinding extends ServerFinding {
  readonly isMended: boolean
}

const ASK_MS = 300

/** What is wrong on the server at hand. What is mended stays in its place until all is looked at anew. */
export const useFindingsStore = defineStore('findings', () => {
  const server = useServerStore()
  const drafts = useDraftsStore()
  const list = shallowRef<readonly ListedFinding[]>([])
  const about = shallowRef<Omit<FindingsAnswer, 'findings'> | null>(null)
  const by = ref<GroupBy>('cause')
  const focus = ref('')
  const problem = ref('')
  const loading = ref(false)
  const progress = shallowRef<{ readonly done: number; readonly total: number } | null>(null)
  /** Groups that are open or folded other than they are at first. */
  const toggled = ref<ReadonlySet<string>>(new Set())

  const groups = computed<readonly FindingGroup<ListedFinding>[]>(() => groupFindings(list.value, by.value, toggled.value))
  const shown = computed(() => groups.value.flatMap((group) => (group.isOpen ? group.findings : [])))
  const current = computed(() => list.value.find(({ subject }) => subject === focus.value) ?? null)
  const counts = computed(() => {
    const left = list.value.filter(({ isMended, aside }) => !isMended && !aside)
    const of = (wanted: string): number => left.filter(({ severity }) => severity === wanted).length
    return { error: of('error'), warning: of('warning'), note: of('note') }
  })
  /** Others that one and the same mistake makes, the one at hand among them. */
  const alike = computed(() => {
    const { value } = current
    return value?.fix && value.cause
      ? list.value.filter((one) => one.code === value.code && one.cause === value.cause && one.fix && !one.isMended && !one.aside)
      : []
  })

  const ask = inTurn()
  /**
   * Looks at everything. An answer that comes after one that was asked for later is not heard: it tells of drafts as they were.
   * @param anew drops what was mended from the list
   */
  async function load(anew = false): Promise<void> {
    const isLast = ask()
    loading.value = true
    problem.value = ''
    const timer = setInterval(() => void askProgress(), ASK_MS)
    try {
      const { findings, ...rest } = await callApi<FindingsAnswer>(`${server.base}/findings`)
      if (!isLast()) return
      list.value = anew ? findings.map((one) => ({ ...one, isMended: false })) : withMended(list.value, findings)
      about.value = rest
      if (!list.value.some(({ subject }) => subject === focus.value)) focus.value = shown.value[0]?.subject ?? ''
    } catch (error) {
      if (isLast()) problem.value = wordsOf(error)
    } finally {
      clearInterval(timer)
      if (isLast()) {
        progress.value = null
        loading.value = false
      }
    }
  }

  async function askProgress(): Promise<void> {
    const answer = await callApi<{ progress: typeof progress.value }>(`${server.base}/findings/check`).catch(() => null)
    if (loading.value) progress.value = answer?.progress ?? null
  }

  const end = (): Promise<unknown> => callApi(`${server.base}/findings/check`, { method: 'DELETE' })

  /** Writes what is meant into the drafts of some findings; one undo takes all back. */
  async function mend(some: readonly ServerFinding[]): Promise<void> {
    problem.value = ''
    const edits = new Map<string, NonNullable<ServerFinding['fix']>['edits'][number][]>()
    for (const { file, fix } of some) if (fix) edits.set(file, [...(edits.get(file) ?? []), ...fix.edits])
    const steps = [...edits].map(([path, list]) => ({ path, operation: { kind: 'mend' as const, pointer: '', edits: list } }))
    if (steps.length === 0) return
    problem.value = await drafts.together(steps)
    await follow()
  }

  /** What was changed is looked at once it is kept. */
  async function follow(): Promise<void> {
    await drafts.flushAll()
    const { value: words } = problem
    await load()
    if (words) problem.value = words
  }

  async function undo(): Promise<void> {
    drafts.undo(true)
    await follow()
  }

  async function setAside(subject: string, reason: string): Promise<void> {
    await done(() => callApi(`${server.base}/findings/aside`, { method: 'PUT', body: { subject, reason } }))
  }
  async function takeUp(subject: string): Promise<void> {
    await done(() => callApi(`${server.base}/findings/aside?subject=${encodeURIComponent(subject)}`, { method: 'DELETE' }))
  }
  async function done(work: () => Promise<unknown>): Promise<void> {
    try {
      await work()
      await load()
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  function move(step: 1 | -1): void {
    const at = shown.value.findIndex(({ subject }) => subject === focus.value)
    const next = shown.value[at < 0 ? 0 : at + step]
    if (next) focus.value = next.subject
  }

  function toggle(id: string): void {
    const now = new Set(toggled.value)
    if (!now.delete(id)) now.add(id)
    toggled.value = now
  }

  return {
    list,
    about,
    by,
    focus,
    problem,
    loading,
    progress,
    groups,
    shown,
    current,
    counts,
    alike,
    load,
    end,
    mend,
    follow,
    undo,
    setAside,
    takeUp,
    move,
    toggle,
  }
})

/** What is found now, with what was found before and is mended left where it stood. */
export function withMended(before: readonly ListedFinding[], now: readonly ServerFinding[]): ListedFinding[] {
  const fresh = new Map(now.map((one) => [one.subject, one]))
  const kept = before.map((one): ListedFinding => {
    const same = fresh.get(one.subject)
    fresh.delete(one.subject)
    return same ? { ...same, isMended: false } : { ...one, isMended: true }
  })
  return [...kept, ...[...fresh.values()].map((one) => ({ ...one, isMended: false }))]
}
