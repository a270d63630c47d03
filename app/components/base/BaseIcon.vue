<script setup lang="ts">
const PATHS = {
  arrow: 'M1 6h9M7 3l3 3-3 3',
  down: 'M2.5 4.5 6 8l3.5-3.5',
  right: 'M4.5 2.5 8 6l-3.5 3.5',
  minus: 'M2 6h8',
  plus: 'M2 6h8M6 2v8',
  find: 'M8.5 5a3.5 3.5 0 1 1-7 0 3.5 3.5 0 0 1 7 0M8 8l3 3',
  fold: 'M8 2.5 4.5 6 8 9.5M2 2v8',
  unfold: 'M4 2.5 7.5 6 4 9.5M10 2v8',
  back: 'M4 2 1.5 4.5 4 7M1.5 4.5H8a2.5 2.5 0 0 1 0 5H5',
  close: 'm3 3 6 6M9 3 3 9',
} as const
defineProps<{ name: keyof typeof PATHS }>()
</script>

<template>
  <svg class="ic" viewBox="0 0 12 12" aria-hidden="true"><path :d="PATHS[name]" /></svg>
</template>
