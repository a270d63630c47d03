<script setup lang="ts">
import { seenLength, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** A text on one line. It changes the draft while it is typed; placeholders are offered as their first sign is. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const known = useKnownStore()
const field = useTemplateRef<HTMLInputElement>('field')
const { typed, sent } = useTyped(() => String(props.row.value ?? ''))
const length = computed(() => seenLength(typed.value, props.row.rule?.countsCodes ? null : known.codes))
const most = computed(() => props.row.rule?.maxLength)
const offers = ref<readonly string[]>([])
const at = ref(0)

function type(): void {
  sent(typed.value)
  emit('set', typed.value)
  offer()
}
/** The placeholder that is being typed, from its first sign to the cursor. */
function begun(): string | null {
  const cursor = field.value?.selectionStart ?? typed.value.length
  const [open = '{', close = '}'] = known.known.texts.placeholder
  const from = typed.value.lastIndexOf(open, cursor)
  const word = from < 0 ? null : typed.value.slice(from, cursor)
  return word !== null && !word.includes(close) && !/\s/.test(word) ? word : null
}
function offer(): void {
  const word = begun()
  const all = [...new Set(known.known.placeholders.map(({ text }) => text))]
  offers.value = word === null ? [] : all.filter((text) => text.startsWith(word) && text !== word).slice(0, 8)
  at.value = 0
}
function take(text: string): void {
  const word = begun()
  const cursor = field.value?.selectionStart ?? typed.value.length
  offers.value = []
  if (word === null) return
  const start = cursor - word.length
  typed.value = typed.value.slice(0, start) + text + typed.value.slice(cursor)
  sent(typed.value)
  emit('set', typed.value)
  void nextTick(() => field.value?.setSelectionRange(start + text.length, start + text.length))
}
function onKey(event: KeyboardEvent): void {
  if (offers.value.length === 0) return
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp')
    at.value = (at.value + (event.key === 'ArrowDown' ? 1 : -1) + offers.value.length) % offers.value.length
  else if (event.key === 'Enter' || event.key === 'Tab') take(offers.value[at.value]!)
  else if (event.key === 'Escape') offers.value = []
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <span class="at">
    <input
      ref="field"
      v-model="typed"
      class="in w4"
      :class="{ bad }"
      :disabled="disabled"
      :aria-label="row.label"
      placeholder="empty"
      @input="type"
      @keydown="onKey"
      @blur="offers = []"
    />
    <ul v-if="offers.length > 0" class="menu offers" :aria-label="`Placeholders for ${row.label}`">
      <li v-for="(text, i) in offers" :key="text" class="menu-item" :data-p-focused="i === at" @mousedown.prevent="take(text)">
        {{ text }}
      </li>
    </ul>
  </span>
  <span v-if="most !== undefined" class="unit" :class="{ over: length > most }">{{ length }} of {{ most }}</span>
  <span v-else-if="typed === '' && row.rule?.emptyMeans" class="unit cut">{{ row.rule.emptyMeans }}</span>
</template>

<style scoped>
.at {
  position: relative;
  flex: 0 1 202px;
  min-width: 0;
}
.at .in {
  width: 100%;
}
.offers {
  position: absolute;
  top: 22px;
  left: 0;
}
.over {
  color: var(--error);
}
</style>
