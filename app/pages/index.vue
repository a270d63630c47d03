<script setup lang="ts">
import type { ServerSummary } from '~/utils/types'

/** Goes to the first server, or to where the first is added. */
const session = useSessionStore()
const { problem, run } = useTask()
async function go(): Promise<void> {
  await session.load()
  const [first] = await callApi<ServerSummary[]>('/api/servers')
  await navigateTo(first ? `/s/${first.slug}/plugins` : session.isOwner ? '/servers/new' : '/servers', { replace: true })
}
onMounted(() => run(go))
</script>

<template>
  <DoorPage v-if="problem" title="Pasticcio cannot go on">
    <Message severity="error">{{ problem }}</Message>
    <div class="acts"><button class="btn" @click="run(go)">Try again</button></div>
  </DoorPage>
</template>
