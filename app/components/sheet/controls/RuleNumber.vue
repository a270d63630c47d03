<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** A number within the bounds of its rule. */
const props = defineProps<ControlProps & { readonly width?: 'w1' | 'w2'; readonly noSteps?: boolean }>()
const emit = defineEmits<{ set: [value: Value] }>()
const rule = computed(() => props.row.rule)
</script>

<template>
  <NumberField
    :source="row.source"
    :label="row.label"
    :disabled="disabled"
    :bad="bad"
    :min="rule?.min"
    :max="rule?.max"
    :by="rule?.step"
    :width="width ?? 'w1'"
    :steps="!noSteps"
    @set="(value) => emit('set', value)"
  />
</template>
