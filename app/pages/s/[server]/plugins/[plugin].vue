<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import type { ApplyRow, PackageDocuments, RemovalPlan, Task } from '~/utils/types'

/** One plugin of the server: what its author says, what is left to people, and taking it out. */
const route = useRoute()
const server = useServerStore()
const session = useSessionStore()
const pantry = usePantryStore()
const confirm = useConfirm()
const { busy, problem, run } = useTask()
type Tab = 'about' | 'nodes' | 'remove'
const tab = ref<Tab>('about')
const name = computed(() => String(route.params['plugin']))
const plugin = computed(() => server.overview?.plugins.find((item) => item.name === name.value) ?? null)
const documents = shallowRef<PackageDocuments | null>(null)
const tasks = ref<readonly Task[]>([])
const removal = shallowRef<RemovalPlan | null>(null)
const keep = ref<'keep' | 'archive'>('keep')
const folder = ref('')
const address = computed(() => `${server.base}/plugins/${encodeURIComponent(name.value)}`)

async function load(): Promise<void> {
  tasks.value = (await callApi<Task[]>(`${server.base}/tasks`)).filter(({ plugin: of }) => of === name.value)
  const id = plugin.value?.packageId
  documents.value = id ? await callApi<PackageDocuments>(`${server.base}/pantry/${id}/documents`) : null
}
// only another plugin, or another package of it, begins anew: what is typed stays while the server is looked at again
watch(
  [name, () => plugin.value?.packageId],
  () => {
    folder.value = plugin.value?.folder ?? ''
    removal.value = null
    tab.value = 'about'
    void run(load)
  },
  { immediate: true },
)
watch([tab, keep], () => tab.value === 'remove' && run(planRemoval))

async function planRemoval(): Promise<void> {
  removal.value = await callApi<RemovalPlan>(`${address.value}/removal?settings=${keep.value}`)
}
const tick = ({ plugin: of, task }: Task, done: boolean): Promise<boolean> =>
  run(async () => {
    tasks.value = (await callApi<Task[]>(`${server.base}/tasks`, { method: 'PUT', body: { plugin: of, task, done } })).filter(
      (item) => item.plugin === name.value,
    )
  })
/** Something that is written to the server; what the console says of it is shown as for every change. */
const change = (work: () => Promise<ApplyRow>, what: string): Promise<boolean> =>
  run(async () => {
    const row = await work()
    server.complained = row.status === 'complained' ? row : null
    await server.refresh()
  }, what)
const setOn = (on: boolean): Promise<boolean> =>
  change(() => callApi(`${address.value}/switch`, { method: 'PUT', body: { on } }), on ? 'Switching on' : 'Switching off')
const rename = (): Promise<boolean> =>
  change(() => callApi(`${address.value}/folder`, { method: 'PUT', body: { folder: folder.value } }), 'Renaming')
async function remove(): Promise<void> {
  const { sha } = removal.value!
  if (await change(() => callApi(`${address.value}/remove`, { body: { settings: keep.value, planSha: sha } }), 'Removing'))
    await navigateTo(`/s/${server.slug}/plugins`)
}
function askToRemove(event: MouseEvent): void {
  const needed = removal.value?.neededBy ?? []
  confirm.require({
    target: event.currentTarget as HTMLElement,
    message: needed.length > 0 ? `${needed.join(', ')} will not run without it. Remove it?` : `Remove ${name.value}?`,
    rejectLabel: 'Keep it',
    acceptLabel: 'Take it out',
    accept: () => void remove(),
  })
}
const tabs = computed(() => [
  { id: 'about' as const, name: 'About' },
  { id: 'nodes' as const, name: `Nodes ${Object.keys(documents.value?.nodes ?? {}).length}` },
  ...(session.mayEdit ? [{ id: 'remove' as const, name: 'Remove' }] : []),
])
</script>

