<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import type { ServerSummary } from '~/utils/types'

/** All servers, with how they are right now. */
const session = useSessionStore()
const confirm = useConfirm()
const servers = ref<ServerSummary[]>([])
const loaded = ref(false)
const { problem, run } = useTask()

async function load(): Promise<void> {
  servers.value = await callApi<ServerSummary[]>('/api/servers')
  loaded.value = true
}
onMounted(() => run(load))

async function forget(server: ServerSummary): Promise<void> {
  await callApi(`/api/servers/${server.slug}`, { method: 'DELETE' })
  await load()
}
function askToForget(event: MouseEvent, server: ServerSummary): void {
  confirm.require({
    target: event.currentTarget as HTMLElement,
    message: `Forget ${server.slug}, with its drafts and history here? Its own files stay as they are.`,
    rejectLabel: 'Keep',
    acceptLabel: 'Forget',
    accept: () => void run(() => forget(server)),
  })
}
</script>

<template>
  <HouseFrame title="Servers" :note="loaded ? `${servers.length} connected` : ''">
    <template #actions>
      <NuxtLink v-if="session.isOwner" class="btn small" to="/servers/new">Add a server</NuxtLink>
    </template>
    <div class="sheet-page wide">
      <Message v-if="problem" severity="error">{{ problem }}</Message>
      <div v-if="loaded && servers.length === 0" class="state">
        <h2>No server is connected yet</h2>
        <p>Pasticcio works on a server’s own folder, on the machine it runs on. Adding one reads what is there and changes nothing.</p>
        <div class="acts">
          <NuxtLink v-if="session.isOwner" class="btn go" to="/servers/new">Add a server</NuxtLink>
          <span v-else class="muted">An owner can add one.</span>
        </div>
      </div>
      <div v-else-if="!loaded && !problem" class="skeleton" aria-busy="true"><BaseProgress label="Loading" /></div>
      <DataTable v-else-if="loaded" :value="servers" data-key="slug" aria-label="Servers">
        <Column header="Name" row-header>
          <template #body="{ data }"
            ><NuxtLink class="b" :to="`/s/${data.slug}/plugins`">{{ data.slug }}</NuxtLink></template
          >
        </Column>
        <Column header="State">
          <template #body="{ data }"
            ><span v-if="data.problem" class="problem">{{ data.problem }}</span
            ><template v-else>{{ STATUS_WORDS[(data as ServerSummary).status] }}</template></template
          >
        </Column>
        <Column header="Players">
          <template #body="{ data }">{{ data.players ?? '–' }}</template>
        </Column>
        <Column header="Family">
          <template #body="{ data }">{{ data.family }}</template>
        </Column>
        <Column header="Folder">
          <template #body="{ data }"
            ><code class="folder">{{ data.folder }}</code></template
          >
        </Column>
        <Column v-if="session.isOwner">
          <template #header><span class="sr">What can be done</span></template>
          <template #body="{ data }">
            <button class="act" :aria-label="`Forget ${data.slug}`" @click="askToForget($event, data)">Forget</button>
          </template>
        </Column>
      </DataTable>
    </div>
  </HouseFrame>
</template>

<style scoped>
.folder {
  font-size: 12px;
  overflow-wrap: anywhere;
}
</style>
