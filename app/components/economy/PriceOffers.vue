<script setup lang="ts">
import type { BookRow } from '~/utils/price-rows'

/** Everybody who sells an item, and everybody who buys it, the best for players first. */
defineProps<{ row: BookRow }>()
</script>

<template>
  <div class="offers">
    <ul v-for="side in ['buy', 'sell'] as const" :key="side" :aria-label="`Where players ${side} ${row.item}`">
      <li v-for="offer in side === 'buy' ? row.buys : row.sells" :key="offer.file + offer.pointer">
        <PriceField :row="row" :offer="offer" :side="side" />
        <i class="bar" :class="offer.isShipped ? 'f' : 'y'" /><span class="cut">{{ offer.where }}</span>
        <span class="muted cut">{{ shortPath(offer.file) }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.offers {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  padding: 0 12px 0 40px;
  border-bottom: 1px solid var(--hairline);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 72px 14px minmax(0, 1fr) minmax(0, 1.4fr);
  gap: 6px;
  align-items: center;
  height: 24px;
  font: var(--t-small);
}
</style>
