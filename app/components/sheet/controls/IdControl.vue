<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import { pickedFrom } from '~/utils/control-kinds'
import type { ControlProps } from '~/utils/control-props'

/** One id, also with how many of it: `reed 16` keeps its number. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const registry = computed(() => pickedFrom(props.row.rule))
const parts = computed(() => (props.row.rule?.means === 'amount' ? /^(\S*)(.*)$/s.exec(props.row.source) : null))
const id = computed(() => parts.value?.[1] ?? props.row.source)
const give = (picked: string): void => emit('set', picked + (parts.value?.[2] ?? ''))
</script>

<template>
  <IdPicker :model-value="id" :registry="registry" :label="row.label" :disabled="disabled" :bad="bad" @update:model-value="give" />
  <span v-if="parts?.[2]" class="unit">{{ parts[2].trim() }}</span>
  <span v-else-if="id === '' && row.rule?.emptyMeans" class="unit cut">{{ row.rule.emptyMeans }}</span>
</template>
