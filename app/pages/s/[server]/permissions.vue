<script setup lang="ts">
import { NO_FILTER } from '~/utils/permission-rows'

/** Who may do what, and why: groups and players across, nodes down, over the drafts. */
const permissions = usePermissionsStore()
const changes = useRightChangesStore()
const entries = useEntriesStore()
const drafts = useDraftsStore()
const known = useKnownStore()
const session = useSessionStore()
const server = useServerStore()
const VIEWS = [
  { id: 'grid', name: 'Grid' },
  { id: 'players', name: 'Players' },
  { id: 'compare', name: 'Compare' },
  { id: 'try', name: 'Try' },
] as const
const ORDERS = [
  { id: 'plugin', name: 'by plugin' },
  { id: 'feature', name: 'by feature' },
  { id: 'name', name: 'by name' },
] as const
const view = ref<(typeof VIEWS)[number]['id']>('grid')
const grid = useTemplateRef<{ show(): void }>('grid')

const route = useRoute()
onMounted(async () => {
  const asked = String(route.query['node'] ?? '')
  await Promise.all([known.ready(), permissions.load()])
  if (permissions.answer.nodes.some(({ node }) => node === asked)) permissions.node = asked
  await nextTick()
  grid.value?.show()
})
onBeforeRouteLeave(() => drafts.flushAll())
onUnmounted(() => drafts.leaveBeside())
useEventListener('pagehide', drafts.sendWaiting)

const dangers = computed(() => permissions.answer.findings.filter(({ severity }) => severity !== 'note').length)
const isOpenShown = ref(false)
/** What is dangerous, with how many nodes it is about; a click leaves only these. */
const WORRIES = [
  { id: 'staff', of: (count: number) => `${counted(count, 'staff node')} that everybody holds` },
  { id: 'gone', of: (count: number) => `${counted(count, 'node')} of plugins that are gone` },
  { id: 'idle', of: (count: number) => `${counted(count, 'denial')} that never count${count === 1 ? 's' : ''}` },
  { id: 'wildcard', of: (count: number) => `${counted(count, 'node')} held by a wildcard` },
] as const
const worries = computed(() =>
  WORRIES.map(({ id, of }) => ({
    id,
    count: permissions.dangers[id].size,
    words: of(id === 'idle' ? permissions.idle.length : permissions.dangers[id].size),
  })).filter(({ count }) => count > 0),
)
function only(among: (typeof WORRIES)[number]['id']): void {
  const { filter } = permissions
  permissions.filter = { ...filter, among: filter.among === among ? '' : among }
}
async function move(down: number, right: number): Promise<void> {
  permissions.move(down, right)
  await nextTick()
  grid.value?.show()
}
const inPage = (event: KeyboardEvent): boolean => (event.target as HTMLElement).closest('button, a, input, select, textarea') === null
function change(to: 'granted' | 'denied' | null): unknown {
  const { currentColumn, current } = permissions
  if (!session.mayEdit || !currentColumn || !current) return false
  const { subject } = currentColumn
  if ('group' in subject) return changes.change(subject.group, current.node, to)
  return permissions.answer.players.by !== null && changes.changePlayer(subject.player, 'node', current.node, to)
}
/** Compares what is in focus with what stands beside it. */
function compare(): void {
  view.value = 'compare'
}
// what became of a group that was given another name is seen once nothing is asked any more
watch(
  () => entries.asked,
  (asked, before) => !asked && before?.what === 'rename' && void afterRename(before.name),
)
/** Players that commands put into a group are put into it under its new name. */
async function afterRename(from: string): Promise<void> {
  await drafts.flushAll()
  const before = new Set(permissions.permissions.groups.map(({ name }) => name))
  await permissions.load()
  const to = permissions.permissions.groups.find(({ name }) => !before.has(name))?.name
  if (to === undefined) return
  permissions.column = `group ${to}`
  await changes.moved(from, to)
}
useKeys({
  ArrowDown: (event) => inPage(event) && move(1, 0),
  ArrowUp: (event) => inPage(event) && move(-1, 0),
  ArrowRight: (event) => inPage(event) && move(0, 1),
  ArrowLeft: (event) => inPage(event) && move(0, -1),
  j: () => move(1, 0),
  k: () => move(-1, 0),
  '+': () => change('granted'),
  '-': () => change('denied'),
  '0': () => change(null),
  c: compare,
  u: () => session.mayEdit && changes.undo(),
  'ctrl+z': () => session.mayEdit && changes.undo(),
})
</script>

