import { defineStore } from 'pinia'
import type { ApplyRow, PlacingPlan, ShownStep } from '~/utils/types'

const TYPED_MS = 200

/** The plan of an installation: what goes where, what stands against it, and what came of carrying it out. */
export const useInstallStore = defineStore('install', () => {
  const server = useServerStore()
  const session = useSessionStore()
  const packages = ref<number[]>([])
  const folders = ref<Record<string, string>>({})
  const without = ref<string[]>([])
  const overwrite = ref<string[]>([])
  const place = ref<string | null>(null)
  const switchOn = ref(false)
  const plan = shallowRef<PlacingPlan | null>(null)
  const problem = ref('')
  const working = ref(false)
  /** What is fetched from a plugin site right now; empty for nothing. */
  const fetching = ref('')
  /** Links that were asked for: one that fails is not asked for again and again. */
  const tried = new Set<string>()
  const done = shallowRef<ApplyRow | null>(null)
  /** The last console line before it began. */
  const since = ref(0)

  const wanted = computed(() => ({
    packages: packages.value,
    folders: folders.value,
    without: without.value,
    overwrite: overwrite.value,
    place: place.value,
    switchOn: switchOn.value,
  }))
  /** The plugin that was asked for, or the first of them. */
  const main = computed<ShownStep | null>(
    () => plan.value?.steps.find(({ because }) => because === 'asked') ?? plan.value?.steps.at(-1) ?? null,
  )
  const blocked = computed(() => plan.value?.problems.some(({ severity }) => severity === 'error') ?? true)
  const replaces = computed(() => plan.value?.steps.find(({ replaces: before }) => before !== null) ?? null)
  const ready = computed(
    () => plan.value !== null && plan.value.steps.length > 0 && !blocked.value && !replaces.value && !waitsForPlace.value && !onSite.value,
  )
  const onSite = computed(() => plan.value?.steps.some(({ id }) => typeof id === 'string') ?? false)
  const waitsForPlace = computed(() => plan.value?.places !== null && place.value === null)
  /** What the console said of plugins since it began. */
  const followed = computed(() =>
    server.lines.filter(({ seq, level, event }) => seq > since.value && (level === 'error' || (event !== null && event.type !== 'state'))),
  )

  async function open(ids: readonly number[]): Promise<void> {
    packages.value = [...ids]
    folders.value = {}
    without.value = []
    overwrite.value = []
    place.value = null
    switchOn.value = false
    plan.value = done.value = null
    tried.clear()
    await load()
  }

  let asked = 0
  async function load(): Promise<void> {
    const turn = ++asked
    try {
      const answer = await callApi<PlacingPlan>(`${server.base}/installs/plan`, { body: wanted.value })
      // of two that were asked for the later one counts
      if (turn !== asked) return
      plan.value = answer
      problem.value = ''
      await fetchNeeded(turn)
    } catch (error) {
      if (turn === asked) problem.value = wordsOf(error)
    }
  }
  /** What a plugin site has of it is fetched, so that its files are in the plan, too. */
  async function fetchNeeded(turn: number): Promise<void> {
    const step = plan.value?.steps.find(({ id }) => typeof id === 'string' && !tried.has(id))
    if (!step || !session.mayEdit) return
    tried.add(step.id as string)
    fetching.value = `${step.name} ${shortVersion(step.version)}`
    try {
      await callApi(`${server.base}/pantry/link`, { body: { link: step.id } })
    } finally {
      fetching.value = ''
    }
    if (turn === asked) await load()
  }
  async function fetchAgain(): Promise<void> {
    tried.clear()
    await load()
  }
  const loadSoon = useDebounceFn(load, TYPED_MS)

  function setFolder(plugin: string, folder: string): void {
    folders.value = { ...folders.value, [plugin]: folder }
    void loadSoon()
  }
  function setPlace(name: string): void {
    place.value = name
    void load()
  }
  function toggle(list: 'without' | 'overwrite', name: string): void {
    const held = list === 'without' ? without : overwrite
    held.value = held.value.includes(name) ? held.value.filter((item) => item !== name) : [...held.value, name]
    void load()
  }
  function setSwitchOn(on: boolean): void {
    switchOn.value = on
    void load()
  }

  async function install(): Promise<void> {
    if (!plan.value || !ready.value || working.value || !session.mayEdit) return
    since.value = server.lines.at(-1)?.seq ?? 0
    working.value = true
    problem.value = ''
    try {
      done.value = await callApi<ApplyRow>(`${server.base}/installs`, { body: { ...wanted.value, planSha: plan.value.sha } })
      server.complained = done.value.status === 'complained' ? done.value : null
    } catch (error) {
      problem.value = wordsOf(error)
      // what it would do by now is shown, so that it can be looked at once more
      if (error instanceof ApiProblem && error.code === 'plan-changed') await load().then(() => (problem.value = wordsOf(error)))
    } finally {
      working.value = false
      await server.refresh()
    }
  }

  return {
    packages,
    folders,
    without,
    overwrite,
    place,
    switchOn,
    plan,
    problem,
    working,
    fetching,
    done,
    main,
    blocked,
    replaces,
    ready,
    waitsForPlace,
    followed,
    open,
    load,
    fetchAgain,
    setFolder,
    setPlace,
    toggle,
    setSwitchOn,
    install,
  }
})
