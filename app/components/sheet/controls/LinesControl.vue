<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** Lines below each other: those of a list, or of one long text. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const isList = computed(() => props.row.control === 'lines')
const { typed } = useTyped(() => (isList.value ? (props.row.value as unknown[]).map(String).join('\n') : String(props.row.value ?? '')))
const isFixed = computed(() => !isList.value && typeof props.row.value !== 'string')
const most = computed(() => props.row.rule?.maxItems)
const give = (): void => emit('set', isList.value ? typed.value.split('\n').filter((line) => line.trim() !== '') : typed.value)
</script>

<template>
  <textarea
    v-model="typed"
    class="in"
    :rows="Math.min(6, typed.split('\n').length)"
    :disabled="disabled || isFixed"
    :aria-label="row.label"
    @change="give"
  />
  <span v-if="most !== undefined" class="unit">{{ typed.split('\n').length }} of {{ most }}</span>
</template>
