<script setup lang="ts">
import type { Term, TermUnit } from '@pasticcio/core'

/** For how long something is given: an amount and a unit that the permission plugin takes; nothing typed is for good. */
const props = defineProps<{ units: readonly TermUnit[] }>()
const term = defineModel<Term | null>({ required: true })
const amount = ref('')
const unit = ref<TermUnit>('day')
watch(
  () => props.units,
  (units) => units.includes(unit.value) || (unit.value = units[0] ?? 'day'),
  { immediate: true },
)
watch([amount, unit], () => {
  const number = Number(amount.value)
  term.value = amount.value !== '' && Number.isInteger(number) && number > 0 ? { amount: number, unit: unit.value } : null
})
</script>

<template>
  <label class="term"
    >for <input v-model.trim="amount" class="in w0" inputmode="numeric" placeholder="good" aria-label="For how long" /><select
      v-model="unit"
      class="in"
      aria-label="Unit of the term"
    >
      <option v-for="one in units" :key="one" :value="one">{{ one }}s</option>
    </select></label
  >
</template>

<style scoped>
.term {
  display: flex;
  gap: 4px;
  align-items: baseline;
  font: var(--t-small);
}
</style>
