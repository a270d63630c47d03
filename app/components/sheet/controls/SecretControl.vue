<script setup lang="ts">
import { DOTS, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** A secret: as many dots whatever its length, shown for a moment when asked. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const server = useServerStore()
const sheet = useSheetStore()
const SHOWN_MS = 20_000
const isShown = ref(false)
const isEdited = ref(false)
const { typed } = useTyped(() => String(props.row.value ?? ''))
const { start, stop } = useTimeoutFn(() => (isShown.value = false), SHOWN_MS, { immediate: false })

function toggle(): void {
  isShown.value = !isShown.value
  if (!isShown.value) return stop()
  start()
  // that it was shown is kept; where that cannot be, it is shown all the same
  const body = { path: sheet.view?.path ?? '', pointer: props.row.pointer }
  void callApi(`${server.base}/shown`, { body }).catch(() => undefined)
}
function edit(): void {
  isEdited.value = true
}
function leave(): void {
  isEdited.value = false
  if (typed.value !== String(props.row.value ?? '')) emit('set', typed.value)
}
</script>

<template>
  <input
    v-model="typed"
    class="in w3"
    :type="isShown ? 'text' : 'password'"
    autocomplete="new-password"
    :disabled="disabled"
    :aria-label="row.label"
    :class="{ hidden: !isShown && !isEdited && typed !== '' }"
    :placeholder="typed === '' ? 'empty' : ''"
    @focus="edit"
    @blur="leave"
    @keydown.enter="leave"
  />
  <span v-if="!isShown && !isEdited && typed !== ''" class="dots" aria-hidden="true">{{ DOTS }}</span>
  <button class="act" :disabled="disabled" :aria-pressed="isShown" @click="toggle">{{ isShown ? 'hide' : 'show' }}</button>
</template>

<style scoped>
.hidden {
  color: transparent;
}
.dots {
  position: absolute;
  pointer-events: none;
  font: var(--t-value);
  padding-left: 2px;
}
</style>
