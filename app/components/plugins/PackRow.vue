<script setup lang="ts">
/** One plugin with what can be done to its versions. */
defineProps<{ name: string; summary: string | undefined }>()
</script>

<template>
  <li class="pack">
    <span class="b cut">{{ name }}</span><span class="muted cut">{{ summary }}</span>
    <span class="versions"><slot /></span>
  </li>
</template>

<style scoped>
.pack {
  display: grid;
  align-items: center;
  gap: 10px;
  min-height: 32px;
  padding: 0 12px 0 16px;
  grid-template-columns: 138px minmax(0, 1fr) auto;
}
.versions {
  display: flex;
  gap: 8px;
}
</style>
