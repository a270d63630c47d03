<script setup lang="ts">
/** The permission nodes, the commands and the placeholders of a plugin, each with what it is for. */
const props = defineProps<{ of: Partial<Record<'nodes' | 'commands' | 'placeholders', Readonly<Record<string, string>>>> | null }>()
const groups = computed(() => [
  { title: 'Nodes', rows: Object.entries(props.of?.nodes ?? {}) },
  { title: 'Commands', rows: Object.entries(props.of?.commands ?? {}).map(([name, what]) => [`/${name}`, what] as const) },
  { title: 'Placeholders', rows: Object.entries(props.of?.placeholders ?? {}) },
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
