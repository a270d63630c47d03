<script setup lang="ts">
import { NumberText, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const adding = ref('')
const { items, set } = useItems(
  () => props.row.value,
  (now) => emit('set', now.map(typed)),
)
const areNumbers = computed(
  () =>
    Array.isArray(props.row.value) &&
    props.row.value.length > 0 &&
    (props.row.value as unknown[]).every((item) => typeof item === 'number'),
)
/** Among numbers, what reads as one is one. */
const typed = (text: string): Value => (areNumbers.value && /^-?\d+(\.\d+)?$/.test(text) ? new NumberText(text) : text)
function add(): void {
  const text = adding.value.trim()
  adding.value = ''
  if (text !== '') set([...items.value, text])
}
</script>

<template>
  <ReorderTokens :items="items" :label="row.label" :disabled="disabled" @set="set">
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
