<script setup lang="ts">
import type { PackageDocuments } from '~/utils/types'

/** What installing packages would do, before anything is done, and what came of it. */
const route = useRoute()
const server = useServerStore()
const install = useInstallStore()
type Tab = 'plan' | 'readme' | 'files' | 'nodes'
const tab = ref<Tab>('plan')
const documents = shallowRef<PackageDocuments | null>(null)
const ids = computed(() =>
  String(route.params['packages'])
    .split(',')
    .map(Number)
    .filter((id) => Number.isInteger(id)),
)
watch(ids, (wanted) => void install.open(wanted), { immediate: true })
const main = computed(() => install.main)
const files = computed(
  () => main.value?.parts.flatMap(({ actions }) => actions.flatMap((action) => (action.kind === 'put' ? [action.path] : []))) ?? [],
)
const tabs = computed(() => [
  { id: 'plan' as const, name: 'Plan' },
  { id: 'readme' as const, name: 'Read me' },
  { id: 'files' as const, name: `Files ${files.value.length}` },
  { id: 'nodes' as const, name: `Nodes ${Object.keys(main.value?.nodes ?? {}).length}` },
])
watch(
  () => main.value?.id,
  async (id) => {
    documents.value = null
    if (typeof id === 'number') documents.value = await callApi<PackageDocuments>(`${server.base}/pantry/${id}/documents`).catch(() => null)
  },
  { immediate: true },
)
const title = computed(() => {
  const asked = install.plan?.steps.filter(({ because }) => because === 'asked') ?? []
  return asked.map(({ name, version }) => `${name} ${shortVersion(version)}`).join(', ') || 'Install'
})
const tasks = computed(() => install.plan?.steps.flatMap((step) => step.tasks.map((task) => ({ plugin: step.name, task }))) ?? [])
</script>

<template>
  <div class="page">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1 class="cut">Install {{ title }}</h1>
          <span class="tally">{{ install.done ? '' : 'as a plan, nothing is done yet' }}</span>
        </div>
        <BaseSegments v-if="main && !install.done" v-model="tab" class="push" :options="tabs" label="View of the package" />
      </div>
      <Message v-if="install.problem" severity="error">{{ install.problem }}</Message>
      <InstallDone v-if="install.done" :done="install.done" />
      <template v-else-if="install.plan">
        <PlanFacts />
        <div class="scroll" tabindex="0">
          <template v-if="tab === 'plan'">
            <PlanSteps />
            <template v-if="tasks.length > 0">
              <div class="grp people">
                <h2>Only you can do these</h2>
                <span class="ct">{{ tasks.length }}</span><span class="r">from the package’s notes; they stay until ticked off</span>
              </div>
              <p v-for="item in tasks" :key="item.plugin + item.task" class="todo"><span class="box" /> {{ item.task }}</p>
            </template>
          </template>
          <MarkdownText
            v-else-if="tab === 'readme'"
            :text="documents?.readme ?? ''"
            :more="documents?.changelog ?? ''"
            empty="The author wrote nothing to read."
          />
          <ul v-else-if="tab === 'files'" class="rows files">
            <li v-for="path in files" :key="path">
              <code>{{ path }}</code>
            </li>
          </ul>
          <NodesTable v-else :of="main ?? null" />
        </div>
      </template>
      <div v-else-if="!install.problem" class="skeleton" aria-busy="true">
        <BaseProgress label="Working out the plan" /><i v-for="n in 8" :key="n" />
      </div>
      <ConsoleLines v-if="install.working || install.done" class="after" :lines="install.followed" small />
    </section>
    <aside class="margin" aria-label="About the package">
      <div class="titleline side"><h2>In the margin</h2></div>
      <div v-if="main" class="body">
        <p v-if="documents?.summary" class="comment">{{ documents.summary }}</p>
        <InstallMargin />
      </div>
    </aside>
    <Teleport to="#page-tray"><InstallTray /></Teleport>
  </div>
</template>

<style scoped>
.people {
  margin-top: 12px;
  border-top: 1px solid var(--crust);
}
.todo {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: var(--line);
  padding: 2px 16px;
  font: var(--t-small);
}
.box {
  width: 14px;
  height: 14px;
  border: 1px solid var(--field-rule);
  border-radius: 3px;
  flex: none;
}
.files li {
  padding: 3px 16px;
}
.after {
  border-top: 1px solid var(--hairline);
  max-height: 40%;
  overflow: auto;
  padding: 6px 16px;
}
</style>
