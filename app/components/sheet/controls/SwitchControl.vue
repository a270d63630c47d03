<script setup lang="ts">
import { NumberText, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** Off and on, written as the file writes them: true and false, yes and no, 1 and 0. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const PAIRS = [
  ['false', 'true'],
  ['no', 'yes'],
  ['off', 'on'],
  ['0', '1'],
  ['disabled', 'enabled'],
] as const
const isOn = computed(() =>
  typeof props.row.value === 'boolean' ? props.row.value : /^(?:true|yes|on|1|enabled)$/i.test(props.row.source),
)

function give(on: boolean): void {
  const { value, source } = props.row
  if (typeof value === 'boolean') return emit('set', on)
  const word = PAIRS.find((pair) => (pair as readonly string[]).includes(source.toLowerCase()))?.[on ? 1 : 0] ?? String(on)
  emit('set', typeof value === 'number' ? new NumberText(word) : likeOther(word, source))
}

/** In capitals, or with one, where the other word is. */
function likeOther(word: string, other: string): string {
  if (other.length > 1 && other === other.toUpperCase()) return word.toUpperCase()
  return /^\p{Lu}/u.test(other) ? word.charAt(0).toUpperCase() + word.slice(1) : word
}
</script>

<template>
  <label class="sw" :class="{ muted: !isOn }">
    <ToggleSwitch :model-value="isOn" :disabled="disabled" :aria-label="row.label" @update:model-value="give" />{{
      typeof row.value === 'boolean' ? (isOn ? 'on' : 'off') : row.source
    }}
  </label>
</template>
