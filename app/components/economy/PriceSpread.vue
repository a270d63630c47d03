<script setup lang="ts">
import type { Box } from '@pasticcio/core'

/** A price among those of its kind: whiskers at 5 and 95 of 100, the box of the middle half, and the price as a dot. */
const props = defineProps<{ box: Box; price: number; isFar: boolean }>()
const WIDE = 68
const EDGE = 6
const scale = computed(() => {
  const low = Math.min(props.box.low, props.price)
  const span = Math.max(props.box.high, props.price) - low || 1
  return (value: number): number => EDGE + ((value - low) / span) * (WIDE - 2 * EDGE)
})
const words = computed(
  () =>
    `${props.isFar ? 'Far from its kind: ' : ''}${props.price}, half of its kind between ${props.box.quarter} and ${props.box.threeQuarters}`,
)
</script>

<template>
  <svg class="spread" :width="WIDE" height="16" role="img" :aria-label="words">
    <line class="ws" :x1="scale(box.low)" :x2="scale(box.quarter)" y1="8" y2="8" />
    <line class="ws" :x1="scale(box.threeQuarters)" :x2="scale(box.high)" y1="8" y2="8" />
    <line v-for="end in [box.low, box.high]" :key="end" class="ws" :x1="scale(end)" :x2="scale(end)" y1="5" y2="11" />
    <rect class="ws" :x="scale(box.quarter)" y="3.5" :width="Math.max(1, scale(box.threeQuarters) - scale(box.quarter))" height="9" />
    <line class="md" :x1="scale(box.middle)" :x2="scale(box.middle)" y1="3.5" y2="12.5" />
    <path v-if="isFar" class="far" :d="`M${scale(price)} 3l5 9h-10z`" />
    <circle v-else class="at" :cx="scale(price)" cy="8" r="3" />
  </svg>
</template>

<style scoped>
.ws {
  fill: var(--flour);
  stroke: var(--factory);
}
.md {
  stroke: var(--factory);
  stroke-width: 2;
}
.at {
  fill: var(--crust);
}
.far {
  fill: var(--flour);
  stroke: var(--warning);
  stroke-width: 1.5;
  stroke-linejoin: round;
}
</style>
