<script setup lang="ts">
/** Items side by side: Delete or a click takes one out, dragging or Alt with an arrow moves it. */
const props = defineProps<{ items: readonly string[]; label: string; disabled: boolean }>()
const emit = defineEmits<{ set: [items: readonly string[]] }>()
const dragged = ref<number | null>(null)
const root = useTemplateRef<HTMLElement>('root')

function move(from: number, to: number): void {
  if (to < 0 || to >= props.items.length || from === to) return
  const now = props.items.toSpliced(from, 1)
  emit('set', now.toSpliced(to, 0, props.items[from]!))
  void nextTick(() => root.value?.querySelectorAll<HTMLElement>('.tok')[to]?.focus())
}
const takeOut = (at: number): void => emit('set', props.items.toSpliced(at, 1))
function onKey(event: KeyboardEvent, at: number): void {
  if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) move(at, at + (event.key === 'ArrowRight' ? 1 : -1))
  else if (event.key === 'Delete' || event.key === 'Backspace') takeOut(at)
  else return
  event.preventDefault()
  event.stopPropagation()
}
function drop(at: number): void {
  if (dragged.value !== null) move(dragged.value, at)
  dragged.value = null
}
</script>

<template>
  <span ref="root" class="toks">
    <button
      v-for="(item, i) in items"
      :key="i"
      class="tok"
      draggable="true"
      :disabled="disabled"
      :aria-label="`Take out ${item}`"
      :aria-description="`${i + 1} of ${items.length}; Alt with an arrow moves it`"
      @click="takeOut(i)"
      @keydown="onKey($event, i)"
      @dragstart="dragged = i"
      @dragover.prevent
      @drop.prevent="drop(i)"
    >
      {{ item }}
    </button>
    <slot />
  </span>
</template>
