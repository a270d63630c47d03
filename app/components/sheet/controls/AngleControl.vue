<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
</script>

<template>
  <RuleNumber :row="row" :disabled="disabled" :bad="bad" @set="(value) => emit('set', value)" />
  <HeadingNeedle :degrees="row.amount ?? 0" /><span class="unit">degrees</span>
</template>
