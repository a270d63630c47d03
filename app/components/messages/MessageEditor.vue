<script setup lang="ts">
import { blended, coloursOf, endOf, inserted, movedLine, wrapped, type Edited, type ToolPanel } from '~/utils/message-edit'
import type { ListedMessage } from '~/utils/message-groups'

/** The source of a text, with what writes the family's codes. A list is edited as its lines. */
const props = defineProps<{ message: ListedMessage; locked: boolean }>()
const messages = useMessagesStore()
const known = useKnownStore()
const field = useTemplateRef<HTMLTextAreaElement>('field')
const panel = ref<ToolPanel>('')
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
/** Whether it stands in lines of its own, rather than in one with codes for breaks. */
const hasLines = computed(() => props.message.isList || props.message.book !== null || typed.value.includes('\n'))
const breakLine = (): Promise<void> => put(hasLines.value ? '\n' : (known.known.texts.lineBreak ?? '\n'))
/** Letters from one colour to another, over what is chosen or all of it. */
function blend(first: string, last: string): void {
  void act((text, from, to) => {
    const [start, end] = from === to ? [0, text.length] : [from, to]
    const what = blended(known.known.texts, text.slice(start, end), first, last)
    return { text: text.slice(0, start) + what + text.slice(end), from: start, to: start + what.length }
  })
}
function moveLine(by: 1 | -1): void {
  void act((text, from) => {
    const lines = text.split('\n')
    const at = lineAt(text, from)
    const moved = movedLine(lines, at, by).join('\n')
    const start =
      moved
        .split('\n')
        .slice(0, at + by)
        .join('\n').length + (at + by > 0 ? 1 : 0)
    return { text: moved, from: start, to: start }
  })
}
/** The line the caret stands in, once more below it. */
const copyLine = (): Promise<void> =>
  act((text, from) => {
    const lines = text.split('\n')
    const at = lineAt(text, from)
    lines.splice(at + 1, 0, lines[at]!)
    const start = from + lines[at]!.length + 1
    return { text: lines.join('\n'), from: start, to: start }
  })
const lineAt = (text: string, from: number): number => text.slice(0, from).split('\n').length - 1
/** Puts the line the caret stands in into a comment. */
async function lineOff(): Promise<void> {
  flush()
  await messages.turnOff(props.message, lineAt(typed.value, field.value?.selectionStart ?? 0))
}
/** Puts a placeholder at the caret; what somebody typed to ask for it is part of it. */
function pick(placeholder: string): void {
  const [open = '{'] = known.known.texts.placeholder
  void act((text, from, to) => {
    const begun = [...open].findLast((_sign, i) => text.slice(0, from).endsWith(open.slice(0, i + 1)))
    const start = begun === undefined ? from : from - (open.lastIndexOf(begun) + 1)
    return inserted(text, { from: start, to }, placeholder)
  })
}
function onKey(event: KeyboardEvent): void {
  const colour = event.altKey && /^[1-9]$/.test(event.key) ? colours.value[Number(event.key) - 1] : undefined
  const run = (): unknown => {
    if ((event.ctrlKey || event.metaKey) && event.key === 'b' && bold.value)
      return wrap(bold.value.code, endOf(known.known.texts, bold.value))
    if (event.shiftKey && event.key === 'Enter') return breakLine()
    if (!hasLines.value && event.key === 'Enter') return null
    if (colour) return wrap(colour.code, endOf(known.known.texts, colour))
    if (event.altKey && event.shiftKey && event.key === 'ArrowDown' && props.message.isList) return copyLine()
    if (event.altKey && event.key === 'ArrowUp') return moveLine(-1)
    if (event.altKey && event.key === 'ArrowDown') return moveLine(1)
    return undefined
  }
  if (event.key !== '' && event.key === known.known.texts.placeholder[0]?.[0]) panel.value = 'placeholder'
  if (run() !== undefined) event.preventDefault()
}
defineExpose({ enter: () => field.value?.focus() })
</script>

<template>
  <MessageTools
    v-model:panel="panel"
    :message="message"
    :locked="locked"
    @wrap="(mark) => wrap(mark.code, endOf(known.known.texts, mark))"
    @put="put"
    @pick="pick"
    @blend="blend"
    @break-line="breakLine"
  />
  <p v-if="message.isList && !locked" class="line">
    this line
    <button class="act" title="Alt Shift ↓" @click="copyLine">once more</button>
    <button class="act" title="Alt ↑" @click="moveLine(-1)">up</button>
    <button class="act" title="Alt ↓" @click="moveLine(1)">down</button>
    <button class="act" title="into a comment" @click="lineOff">off</button>
  </p>
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
.line {
  display: flex;
  gap: 10px;
  margin-top: 6px;
  font: var(--t-fine);
  color: var(--muted);
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
</style>
