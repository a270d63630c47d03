<script setup lang="ts">
/** Files of the ledger that cannot be read, and those whose changes could not be kept. */
const tables = useLedgerTablesStore()
const drafts = useDraftsStore()
const server = useServerStore()
const nameOf = (path: string): string => path.split('/').pop()!
</script>

<template>
  <p v-for="file in tables.unread" :key="file.path" class="err note-line" role="alert">
    <FindingMark kind="error" /> {{ nameOf(file.path) }} cannot be read: {{ file.problem }} Its rows are not shown.
  </p>
  <p v-for="file in drafts.troubled" :key="file.path" class="err note-line" role="alert">
    <FindingMark kind="error" /> {{ nameOf(file.path) }} is changed only here: {{ file.problem }}
    <NuxtLink :to="`/s/${server.slug}/settings/${file.path}`">Look at it, and choose</NuxtLink>
  </p>
</template>

<style scoped>
.note-line {
  padding: 5px 16px;
  font: var(--t-small);
}
</style>
