<script setup lang="ts">
import type { TimeLine } from '~/utils/time-line'

/** The hours or days over all staves. */
const props = defineProps<{ lines: readonly TimeLine[]; from: number; until: number; caption: string }>()
const NEAR = 6
const shown = computed(() =>
  props.lines
    .map((line) => ({ ...line, at: (100 * (line.at - props.from)) / (props.until - props.from) }))
    // the last place is that of now
    .filter(({ at }) => at < 100 - NEAR),
)
</script>

<template>
  <div class="srule">
    <span class="cap">{{ caption }}</span>
    <div class="hours" aria-hidden="true">
      <span v-for="line in shown" :key="line.at" :class="{ b: line.isDay }" :style="{ left: `${line.at}%` }">{{ line.label }}</span>
      <span class="b now">now</span>
    </div>
  </div>
</template>

<style scoped>
.srule {
  height: 24px;
  flex: none;
  display: grid;
  grid-template-columns: var(--stave-left) minmax(0, 1fr);
  border-bottom: 1px solid var(--crust);
  align-items: center;
  font: var(--t-fine);
}
.cap {
  color: var(--muted);
  padding-left: 16px;
}
.hours {
  position: relative;
  height: 16px;
  margin-right: var(--edge);
}
.hours span {
  position: absolute;
  transform: translateX(-50%);
  white-space: nowrap;
}
.hours .now {
  right: 0;
  transform: none;
}
</style>
