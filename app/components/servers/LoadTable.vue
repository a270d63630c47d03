<script setup lang="ts">
import type { Load } from '~/utils/types'

/** The numbers of a picture, the latest first. */
const props = defineProps<{ load: Load; label: string }>()
const MOST = 48
const rows = computed(() => props.load.points.slice(-MOST).reverse())
</script>

<template>
  <div class="numbers" tabindex="0" role="region" :aria-label="label">
    <table class="table-rows">
      <thead>
        <tr>
          <th v-for="head in ['Time', 'Ticks/s', 'Fewest', 'Players', 'Memory']" :key="head" class="table-head" scope="col">{{ head }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="point in rows" :key="point.at">
          <td>{{ shortTime(point.at) }}</td>
          <td>{{ point.ticks.toFixed(1) }}</td>
          <td>{{ point.least.toFixed(1) }}</td>
          <td>{{ point.players.toFixed(0) }}</td>
          <td>{{ point.memory === null ? '–' : `${point.memory.toFixed(0)} MB` }}</td>
        </tr>
        <tr v-if="rows.length === 0">
          <td colspan="5" class="muted">Nothing was measured in this time.</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.numbers {
  height: 136px;
  overflow: auto;
}
td {
  font: var(--t-value);
  height: 20px;
}
</style>
