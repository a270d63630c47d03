<script setup lang="ts">
import { nodeWords } from '~/utils/permission-rows'

/** What the drafts change of rights, for whom, against what stands on the server. */
const permissions = usePermissionsStore()
const nodes = computed(() => new Map(permissions.answer.nodes.map((node) => [node.node, node])))
const said = (node: string): string => {
  const found = nodes.value.get(node)
  return found ? nodeWords(found) : node
}
</script>

<template>
  <div class="try">
    <p v-if="permissions.gains.length === 0" class="muted">The drafts change nobody’s rights.</p>
    <ul v-else>
      <li v-for="{ name, kind, gained, lost } in permissions.gains" :key="kind + name">
        <b>{{ name }}</b> <span class="muted">{{ kind }}</span>
        <ul>
          <li v-for="node in gained" :key="node">
            may {{ said(node).toLowerCase() }} <code>{{ node }}</code>
          </li>
          <li v-for="node in lost" :key="node" class="lost">
            may no longer {{ said(node).toLowerCase() }} <code>{{ node }}</code>
          </li>
        </ul>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.try {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 10px 16px;
  font: var(--t-small);
}
.try ul {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}
.try ul ul {
  padding-left: 16px;
}
.lost {
  color: var(--error);
}
code {
  color: var(--muted);
}
</style>
