<script setup lang="ts">
import { shortVersion } from '~/utils/short-version'
import type SheetViewComponent from '~/components/sheet/SheetView.vue'

/** One settings file: sheet, source, or both, of one draft. */
const route = useRoute()
const sheet = useSheetStore()
const drafts = useDraftsStore()
const server = useServerStore()
const session = useSessionStore()
/** What the server finds is asked for once nothing was kept for so long. */
const HEAR_AFTER_MS = 200
type ViewName = 'sheet' | 'ledger' | 'source' | 'both'
const VIEWS: readonly { id: ViewName; name: string }[] = [
  { id: 'sheet', name: 'Sheet' },
  { id: 'ledger', name: 'Ledger' },
  { id: 'source', name: 'Source' },
  { id: 'both', name: 'Side by side' },
]
const view = ref<ViewName>('sheet')
const margin = ref(true)
/** A ledger is of like entries. */
const views = computed(() => VIEWS.filter(({ id }) => id !== 'ledger' || sheet.snapshot?.hasTables || view.value === 'ledger'))
const hasMargin = computed(() => view.value === 'sheet' || view.value === 'ledger')
const rows = ref<InstanceType<typeof SheetViewComponent> | null>(null)
const path = computed(() => [route.params['path']].flat().join('/'))
const counts = computed(() => ({
  all: sheet.snapshot?.settings ?? 0,
  mine: sheet.customisations,
  update: sheet.snapshot?.updates ?? 0,
}))

watch(
  () => route.query['table'],
  (table) => table !== undefined && (view.value = 'ledger'),
  { immediate: true },
)
watch(
  [path, () => route.query['at']],
  async () => {
    const asked = path.value
    if (asked === '') return
    if (sheet.view?.path !== asked) await sheet.open(asked)
    const at = route.query['at'] ?? (await complaintPointer())
    if (path.value !== asked || typeof at !== 'string' || at === '') return
    sheet.focus = at
    await nextTick()
    await rows.value?.focusOn(at)
  },
  { immediate: true },
)
// what is kept the server has looked at, too, beside all other files
watchDebounced(
  () => sheet.draft?.state.value,
  (state) => (state === 'kept' || state === 'clean') && void sheet.hearServer(),
  { debounce: HEAR_AFTER_MS },
)
onBeforeRouteLeave(() => sheet.draft?.flush())
onUnmounted(async () => {
  await drafts.leave()
  await drafts.leaveBeside()
})
useEventListener('pagehide', drafts.sendWaiting)

/** Where the server complained about this file, that line comes first. */
async function complaintPointer(): Promise<string> {
  const line = server.complaints.find((item) => item.path === path.value)?.line
  return line ? sheet.pointerAtLine(line) : ''
}
const hasMoved = computed(() => {
  const shown = sheet.view
  return shown !== null && shown.draft !== null && shown.draft.baseSha !== shown.sha
})
const recordNote = computed(() =>
  sheet.view?.after === 'reload'
    ? 'What you change is written once the server has written what it knows, and taken anew by a reload.'
    : 'What you change is written while the server is stopped: stop, write, start.',
)
function cycle(): void {
  view.value = views.value[(views.value.findIndex((item) => item.id === view.value) + 1) % views.value.length]!.id
}
async function seeAsLedger(table: string): Promise<void> {
  await navigateTo({ query: { table } })
  view.value = 'ledger'
}
function seeInSheet(pointer: string): void {
  sheet.focus = pointer
  view.value = 'sheet'
}
useKeys({ s: cycle, m: () => (margin.value = !margin.value) })
</script>

