<script setup lang="ts">
import type { GatheredOffer, Reckoning } from '@pasticcio/core'

/** Arithmetic over all prices that are shown: each row tells what becomes of it, and nothing is staged before Enter. */
const prices = usePriceBookStore()
const SIDES: readonly { readonly id: GatheredOffer['way']; readonly name: string }[] = [
  { id: 'buy', name: 'what they cost' },
  { id: 'sell', name: 'what they bring' },
]
const KINDS: readonly { readonly id: Reckoning['does']; readonly name: string }[] = [
  { id: 'times', name: '×' },
  { id: 'add', name: '+' },
  { id: 'set', name: 'set' },
]
const first = useTemplateRef<HTMLInputElement>('first')
onMounted(() => first.value?.select())
</script>

<template>
  <form
    v-if="prices.reckoning"
    class="reckoning"
    aria-label="Reckon with the prices that are shown"
    @submit.prevent="prices.takeReckoning()"
    @keydown.esc.prevent.stop="prices.reckoning = null"
  >
    <BaseSegments v-model="prices.reckoning.side" :options="SIDES" label="Which prices" />
    <BaseSegments v-model="prices.reckoning.does" :options="KINDS" label="What is done" />
    <input ref="first" v-model="prices.reckoning.by" class="in" inputmode="decimal" aria-label="By how much" />
    <label>round to <input v-model="prices.reckoning.step" class="in" inputmode="decimal" placeholder="any" /></label>
    <label>least <input v-model="prices.reckoning.least" class="in" inputmode="decimal" placeholder="any" /></label>
    <label>most <input v-model="prices.reckoning.most" class="in" inputmode="decimal" placeholder="any" /></label>
    <span class="says" :class="{ err: prices.reckoned.problem }" role="status">{{
      prices.reckoned.problem || counted(prices.reckoned.changes.length, 'change')
    }}</span>
    <button class="btn small" type="submit" :disabled="prices.reckoned.changes.length === 0">Put in the tray <kbd>Enter</kbd></button>
    <button class="act" type="button" @click="prices.reckoning = null">Leave</button>
  </form>
</template>

<style scoped>
.reckoning {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  min-height: 36px;
  padding: 4px 16px;
  background: var(--semolina);
  border-bottom: 1px solid var(--hairline);
  font: var(--t-small);
}
.reckoning .in {
  width: 44px;
}
.says {
  margin-left: auto;
  color: var(--muted);
}
.says.err {
  color: var(--error);
}
</style>
