import { defineStore } from 'pinia'
import type { HouseServer, Load, LoadMark, PluginLoad } from '~/utils/types'
import type { LoadSpan } from '~/utils/time-line'

/** A mark with the letter it has on the page. */
export interface LetteredMark extends LoadMark {
  readonly letter: string
  readonly slug: string
}

/** All servers: how they run, how they ran, and what was done to each. */
export const useHouseStore = defineStore('house', () => {
  const servers = ref<readonly HouseServer[] | null>(null)
  const span = ref<LoadSpan>('day')
  const loads = shallowRef<ReadonlyMap<string, Load>>(new Map())
  const focus = ref('')
  /** The letter of the mark in focus; empty for none. */
  const letter = ref('')
  const plugins = shallowRef<readonly PluginLoad[]>([])
  const problem = ref('')

  const current = computed(() => servers.value?.find(({ slug }) => slug === focus.value) ?? null)
  /** The letters run on through all servers. */
  const marks = computed<readonly LetteredMark[]>(() => {
    let count = 0
    return (servers.value ?? []).flatMap(({ slug }) =>
      (loads.value.get(slug)?.marks ?? []).map((mark) => ({ ...mark, slug, letter: letterOf(count++) })),
    )
  })
  const marksOf = (slug: string): LetteredMark[] => marks.value.filter((mark) => mark.slug === slug)
  const mark = computed(() => marks.value.find((item) => item.letter === letter.value && item.slug === focus.value) ?? null)

  async function load(): Promise<void> {
    try {
      servers.value = await callApi<HouseServer[]>('/api/house')
      if (!current.value) focus.value = servers.value[0]?.slug ?? ''
      const wanted = span.value
      const answers = await Promise.all(
        servers.value
          .filter(({ problem: why }) => why === '')
          .map(async ({ slug }) => [slug, await callApi<Load>(`/api/servers/${slug}/load?span=${wanted}`)] as const),
      )
      // of two spans that were asked for the one that is shown counts
      if (wanted === span.value) loads.value = new Map(answers)
      problem.value = ''
      await loadPlugins()
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  async function loadPlugins(): Promise<void> {
    const { slug } = current.value ?? {}
    if (!slug || current.value?.problem) return void (plugins.value = [])
    const before = mark.value ? `?before=${mark.value.at}` : ''
    const answer = await callApi<PluginLoad[]>(`/api/servers/${slug}/load/plugins${before}`)
    if (slug === current.value?.slug) plugins.value = answer
  }

  function setSpan(wanted: LoadSpan): void {
    span.value = wanted
    letter.value = ''
    void load()
  }

  function look(slug: string, at = ''): void {
    focus.value = slug
    letter.value = at
    void loadPlugins().catch((error: unknown) => (problem.value = wordsOf(error)))
  }

  /** The server so many further down. */
  function step(by: number): void {
    const all = servers.value ?? []
    const at = all.findIndex(({ slug }) => slug === focus.value)
    const next = all[Math.min(all.length - 1, Math.max(0, at + by))]
    if (next) look(next.slug)
  }

  /** The mark so many further on, of the server in focus. */
  function stepMark(by: number): void {
    const own = marksOf(focus.value)
    const at = own.findIndex((item) => item.letter === letter.value)
    const next = own[at < 0 ? (by > 0 ? 0 : own.length - 1) : Math.min(own.length - 1, Math.max(0, at + by))]
    if (next) look(focus.value, next.letter)
  }

  async function control(slug: string, action: 'start'): Promise<void> {
    try {
      await callApi(`/api/servers/${slug}/control`, { body: { action } })
      problem.value = ''
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      await load()
    }
  }

  return {
    servers,
    span,
    loads,
    focus,
    letter,
    plugins,
    problem,
    current,
    marks,
    mark,
    marksOf,
    load,
    setSpan,
    look,
    step,
    stepMark,
    control,
  }
})