<template>
  <div v-if="sheet.view" class="file-page">
    <div class="titleline">
      <div class="name">
        <h1>{{ sheet.view.plugin }}</h1>
        <code class="file">{{ sheet.view.path.split('/').pop() }}</code>
        <span class="tally"
          ><span><i class="bar f" />{{ counts.all }} in all</span><span><i class="bar y" />{{ counts.mine }} yours</span
          ><span v-if="sheet.view.update"
            ><i class="bar u" />{{ counts.update }} in {{ shortVersion(sheet.view.update.version) }}</span
          ></span
        >
      </div>
      <label v-if="view !== 'ledger'" class="sw push"><ToggleSwitch v-model="sheet.onlyMine" aria-label="Only mine" />Only mine</label>
      <BaseSegments v-model="view" :class="{ push: view === 'ledger' }" :options="views" label="View of the file" />
      <span v-if="hasMargin && margin" class="margin-head"
        ><h2>In the margin</h2>
        <button class="push" @click="margin = false">fold <kbd>m</kbd></button></span
      >
      <button v-else-if="hasMargin" class="muted" @click="margin = true">margin <kbd>m</kbd></button>
    </div>
    <LazyDraftConflict v-if="sheet.theirs" />
    <Message v-else-if="sheet.problem" severity="error">{{ sheet.problem }}</Message>
    <p v-if="hasMoved" class="note-line wrn" role="status">
      <FindingMark kind="decision" /> The same was changed here and on the server.
      <NuxtLink :to="`/s/${server.slug}/review`">Look at all three, and choose</NuxtLink>
    </p>
    <p v-if="sheet.view.rewritten" class="note-line">
      {{ sheet.view.plugin }} writes this file anew when the server starts, last on {{ momentOf(sheet.view.rewritten.at)
      }}{{ sheet.view.rewritten.settings.length > 0 ? `: ${sheet.view.rewritten.settings.join(', ')}` : ', with the same settings' }}.
    </p>
    <p v-if="sheet.view.record" class="note-line">
      The running server writes this file by itself{{ server.state.status === 'running' ? ', and did just now' : '' }}.
      {{ recordNote }}
    </p>
    <p v-else-if="!session.mayEdit" class="note-line">You may look at the settings. Changing them takes an editor.</p>
    <p v-else-if="sheet.view.factory === null" class="note-line">
      There is no factory copy of this file, so what is yours cannot be marked.
    </p>
    <Splitter v-if="view === 'both'" class="views" state-key="pasticcio-beside" state-storage="local">
      <SplitterPanel class="pane" :size="52" :min-size="30"><SheetView ref="rows" :margin="false" @ledger="seeAsLedger" /></SplitterPanel>
      <SplitterPanel class="pane source-pane" :size="48" :min-size="20"><LazySourceView :key="sheet.view.path" /></SplitterPanel>
    </Splitter>
    <div v-else class="views">
      <div v-if="view === 'sheet'" class="pane"><SheetView ref="rows" :margin="margin" @ledger="seeAsLedger" /></div>
      <div v-else-if="view === 'ledger'" class="pane">
        <LazyLedgerView
          :table="String(route.query['table'] ?? '')"
          :over="route.query['over'] === 'files'"
          :margin="margin"
          :locked="!session.mayEdit"
          @go="seeInSheet"
        />
      </div>
      <div v-else class="pane source-pane"><LazySourceView :key="sheet.view.path" /></div>
      <ForeEdge v-if="view === 'sheet'" class="fore" :class="{ beside: margin }" />
    </div>
  </div>
  <div v-else-if="sheet.problem" class="state">
    <h2>This file cannot be shown</h2>
    <p>{{ sheet.problem }}</p>
    <p class="muted">Nothing was changed on the server.</p>
    <div class="acts"><button class="btn" @click="sheet.open(path)">Try again</button></div>
  </div>
  <NoSettings v-else-if="path === ''" />
  <div v-else class="skeleton" aria-busy="true">
    <BaseProgress label="Loading" />
    <i v-for="n in 14" :key="n" :style="{ width: `${40 + ((n * 37) % 50)}%` }" />
  </div>
</template>

<style scoped>
.file-page {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.margin-head {
  width: var(--margin);
  flex: none;
  margin: 0 calc(-1 * var(--edge)) 0 6px;
  padding: 0 16px;
  display: flex;
  align-items: center;
  border-left: 1px solid var(--hairline);
  height: 100%;
  font: var(--t-fine);
  color: var(--muted);
}
.margin-head h2 {
  font: italic 400 13px/20px var(--serif);
  color: var(--crust);
}
.views {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  position: relative;
}
.views.split {
  display: flex;
}
.pane {
  min-height: 0;
  display: flex;
  flex-direction: column;
  position: relative;
}
.source-pane {
  display: block;
}
.note-line {
  padding: 6px 16px;
  font: var(--t-small);
  color: var(--muted);
  border-bottom: 1px solid var(--hairline);
}
.fore {
  top: 0;
  right: 0;
}
.fore.beside {
  right: var(--margin);
}
</style>
