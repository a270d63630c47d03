<script setup lang="ts">
import type { Pick } from '~/stores/known'

/** One id from a list, the server’s or another that is given: typing filters by id and name, arrows and Enter pick. Unknown text may stay. */
const props = defineProps<{
  modelValue: string
  registry: string
  /** What is picked from, where it is no list of the server’s. */
  picks?: readonly Pick[]
  /** Ids that stand beside it, whose way of writing what is picked takes. */
  like?: readonly string[]
  label: string
  disabled: boolean
  bad?: boolean
  placeholder?: string
  clears?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [id: string]; pasted: [ids: string[]] }>()
const known = useKnownStore()
const SHOWN = 40
const uid = useId()
const { typed } = useTyped(() => props.modelValue)
const isOpen = ref(false)
const at = ref(0)
const isUp = ref(false)
const field = useTemplateRef<HTMLInputElement>('field')
const list = useTemplateRef<HTMLElement>('list')
const all = computed(() => props.picks ?? known.picksOf(props.registry, props.like ?? [props.modelValue]))
const isFresh = ref(true)
const found = computed<readonly Pick[]>(() => {
  const words = isFresh.value ? [] : typed.value.toLowerCase().split(/\s+/).filter(Boolean)
  const fits = (pick: Pick): boolean => words.every((word) => `${pick.id} ${pick.name} ${pick.group}`.toLowerCase().includes(word))
  const begins = (pick: Pick): number => (pick.id.startsWith(typed.value.toLowerCase()) ? 0 : 1)
  return words.length === 0 ? all.value : all.value.filter(fits).sort((a, b) => begins(a) - begins(b))
})
const shown = computed(() => found.value.slice(0, SHOWN))
const recent = computed(() =>
  known
    .recentOf(props.registry)
    .filter((id) => all.value.some((pick) => pick.id === id))
    .slice(0, 4),
)
const isUnknown = computed(() => all.value.length > 0 && props.modelValue !== '' && !all.value.some(({ id }) => id === props.modelValue))

