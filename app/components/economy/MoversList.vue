<script setup lang="ts">
import { changeWords, moverWords } from '~/utils/economy-words'
import { settingLink } from '~/utils/pointer-words'

/** Which setting moves what stays the most: a bar for a tenth more of each. */
const economy = useEconomyStore()
const server = useServerStore()
const FEW = 10
const WIDE = 92
const moves = computed(() => economy.moves.slice(0, FEW))
/** Room for what is more and for what is less, by the largest of each. */
const scale = computed(() => {
  const most = Math.max(0, ...moves.value.map(({ change }) => change))
  const least = Math.min(0, ...moves.value.map(({ change }) => change))
  const per = (WIDE - 2) / (most - least || 1)
  return { zero: 1 - least * per, per }
})
</script>

<template>
  <div v-if="moves.length > 0">
    <h4 class="h rule">What moves it most <span class="push">a tenth more, today’s settings</span></h4>
    <ol aria-label="Settings by how much they move what stays">
      <li v-for="move in moves" :key="move.id">
        <NuxtLink v-if="move.pointer" class="cut" :to="settingLink(server.slug, move.file, move.pointer)">{{ moverWords(move) }}</NuxtLink>
        <span v-else class="cut">{{ moverWords(move) }}</span>
        <svg :width="WIDE" height="14" aria-hidden="true">
          <path class="zero" :d="`M${scale.zero} 0v14`" />
          <rect
            :class="move.isShipped ? 'f' : 'y'"
            :x="scale.zero + Math.min(0, move.change) * scale.per"
            y="3.5"
            :width="Math.max(1, Math.abs(move.change) * scale.per)"
            height="7"
          />
        </svg>
        <b>{{ changeWords(Number(move.change.toPrecision(3))) }}</b>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.rule {
  border-top: 1px solid var(--hairline);
  padding-top: 8px;
  margin: 10px 0 0;
}
ol {
  list-style: none;
  margin: 2px 0 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 92px 46px;
  gap: 4px;
  height: 22px;
  align-items: center;
  font: var(--t-small);
}
li b {
  text-align: right;
  font: var(--t-value);
}
.zero {
  stroke: var(--field-rule);
}
.y {
  fill: var(--yours);
  stroke: var(--yours-edge);
}
.f {
  fill: var(--flour);
  stroke: var(--factory);
}
</style>
