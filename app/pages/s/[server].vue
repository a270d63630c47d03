<script setup lang="ts">
/** Everything about one server stands in the frame. */
const route = useRoute()
const server = useServerStore()
const session = useSessionStore()
const tray = useTrayStore()
const drafts = useDraftsStore()
const problem = ref('')
const ready = ref(false)

async function load(): Promise<void> {
  problem.value = ''
  try {
    await session.load()
    await server.open(String(route.params['server']))
    await drafts.finishLeft()
    await tray.refresh()
    ready.value = true
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
/** A page kept for the back button must not hold its connection: browsers allow six to one host. */
const onHide = (): void => server.close()
const onShow = (event: PageTransitionEvent): void => {
  if (event.persisted) void load()
}
useEventListener('pagehide', onHide)
useEventListener('pageshow', onShow)
useTheme()
// what nobody could keep yet would go with the page, so the browser asks
useEventListener('beforeunload', (event) => drafts.hasUnkept() && event.preventDefault())
onMounted(load)
onBeforeUnmount(() => server.close())
</script>

<template>
  <div v-if="problem" class="state">
    <h2>Pasticcio</h2>
    <p role="alert">{{ problem }}</p>
    <div class="acts"><button class="btn" @click="load">Try again</button></div>
  </div>
  <AppFrame v-else-if="ready"><NuxtPage /></AppFrame>
  <div v-else class="skeleton" aria-busy="true"><BaseProgress label="Loading" /></div>
</template>
