<script setup lang="ts">
/** Top bar, spine, the work, and the tray. */
const folded = ref(false)
const showKeys = ref(false)
const showFind = ref(false)
const route = useRoute()
const router = useRouter()
const server = useServerStore()
const tray = useTrayStore()

useKeys({
  '?': () => (showKeys.value = true),
  '/': () => (showFind.value = true),
  'ctrl+Enter': () => (tray.files.length > 0 && !/\/(review|updates)/.test(route.path) ? router.push(`/s/${server.slug}/review`) : false),
})
</script>

<template>
  <div class="frame" :class="{ folded }">
    <TopBar @find="showFind = true" />
    <SpineNav :folded="folded" @fold="folded = !folded" @keys="showKeys = true" />
    <main class="work"><slot /></main>
    <TrayBar />
    <KeysDialog v-model:visible="showKeys" />
    <FindDialog v-model:visible="showFind" />
  </div>
</template>
