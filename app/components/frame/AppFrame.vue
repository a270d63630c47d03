<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import { STATIONS, stationAddress } from '~/stations'

/** Top bar, spine, the work, and the tray. */
const folded = ref(false)
const showKeys = ref(false)
const showFind = ref(false)
/** Dialogs come when they are first asked for; the finder brings the readers of all formats along. */
const hasLooked = ref(false)
const hasAsked = ref(false)
watch(showFind, () => (hasLooked.value = true))
watch(showKeys, () => (hasAsked.value = true))
const route = useRoute()
const router = useRouter()
const server = useServerStore()
const tray = useTrayStore()
const session = useSessionStore()
const sheet = useSheetStore()
const toast = useToast()
useDraftsStore().whenFollowed((path, hasDraft) =>
  toast.add({
    severity: 'info',
    summary: `${path} was written on the server. ${hasDraft ? 'Your draft was carried onto it, or waits under Review.' : 'It is shown as it is now.'}`,
    life: 8000,
  }),
)
useDraftsStore().whenMerged((path, by) =>
  toast.add({ severity: 'info', summary: `${by} changed ${path} too. Both are in the draft now.`, life: 8000 }),
)

// after signing in again the stream is opened anew, and what waited is kept
watch(
  () => session.isLost,
  async (isLost) => {
    if (isLost) return
    const { slug } = server
    server.close()
    await server.open(slug)
    await tray.refresh()
    await sheet.draft?.flush()
  },
)

useKeys({
  ...chordsOf(
    'g',
    Object.fromEntries(
      STATIONS.map((station) => [station.key, () => router.push(stationAddress(station, `/s/${server.slug}`, server.overview))]),
    ),
  ),
  '?': () => (showKeys.value = true),
  '/': () => (showFind.value = true),
  'ctrl+Enter': () => (!tray.isEmpty && !/\/(review|updates)/.test(route.path) ? router.push(`/s/${server.slug}/review`) : false),
})
</script>

<template>
  <div class="frame" :class="{ folded }">
    <TopBar @find="showFind = true" />
    <SpineNav :folded="folded" @fold="folded = !folded" @keys="showKeys = true" />
    <main class="work"><slot /></main>
    <TrayBar />
    <LazySignInAgain v-if="session.isLost" />
    <LazyKeysDialog v-if="hasAsked" v-model:visible="showKeys" />
    <LazyFindDialog v-if="hasLooked" v-model:visible="showFind" />
  </div>
</template>