<template>
  <div class="page">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1 class="cut">{{ name }} {{ plugin ? shortVersion(plugin.version) : '' }}</h1>
          <span v-if="plugin?.isOff" class="tally">switched off</span>
        </div>
        <BaseSegments v-if="plugin" v-model="tab" class="push" :options="tabs" label="View of the plugin" />
      </div>
      <BaseProgress v-if="busy" :label="busy" />
      <Message v-if="problem" severity="error">{{ problem }}</Message>
      <div v-if="server.overview && !plugin" class="state">
        <h2>{{ name }} is not on this server</h2>
        <div class="acts"><NuxtLink class="btn" :to="`/s/${server.slug}/plugins`">Back to the plugins</NuxtLink></div>
      </div>
      <div v-else-if="plugin" class="scroll" tabindex="0">
        <template v-if="tab === 'about'">
          <template v-if="tasks.length > 0">
            <div class="grp">
              <h2>Only you can do these</h2>
              <span class="ct">{{ tasks.filter(({ doneBy }) => doneBy === null).length }} open</span>
            </div>
            <TaskList :tasks="tasks" @tick="tick" />
          </template>
          <MarkdownText
            :text="documents?.readme ?? ''"
            :more="documents?.changelog || documents?.changes || ''"
            :empty="
              plugin.packageId
                ? 'The author wrote nothing to read.'
                : 'Its package is not in the pantry, so there is nothing of the author’s to read.'
            "
          />
        </template>
        <NodesTable v-else-if="tab === 'nodes'" :of="documents" />
        <RemovalView v-else-if="removal" v-model="keep" :plan="removal" />
      </div>
    </section>
    <aside class="margin" aria-label="What can be done with it">
      <div class="titleline side"><h2>In the margin</h2></div>
      <div v-if="plugin" class="body">
        <p class="comment">
          {{ plugin.summary }} <span class="src">{{ plugin.authors.join(', ') }}</span>
        </p>
        <div class="acts"><NuxtLink class="btn" :to="pantry.settingsLink(plugin.name)">Open its settings</NuxtLink></div>
        <RuleSheet :plugin="plugin.name" />
        <template v-if="plugin.canSwitch">
          <div class="h">Switched {{ plugin.isOff ? 'off' : 'on' }}</div>
          <p class="muted fine">
            {{
              plugin.isOff
                ? 'It lies on the server, and the server does not load it.'
                : 'Switched off it stays where it is, with its settings, and is not loaded.'
            }}
          </p>
          <div class="acts">
            <button class="btn" :disabled="!session.mayEdit || busy !== ''" @click="setOn(plugin.isOff)">
              Switch {{ plugin.isOff ? 'on' : 'off' }}
            </button>
          </div>
        </template>
        <template v-if="plugin.isUnpacked">
          <div class="h">The folder’s name</div>
          <form class="acts" @submit.prevent="rename">
            <InputText v-model="folder" class="w4" aria-label="The folder’s name" :disabled="!session.mayEdit" />
            <button class="btn" :disabled="!session.mayEdit || busy !== '' || folder === plugin.folder || folder === ''">Rename</button>
          </form>
          <p class="muted fine">What the server knows it by is changed with it.</p>
        </template>
      </div>
    </aside>
    <Teleport to="#page-tray">
      <div v-if="tab === 'remove' && removal" class="tray">
        <span class="lead"><i class="chg" /> Remove {{ name }}</span
        ><span class="v" /> <span>{{ counted(removal.removed.length, 'file') }} go</span
        ><span v-if="removal.neededBy.length > 0" class="wrn"
          ><FindingMark kind="warning" /> {{ removal.neededBy.join(', ') }} needs it</span
        >
        <span class="push" />
        <button class="btn go" :disabled="busy !== ''" @click="askToRemove">Remove it</button>
      </div>
    </Teleport>
  </div>
</template>

<style scoped>
.fine {
  font: var(--t-fine);
}
</style>
