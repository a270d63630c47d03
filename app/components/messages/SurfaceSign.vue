<script setup lang="ts">
import type { SurfaceId } from '@pasticcio/core'

/** A player's screen with a solid mark where a text is seen. Its words stand beside it, or are its label. */
defineProps<{ surface: SurfaceId; label?: string }>()
/** Marks on a screen of 18 by 14: x, y, width, height. */
const MARKS: Readonly<Record<SurfaceId, readonly (readonly [number, number, number, number])[]>> = {
  chat: [
    [3, 7.5, 8, 1.5],
    [3, 10, 5.5, 1.5],
  ],
  banner: [
    [3, 4.5, 5, 5],
    [9.5, 5, 6, 1.5],
    [9.5, 7.6, 4.5, 1.5],
  ],
  board: [[11.5, 3.5, 4, 7]],
  list: [
    [5, 2.5, 8, 1.5],
    [5, 10, 8, 1.5],
  ],
  bar: [[3.5, 3, 11, 2.2]],
  title: [
    [3.5, 4.5, 11, 3.5],
    [6, 9.2, 6, 1.2],
  ],
  prompt: [[5, 9.5, 8, 1.6]],
  item: [
    [3.2, 7.8, 3, 3],
    [7.5, 3, 7.5, 1.5],
    [7.5, 5.5, 5, 1.2],
  ],
  sign: [
    [5, 4, 8, 1.6],
    [6, 7, 6, 1.6],
  ],
  book: [
    [3, 4.2, 4.5, 1.3],
    [3, 6.8, 4.5, 1.3],
    [10.5, 4.2, 4.5, 1.3],
    [10.5, 6.8, 4.5, 1.3],
  ],
  panel: [
    [3, 2.8, 5, 1.6],
    [3, 9.6, 4.5, 1.8],
    [9, 9.6, 4.5, 1.8],
  ],
  menu: [
    [3.4, 3.4, 2.4, 2.4],
    [7.8, 3.4, 2.4, 2.4],
    [12.2, 3.4, 2.4, 2.4],
    [3.4, 8.2, 2.4, 2.4],
    [7.8, 8.2, 2.4, 2.4],
  ],
}
</script>

<template>
  <svg
    class="sign"
    viewBox="0 0 18 14"
    width="18"
    height="14"
    :role="label ? 'img' : undefined"
    :aria-label="label"
    :aria-hidden="!label || undefined"
  >
    <rect x=".5" y=".5" width="17" height="13" rx="1.5" fill="none" stroke="currentColor" />
    <path v-if="surface === 'book'" d="M9 1v12" stroke="currentColor" fill="none" />
    <rect v-for="([x, y, width, height], i) in MARKS[surface]" :key="i" v-bind="{ x, y, width, height }" fill="currentColor" />
  </svg>
</template>

<style scoped>
.sign {
  flex: none;
  display: block;
}
</style>
