<script setup lang="ts">
import { placeholdersIn } from '@pasticcio/core'
import { blended, coloursOf, endOf, inserted, movedLine, wrapped, type Edited } from '~/utils/message-edit'
import type { ListedMessage } from '~/utils/message-groups'

/** The source of a text, with what writes the family's codes. A list is edited as its lines. */
const props = defineProps<{ message: ListedMessage; locked: boolean }>()
const messages = useMessagesStore()
const known = useKnownStore()
const field = useTemplateRef<HTMLTextAreaElement>('field')
const picking = ref(false)
/** What is typed, until it is written. */
const typed = ref('')
/** What was typed and is not written yet, with the text it is of: another may be in focus before it is. */
let waiting: { readonly message: ListedMessage; readonly text: string } | null = null
const shown = computed(() => props.message.texts.join('\n'))
watch(
  [() => props.message.id, shown],
  () => {
    if (waiting?.message.id !== props.message.id && typed.value !== shown.value) typed.value = shown.value
  },
  { immediate: true },
)
const colours = computed(() => coloursOf(known.known.texts))
const bold = computed(() => known.known.texts.marks.find((mark) => mark.bold))
const rows = computed(() => Math.min(12, Math.max(2, typed.value.split('\n').length)))

const WRITE_AFTER_MS = 250
const { start, stop } = useTimeoutFn(flush, WRITE_AFTER_MS, { immediate: false })
function flush(): void {
  stop()
  const now = waiting
  waiting = null
  if (now) void messages.write(now.message, now.message.isList ? now.text.split('\n') : [now.text])
}
function type(text: string): void {
  typed.value = text
  waiting = { message: props.message, text }
  start()
}
watch(() => props.message.id, flush, { flush: 'sync' })
onBeforeUnmount(flush)

/** Does something to the text at the caret, and leaves what is chosen chosen. */
async function act(work: (text: string, from: number, to: number) => Edited): Promise<void> {
  const { value: element } = field
  if (!element || props.locked) return
  const { text, from, to } = work(typed.value, element.selectionStart, element.selectionEnd)
  type(text)
  await nextTick()
  element.focus()
  element.setSelectionRange(from, to)
}
const wrap = (open: string, close: string): Promise<void> => act((text, from, to) => wrapped(text, { from, to }, open, close))
const put = (what: string): Promise<void> => act((text, from, to) => inserted(text, { from, to }, what))
const breakLine = (): Promise<void> => put(props.message.isList ? '\n' : (known.known.texts.lineBreak ?? '\n'))
/** Letters from the first to the last of the family's colours, over what is chosen or all of it. */
function blend(): void {
  const [first, last] = [colours.value[0]?.colour, colours.value.at(-1)?.colour]
  if (!first || !last) return
  void act((text, from, to) => {
    const [start, end] = from === to ? [0, text.length] : [from, to]
    const what = blended(known.known.texts, text.slice(start, end), first, last)
    return { text: text.slice(0, start) + what + text.slice(end), from: start, to: start + what.length }
  })
}
function moveLine(by: 1 | -1): void {
  void act((text, from) => {
    const lines = text.split('\n')
    const at = text.slice(0, from).split('\n').length - 1
    const moved = movedLine(lines, at, by).join('\n')
    const start =
      moved
        .split('\n')
        .slice(0, at + by)
        .join('\n').length + (at + by > 0 ? 1 : 0)
    return { text: moved, from: start, to: start }
  })
}
const placeholders = computed(() => [...new Set([...known.known.placeholders.map(({ text }) => text), ...inAuthors()])])
/** Those the author uses in this text: he fills them in. */
function inAuthors(): string[] {
  const [open = '{', close = '}'] = known.known.texts.placeholder
  return [...placeholdersIn(known.known.texts, [...(props.message.shipped ?? []), props.message.says])].map((name) => open + name + close)
}
function pick(placeholder: string): void {
  picking.value = false
  void put(placeholder)
}
function onKey(event: KeyboardEvent): void {
  const colour = event.altKey && /^[1-9]$/.test(event.key) ? colours.value[Number(event.key) - 1] : undefined
  const run = (): unknown => {
    if ((event.ctrlKey || event.metaKey) && event.key === 'b' && bold.value)
      return wrap(bold.value.code, endOf(known.known.texts, bold.value))
    if (event.shiftKey && event.key === 'Enter') return breakLine()
    if (!props.message.isList && event.key === 'Enter') return null
    if (colour) return wrap(colour.code, endOf(known.known.texts, colour))
    if (event.altKey && event.key === 'ArrowUp') return moveLine(-1)
    if (event.altKey && event.key === 'ArrowDown') return moveLine(1)
    return undefined
  }
  if (run() !== undefined) event.preventDefault()
}
defineExpose({ enter: () => field.value?.focus() })
</script>

