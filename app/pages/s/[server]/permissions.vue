<script setup lang="ts">
/** Who may do what, and why: groups and players across, nodes down, over the drafts. */
const permissions = usePermissionsStore()
const drafts = useDraftsStore()
const known = useKnownStore()
const session = useSessionStore()
const server = useServerStore()
const VIEWS = [
  { id: 'grid', name: 'Grid' },
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
async function move(down: number, right: number): Promise<void> {
  permissions.move(down, right)
  await nextTick()
  grid.value?.show()
}
const inPage = (event: KeyboardEvent): boolean => (event.target as HTMLElement).closest('button, a, input, select, textarea') === null
function change(to: 'granted' | 'denied' | null): unknown {
  const { currentColumn, current } = permissions
  if (!session.mayEdit || !currentColumn?.group || !current) return false
  return permissions.change(currentColumn.group.name, current.node, to)
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
  u: () => session.mayEdit && permissions.undo(),
  'ctrl+z': () => session.mayEdit && permissions.undo(),
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
        <select v-model="permissions.filter.plugin" class="in" aria-label="Plugin">
          <option value="">any plugin</option>
          <option v-for="name in permissions.plugins" :key="name">{{ name }}</option>
        </select>
        <input
          v-model="permissions.filter.words"
          class="in words"
          type="search"
          placeholder="what may be done"
          aria-label="Words of what may be done"
        />
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
      <RightsCompare v-else-if="view === 'compare'" />
      <RightsTry v-else-if="view === 'try'" />
      <RightsGrid v-else-if="permissions.rows.length > 0" ref="grid" />
      <div v-else-if="permissions.isLoaded" class="state">
        <h2>Nothing fits</h2>
        <p>{{ counted(permissions.answer.nodes.length, 'node') }} are there, and none is left by these choices.</p>
      </div>
      <footer v-if="permissions.idle.length > 0" class="also">
        <i>Also</i> {{ counted(permissions.idle.length, 'denial') }} that never count{{ permissions.idle.length === 1 ? 's' : '' }}:
        <button
          v-for="{ group, grant } in permissions.idle.slice(0, 4)"
          :key="group + grant.pointer"
          class="act"
          @click="((permissions.node = grant.node), (permissions.column = `group ${group}`))"
        >
          {{ group }} <code>-{{ grant.node }}</code>
        </button>
      </footer>
    </section>
    <RightsMargin />
  </div>
</template>

<style scoped>
.sieve .in {
  width: 104px;
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
</style>
