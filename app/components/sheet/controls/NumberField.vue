<script setup lang="ts">
import { NumberText, type Value } from '@pasticcio/core'

/** A number that keeps its text: `1.50` stays so, and what is none is kept as typed and found wrong. */
const props = defineProps<{
  source: string
  label: string
  disabled: boolean
  bad?: boolean
  min?: number | undefined
  max?: number | undefined
  /** How much one step is; by the last digit behind the point without it. */
  by?: number | undefined
  width?: 'w0' | 'w1' | 'w2'
  steps?: boolean
}>()
const emit = defineEmits<{ set: [value: Value] }>()
const { typed, sent } = useTyped(() => props.source)
/** What is written as a number; what is none has no amount. */
const amount = computed(() => (typed.value.trim() !== '' && Number.isFinite(Number(typed.value)) ? Number(typed.value) : undefined))

function give(): void {
  const text = typed.value.trim()
  emit('set', /^-?\d+(\.\d+)?$/.test(text) ? new NumberText(text) : text)
}
function nudge(by: number): void {
  // from what stands here, which the file may not have answered to yet
  const from = amount.value === undefined ? props.source : typed.value
  const decimals = /\.(\d+)/.exec(from)?.[1]?.length ?? 0
  const next = Number(from) + by * (props.by ?? (decimals > 0 ? 10 ** -decimals : 1))
  if (!Number.isFinite(next)) return
  typed.value = next.toFixed(decimals)
  sent(typed.value)
  emit('set', new NumberText(typed.value))
}
</script>

<template>
  <input
    v-model="typed"
    class="in"
    :class="[width ?? 'w1', { bad }]"
    inputmode="decimal"
    role="spinbutton"
    :aria-valuenow="amount"
    :aria-valuetext="typed || 'empty'"
    :aria-valuemin="min"
    :aria-valuemax="max"
    :disabled="disabled"
    :aria-label="label"
    @change="give"
    @keydown.up.prevent="nudge(1)"
    @keydown.down.prevent="nudge(-1)"
    @keydown.page-up.prevent="nudge(10)"
    @keydown.page-down.prevent="nudge(-10)"
  />
  <span v-if="steps" class="step"
    ><button tabindex="-1" :disabled="disabled" :aria-label="`${label} less`" @click="nudge(-1)"><BaseIcon name="minus" /></button
    ><button tabindex="-1" :disabled="disabled" :aria-label="`${label} more`" @click="nudge(1)"><BaseIcon name="plus" /></button
  ></span>
</template>
