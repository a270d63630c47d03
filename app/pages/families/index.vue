<script setup lang="ts">
import type { FamilySummary } from '~/utils/types'

/** The server families that are described here. */
const session = useSessionStore()
const families = ref<FamilySummary[] | null>(null)
const { problem, run } = useTask()
const picker = useTemplateRef<HTMLInputElement>('picker')
const STATES: Readonly<Record<FamilySummary['state'], string>> = {
  shipped: 'as it came',
  changed: 'changed here',
  own: 'made here',
}
const load = (): Promise<boolean> => run(async () => void (families.value = await callApi<FamilySummary[]>('/api/families')))
onMounted(load)
/** A description from a file goes to the editor first, where it can be looked at. */
const taken = useState('family-text', () => '')
async function importFile(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  taken.value = await file.text()
  await navigateTo('/families/new')
}
</script>

<template>
  <HouseFrame title="Families" :note="families ? `${families.length} described` : ''">
    <template #actions>
      <template v-if="session.isOwner">
        <button class="btn small quiet" @click="picker?.click()">Import</button>
        <NuxtLink class="btn small" to="/families/new">Describe another</NuxtLink>
        <input ref="picker" type="file" accept=".yml,.yaml" class="sr" aria-label="Description to import" @change="importFile" />
      </template>
    </template>
    <div class="sheet-page wide">
      <Message v-if="problem" severity="error">{{ problem }}</Message>
      <p class="muted about">
        A family is everything Pasticcio knows about a kind of server: where plugins and settings are, how plugins are made known, what the
        console says. It is data, and any game can be described.
      </p>
      <div v-if="!families && !problem" class="skeleton" aria-busy="true"><BaseProgress label="Loading" /></div>
      <DataTable v-else-if="families" :value="families" data-key="id" aria-label="Families">
        <Column header="Family" row-header>
          <template #body="{ data }"
            ><NuxtLink class="b" :to="`/families/${data.id}`">{{ data.title }}</NuxtLink> <code class="muted">{{ data.id }}</code></template
          >
        </Column>
        <Column header="Packages">
          <template #body="{ data }">{{ data.kept.replace('-', ' ') }}</template>
        </Column>
        <Column header="Servers">
          <template #body="{ data }">{{ data.servers.join(', ') || '–' }}</template>
        </Column>
        <Column header="Description">
          <template #body="{ data }"
            >{{ STATES[data.state as FamilySummary['state']]
            }}{{ data.changedBy ? `, by ${data.changedBy}, ${momentOf(data.changedAt)}` : '' }}</template
          >
        </Column>
      </DataTable>
    </div>
  </HouseFrame>
</template>

<style scoped>
.about {
  max-width: 720px;
  padding: 8px 0 12px;
}
</style>
