<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'
import { plural } from '~/utils/counted'

const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const rule = computed(() => props.row.rule)
/** What the value stands for by the author’s words, as “no limit”. */
const said = computed(() => rule.value?.said?.find(({ value }) => value === props.row.source)?.says)
const unit = computed(() => {
  if (said.value) return said.value
  if (rule.value?.unit === 'percent') return '%'
  if (rule.value?.max !== undefined && rule.value.max <= 1) return `of ${rule.value.max}`
  return rule.value?.unit ? plural(rule.value.unit) : ''
})
</script>

<template>
  <RuleNumber :row="row" :disabled="disabled" :bad="bad" @set="(value) => emit('set', value)" />
  <span v-if="unit" class="unit">{{ unit }}</span>
</template>
