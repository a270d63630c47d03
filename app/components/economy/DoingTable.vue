<script setup lang="ts">
import { movedByAll, type FittedKind, type Known, type Moving } from '@pasticcio/core'
import { activityWords, amountWords } from '~/utils/economy-words'
import { ORIGIN_RULES, ORIGIN_WORDS } from '~/utils/origin-words'

/** How often each kind of player does what, typed, read from records or inferred; what moves most first. */
const economy = useEconomyStore()
const session = useSessionStore()
const isAll = ref(false)
const FEW = 8
const activities = computed(() => {
  const found = new Map<string, { stream: Moving; moved: number }>()
  for (const stream of [...economy.draft.streams, ...economy.standing.streams]) {
    if (stream.isOnce || stream.doing === 'tax') continue
    const moved = movedByAll(stream, economy.people)
    const before = found.get(stream.activity)
    if (!before || before.moved < moved) found.set(stream.activity, { stream, moved })
  }
  return [...found.values()].sort((a, b) => b.moved - a.moved).map(({ stream }) => stream)
})
const focused = computed(() => {
  const group = economy.flow.groups.find(({ id }) => id === economy.focus)
  return new Set(group?.streams.map(({ activity }) => activity))
})
const shown = computed(() => (isAll.value ? activities.value : activities.value.slice(0, FEW)))
const rateOf = (kind: FittedKind, { activity }: Moving): Known => kind.rates[activity] ?? { value: 0, from: 'inferred' }

function set(kind: FittedKind, stream: Moving, event: Event): void {
  const input = event.target as HTMLInputElement
  const text = input.value.trim()
  const value = text === '' ? null : Number(text)
  if (value === null || (value >= 0 && value <= 100_000)) economy.setRate(stream.activity, kind.id, value)
  else economy.problem = `“${text}” is no number of times from 0 to 100,000.`
  void nextTick(() => {
    const now = economy.kinds.find(({ id }) => id === kind.id)
    if (now) input.value = String(rateOf(now, stream).value)
  })
}
function infer(kind: FittedKind, stream: Moving, event: KeyboardEvent): void {
  event.preventDefault()
  economy.setRate(stream.activity, kind.id, null)
}
</script>

<template>
  <div v-if="activities.length > 0" class="doing">
    <table class="figures flush">
      <thead>
        <tr>
          <th scope="col">In an hour each</th>
          <th v-for="kind in economy.kinds" :key="kind.id" scope="col" class="cut" :title="kind.name">{{ kind.name.toLowerCase() }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="stream in shown" :key="stream.activity" :class="{ on: focused.has(stream.activity) }">
          <th scope="row" class="cut" :title="`${activityWords(stream)}, ${stream.plugin}`">{{ activityWords(stream) }}</th>
          <td v-for="kind in economy.kinds" :key="kind.id">
            <input
              class="in"
              :class="ORIGIN_RULES[rateOf(kind, stream).from]"
              inputmode="decimal"
              :value="amountWords(rateOf(kind, stream).value).replaceAll(',', '')"
              :disabled="!session.mayEdit"
              :aria-label="`${activityWords(stream)}, ${kind.name}, ${ORIGIN_WORDS[rateOf(kind, stream).from]}`"
              @change="set(kind, stream, $event)"
              @keydown.f="infer(kind, stream, $event)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p class="legend">
      <span class="in t">8</span>typed <span class="in r">1.6</span>from records <span class="in i">14</span>inferred
      <button v-if="activities.length > FEW" class="act push" @click="isAll = !isAll">
        {{ isAll ? 'fewer' : `all ${activities.length}` }}
      </button>
    </p>
    <p class="muted key"><kbd>f</kbd> in a number goes back to what is inferred.</p>
  </div>
</template>

<style scoped>
.doing {
  margin-top: 8px;
}
th:first-child {
  width: 36%;
}
thead th:first-child {
  font-weight: 700;
  color: var(--crust);
}
td .in {
  width: 44px;
}
.legend {
  display: flex;
  gap: 6px;
  align-items: baseline;
  margin: 4px 0 0;
  font: var(--t-fine);
  color: var(--muted);
}
.legend .in {
  display: inline-block;
  color: var(--crust);
  height: 17px;
  line-height: 15px;
}
.key {
  margin: 2px 0 0;
  font: var(--t-fine);
}
</style>
