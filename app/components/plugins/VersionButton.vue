<script setup lang="ts">
/** One version of a plugin, and in a word what choosing it means. Its name says both after the plugin's. */
defineProps<{ plugin: string; version: string; word: string }>()
</script>

<template>
  <button class="tokbtn" :aria-label="`${plugin} ${version} ${word}`">
    <code>{{ version }}</code> <span class="fine">{{ word }}</span>
  </button>
</template>

<style scoped>
.fine {
  font: var(--t-fine);
}
.tokbtn {
  display: inline-flex;
  gap: 6px;
  align-items: baseline;
  padding: 2px 8px;
  border: 1px solid var(--field-rule);
  border-radius: 3px;
}
.tokbtn:hover:not(:disabled, [aria-pressed='true']) {
  background: var(--semolina);
}
.tokbtn[aria-pressed='true'] {
  background: var(--crust);
  color: var(--flour);
}
.tokbtn code {
  font-size: 12px;
}
</style>
