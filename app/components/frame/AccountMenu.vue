<script setup lang="ts">
import type { MenuItem } from 'primevue/menuitem'
import { useToast } from 'primevue/usetoast'

/** Who is signed in, and what concerns them and all servers. */
const session = useSessionStore()
const toast = useToast()
const menu = useTemplateRef<{ toggle(event: Event): void }>('menu')
const items = computed<MenuItem[]>(() => [
  ...housePages(session.isOwner).map(({ title, to }) => ({ label: title, command: () => navigateTo(to) })),
  { separator: true },
  { label: 'Sign out', command: () => void signOut() },
])
async function signOut(): Promise<void> {
  try {
    await session.signOut()
  } catch (error) {
    toast.add({ severity: 'error', summary: wordsOf(error), life: 8000 })
  }
}
</script>

<template>
  <button v-if="session.me" class="who" aria-haspopup="menu" aria-controls="account-menu" @click="menu?.toggle($event)">
    {{ session.me.name }} <span class="muted">{{ session.me.role }}</span> <BaseIcon name="down" />
  </button>
  <Menu id="account-menu" ref="menu" :model="items" popup />
</template>

<style scoped>
.who {
  margin-left: 20px;
  min-height: 24px;
  font: var(--t-small);
  white-space: nowrap;
}
</style>
