<script setup lang="ts">
/** The permission nodes and the commands of a plugin, each with what it is for. */
const props = defineProps<{ nodes: Readonly<Record<string, string>>; commands: Readonly<Record<string, string>> }>()
const groups = computed(() => [
  { title: 'Nodes', rows: Object.entries(props.nodes) },
  { title: 'Commands', rows: Object.entries(props.commands).map(([name, what]) => [`/${name}`, what] as const) },
])
</script>

<template>
  <template v-for="group in groups" :key="group.title">
    <div class="grp">
      <h2>{{ group.title }}</h2>
      <span class="ct">{{ group.rows.length }}</span>
    </div>
    <dl class="pairs">
      <template v-for="[name, what] in group.rows" :key="name">
        <dt>
          <code>{{ name }}</code>
        </dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
  </template>
</template>

<style scoped>
.pairs {
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr);
  gap: 4px 12px;
  padding: 6px 16px 12px;
  font: var(--t-small);
}
</style>