<template>
  <div class="tools" role="toolbar" aria-label="Codes" :aria-disabled="locked">
    <button v-if="bold" :disabled="locked" aria-label="bold" title="bold, Ctrl B" @click="wrap(bold.code, endOf(known.known.texts, bold))">
      <b>b</b>
    </button>
    <button :disabled="locked" aria-label="line break" title="line break, Shift Enter" @click="breakLine">↵</button>
    <button v-if="colours.length > 1" :disabled="locked" aria-label="gradient over the text" title="gradient" @click="blend">
      <span class="blend" :style="{ background: `linear-gradient(90deg, ${colours[0]!.colour}, ${colours.at(-1)!.colour})` }" />
    </button>
    <button :disabled="locked" :aria-expanded="picking" aria-label="placeholder" @click="picking = !picking"><code>{}</code></button>
    <span class="v" />
    <button
      v-for="(colour, i) in colours"
      :key="colour.code"
      class="chip"
      :disabled="locked"
      :aria-label="colour.code"
      :title="`${colour.code}, Alt ${i + 1}`"
      @click="wrap(colour.code, endOf(known.known.texts, colour))"
    >
      <i :style="{ background: colour.colour }" />
    </button>
  </div>
  <ul v-if="picking" class="picks" aria-label="Placeholders">
    <li v-for="one in placeholders" :key="one">
      <button class="act" @click="pick(one)">
        <code>{{ one }}</code>
      </button>
      <span class="muted cut">{{ known.known.placeholders.find(({ text }) => text === one)?.says ?? 'the author fills it in here' }}</span>
    </li>
    <li v-if="placeholders.length === 0" class="muted">No plugin declares any.</li>
  </ul>
  <textarea
    ref="field"
    class="typed"
    :value="typed"
    :rows="rows"
    :readonly="locked"
    spellcheck="false"
    :aria-label="message.isList ? 'The texts, one a line' : 'The text'"
    @input="type(($event.target as HTMLTextAreaElement).value)"
    @keydown="onKey"
  />
</template>

<style scoped>
.tools {
  display: flex;
  align-items: center;
  gap: 4px;
  flex-wrap: wrap;
  margin-top: 8px;
}
.tools button {
  min-width: 24px;
  height: 24px;
  border-radius: var(--radius);
}
.tools button:hover:not(:disabled) {
  background: var(--press);
}
.v {
  width: 1px;
  height: 16px;
  background: var(--hairline);
  margin: 0 4px;
}
.chip i,
.blend {
  display: inline-block;
  width: 14px;
  height: 14px;
  border: 1px solid var(--field-rule);
  border-radius: 3px;
  vertical-align: middle;
}
.typed {
  flex: none;
  display: block;
  width: 100%;
  height: auto;
  margin-top: 6px;
  padding: 6px 8px;
  border: 1px solid var(--field-rule);
  border-radius: var(--radius);
  background: var(--flour);
  color: var(--crust);
  font: var(--t-value);
  resize: vertical;
}
.picks {
  list-style: none;
  margin: 4px 0;
  padding: 4px 0;
  max-height: 168px;
  overflow: auto;
  border-block: 1px solid var(--hairline);
  font: var(--t-fine);
}
.picks li {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
</style>
