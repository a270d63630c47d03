<script setup lang="ts">
import type { ServerSummary } from '~/utils/types'

/** Goes to the first server, or to where the first is added. */
const problem = ref('')
async function go(): Promise<void> {
  problem.value = ''
  try {
    const session = useSessionStore()
    await session.load()
    const [first] = await callApi<ServerSummary[]>('/api/servers')
    await navigateTo(first ? `/s/${first.slug}/plugins` : session.isOwner ? '/servers/new' : '/servers', { replace: true })
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
onMounted(go)
</script>

<template>
  <DoorPage v-if="problem" title="Pasticcio cannot go on">
    <Message severity="error">{{ problem }}</Message>
    <div class="acts"><button class="btn" @click="go">Try again</button></div>
  </DoorPage>
</template>
