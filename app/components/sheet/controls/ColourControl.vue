<script setup lang="ts">
import { NumberText, asHex, readColour, writeColour, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** A colour: its field shows and picks it, and it is written as the file has it. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const isList = computed(() => Array.isArray(props.row.value))
const source = computed(() => (isList.value ? (props.row.value as unknown[]).join(', ') : props.row.source))
const { typed } = useTyped(() => source.value)
const colour = computed(() => readColour(typed.value))

function give(text: string): void {
  const picked = readColour(text)
  if (!picked) return isList.value ? void (typed.value = source.value) : emit('set', text.trim())
  if (isList.value)
    return emit(
      'set',
      writeColour(picked, source.value)
        .split(',')
        .map((part) => new NumberText(part.trim())),
    )
  emit('set', writeColour({ ...picked, alpha: readColour(source.value)?.alpha ?? 1 }, source.value))
}
</script>

<template>
  <input
    type="color"
    class="well"
    :value="colour ? asHex(colour) : '#000000'"
    :disabled="disabled"
    :aria-label="`${row.label}: pick`"
    @change="give(($event.target as HTMLInputElement).value)"
  />
  <input
    v-model="typed"
    class="in w2"
    :class="{ bad: bad || !colour }"
    :disabled="disabled"
    :aria-label="row.label"
    @change="give(typed)"
  />
</template>

<style scoped>
.well {
  width: 18px;
  height: 18px;
  padding: 0;
  border: 1px solid var(--field-rule);
  border-radius: 3px;
  background: none;
  cursor: pointer;
}
.well::-webkit-color-swatch-wrapper {
  padding: 0;
}
.well::-webkit-color-swatch {
  border: 0;
  border-radius: 2px;
}
</style>
