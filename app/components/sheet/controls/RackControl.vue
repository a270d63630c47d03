<script setup lang="ts">
import { nextFree, rackOf, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/**
 * Numbered slots in rows of nine, with what lies in them. Without a list beside them they are picked one by one; with one,
 * what lies in a slot is moved by dragging or with Shift and the arrows. A slot that is used twice is marked.
 */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const numbers = computed(() => (Array.isArray(props.row.value) ? props.row.value.map(Number) : []))
const rack = computed(() => props.row.rack ?? { first: 0, rows: 1, items: [] })
const slots = computed(() => rackOf(numbers.value, rack.value.first, rack.value.rows))
const hasItems = computed(() => rack.value.items.length > 0)
const at = ref(0)
const dragged = ref<number | null>(null)
const grid = useTemplateRef<HTMLElement>('grid')
const twice = computed(() => slots.value.find(({ items }) => items.length > 1))
const free = computed(() => (twice.value ? nextFree(slots.value, twice.value.number) : null))
const itemAt = (i: number): string | undefined => rack.value.items[slots.value[i]?.items[0] ?? -1]
const short = (id: string): string =>
  id
    .split(/[_:.-]/)
    .map((word) => word.charAt(0))
    .join('')
    .slice(0, 2)

function toggle(i: number): void {
  const { number } = slots.value[i]!
  const left = numbers.value.filter((own) => own !== number)
  emit('set', left.length === numbers.value.length ? [...left, number].sort((a, b) => a - b) : left)
}
/** What lies in one slot goes to another; where that is taken, both change places. */
function move(from: number, to: number): void {
  const [source, target] = [slots.value[from], slots.value[to]]
  const item = source?.items.at(-1)
  if (!source || !target || item === undefined || from === to) return
  const other = target.items.at(-1)
  emit(
    'set',
    numbers.value.map((number, i) => (i === item ? target.number : i === other ? source.number : number)),
  )
  focusOn(to)
}
function focusOn(i: number): void {
  at.value = Math.max(0, Math.min(slots.value.length - 1, i))
  void nextTick(() => grid.value?.querySelectorAll<HTMLElement>('button')[at.value]?.focus())
}
const STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -9, ArrowDown: 9 }
function onKey(event: KeyboardEvent, i: number): void {
  const step = STEPS[event.key]
  if (step === undefined) return
  event.preventDefault()
  event.stopPropagation()
  if (!slots.value[i + step]) return
  if (event.shiftKey) move(i, i + step)
  else focusOn(i + step)
}
function drop(i: number): void {
  if (dragged.value !== null) move(dragged.value, i)
  dragged.value = null
}
function mend(): void {
  const item = twice.value?.items.at(-1)
  if (item !== undefined && free.value !== null)
    emit(
      'set',
      numbers.value.map((number, i) => (i === item ? free.value! : number)),
    )
}
</script>

<template>
  <span ref="grid" class="slots" :class="{ filled: hasItems }" role="group" :aria-label="row.label">
    <button
      v-for="(slot, i) in slots"
      :key="slot.number"
      role="checkbox"
      :aria-checked="slot.items.length > 0"
      :aria-label="`slot ${slot.number}${itemAt(i) ? `, ${itemAt(i)}` : ''}${slot.items.length > 1 ? ', used twice' : ''}`"
      :title="itemAt(i)"
      :tabindex="i === at ? 0 : -1"
      :class="{ twice: slot.items.length > 1 }"
      :disabled="disabled"
      :draggable="slot.items.length > 0"
      @click="hasItems ? (at = i) : toggle(i)"
      @keydown="onKey($event, i)"
      @dragstart="dragged = i"
      @dragover.prevent
      @drop.prevent="drop(i)"
    >
      {{ itemAt(i) ? short(itemAt(i)!) : slot.number }}
    </button>
  </span>
  <span v-if="twice" class="unit warn"
    ><FindingMark kind="error" /> slot {{ twice.number }} is used twice
    <button v-if="free !== null && !disabled" class="act" @click="mend">move to {{ free }}</button></span
  >
</template>

<style scoped>
.filled {
  grid-template-columns: repeat(9, 20px);
}
.filled button {
  height: 20px;
  line-height: 18px;
}
.slots button.twice {
  outline: 2px solid var(--error);
  outline-offset: -2px;
}
.warn {
  color: var(--error);
  white-space: normal;
}
</style>
