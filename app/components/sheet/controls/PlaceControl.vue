<script setup lang="ts">
import { NumberText, pastedPlace, readPlace, writePlace, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** A place as one value: a section of x, y and z, a list of numbers, or a text of them. Pasting “x y z” fills all. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
interface Part {
  readonly name: string
  readonly text: string
}
const NAMES = ['x', 'y', 'z', 'heading']
const isSection = computed(() => typeof props.row.value === 'object' && props.row.value !== null && !Array.isArray(props.row.value))
const place = computed(() => (typeof props.row.value === 'string' ? readPlace(props.row.value) : null))
const parts = computed<readonly Part[]>(() => {
  const { value } = props.row
  if (isSection.value)
    return Object.entries(value as Record<string, unknown>)
      .filter(([, part]) => typeof part === 'number')
      .map(([name, part]) => ({ name, text: String(part) }))
  const numbers = Array.isArray(value) ? value.map(String) : (place.value?.numbers ?? [])
  return numbers.map((text, i) => ({ name: numbers.length > 4 ? '' : (NAMES[i] ?? ''), text }))
})

function give(texts: readonly string[]): void {
  if (!texts.every((text) => /^-?\d+(\.\d+)?$/.test(text.trim()))) return
  const numbers = texts.map((text) => new NumberText(text.trim()))
  if (place.value)
    return emit(
      'set',
      writePlace(
        texts.map((text) => text.trim()),
        place.value,
      ),
    )
  if (!isSection.value) return emit('set', numbers)
  const changed = new Map(parts.value.map(({ name }, i) => [name, numbers[i]!] as const))
  emit('set', new Map(Object.entries(props.row.value as Record<string, Value>).map(([name, part]) => [name, changed.get(name) ?? part])))
}
const setPart = (at: number, value: Value): void =>
  give(parts.value.map(({ text }, i) => (i === at ? (value instanceof NumberText ? value.text : String(value)) : text)))
function onPaste(event: ClipboardEvent): void {
  const pasted = pastedPlace(event.clipboardData?.getData('text') ?? '', parts.value.length)
  if (!pasted) return
  event.preventDefault()
  give(parts.value.map(({ text }, i) => pasted[i] ?? text))
}
/** Where a heading points: noughts are north, and it turns with the clock. */
const heading = computed(() => Number(parts.value.find(({ name }) => /^(?:heading|yaw)$/i.test(name))?.text ?? NaN))
</script>

<template>
  <span class="place" role="group" :aria-label="row.label" @paste="onPaste">
    <span v-for="(part, i) in parts" :key="i" class="part"
      ><span class="unit">{{ part.name === 'heading' || part.name === 'yaw' ? '' : part.name }}</span
      ><NumberField
        :source="part.text"
        :label="`${row.label} ${part.name}`"
        :disabled="disabled"
        width="w0"
        @set="(value) => setPart(i, value)"
      />
    </span>
    <template v-if="Number.isFinite(heading)"><HeadingNeedle :degrees="heading" /><span class="unit">°</span></template>
  </span>
</template>

<style scoped>
.place,
.part {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
</style>
