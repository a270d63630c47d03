<script setup lang="ts">
/** In the place of a server’s plugins and files: whose nodes there are, and the order of promotion. */
const permissions = usePermissionsStore()
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
  permissions.permissions.ladder.map((name) => ({
    name,
    players: permissions.columns.find(({ group }) => group?.name === name)?.players ?? 0,
  })),
)
const plugin = computed({
  get: () => permissions.filter.plugin,
  set: (name) => (permissions.filter = { ...permissions.filter, plugin: name }),
})
</script>

<template>
  <SpinePicks v-model="plugin" title="What may be done" unit="nodes" :picks="plugins" />
  <template v-if="ladder.length > 0">
    <h2>Order of promotion<span>players</span></h2>
    <ol class="plugins">
      <li v-for="({ name, players }, i) in ladder" :key="name">
        <button :class="{ open: permissions.column === `group ${name}` }" @click="permissions.column = `group ${name}`">
          <span class="first">{{ i + 1 }}</span> <span class="cut">{{ name }}</span> <span class="n">{{ players }}</span>
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
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
