<script setup lang="ts">
import { NumberText, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const choices = computed(() =>
  [...new Set([...(props.row.rule?.choices ?? []), props.row.source])].map((value) => ({ value, words: wordsFor(value) })),
)
function wordsFor(value: string): string {
  const says = props.row.rule?.said?.find((one) => one.value === value)?.says
  return says ? `${value}  ${says}` : value || 'empty'
}
const give = (value: string): void => emit('set', typeof props.row.value === 'number' ? new NumberText(value) : value)
</script>

<template>
  <Select
    :model-value="row.source"
    :options="choices"
    option-label="words"
    option-value="value"
    :disabled="disabled"
    :aria-label="row.label"
    append-to="body"
    @update:model-value="give"
  />
</template>
