<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import type { ShownSite, SiteOffer } from '~/utils/types'

/** The plugin sites: how each answers, what it has, and what there is to read of a package. */
const session = useSessionStore()
const confirm = useConfirm()
const { problem, busy, run } = useTask()
const ASK_AGAIN_MS = 2000
const sites = ref<ShownSite[] | null>(null)
const address = ref('')
const mayBePrivate = ref(false)
const chosen = ref<SiteOffer | null>(null)
const notes = shallowRef<{ readonly readme: string; readonly changelog: string } | null>(null)
const WORDS = { asking: 'is being asked', answered: 'answered', failed: 'did not answer' } as const

async function load(): Promise<void> {
  const all = await callApi<ShownSite[]>('/api/sites')
  // those that can be changed here come first
  sites.value = [...all.filter(({ id }) => id !== null), ...all.filter(({ id }) => id === null)]
}
onMounted(() => run(load))
useIntervalFn(() => sites.value?.some(({ status }) => status === 'asking') && void load().catch(() => undefined), ASK_AGAIN_MS)

const add = (): Promise<boolean> =>
  run(async () => {
    await callApi('/api/sites', { body: { address: address.value.trim(), mayBePrivate: mayBePrivate.value } })
    address.value = ''
    mayBePrivate.value = false
    await load()
  }, 'Adding it')
function askToRemove(event: MouseEvent, site: ShownSite): void {
  confirm.require({
    target: event.currentTarget as HTMLElement,
    message: `Remove ${site.address}? What came from it stays in the pantry.`,
    rejectLabel: 'Keep',
    acceptLabel: 'Remove it',
    accept: () => void run(() => callApi(`/api/sites/${site.id}`, { method: 'DELETE' }).then(load)),
  })
}
function look(offer: SiteOffer): void {
  chosen.value = offer
  notes.value = null
  if (offer.hasNotes)
    void run(async () => {
      const answer = await callApi<{ readme: string; changelog: string }>(`/api/sites/notes?link=${encodeURIComponent(offer.link)}`)
      if (chosen.value === offer) notes.value = answer
    })
}
/** The plugins of a site, each with its versions, the newest last as the site has them. */
const plugins = (site: ShownSite): { readonly name: string; readonly offers: readonly SiteOffer[] }[] =>
  [...new Set(site.offers.map(({ name }) => name))].map((name) => ({ name, offers: site.offers.filter((offer) => offer.name === name) }))
</script>

<template>
  <HouseFrame title="Plugin sites" :note="sites ? counted(sites.length, 'site') : ''">
    <Message v-if="problem" severity="error">{{ problem }}</Message>
    <BaseProgress v-if="busy" :label="busy" />
    <div v-if="!sites && !problem" class="skeleton" aria-busy="true"><BaseProgress label="Loading" /></div>
    <template v-else-if="sites">
      <div v-if="sites.length === 0" class="state">
        <h2>No plugin site is known yet</h2>
        <p>
          A plugin site gives a list of packages with versions, what they need and their hashes. Without one, packages are dropped on the
          page Plugins, or fetched by a link.
        </p>
      </div>
      <form v-if="session.isOwner" class="add" @submit.prevent="add">
        <label for="site-address" class="b">Add a site</label>
        <InputText id="site-address" v-model="address" class="w4" placeholder="https://plugins.example" />
        <label class="private"><input v-model="mayBePrivate" type="checkbox" /> it may be in our own network</label>
        <button class="btn small" :disabled="address.trim() === '' || busy !== ''">Add</button>
      </form>
      <section v-for="site in sites" :key="site.address" :aria-label="site.address">
        <div class="grp">
          <h2>{{ site.address }}</h2>
          <span class="ct">{{ site.offers.length }}</span>
          <span v-if="site.problem === ''" class="fine muted">{{ WORDS[site.status] }}</span>
          <span class="r">{{ site.id === null ? 'set up where Pasticcio is started' : `added by ${site.addedBy}` }}</span>
          <button
            v-if="site.id !== null && session.isOwner"
            class="act"
            :aria-label="`Remove ${site.address}`"
            @click="askToRemove($event, site)"
          >
            Remove
          </button>
        </div>
        <p v-if="site.problem" class="said fine wrn"><FindingMark kind="warning" /> {{ site.problem }}</p>
        <p v-if="site.passedOver > 0" class="said fine muted">
          {{ counted(site.passedOver, 'entry', 'entries') }} of its list cannot be read.
        </p>
        <ul class="rows">
          <li v-for="plugin in plugins(site)" :key="plugin.name" class="plugin">
            <span class="b cut">{{ plugin.name }}</span>
            <span class="muted cut">{{ plugin.offers.at(-1)!.summary }}</span>
            <span class="fine muted">{{ plugin.offers.at(-1)!.family || 'any family' }}</span>
            <span class="versions"
              ><VersionButton
                v-for="offer in plugin.offers"
                :key="offer.link"
                :plugin="offer.name"
                :version="offer.version"
                word="look"
                :aria-pressed="chosen?.link === offer.link"
                @click="look(offer)"
            /></span>
          </li>
        </ul>
      </section>
    </template>
    <template #margin>
      <aside class="margin" aria-label="The package in focus">
        <div class="titleline side"><h2>In the margin</h2></div>
        <section v-if="chosen" class="body note">
          <h3>{{ chosen.name }} {{ chosen.version }}</h3>
          <p class="comment">
            {{ chosen.summary }} <span class="src">{{ chosen.authors.join(', ') }}</span>
          </p>
          <dl class="facts">
            <dt>Game</dt>
            <dd>{{ chosen.game || 'any' }}</dd>
            <dt>Family</dt>
            <dd>{{ chosen.family || 'any' }}</dd>
            <dt>Needs</dt>
            <dd>
              {{
                Object.entries(chosen.requires)
                  .map(([name, range]) => `${name} ${range}`)
                  .join(', ') || 'nothing'
              }}
            </dd>
            <dt>Size</dt>
            <dd>{{ chosen.size === null ? 'not told' : bytesOf(chosen.size) }}</dd>
            <dt>SHA-256</dt>
            <dd class="hash">{{ chosen.sha256 ?? 'not told, so it cannot be checked' }}</dd>
            <dt>Link</dt>
            <dd class="hash">{{ chosen.link }}</dd>
          </dl>
          <MarkdownText v-if="notes" :text="notes.readme" :more="notes.changelog" empty="" />
        </section>
        <p v-else class="body muted comment">
          Choose a version, and what there is to know of it stands here. It is installed on a server’s page Plugins.
        </p>
      </aside>
    </template>
  </HouseFrame>
</template>

<style scoped>
.add {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 10px 16px;
  font: var(--t-small);
}
.private {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
.plugin {
  display: grid;
  grid-template-columns: 138px minmax(0, 1fr) 70px auto;
  align-items: center;
  gap: 10px;
  min-height: 32px;
  padding: 0 12px 0 16px;
}
.versions {
  display: flex;
  gap: 8px;
}
.hash {
  overflow-wrap: anywhere;
  font: var(--t-key);
  line-height: 16px;
}
.said {
  padding: 6px 16px;
}
.fine {
  font: var(--t-fine);
}
.margin .body {
  padding-top: 10px;
}
</style>
