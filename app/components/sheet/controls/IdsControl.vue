<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import { pickedFrom } from '~/utils/control-kinds'
import type { ControlProps } from '~/utils/control-props'

/** A list of ids: picked, pasted many at once, taken out, and put in another order by dragging or Alt with the arrows. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const registry = computed(() => pickedFrom(props.row.rule))
const { items, set } = useItems(
  () => props.row.value,
  (now) => emit('set', [...now]),
)
const like = computed(() => items.value.map((item) => item.split(/\s/)[0]!))
const add = (ids: readonly string[]): void => set([...items.value, ...ids.filter((id) => id !== '').map(counted)])
/** Where each item says how many, a new one says one. */
const counted = (id: string): string => (props.row.rule?.means === 'amount' && !/\s\d+$/.test(id) ? `${id} 1` : id)
</script>

<template>
  <ReorderTokens :items="items" :label="row.label" :disabled="disabled" @set="set">
    <IdPicker
      model-value=""
      clears
      placeholder="+"
      :registry="registry"
      :like="like"
      :label="`Add to ${row.label}`"
      :disabled="disabled"
      @update:model-value="(id) => add([id])"
      @pasted="add"
    />
  </ReorderTokens>
</template>
