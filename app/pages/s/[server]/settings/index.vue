<script setup lang="ts">
import { STATIONS, encodePath, stationAddress } from '~/stations'

/** Goes to the first settings file there is, of the plugin that is asked for; where there is none, says why. */
const server = useServerStore()
const route = useRoute()
const asked = computed(() => server.overview?.plugins.find(({ name }) => name === route.query['plugin']))
const target = computed(() => {
  const home = `/s/${server.slug}`
  const own = asked.value?.files.find((file) => !file.record)
  if (own) return `${home}/settings/${encodePath(own.path)}`
  const first = stationAddress(
    STATIONS.find(({ id }) => id === 'settings')!,
    home,
    server.overview,
  )
  return asked.value || first === `${home}/settings` ? null : first
})
watch(target, (to) => to !== null && navigateTo(to, { replace: true }), { immediate: true })
</script>

<template>
  <NoSettings v-if="server.overview && target === null" />
</template>
