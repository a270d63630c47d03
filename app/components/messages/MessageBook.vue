<script setup lang="ts">
import type { Ground } from '~/utils/contrast'
import { rowAt, type ListedMessage } from '~/utils/message-groups'
import { SURFACE_WORDS } from '~/utils/message-words'
import { shortPath } from '~/utils/pointer-words'

/** Texts in the order they are seen: what is written at the left, what a player reads at the right. */
const emit = defineEmits<{ enter: [] }>()
const messages = useMessagesStore()
const known = useKnownStore()
const root = useTemplateRef<HTMLElement>('root')
const { height } = useElementSize(root)
const top = ref(0)
/** Rows beyond the window that are drawn too, so that none is missing while it moves. */
const SPARE = 6
const first = computed(() => Math.max(0, rowAt(messages.tops, top.value) - SPARE))
const last = computed(() => Math.min(messages.rows.length, rowAt(messages.tops, top.value + Math.max(height.value, 600)) + 1 + SPARE))
const drawn = computed(() => messages.rows.slice(first.value, last.value).map((row, i) => ({ row, top: messages.tops[first.value + i]! })))

const active = computed(() => (drawn.value.some(({ row }) => row.id === messages.focus) ? `text-${messages.focus}` : undefined))

/** Brings the text in focus into sight. */
function show(): void {
  const at = messages.rows.findIndex(({ id }) => id === messages.focus)
  const { value: element } = root
  if (at < 0 || !element) return
  const [from, to] = [messages.tops[at]!, messages.tops[at + 1]!]
  if (from < element.scrollTop) element.scrollTop = from - 28
  else if (to > element.scrollTop + element.clientHeight) element.scrollTop = to - element.clientHeight
}
// what is played stays in sight
watch(
  () => messages.focus,
  () => messages.playing !== '' && show(),
)
defineExpose({ show })

const groundOf = ({ surface }: ListedMessage): Ground => messages.ground || (known.texts.surfaces?.[surface]?.ground ?? 'dark')
const secondsOf = ({ delay }: ListedMessage): string => (delay === null ? '' : `${delay} s`)
const about = ({ turn, texts, stays, isList }: ListedMessage): string => {
  if (isList) return `${counted(texts.length, 'text')}${turn === 'in-turn' ? ', in turn' : turn === 'at-random' ? ', at random' : ''}`
  return stays === null ? '' : `stays ${stays} s`
}
const worst = ({ findings }: ListedMessage): 'error' | 'warning' | null =>
  (['error', 'warning'] as const).find((kind) => findings.some(({ severity }) => severity === kind)) ?? null
function choose(id: string): void {
  messages.focus = id
  emit('enter')
}
</script>

<template>
  <div
    ref="root"
    class="book"
    role="grid"
    tabindex="0"
    :aria-activedescendant="active"
    aria-label="Texts that players read"
    :aria-rowcount="messages.rows.length"
    @scroll="top = ($event.target as HTMLElement).scrollTop"
  >
    <div class="all" role="presentation" :style="{ height: `${messages.tops.at(-1)}px` }">
      <template v-for="{ row, top: at } in drawn" :key="row.id">
        <div v-if="row.kind === 'head'" class="head" role="row" :style="{ transform: `translateY(${at}px)` }">
          <div role="gridcell" class="headcell">
            <h2 class="cut">
              {{ row.title }} <span v-if="row.about">{{ row.about }}</span>
            </h2>
            <span class="push">{{ counted(row.count, 'text') }}</span>
            <button
              v-if="row.canPlay"
              class="act"
              :aria-pressed="messages.playing === row.id"
              :aria-label="messages.playing === row.id ? 'stop' : `play: ${row.title}`"
              @click="messages.play(row.id)"
            >
              {{ messages.playing === row.id ? 'stop' : 'play' }}
            </button>
          </div>
        </div>
        <div
          v-else
          class="line"
          :id="`text-${row.id}`"
          role="row"
          :aria-selected="row.id === messages.focus"
          :class="{ on: row.id === messages.focus }"
          :style="{ transform: `translateY(${at}px)`, height: `${row.height}px` }"
          @click="messages.focus = row.id"
          @dblclick="choose(row.id)"
        >
          <span role="gridcell" class="delay">{{ secondsOf(row.message) }}</span>
          <span role="gridcell" class="marks"
            ><LayerMark
              :factory="row.message.shipped !== null"
              :yours="!row.message.isShipped"
              :update="row.message.update !== null" /><SurfaceSign
              :surface="row.message.surface"
              :label="SURFACE_WORDS[row.message.surface][1]"
          /></span>
          <div role="gridcell" class="written">
            <code v-for="(text, i) in row.message.texts.slice(0, 3)" :key="i" class="cut">{{ text || '(empty)' }}</code>
            <span class="place cut"
              ><b>{{ row.message.plugin }}</b> <code>{{ shortPath(row.message.file).split('/').pop() }}:{{ row.message.line }}</code>
              {{ about(row.message) }}
              <span v-if="worst(row.message)" class="wrong" :class="worst(row.message)"
                ><FindingMark :kind="worst(row.message)!" /> {{ row.message.findings[0]!.message }}</span
              ></span
            >
          </div>
          <div role="gridcell" class="read"><ReadingView :message="row.message" :ground="groundOf(row.message)" is-row /></div>
        </div>
      </template>
    </div>
  </div>
</template>

<style scoped>
.book {
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.all {
  position: relative;
}
.head,
.line {
  position: absolute;
  inset: 0 0 auto;
}
.head {
  height: 28px;
  padding: 0 16px 0 52px;
  border-bottom: 1px solid var(--hairline);
}
.headcell {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
.head h2 {
  font: var(--t-section);
  line-height: 28px;
}
.head span {
  font: var(--t-fine);
  color: var(--muted);
}
.line {
  display: grid;
  grid-template-columns: 44px 52px minmax(0, 1.25fr) minmax(220px, 1fr);
  gap: 0 8px;
  padding-left: 8px;
  border-bottom: 1px solid var(--hairline);
  cursor: default;
}
.line.on {
  background: var(--semolina);
  box-shadow: inset 3px 0 var(--crust);
}
.delay {
  font: var(--t-fine);
  color: var(--muted);
  text-align: right;
  padding-top: 3px;
}
.marks {
  display: flex;
  gap: 8px;
  padding-top: 4px;
}
.written {
  min-width: 0;
  padding: 2px 0;
}
.written > code {
  display: block;
  font: var(--t-value);
  line-height: 16px;
}
.place {
  display: block;
  font: var(--t-fine);
  line-height: 15px;
  color: var(--muted);
}
.place b {
  color: var(--crust);
  font-weight: 400;
}
.wrong {
  margin-left: 8px;
}
.wrong.error {
  color: var(--error);
}
.wrong.warning {
  color: var(--warning);
}
.read {
  min-width: 0;
  overflow: hidden;
}
</style>
