<script setup lang="ts">
/** Where there is no settings file to show: why, and the one next step. */
const server = useServerStore()
const route = useRoute()
const plugins = computed(() => server.overview?.plugins ?? [])
/** The plugin somebody asked for, which keeps none. */
const plugin = computed(() => plugins.value.find(({ name }) => name === route.query['plugin'])?.name ?? null)
const isRunning = computed(() => server.state.status === 'running')
const title = computed(() => (plugin.value ? `${plugin.value} has no settings file` : 'No settings yet'))
const words = computed(() => {
  if (plugins.value.length === 0)
    return 'Plugins write their settings when the server starts with them for the first time. Install one, and its settings appear here.'
  const whose = plugin.value ?? (plugins.value.length === 1 ? plugins.value[0]!.name : `None of the ${plugins.value.length} plugins here`)
  return isRunning.value
    ? `${whose} ${plugin.value || plugins.value.length === 1 ? 'wrote none' : 'wrote one'}, though the server runs: some plugins need none. The console says what they did at the start.`
    : `Plugins write their settings when the server starts with them for the first time, and it is not running. Start it, and what they write appears here.`
})
</script>

<template>
  <div class="state">
    <h2>{{ title }}</h2>
    <p>{{ words }}</p>
    <div class="acts">
      <NuxtLink v-if="plugins.length === 0" class="btn go" :to="`/s/${server.slug}/plugins`">Go to Plugins</NuxtLink>
      <NuxtLink v-else class="btn go" :to="`/s/${server.slug}/server`">Go to Server</NuxtLink>
    </div>
  </div>
</template>
