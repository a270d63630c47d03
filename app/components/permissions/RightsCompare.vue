<script setup lang="ts">
import type { Subject } from '@pasticcio/core'
import { nodeWords } from '~/utils/permission-rows'

/** What two groups or players may that the other may not. */
const permissions = usePermissionsStore()
const all = computed(() => [
  ...permissions.permissions.groups.map(({ name }) => ({ id: `group ${name}`, name, subject: { group: name } as Subject })),
  ...permissions.permissions.players.map(({ id, name }) => ({ id: `player ${id}`, name: name || id, subject: { player: id } as Subject })),
])
const left = ref('')
const right = ref('')
watch(
  all,
  (list) => {
    const at = list.findIndex(({ id }) => id === permissions.column)
    if (!list.some(({ id }) => id === left.value)) left.value = list[Math.max(0, at)]?.id ?? ''
    // what is in focus stands beside what comes next
    if (!list.some(({ id }) => id === right.value)) right.value = (list[Math.max(0, at) + 1] ?? list[at - 1])?.id ?? ''
  },
  { immediate: true },
)
const sides = computed(() => [left.value, right.value].map((id) => all.value.find((one) => one.id === id)))
const rows = computed(() => {
  const [a, b] = sides.value
  if (!a || !b) return []
  return permissions.answer.nodes
    .map((node) => ({ node, cells: [a, b].map(({ subject }) => permissions.book.cell(subject, node.node)) as [Cell, Cell] }))
    .filter(({ cells: [x, y] }) => x.may !== y.may)
})
type Cell = ReturnType<typeof permissions.book.cell>
const count = (subject: Subject | undefined): number =>
  subject ? permissions.answer.nodes.filter(({ node }) => permissions.book.may(subject, node)).length : 0
</script>

<template>
  <div class="compare">
    <div class="pick">
      <select v-model="left" class="in" aria-label="One">
        <option v-for="one in all" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      beside
      <select v-model="right" class="in" aria-label="The other">
        <option v-for="one in all" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      <span class="muted">{{ counted(rows.length, 'difference') }}</span>
    </div>
    <table v-if="rows.length > 0">
      <thead>
        <tr>
          <th scope="col">What may be done</th>
          <th v-for="(side, i) in sides" :key="i" scope="col">
            {{ side?.name }} <span class="muted">{{ counted(count(side?.subject), 'thing') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ node, cells } in rows" :key="node.node">
          <th scope="row">
            {{ nodeWords(node) }} <code class="muted">{{ node.node }}</code>
          </th>
          <td v-for="(cell, i) in cells" :key="i"><RightSign :cell="cell" labelled /></td>
        </tr>
      </tbody>
    </table>
    <p v-else class="muted">They may do the same.</p>
  </div>
</template>

<style scoped>
.compare {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 8px 16px;
  font: var(--t-small);
}
.pick {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.pick .in {
  width: 140px;
}
table {
  width: 100%;
  margin-top: 8px;
  border-collapse: collapse;
}
th,
td {
  padding: 4px 12px 4px 0;
  text-align: left;
  border-bottom: 1px solid var(--hairline);
}
tbody th {
  font-weight: 400;
}
</style>
