<script setup lang="ts">
import { SECONDS, type Meaning, type Rule } from '@pasticcio/core'
import { plural } from '~/utils/counted'
import { MEANING_WORDS } from '~/utils/rule-words'
import type { SettingRow } from '~/utils/sheet-rows'

/** What somebody says a setting is: its meaning, and what goes with it. */
const props = defineProps<{ row: SettingRow }>()
const emit = defineEmits<{ give: [rule: Rule] }>()
const known = useKnownStore()
const uid = useId()
const means = ref<Meaning>(props.row.rule?.means ?? (typeof props.row.value === 'number' ? 'number' : 'text'))
const unit = ref(props.row.rule?.unit ?? 'second')
const registry = ref(props.row.rule?.registry ?? 'items')
const zone = ref(props.row.rule?.zone ?? 'UTC')
const least = ref(props.row.rule?.min?.toString() ?? '')
const most = ref(props.row.rule?.max?.toString() ?? '')
const choices = ref(props.row.rule?.choices?.join(', ') ?? '')
/** What is said of one entry of a group holds for all of them. */
const path = computed(() => props.row.rules[0]?.path ?? props.row.pointer)
const hasBounds = computed(() => ['number', 'duration', 'angle', 'port', 'weight'].includes(means.value))
const number = (text: string): number | undefined => (text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : undefined)

function give(): void {
  const [min, max] = hasBounds.value ? [number(least.value), number(most.value)] : []
  const listed = choices.value
    .split(',')
    .map((choice) => choice.trim())
    .filter(Boolean)
  emit('give', {
    path: path.value,
    means: means.value,
    ...(means.value === 'duration' ? { unit: unit.value } : {}),
    ...(means.value === 'id' || means.value === 'amount' ? { registry: registry.value } : {}),
    ...(means.value === 'time' && zone.value !== '' ? { zone: zone.value } : {}),
    ...(means.value === 'choice' ? { choices: listed } : {}),
    ...(min === undefined ? {} : { min }),
    ...(max === undefined ? {} : { max }),
  })
}
</script>

<template>
  <form class="rule" :aria-label="`What ${row.label} is`" @submit.prevent="give">
    <label :for="`${uid}-means`">It is</label>
    <select :id="`${uid}-means`" v-model="means" class="in">
      <option v-for="(words, name) in MEANING_WORDS" :key="name" :value="name">{{ words }}</option>
    </select>
    <template v-if="means === 'duration'">
      <label :for="`${uid}-unit`">in</label>
      <select :id="`${uid}-unit`" v-model="unit" class="in">
        <option v-for="(_size, name) in SECONDS" :key="name" :value="name">{{ plural(String(name)) }}</option>
      </select>
    </template>
    <template v-if="means === 'id' || means === 'amount'">
      <label :for="`${uid}-of`">of the</label>
      <select :id="`${uid}-of`" v-model="registry" class="in">
        <option v-for="(_list, name) in known.known.registries" :key="name" :value="name">{{ name }}</option>
      </select>
    </template>
    <template v-if="means === 'time'">
      <label :for="`${uid}-zone`">on the clock of</label><input :id="`${uid}-zone`" v-model="zone" class="in" placeholder="UTC" />
    </template>
    <template v-if="means === 'choice'">
      <label :for="`${uid}-choices`">one of</label
      ><input :id="`${uid}-choices`" v-model="choices" class="in" placeholder="low, fair, high" />
    </template>
    <template v-if="hasBounds">
      <label :for="`${uid}-min`">from</label><input :id="`${uid}-min`" v-model="least" class="in" inputmode="decimal" placeholder="any" />
      <label :for="`${uid}-max`">to</label><input :id="`${uid}-max`" v-model="most" class="in" inputmode="decimal" placeholder="any" />
    </template>
    <button class="btn small" type="submit">Say so</button>
  </form>
</template>

<style scoped>
.rule {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 4px 8px;
  align-items: baseline;
  padding: 6px 0;
  font: var(--t-small);
}
.rule label {
  color: var(--muted);
}
.rule .btn {
  grid-column: 2;
  justify-self: start;
  margin-top: 4px;
}
</style>
