<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
</script>

<template>
  <NumberField
    :source="row.source"
    :label="row.label"
    :disabled="disabled"
    :bad="bad"
    :min="row.rule?.min"
    :max="row.rule?.max"
    steps
    @set="(value) => emit('set', value)"
  />
  <HeadingNeedle :degrees="row.amount ?? 0" /><span class="unit">degrees</span>
</template>
