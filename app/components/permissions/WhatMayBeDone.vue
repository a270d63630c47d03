<script setup lang="ts">
/** In the place of a server’s plugins and files: whose nodes there are, and the order of promotion, which can be drawn into another. */
const permissions = usePermissionsStore()
const changes = useRightChangesStore()
const session = useSessionStore()
const server = useServerStore()
const plugins = computed(() => {
  const counts = new Map<string, number>()
  for (const { plugin } of permissions.answer.nodes) counts.set(plugin, (counts.get(plugin) ?? 0) + 1)
  return (server.overview?.plugins ?? []).map(({ name, mine, update }) => ({
    name,
    yours: mine > 0,
    update: update !== null,
    count: counts.get(name) ?? 0,
  }))
})
const ladder = computed(() =>
  permissions.permissions.ladder.map(({ name }) => ({
    name,
    players: permissions.columns.find(({ group }) => group?.name === name)?.players ?? 0,
  })),
)
const plugin = computed({
  get: () => permissions.filter.plugin,
  set: (name) => (permissions.filter = { ...permissions.filter, plugin: name }),
})
/** The place of what is being drawn, and where it would go; -1 for none. */
const drawn = ref(-1)
const goal = ref(-1)
const list = useTemplateRef<HTMLElement>('list')
async function drop(): Promise<void> {
  const [from, to] = [drawn.value, goal.value]
  drawn.value = goal.value = -1
  if (from >= 0 && to >= 0) await changes.promote(from, to)
}
async function step(i: number, by: number): Promise<void> {
  const to = i + by
  if (!session.mayEdit || to < 0 || to >= ladder.value.length) return
  await changes.promote(i, to)
  await nextTick()
  list.value?.querySelectorAll('button')[to]?.focus()
}
function start(event: DragEvent, i: number): void {
  drawn.value = i
  event.dataTransfer?.setData('text/plain', ladder.value[i]!.name)
}
</script>

<template>
  <SpinePicks v-model="plugin" title="What may be done" unit="nodes" :picks="plugins" />
  <template v-if="ladder.length > 0">
    <h2>Order of promotion<span>players</span></h2>
    <ol ref="list" class="plugins" aria-label="Order of promotion">
      <li
        v-for="({ name, players }, i) in ladder"
        :key="name"
        :draggable="session.mayEdit"
        :class="{ goal: goal === i && drawn !== i, after: goal > drawn }"
        @dragstart="start($event, i)"
        @dragover.prevent="goal = i"
        @dragend="drawn = goal = -1"
        @drop.prevent="drop"
      >
        <button
          :class="{ open: permissions.column === `group ${name}` }"
          :aria-keyshortcuts="session.mayEdit ? 'Alt+ArrowUp Alt+ArrowDown' : undefined"
          @click="permissions.column = `group ${name}`"
          @keydown.alt.up.prevent="step(i, -1)"
          @keydown.alt.down.prevent="step(i, 1)"
        >
          <span v-if="session.mayEdit" class="grip" aria-hidden="true" /><span class="first">{{ i + 1 }}</span>
          <span class="cut">{{ name }}</span> <span class="n">{{ players }}</span>
        </button>
      </li>
    </ol>
  </template>
</template>

<style scoped>
.first {
  width: 14px;
  color: var(--muted);
}
.grip {
  width: 10px;
  height: 8px;
  cursor: grab;
  border-top: 1px solid var(--muted);
  border-bottom: 1px solid var(--muted);
  background: linear-gradient(var(--muted), var(--muted)) center / 100% 1px no-repeat;
}
.goal {
  box-shadow: inset 0 2px var(--crust);
}
.goal.after {
  box-shadow: inset 0 -2px var(--crust);
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
