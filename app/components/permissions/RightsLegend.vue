<script setup lang="ts">
import type { PermissionCell } from '@pasticcio/core'

/** The signs of rights with their words; each cell says the same to assistive technology. */
const sign = (by: PermissionCell['by'], may: boolean, isWildcard = false): PermissionCell => ({
  by,
  may,
  isWildcard,
  from: '',
  grant: null,
})
/** What each sign says. */
const LEGEND = [
  { words: 'granted here', cell: sign('own', true) },
  { words: 'by a wildcard', cell: sign('own', true, true) },
  { words: 'by a parent', cell: sign('parent', true) },
  { words: 'a parent’s wildcard', cell: sign('parent', true, true) },
  { words: 'denied here', cell: sign('own', false) },
  { words: 'denied by a parent', cell: sign('parent', false) },
  { words: 'everyone, by default', cell: sign('default', true) },
  { words: 'nothing said', cell: sign('nothing', false) },
] as const
</script>

<template>
  <span class="legend" aria-hidden="true"
    ><span v-for="{ words, cell } in LEGEND" :key="words"><RightSign :cell="cell" /> {{ words }}</span></span
  >
</template>

<style scoped>
.legend {
  display: grid;
  grid-template-columns: auto auto;
  gap: 2px 14px;
  align-content: start;
}
.legend > span {
  display: flex;
  gap: 6px;
  align-items: center;
  color: var(--crust);
}
</style>
