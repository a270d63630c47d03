<script setup lang="ts">
import { STATIONS } from '~/stations'

const visible = defineModel<boolean>('visible', { required: true })
const KEYS: readonly (readonly [string, string])[] = [
  ['/', 'find a setting anywhere'],
  ['j k', 'next, previous setting'],
  ['] [', 'next, previous of mine'],
  ['.', 'next finding or decision'],
  ['Enter', 'edit'],
  ['Esc', 'leave the field'],
  ['f', 'back to factory'],
  ['d', 'duplicate an entry'],
  ['r', 'rename an entry'],
  ['Alt ↑ ↓', 'move an entry'],
  ['u', 'undo the last edit'],
  ['s', 'sheet, source, side by side'],
  ['m', 'fold the margin'],
  ['Ctrl Enter', 'review and apply'],
  ...STATIONS.map((station) => [`g ${station.key}`, `go to ${station.title}`] as const),
  ['?', 'this list'],
]
</script>

<template>
  <BaseDialog v-model:visible="visible" title="All keys">
    <dl class="keys">
      <template v-for="[key, what] in KEYS" :key="key"
        ><dt>
          <kbd>{{ key }}</kbd>
        </dt>
        <dd>{{ what }}</dd></template
      >
    </dl>
  </BaseDialog>
</template>

<style scoped>
.keys {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 6px 12px;
  padding-top: 8px;
}
</style>
