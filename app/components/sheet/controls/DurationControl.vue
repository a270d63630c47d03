<script setup lang="ts">
import { NumberText, SECONDS, explainSum, readDuration, readSpelledTime, writeDuration, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'
import { plural } from '~/utils/counted'

/** A stretch of time: in the file’s own unit, and in one that is easily read. Both fields edit one value. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const fileUnit = computed(() => props.row.rule?.unit ?? null)
const shown = computed(() => readDuration(props.row.source, fileUnit.value, props.row.amount ?? undefined)!)
const isSpelled = computed(() => readSpelledTime(props.row.source) !== null)
const sum = computed(() => (fileUnit.value && !isSpelled.value ? explainSum(props.row.source, fileUnit.value) : null))
/** A unit somebody chose to read it in; until then the one that tells it shortly. */
const chosen = ref<string | null>(null)
const unit = computed(() => chosen.value ?? shown.value.readable.unit)
const chosenUnit = computed({ get: () => unit.value, set: (one: string) => void (chosen.value = one) })
const amount = computed(() => String(Number((shown.value.seconds / SECONDS[unit.value]!).toPrecision(12))))
const units = computed(() => [
  'second',
  'minute',
  'hour',
  'day',
  ...(fileUnit.value === 'millisecond' || unit.value === 'millisecond' ? ['millisecond'] : []),
])
const isWorthIt = computed(() => !props.row.waits && (isSpelled.value || unit.value !== fileUnit.value || chosen.value !== null))
const { typed: spelled } = useTyped(() => props.row.source)

function giveReadable(value: Value): void {
  const seconds = Number(value instanceof NumberText ? value.text : value) * SECONDS[unit.value]!
  if (!Number.isFinite(seconds)) return
  const text = writeDuration(seconds, fileUnit.value, props.row.source)
  emit('set', isSpelled.value ? text : new NumberText(text))
}
</script>

<template>
  <input
    v-if="isSpelled"
    v-model="spelled"
    class="in w1"
    :disabled="disabled"
    :aria-label="row.label"
    @change="emit('set', spelled.trim())"
  />
  <RuleNumber
    v-else
    :row="row"
    :disabled="disabled"
    :bad="bad"
    :width="sum ? 'w2' : 'w1'"
    :no-steps="sum !== null"
    @set="(value) => emit('set', value)"
  />
  <span v-if="!isSpelled" class="unit">{{ plural(fileUnit ?? '') }}</span>
  <span v-if="isWorthIt" class="more">
    <span class="unit">=</span>
    <NumberField :source="amount" :label="`${row.label} in ${plural(unit)}`" :disabled="disabled" width="w0" @set="giveReadable" />
    <select v-model="chosenUnit" class="in unit-of" :disabled="disabled" :aria-label="`Unit to read ${row.label} in`">
      <option v-for="one in units" :key="one" :value="one">{{ plural(one) }}</option>
    </select>
  </span>
</template>

<style scoped>
.more {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
.unit-of {
  flex: none;
  width: 84px;
}
</style>
