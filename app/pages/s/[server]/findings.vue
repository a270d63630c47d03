<script setup lang="ts">
import type { GroupBy } from '~/utils/finding-groups'

/** All that is wrong on this server, over its plugins: found, looked at, and mended. */
const findings = useFindingsStore()
const drafts = useDraftsStore()
const session = useSessionStore()
const route = useRoute()
const WAYS: readonly { id: GroupBy; name: string }[] = [
  { id: 'cause', name: 'By cause' },
  { id: 'plugin', name: 'By plugin' },
  { id: 'newest', name: 'Newest' },
]
const margin = useTemplateRef<{ enter(): void; put(): void }>('margin')
const list = useTemplateRef<{ show(): void }>('list')
const why = useTemplateRef<{ ask(plugin: string): void }>('why')

onMounted(async () => {
  await findings.load(true)
  const asked = route.query['at']
  if (typeof asked === 'string' && findings.list.some(({ subject }) => subject === asked)) findings.focus = asked
})
onBeforeRouteLeave(() => drafts.flushAll())
onUnmounted(async () => {
  await drafts.leave()
  await drafts.leaveBeside()
})
useEventListener('pagehide', drafts.sendWaiting)

const said = computed(() => {
  const { about, loading } = findings
  if (loading && !about) return ''
  if (!about) return ''
  const took = about.ms < 100 ? '' : ` in ${(about.ms / 1000).toFixed(1)} s`
  return `${counted(about.files, 'file')}${took}, at ${new Date(about.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`
})
const left = computed(() => findings.counts.error + findings.counts.warning)
async function move(by: 1 | -1): Promise<void> {
  findings.move(by)
  await nextTick()
  list.value?.show()
}
useKeys({
  '.': () => move(1),
  j: () => move(1),
  k: () => move(-1),
  Enter: (event) => {
    if (event.shiftKey) return session.mayEdit && findings.mend(findings.alike)
    return (event.target as HTMLElement).closest('button, a, input, select') ? false : margin.value?.enter()
  },
  x: () => session.mayEdit && margin.value?.put(),
  w: () => why.value?.ask(findings.current?.plugin ?? ''),
  u: () => session.mayEdit && findings.undo(),
  c: () => findings.load(true),
})
</script>

<template>
  <div class="page">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1>Findings</h1>
          <span class="tally"
            ><span v-if="findings.counts.error > 0" class="err"
              ><FindingMark kind="error" /> {{ counted(findings.counts.error, 'error') }}</span
            ><span v-if="findings.counts.warning > 0" class="wrn"
              ><FindingMark kind="warning" /> {{ counted(findings.counts.warning, 'warning') }}</span
            ><span v-if="findings.counts.note > 0">{{ counted(findings.counts.note, 'note') }}</span
            ><span>{{ said }}</span></span
          >
        </div>
        <button class="act push" :disabled="findings.loading" @click="findings.load(true)">Again <kbd>c</kbd></button>
        <BaseSegments v-model="findings.by" :options="WAYS" label="How findings are put together" />
      </div>
      <p class="sr" role="status">
        {{ findings.loading ? '' : `${counted(findings.counts.error, 'error')} left, ${counted(findings.counts.warning, 'warning')}` }}
      </p>
      <div class="scroll">
        <Message v-if="findings.problem" severity="error">{{ findings.problem }}</Message>
        <div v-if="findings.loading && findings.progress" class="going">
          <BaseProgress class="wide" :label="`Checking ${findings.progress.done} of ${counted(findings.progress.total, 'file')}`" />
          <button class="act" :disabled="!session.mayEdit" @click="findings.end()">cancel</button>
        </div>
        <div v-if="findings.loading && !findings.about" class="skeleton" aria-busy="true">
          <i v-for="n in 12" :key="n" :style="{ width: `${50 + ((n * 29) % 45)}%` }" />
        </div>
        <FindingList v-else ref="list" @aside="margin?.put()" />
        <div v-if="findings.about && findings.list.length === 0" class="state">
          <h2>Nothing found</h2>
          <p>{{ counted(findings.about.files, 'file') }} read at {{ momentOf(findings.about.at) }}, and nothing is wrong with them.</p>
        </div>
        <p v-else-if="findings.about && left === 0 && !findings.loading" class="calm muted">Nothing is left that has to be mended.</p>
        <WhyNot ref="why" />
      </div>
    </section>
    <FindingMargin ref="margin" />
  </div>
</template>

<style scoped>
.tally .err,
.tally .wrn {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}
.going {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 16px;
}
.calm {
  padding: 10px 16px;
  font: var(--t-small);
}
</style>
