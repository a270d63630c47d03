<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import { FamilyError, readFamily } from '@pasticcio/core'
import type { FamilyFault, FamilyTrial, FamilyView, ServerSummary } from '~/utils/types'

/** One family: its description, each part of it in words, and trying it against a server. */
const route = useRoute()
const session = useSessionStore()
const toast = useToast()
const { busy, problem, run } = useTask()
const family = shallowRef<FamilyView | null>(null)
const text = ref('')
const servers = ref<ServerSummary[]>([])
const against = ref('')
const trial = shallowRef<FamilyTrial | null>(null)
const taken = useState('family-text', () => '')
const editor = useTemplateRef<{ goTo(key: string): void }>('editor')
const id = computed(() => String(route.params['id']))
const isNew = computed(() => id.value === 'new')

async function load(): Promise<void> {
  servers.value = await callApi<ServerSummary[]>('/api/servers')
  if (isNew.value) {
    // another one is the best beginning for one that is not described yet
    text.value = taken.value || (await callApi<FamilyView>('/api/families/archive')).text
    taken.value = ''
  } else {
    family.value = await callApi<FamilyView>(`/api/families/${encodeURIComponent(id.value)}`)
    text.value = family.value.text
  }
  against.value = (servers.value.find(({ slug }) => family.value?.servers.includes(slug)) ?? servers.value[0])?.slug ?? ''
}
onMounted(() => run(load, 'Loading'))

const read = computed(() => {
  try {
    return { family: readFamily(text.value), faults: [] as readonly FamilyFault[] }
  } catch (error) {
    return { family: null, faults: error instanceof FamilyError ? error.faults : [{ line: 1, message: wordsOf(error) }] }
  }
})
/** What it said when it last could be read, so that nothing goes away while somebody types. */
const parts = shallowRef<ReturnType<typeof familyParts>>([])
watch(
  () => read.value.family,
  (now) => now && (parts.value = familyParts(now)),
  { immediate: true },
)
const isChanged = computed(() => text.value !== (family.value?.text ?? ''))
const mayEdit = computed(() => session.isOwner)

const save = (): Promise<boolean> =>
  run(async () => {
    const kept = await callApi<FamilyView>('/api/families', { method: 'PUT', body: { text: text.value } })
    toast.add({ severity: 'success', summary: `${kept.title} is kept, and counts from now on.`, life: 5000 })
    if (kept.id !== id.value) return void (await navigateTo(`/families/${kept.id}`))
    family.value = kept
  }, 'Saving')
const drop = (): Promise<boolean> =>
  run(async () => {
    await callApi(`/api/families/${encodeURIComponent(id.value)}`, { method: 'DELETE' })
    if (family.value?.shipped === null) return void (await navigateTo('/families'))
    await load()
  }, 'Working')
const tryIt = (): Promise<boolean> =>
  run(async () => {
    trial.value = null
    trial.value = await callApi<FamilyTrial>('/api/families/try', { body: { text: text.value, server: against.value } })
  }, `Looking at ${against.value}`)
function download(): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text.value], { type: 'application/yaml' }))
  link.download = `${read.value.family?.id ?? 'family'}.yml`
  link.click()
  URL.revokeObjectURL(link.href)
}
</script>

<template>
  <HouseFrame
    :title="isNew ? 'Another family' : (family?.title ?? id)"
    :note="family ? `${family.servers.join(', ') || 'no server yet'}` : ''"
  >
    <template #actions>
      <button class="btn small quiet" @click="download">Export</button>
      <button v-if="mayEdit && family && family.state !== 'shipped'" class="btn small quiet" :disabled="busy !== ''" @click="drop">
        {{ family.state === 'own' ? 'Remove' : 'As it came' }}
      </button>
      <button v-if="mayEdit" class="btn small" :disabled="busy !== '' || !isChanged || read.faults.length > 0" @click="save">Save</button>
    </template>
    <div class="family">
      <div class="left">
        <Message v-if="problem" severity="error">{{ problem }}</Message>
        <BaseProgress v-if="busy" :label="busy" />
        <YamlEditor v-if="text" ref="editor" v-model="text" :faults="read.faults" :read-only="!mayEdit" :label="`Description of ${id}`" />
      </div>
      <aside class="right" aria-label="What it says">
        <ul v-if="read.faults.length > 0" class="faults" role="alert">
          <li v-for="fault in read.faults" :key="`${fault.line} ${fault.message}`" class="problem">
            Line {{ fault.line }}: {{ fault.message }}
          </li>
        </ul>
        <form v-if="mayEdit && servers.length > 0" class="try" @submit.prevent="tryIt">
          <label for="against" class="b">Try it against</label>
          <Select v-model="against" input-id="against" :options="servers.map(({ slug }) => slug)" />
          <button class="btn small" :disabled="busy !== '' || read.faults.length > 0">Look</button>
        </form>
        <FamilyTrialNote v-if="trial" :trial="trial" />
        <dl class="parts">
          <template v-for="part in parts" :key="part.key">
            <dt>
              <button class="act" @click="editor?.goTo(part.key)">{{ part.title }}</button>
            </dt>
            <dd>
              {{ part.says }}
              <p class="comment muted">{{ part.why }}</p>
            </dd>
          </template>
        </dl>
      </aside>
    </div>
  </HouseFrame>
</template>

<style scoped>
.family {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  height: 100%;
}
.left {
  min-width: 0;
  min-height: 0;
  display: flex;
  flex-direction: column;
  overflow: hidden;
}
.right {
  border-left: 1px solid var(--hairline);
  overflow: auto;
  padding: 8px 16px 24px;
  font: var(--t-small);
}
.try {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 6px 0 10px;
  border-bottom: 1px solid var(--hairline);
}
.parts {
  display: grid;
  grid-template-columns: 132px minmax(0, 1fr);
  gap: 0 12px;
}
.parts dt,
.parts dd {
  padding: 6px 0;
  border-bottom: 1px solid var(--hairline);
  overflow-wrap: anywhere;
}
.comment {
  margin-top: 2px;
}
.faults li {
  margin-bottom: 6px;
}
</style>
