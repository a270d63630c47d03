import { encodePath } from '~/stations'
import { defineStore } from 'pinia'
import type { ApplyRow, InstallPlan, PantryPackage, SiteOffer, SiteState } from '~/utils/types'

const ASK_AGAIN_MS = 2000

/** The packages at hand, what the plugin sites offer, and what installing the chosen one would do. */
export const usePantryStore = defineStore('pantry', () => {
  const server = useServerStore()
  const packages = ref<PantryPackage[]>([])
  const offers = ref<SiteOffer[]>([])
  /** The plugin sites, and how each answered. */
  const sites = ref<Omit<SiteState, 'offers'>[]>([])
  const loading = ref(true)
  const problem = ref('')
  const chosen = shallowRef<PantryPackage | null>(null)
  const plan = shallowRef<InstallPlan<number> | null>(null)
  /** What is being done, in words; empty for nothing. */
  const working = ref('')
  const done = shallowRef<ApplyRow | null>(null)
  /** The last console line before an installation began. */
  const since = ref(0)

  const groups = computed(() =>
    [...new Set(packages.value.map((item) => item.name))].map((name) => ({
      name,
      versions: packages.value.filter((item) => item.name === name),
    })),
  )
  /** Offers that the pantry does not have. */
  const fresh = computed(() =>
    offers.value.filter((offer) => !packages.value.some((item) => item.name === offer.name && item.version === offer.version)),
  )
  const installed = computed(() => server.overview?.plugins ?? [])
  const blocked = computed(() => plan.value?.problems.some((item) => item.severity === 'error') ?? true)
  const replaces = computed(() => plan.value?.steps.find((step) => step.replaces !== null) ?? null)
  /** What the console said of plugins since the installation began. */
  const followed = computed(() =>
    server.lines.filter(
      (line) => line.seq > since.value && (line.level === 'error' || (line.event !== null && line.event.type !== 'state')),
    ),
  )

  async function load(): Promise<void> {
    try {
      const answer = await callApi<{ packages: PantryPackage[]; offers: SiteOffer[]; sites: Omit<SiteState, 'offers'>[] }>(
        `${server.base}/pantry`,
      )
      packages.value = answer.packages
      offers.value = answer.offers
      sites.value = answer.sites
      // a slow site holds nothing up: it is looked after again
      if (sites.value.some(({ status }) => status === 'asking') && !asking) asking = setTimeout(askAgain, ASK_AGAIN_MS)
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      loading.value = false
    }
  }

  let asking: ReturnType<typeof setTimeout> | null = null
  function askAgain(): void {
    asking = null
    void load()
  }

  /** Takes a package out of the pantry. */
  async function remove(item: PantryPackage): Promise<void> {
    problem.value = ''
    try {
      await callApi(`${server.base}/pantry/${item.id}`, { method: 'DELETE' })
      if (chosen.value?.id === item.id) reset()
      await Promise.all([load(), server.refresh()])
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  /** Lets go of what was chosen, as when the page is opened anew. */
  function reset(): void {
    chosen.value = plan.value = done.value = null
    problem.value = ''
  }

  async function add(words: string, work: () => Promise<{ id: number }>): Promise<boolean> {
    working.value = words
    problem.value = ''
    try {
      const { id } = await work()
      await Promise.all([load(), server.refresh()])
      const found = packages.value.find((item) => item.id === id)
      if (found) await choose(found)
      return true
    } catch (error) {
      problem.value = wordsOf(error)
      return false
    } finally {
      working.value = ''
    }
  }

  const fetchLink = (link: string, what = 'the package'): Promise<boolean> =>
    add(`Fetching ${what} …`, () => callApi(`${server.base}/pantry/link`, { body: { link } }))

  async function upload(files: Iterable<File>): Promise<void> {
    for (const file of files)
      await add(`Reading ${file.name} …`, () =>
        callApi(`${server.base}/pantry/upload?name=${encodeURIComponent(file.name)}`, { bytes: file }),
      )
  }

  async function choose(item: PantryPackage): Promise<void> {
    chosen.value = item
    done.value = plan.value = null
    try {
      plan.value = await callApi<InstallPlan<number>>(`${server.base}/installs/plan?package=${item.id}`)
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  async function install(): Promise<void> {
    if (!chosen.value) return
    since.value = server.lines.at(-1)?.seq ?? 0
    working.value = `Installing ${chosen.value.name} ${chosen.value.version} …`
    problem.value = ''
    try {
      done.value = await callApi<ApplyRow>(`${server.base}/installs`, { body: { packageId: chosen.value.id } })
      server.complained = done.value.status === 'complained' ? done.value : null
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      working.value = ''
      await server.refresh()
    }
  }

  /** The version of a plugin on the server; null where it is not there. */
  const versionOn = (name: string): string | null => installed.value.find((item) => item.name === name)?.version ?? null

  /** Where the first settings of a plugin are. */
  function settingsLink(name: string): string {
    const path = installed.value.find((item) => item.name === name)?.files.find((file) => !file.record)?.path
    return path ? `/s/${server.slug}/settings/${encodePath(path)}` : `/s/${server.slug}/settings?plugin=${encodeURIComponent(name)}`
  }

  return {
    packages,
    loading,
    problem,
    chosen,
    plan,
    working,
    done,
    groups,
    fresh,
    sites,
    installed,
    blocked,
    replaces,
    followed,
    load,
    remove,
    reset,
    fetchLink,
    upload,
    choose,
    install,
    versionOn,
    settingsLink,
  }
})
