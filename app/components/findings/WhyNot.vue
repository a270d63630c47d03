<script setup lang="ts">
import type { WhyNot } from '~/utils/types'

/** “Why does it not work?”: what a helper would ask, in order, each question answered from what is known. */
const server = useServerStore()
const plugin = ref('')
const feature = ref('')
const group = ref('')
const told = shallowRef<WhyNot | null>(null)
const problem = ref('')
const loading = ref(false)
const root = useTemplateRef<HTMLElement>('root')
const plugins = computed(() => (server.overview?.plugins ?? []).map(({ name }) => name))
const inTheWay = computed(() => told.value?.answers.filter(({ answer }) => answer === 'no' || answer === 'look').length ?? 0)
const KINDS = { yes: 'done', no: 'error', look: 'warning', unknown: 'note' } as const

watch(plugin, () => (feature.value = ''))
watch([plugin, feature, group], () => void load())

async function load(): Promise<void> {
  if (plugin.value === '') return
  const asked = { plugin: plugin.value, feature: feature.value, group: group.value }
  loading.value = true
  problem.value = ''
  try {
    const answer = await callApi<WhyNot>(`${server.base}/findings/why?${new URLSearchParams(asked)}`)
    if (asked.plugin === plugin.value && asked.feature === feature.value && asked.group === group.value) told.value = answer
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    loading.value = false
  }
}

/** Asks about a plugin, and goes there. */
async function ask(name: string): Promise<void> {
  plugin.value = plugins.value.includes(name) ? name : plugin.value || (plugins.value[0] ?? '')
  await nextTick()
  await load()
  root.value?.scrollIntoView({ block: 'start' })
  root.value?.querySelector('select')?.focus()
}
defineExpose({ ask })
</script>

<template>
  <section ref="root" class="why" aria-label="Why does it not work?">
    <div class="head">
      <h2>Why does it not work?</h2>
      <select v-model="plugin" class="in" aria-label="Plugin">
        <option value="" disabled>a plugin</option>
        <option v-for="name in plugins" :key="name">{{ name }}</option></select
      ><select v-if="told && told.features.length > 0" v-model="feature" class="in" aria-label="What of it">
        <option value="">all of it</option>
        <option v-for="one in told.features" :key="one.id" :value="one.id">{{ one.title }}</option></select
      ><template v-if="told && told.groups.length > 0"
        >for<select v-model="group" class="in" aria-label="Group">
          <option value="">anybody</option>
          <option v-for="name in told.groups" :key="name">{{ name }}</option>
        </select></template
      >
      <span v-if="told" class="push muted" role="status">{{ counted(told.answers.length, 'question') }}, {{ inTheWay }} to look at</span>
    </div>
    <Message v-if="problem" severity="error">{{ problem }}</Message>
    <ol v-if="told" :aria-busy="loading">
      <li v-for="(one, i) in told.answers" :key="one.id">
        <span class="no">{{ i + 1 }}</span><span v-if="one.answer === 'unknown'" class="dash" aria-label="not known">–</span
        ><FindingMark v-else :kind="KINDS[one.answer]" /><span class="cut" :class="{ b: one.answer === 'no' }">{{ one.question }}</span
        ><span class="says" :class="{ muted: one.answer === 'unknown' }">{{ one.says }}</span
        ><NuxtLink v-if="one.link" class="where" :to="`/s/${server.slug}/settings/${one.link.path}`"
          ><code>{{ one.link.path.split('/').pop() }} {{ one.link.line }}</code></NuxtLink
        >
      </li>
    </ol>
    <p v-else class="muted ask">Pick a plugin, and what a helper would ask is answered here, in order.</p>
  </section>
</template>

<style scoped>
.why {
  margin-top: 18px;
  border-top: 1px solid var(--crust);
}
.head {
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding: 6px 12px 4px 16px;
  font: var(--t-small);
  border-bottom: 1px solid var(--hairline);
}
.head h2 {
  font: var(--t-section);
  white-space: nowrap;
}
.head select {
  width: auto;
  max-width: 180px;
}
li {
  display: grid;
  grid-template-columns: 16px 24px 180px minmax(0, 1fr) auto;
  align-items: baseline;
  min-height: var(--line);
  padding: 2px 12px 2px 16px;
  font: var(--t-small);
  border-bottom: 1px solid var(--hairline);
}
.no {
  font: 400 11px/20px var(--mono);
  color: var(--muted);
}
.ask {
  padding: 8px 16px;
  font: var(--t-small);
}
</style>
