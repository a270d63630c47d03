<script setup lang="ts">
import type { MenuItem } from 'primevue/menuitem'
import type { ServerSummary } from '~/utils/types'

/** The server at hand; its menu leads to the others. */
const server = useServerStore()
const menu = useTemplateRef<{ toggle(event: Event): void }>('menu')
const others = ref<ServerSummary[]>([])
const items = computed<MenuItem[]>(() => [
  ...others.value.map(({ slug }) => ({ label: slug, command: () => navigateTo(`/s/${slug}/plugins`) })),
  { separator: true },
  { label: 'All servers', command: () => navigateTo('/servers') },
])
async function open(event: Event): Promise<void> {
  menu.value?.toggle(event)
  others.value = await callApi<ServerSummary[]>('/api/servers').catch(() => others.value)
}
</script>

<template>
  <button class="switch" aria-haspopup="menu" aria-controls="server-menu" @click="open">
    <span class="b">{{ server.slug }}</span> <BaseIcon name="down" />
  </button>
  <Menu id="server-menu" ref="menu" :model="items" popup />
</template>

<style scoped>
.switch {
  min-height: 24px;
  white-space: nowrap;
}
</style>