function open(): void {
  if (props.disabled || all.value.length === 0) return
  isFresh.value = true
  isOpen.value = true
  at.value = Math.max(
    0,
    shown.value.findIndex(({ id }) => id === typed.value),
  )
  isUp.value = (field.value?.getBoundingClientRect().bottom ?? 0) > window.innerHeight * 0.62
  reveal()
}
/** What stands there is chosen, so that typing takes its place. The list opens when somebody types, clicks or presses ↓. */
function begin(): void {
  field.value?.select()
}
function onInput(): void {
  isFresh.value = false
  at.value = 0
  isOpen.value = all.value.length > 0
}
function give(id: string): void {
  isOpen.value = false
  if (all.value.some((pick) => pick.id === id)) known.picked(props.registry, id)
  typed.value = props.clears ? '' : id
  if (id !== props.modelValue) emit('update:modelValue', id)
}
function leave(): void {
  isOpen.value = false
  if (props.clears ? typed.value.trim() !== '' : typed.value !== props.modelValue) give(typed.value.trim())
}
function reveal(): void {
  void nextTick(() => list.value?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' }))
}
function onKey(event: KeyboardEvent): void {
  const { key } = event
  if (key === 'ArrowDown' || key === 'ArrowUp') {
    if (!isOpen.value) open()
    else at.value = Math.max(0, Math.min(shown.value.length - 1, at.value + (key === 'ArrowDown' ? 1 : -1)))
    reveal()
  } else if (key === 'Enter' && isOpen.value && !isFresh.value && shown.value[at.value]) give(shown.value[at.value]!.id)
  else if (key === 'Enter' && isOpen.value && shown.value[at.value] && typed.value === props.modelValue) give(shown.value[at.value]!.id)
  else if (key === 'Enter') give(typed.value.trim())
  else if (key === 'Escape' && isOpen.value) {
    isOpen.value = false
    typed.value = props.modelValue
  } else return
  event.preventDefault()
  event.stopPropagation()
}
/** Several ids at once, one a line or with commas between them. */
function onPaste(event: ClipboardEvent): void {
  const ids = (event.clipboardData?.getData('text') ?? '')
    .split(/[\n,;\t]+/)
    .map((id) => id.trim().replace(/^["']|["']$/g, ''))
    .filter(Boolean)
  if (!props.clears || ids.length < 2) return
  event.preventDefault()
  typed.value = ''
  isOpen.value = false
  emit('pasted', ids)
}
/** A colour of its own for each group, so that the eye finds them again. */
const hueOf = (group: string): string => `oklch(0.72 0.09 ${[...group].reduce((sum, sign) => (sum * 31 + sign.codePointAt(0)!) % 360, 7)})`
</script>

<template>
  <span class="picker">
    <input
      ref="field"
      v-model="typed"
      class="in"
      :class="[clears ? 'w0' : 'w3', { bad: bad || isUnknown }]"
      role="combobox"
      autocomplete="off"
      :aria-expanded="isOpen"
      :aria-controls="isOpen ? `${uid}-list` : undefined"
      :aria-activedescendant="isOpen && shown[at] ? `${uid}-${at}` : undefined"
      aria-autocomplete="list"
      :aria-label="label"
      :placeholder="placeholder ?? 'empty'"
      :disabled="disabled"
      @focus="begin"
      @click="open"
      @input="onInput"
      @blur="leave"
      @keydown="onKey"
      @paste="onPaste"
    />
    <span v-if="isOpen" class="box" :class="{ up: isUp }" @mousedown.prevent>
      <ul :id="`${uid}-list`" ref="list" class="list" role="listbox" :aria-label="`${label}: what there is`">
        <li v-if="shown.length === 0" class="none" role="option" aria-selected="false" aria-disabled="true">
          Nothing is called so. Enter keeps it all the same.
        </li>
        <li
          v-for="(pick, i) in shown"
          :id="`${uid}-${i}`"
          :key="pick.id"
          role="option"
          :aria-selected="i === at"
          class="pick"
          @mousemove="at = i"
          @click="give(pick.id)"
        >
          <i class="swatch" :style="picks ? {} : { background: hueOf(pick.group) }" /><code class="cut">{{ pick.id }}</code
          ><span class="cut">{{ pick.name }}</span
          ><span class="group cut">{{ pick.group }}</span>
        </li>
        <li v-if="found.length > shown.length" class="none" role="option" aria-selected="false" aria-disabled="true">
          and {{ found.length - shown.length }} more: type to find them
        </li>
      </ul>
      <span v-if="recent.length > 0" class="recent"
        ><span class="says">lately picked</span
        ><button v-for="id in recent" :key="id" tabindex="-1" class="tok" @click="give(id)">{{ id }}</button></span
      >
    </span>
  </span>
</template>

<style scoped>
.picker {
  position: relative;
  min-width: 0;
}
.box {
  position: absolute;
  top: 22px;
  left: -150px;
  z-index: 40;
  display: flex;
  width: 520px;
  max-width: 70vw;
  background: var(--flour);
  border: 1px solid var(--crust);
  border-radius: var(--radius);
}
.box.up {
  top: auto;
  bottom: 22px;
}
.list {
  flex: 1;
  min-width: 0;
  max-height: 196px;
  overflow: auto;
  padding: 4px 0;
}
.pick {
  display: grid;
  grid-template-columns: 10px minmax(0, 1fr) minmax(0, 1fr) minmax(0, 80px);
  align-items: center;
  gap: 8px;
  height: 24px;
  padding: 0 10px;
  font: var(--t-small);
  cursor: pointer;
}
.pick[aria-selected='true'] {
  background: var(--wash-yours);
}
.swatch {
  width: 10px;
  height: 10px;
  border-radius: 2px;
}
.group {
  color: var(--muted);
  text-align: right;
}
.none {
  padding: 4px 10px;
  font: var(--t-fine);
  color: var(--muted);
}
.recent {
  width: 132px;
  flex: none;
  padding: 6px 8px;
  border-left: 1px solid var(--hairline);
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 4px;
  overflow: hidden;
}
.says {
  font: var(--t-fine);
  color: var(--muted);
}
.recent .tok:hover {
  text-decoration: none;
  background: var(--semolina);
}
</style>
