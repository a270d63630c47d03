<script setup lang="ts">
/** Packages that came into the pantry just now, and installing them. */
const pantry = usePantryStore()
const server = useServerStore()
const all = computed(() => `/s/${server.slug}/plugins/install/${pantry.added.map(({ id }) => id).join(',')}`)
</script>

<template>
  <section class="note" role="status">
    <h3>In the pantry now</h3>
    <ul class="rows">
      <li v-for="item in pantry.added" :key="item.id">
        <NuxtLink :to="`/s/${server.slug}/plugins/install/${item.id}`" class="b">{{ item.name }} {{ item.version }}</NuxtLink>
        <p class="muted">{{ item.summary }}</p>
      </li>
    </ul>
    <div class="acts">
      <NuxtLink class="btn go" :to="all">{{
        pantry.added.length === 1 ? 'Plan installing it' : `Plan installing all ${pantry.added.length}`
      }}</NuxtLink>
    </div>
  </section>
</template>

<style scoped>
.note h3 {
  padding-top: 8px;
}
.note li {
  padding: 6px 0;
  font: var(--t-small);
}
</style>
