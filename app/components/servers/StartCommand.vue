<script setup lang="ts">
import { parseArgsStringToArgv } from 'string-argv'

/** How the server at hand is started, and changing it; for the owner. */
const server = useServerStore()
const shown = ref('')
const typed = ref<string | null>(null)
const { problem, run } = useTask()
const isStopped = computed(() => ['stopped', 'failed'].includes(server.state.status))

async function load(): Promise<void> {
  const { command } = await callApi<{ command: string[] | null }>(`${server.base}/command`)
  shown.value = command?.map(quotedWord).join(' ') ?? ''
}
onMounted(() => run(load))

async function save(): Promise<void> {
  await callApi(`${server.base}/command`, { method: 'PUT', body: { command: parseArgsStringToArgv(typed.value ?? '') } })
  typed.value = null
  await load()
}
</script>

<template>
  <section v-if="shown !== ''" aria-label="How it is started">
    <div class="h">
      How it is started
      <button v-if="typed === null" class="push act" :disabled="!isStopped" @click="typed = shown">Change</button>
    </div>
    <form v-if="typed !== null" @submit.prevent="run(save)">
      <InputText v-model="typed" class="field" aria-label="Command that starts the server" />
      <div class="acts">
        <button class="btn small" :disabled="typed.trim() === ''">Save</button>
        <button type="button" class="btn small quiet" @click="typed = null">Leave it</button>
      </div>
    </form>
    <p v-else class="command">
      <code>{{ shown }}</code>
    </p>
    <p v-if="!isStopped" class="under">Stop the server to change it.</p>
    <Message v-if="problem" severity="error">{{ problem }}</Message>
  </section>
</template>

<style scoped>
.command,
.under {
  overflow-wrap: anywhere;
  font: var(--t-fine);
  margin-top: 4px;
}
.under {
  color: var(--muted);
}
.field {
  width: 100%;
  margin-top: 4px;
}
</style>
