import { encodePath } from '~/stations'
import { defineStore } from 'pinia'
import type { Download, PantryPackage, SiteOffer, SiteState } from '~/utils/types'

const ASK_AGAIN_MS = 2000
const LOOK_AGAIN_MS = 200

/** The packages at hand, and what the plugin sites offer. */
export const usePantryStore = defineStore('pantry', () => {
  const server = useServerStore()
  const packages = ref<PantryPackage[]>([])
  const offers = ref<SiteOffer[]>([])
  /** The plugin sites, and how each answered. */
  const sites = ref<Pick<SiteState, 'address' | 'status' | 'problem'>[]>([])
  const loading = ref(true)
  const problem = ref('')
  /** What is being done, in words; empty for nothing. */
  const working = ref('')
  /** What is fetched right now; null for nothing. */
  const download = ref<Download | null>(null)
  /** Packages that came last, of which several may be installed at once. */
  const added = ref<PantryPackage[]>([])

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
  async function load(): Promise<void> {
    try {
      const answer = await callApi<{
        packages: PantryPackage[]
        offers: SiteOffer[]
        sites: Pick<SiteState, 'address' | 'status' | 'problem'>[]
      }>(`${server.base}/pantry`)
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
      added.value = added.value.filter(({ id }) => id !== item.id)
      await Promise.all([load(), server.refresh()])
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  /** Lets go of what was said before, as when the page is opened anew. */
  function reset(): void {
    added.value = []
    problem.value = ''
  }

  async function add(words: string, work: () => Promise<readonly { id: number }[]>): Promise<boolean> {
    working.value = words
    problem.value = ''
    try {
      const ids = (await work()).map(({ id }) => id)
      await Promise.all([load(), server.refresh()])
      added.value = [...added.value, ...packages.value.filter(({ id }) => ids.includes(id) && !added.value.some((item) => item.id === id))]
      return true
    } catch (error) {
      problem.value = wordsOf(error)
      return false
    } finally {
      working.value = ''
    }
  }

  /** Fetches a package by its link, and follows how far it has come. */
  const fetchLink = (link: string, what = 'the package'): Promise<boolean> =>
    add(`Fetching ${what} …`, async () => {
      try {
        download.value = await callApi<Download>(`${server.base}/pantry/downloads`, { body: { link } })
        while (download.value.status === 'fetching' || download.value.status === 'reading') {
          await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MS))
          download.value = await callApi<Download>(`${server.base}/pantry/downloads/${download.value.id}`)
        }
        if (download.value.status !== 'done') throw new ApiProblem(download.value.code, 409, download.value.problem)
        return download.value.packages
      } finally {
        download.value = null
      }
    })

  /** Gives up what is being fetched. */
  async function cancel(): Promise<void> {
    if (download.value) await callApi(`${server.base}/pantry/downloads/${download.value.id}`, { method: 'DELETE' }).catch(() => undefined)
  }

  async function upload(files: Iterable<File>): Promise<void> {
    for (const file of files)
      await add(`Reading ${file.name} …`, () =>
        callApi(`${server.base}/pantry/upload?name=${encodeURIComponent(file.name)}`, { bytes: file }),
      )
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
    working,
    download,
    added,
    groups,
    fresh,
    sites,
    installed,
    load,
    remove,
    reset,
    fetchLink,
    cancel,
    upload,
    versionOn,
    settingsLink,
  }
})