<template>
  <div class="page">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1>Permissions</h1>
          <span v-if="permissions.isLoaded" class="tally"
            ><span
              >{{ counted(permissions.answer.nodes.length, 'node') }}, {{ counted(permissions.permissions.groups.length, 'group') }},
              {{ counted(permissions.permissions.players.length, 'player') }}</span
            ><NuxtLink v-if="dangers > 0" class="danger" :to="`/s/${server.slug}/findings`"
              ><FindingMark kind="warning" /> {{ counted(dangers, 'danger') }}</NuxtLink
            ></span
          >
        </div>
        <BaseSegments v-model="view" class="push" :options="VIEWS" label="View of the permissions" />
      </div>
      <div v-if="view === 'grid' && permissions.permissions.groups.length > 0" class="sieve">
        <BaseSegments v-model="permissions.order" class="orders" :options="ORDERS" label="How nodes are put together" />
        <input
          v-model="permissions.filter.words"
          class="in words"
          type="search"
          placeholder="words"
          aria-label="Words of what may be done"
        />
        <select v-model="permissions.filter.held" class="in" aria-label="Who may do it">
          <option value="">anybody</option>
          <option v-for="{ id, name } in permissions.columns" :key="id" :value="id">what {{ name }} may</option>
        </select>
        <label class="tick"
          >beside
          <select v-model="permissions.player" class="in" aria-label="A player beside the groups">
            <option value="">nobody</option>
            <option v-for="{ id, name } in permissions.permissions.players" :key="id" :value="id">{{ name || id }}</option>
          </select></label
        >
        <label class="tick"><input v-model="permissions.filter.onlyDifferences" type="checkbox" /> Only differences</label>
      </div>
      <Message v-if="permissions.problem" severity="error">{{ permissions.problem }}</Message>
      <div v-if="permissions.loading && !permissions.isLoaded" class="skeleton" aria-busy="true">
        <i v-for="n in 12" :key="n" :style="{ width: `${50 + ((n * 29) % 45)}%` }" />
      </div>
      <div v-else-if="permissions.isLoaded && permissions.permissions.groups.length === 0" class="state">
        <h2>Nobody here keeps groups</h2>
        <p>
          {{ counted(permissions.answer.nodes.length, 'node') }} are declared or asked for, and no plugin on this server says who holds
          them. Install one that keeps ranks, from the pantry.
        </p>
      </div>
      <LazyRightsPlayers v-else-if="view === 'players'" />
      <RightsCompare v-else-if="view === 'compare'" />
      <RightsTry v-else-if="view === 'try'" />
      <RightsGrid v-else-if="permissions.rows.length > 0" ref="grid" />
      <div v-else-if="permissions.isLoaded" class="state">
        <h2>Nothing fits</h2>
        <p>{{ counted(permissions.answer.nodes.length, 'node') }} are there, and none is left by these choices.</p>
        <div class="acts"><button class="btn" @click="permissions.filter = NO_FILTER">Show all</button></div>
      </div>
      <footer v-if="view === 'grid' && permissions.isLoaded && (worries.length > 0 || permissions.answer.open.length > 0)" class="also">
        <i>Also</i>
        <button v-if="permissions.answer.open.length > 0" class="act" @click="isOpenShown = true">
          {{ counted(permissions.answer.open.length, 'feature') }} ask{{ permissions.answer.open.length === 1 ? 's' : '' }} for no node
        </button>
        <button
          v-for="worry in worries"
          :key="worry.id"
          class="act"
          :aria-pressed="permissions.filter.among === worry.id"
          @click="only(worry.id)"
        >
          {{ worry.words }}
        </button>
      </footer>
    </section>
    <RightsMargin />
    <LazyOpenFeatures v-if="isOpenShown" v-model:visible="isOpenShown" />
    <LazyEntryDialogs />
  </div>
</template>

<style scoped>
.sieve .in {
  flex: none;
  width: 112px;
}
.sieve .words {
  flex: 1 1 80px;
}
.orders {
  flex: none;
}
.danger {
  color: var(--warning);
}
.also {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 32px;
  padding: 0 16px;
  border-top: 1px solid var(--hairline);
  font: var(--t-small);
  color: var(--muted);
  white-space: nowrap;
  overflow-x: auto;
}
.also [aria-pressed='true'] {
  font-weight: 700;
  color: var(--crust);
}
</style>
