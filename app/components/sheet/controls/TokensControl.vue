<script setup lang="ts">
import { NumberText, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const adding = ref('')
const items = computed(() => (Array.isArray(props.row.value) ? props.row.value.map(String) : []))
const areNumbers = computed(() => items.value.length > 0 && (props.row.value as unknown[]).every((item) => typeof item === 'number'))
/** Among numbers, what reads as one is one. */
const typed = (text: string): Value => (areNumbers.value && /^-?\d+(\.\d+)?$/.test(text) ? new NumberText(text) : text)
function add(): void {
  const text = adding.value.trim()
  adding.value = ''
  if (text !== '') emit('set', [...items.value, text].map(typed))
}
</script>

<template>
  <ReorderTokens :items="items" :label="row.label" :disabled="disabled" @set="(now) => emit('set', now.map(typed))">
    <input
      v-model="adding"
      class="in w0"
      :disabled="disabled"
      placeholder="+"
      :aria-label="`Add to ${row.label}`"
      @keydown.enter.prevent="add"
      @change="add"
    />
  </ReorderTokens>
</template>
