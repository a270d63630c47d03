<script setup lang="ts">
import Papa from 'papaparse'
import type { TableFound } from '@pasticcio/core'
import type { Editing } from '~/utils/ledger-range'

/** Like things as a ledger: one row each, one column a setting, edited with keys as a spreadsheet is. */
const props = defineProps<{
  margin: boolean
  locked: boolean
  /** Where the table stands that was asked for; the largest one without. */ table?: string
}>()
const emit = defineEmits<{ go: [pointer: string] }>()
const ledger = useLedgerStore()
const sheet = useSheetStore()
const drafts = useDraftsStore()
const ROW = 24
const BEYOND = 12
/** Rows that scroll out of sight are drawn again as those that come, which costs less than new ones. */
const MOST_DRAWN = 120
const tables = shallowRef<readonly TableFound[]>([])
const grid = useTemplateRef<HTMLElement>('grid')
const editing = ref<Editing | null>(null)
const uid = useId()
const { height } = useElementSize(grid)
const top = ref(0)
const from = computed(() => Math.max(0, Math.floor(top.value / ROW) - BEYOND))
const to = computed(() => Math.min(ledger.shown.rows.length, Math.ceil((top.value + (height.value || 600)) / ROW) + BEYOND))
const drawn = computed(() => ledger.shown.rows.slice(from.value, to.value))
const widths = computed(() => `36px minmax(120px, 180px) repeat(${ledger.columns.length}, minmax(84px, 220px)) 1fr`)

watch(
  () => drafts.current,
  async (current) => {
    tables.value = (await current?.engine.tables()) ?? []
    const asked = props.table ?? ''
    await ledger.open(tables.value.some(({ pointer }) => pointer === asked) ? asked : (tables.value[0]?.pointer ?? ''))
    grid.value?.focus()
  },
  { immediate: true },
)
watch(
  () => ledger.cursor,
  ({ row }) => {
    const box = grid.value
    if (!box) return
    const above = row * ROW
    if (above < box.scrollTop) box.scrollTop = above
    else if (above + ROW > box.scrollTop + box.clientHeight - 44) box.scrollTop = above + ROW - box.clientHeight + 44
  },
)

function edit(text?: string): void {
  const at = ledger.inFocus
  if (props.locked || !at || (at.cell && !at.cell.editable)) return
  editing.value = { text: text ?? at.cell?.text ?? '', isFresh: text !== undefined }
}
async function commit(rows: number, across: number, isKept = true): Promise<void> {
  const text = editing.value?.text ?? null
  editing.value = null
  grid.value?.focus()
  if (text === null || !isKept) return
  const done = ledger.type(text)
  ledger.move(rows, across)
  await done
}
const page = (): number => Math.max(1, Math.floor((grid.value?.clientHeight ?? ROW) / ROW) - 2)
const GOES: Readonly<Record<string, () => readonly [number, number]>> = {
  ArrowUp: () => [-1, 0],
  ArrowDown: () => [1, 0],
  ArrowLeft: () => [0, -1],
  ArrowRight: () => [0, 1],
  PageUp: () => [-page(), 0],
  PageDown: () => [page(), 0],
  Home: () => [0, -Infinity],
  End: () => [0, Infinity],
}
function onKey(event: KeyboardEvent): void {
  const modified = event.ctrlKey || event.metaKey
  const go = GOES[event.key]
  if (go) {
    const [rows, across] = go()
    const far = modified && (event.key === 'Home' || event.key === 'End')
    ledger.move(far ? across : rows, across, event.shiftKey)
  } else if (event.key === 'Enter' || event.key === 'F2') {
    if (event.key === 'Enter' && ledger.reckoning) void ledger.takeReckoning()
    else edit()
  } else if (event.key === 'Escape') {
    ledger.leave()
    ledger.select(ledger.cursor)
  } else if (modified && event.key === 'd') void (props.locked || ledger.fill())
  else if (modified && event.key === 'a') {
    ledger.select({ row: 0, column: 0 })
    ledger.select({ row: Infinity, column: Infinity }, true)
  } else if (modified && event.key === 'z') void sheet.undo()
  else if (modified && event.key === 'y') void sheet.redo()
  else if (modified || event.altKey) return
  else if (event.key === 'Delete' || event.key === 'Backspace') void (props.locked || ledger.clear())
  else if (event.key === '*' && !props.locked) ledger.reckoning = { does: 'times', by: '1' }
  else if (/^[\p{L}\p{N}.-]$/u.test(event.key) && !['s', 'm', 'u', 'g'].includes(event.key)) edit(event.key)
  else return
  event.preventDefault()
  event.stopPropagation()
}
/** The selection as a spreadsheet takes it, with a line of heads. */
function copied(): string {
  const { columns, rows } = ledger.shown
  const { top: first, bottom, left, right } = ledger.range
  const heads = columns.slice(left, right + 1)
  const lines = rows.slice(first, bottom + 1).map((row) => [row.id, ...heads.map(({ at }) => row.cells[at]?.text ?? '')])
  const isOne = first === bottom && left === right
  return isOne
    ? lines[0]!.slice(1).join('\t')
    : Papa.unparse([['id', ...heads.map(({ key }) => key || 'value')], ...lines], { delimiter: '\t', newline: '\n' })
}
function onCopy(event: ClipboardEvent): void {
  if (editing.value !== null) return
  event.clipboardData?.setData('text/plain', copied())
  event.preventDefault()
  if (event.type === 'cut' && !props.locked) void ledger.clear()
}
function onPaste(event: ClipboardEvent): void {
  if (editing.value !== null || props.locked) return
  event.preventDefault()
  const { data } = Papa.parse<string[]>(event.clipboardData?.getData('text') ?? '', { delimiter: '\t', skipEmptyLines: 'greedy' })
  if (data.length > 0) void ledger.paste(data)
}
let isDragging = false
function press(event: MouseEvent, row: number, column: number): void {
  if (editing.value !== null) void commit(0, 0)
  isDragging = true
  ledger.select({ row, column }, event.shiftKey)
}
useEventListener(window, 'mouseup', () => (isDragging = false))
const spoken = computed(() => {
  const count = ledger.selected.length
  const words = counted(count, 'cell')
  return ledger.reckoning ? `${words}, ${ledger.reckoned.changes.length} would change` : count > 1 ? words : ''
})
</script>

<template>
  <div class="ledger" :class="{ 'with-margin': margin }">
    <section class="bench">
      <LedgerTools :tables="tables" />
      <div v-if="!ledger.table" class="state">
        <h2>There are no like things here</h2>
        <p>A ledger shows entries that are made of the same settings. The sheet shows all of this file.</p>
      </div>
      <template v-else>
        <div
          ref="grid"
          class="grid"
          @scroll.passive="top = ($event.target as HTMLElement).scrollTop"
          role="grid"
          tabindex="0"
          :aria-label="`Ledger of ${ledger.pointer.slice(1).replaceAll('/', '.') || 'this file'}`"
          :aria-rowcount="ledger.shown.rows.length + 1"
          :aria-colcount="ledger.columns.length + 1"
          :aria-activedescendant="ledger.inFocus && editing === null ? `${uid}-at` : undefined"
          aria-multiselectable="true"
          @keydown="onKey"
          @copy="onCopy"
          @cut="onCopy"
          @paste="onPaste"
        >
          <LedgerHeads :widths="widths" />
          <div :style="{ height: `${from * ROW}px` }" />
          <LedgerRow
            v-for="(row, i) in drawn"
            :key="(from + i) % Math.max(MOST_DRAWN, drawn.length)"
            v-model:editing="editing"
            :row="row"
            :index="from + i"
            :widths="widths"
            :locked="locked"
            :cursor-id="`${uid}-at`"
            @press="press"
            @drag="(column) => isDragging && ledger.select({ row: from + i, column }, true)"
            @edit="edit()"
            @leave="commit"
          />
          <div :style="{ height: `${(ledger.shown.rows.length - to) * ROW}px` }" />
          <p v-if="ledger.shown.rows.length === 0" class="nothing">
            None of {{ ledger.table.rows.length }} fits.
            <button class="act" @click="((ledger.filter = ''), (ledger.onlyMine = false))">Show all</button>
          </p>
        </div>
        <LedgerReckoning v-if="ledger.reckoning" @left="grid?.focus()" />
        <p v-if="ledger.problem" class="wrn note-line" role="alert"><FindingMark kind="warning" /> {{ ledger.problem }}</p>
        <LedgerFoot />
        <span class="sr" role="status">{{ spoken }}</span>
      </template>
    </section>
    <LedgerMargin v-if="margin" :locked="locked" @go="(pointer) => emit('go', pointer)" />
  </div>
</template>

<style scoped>
.ledger {
  height: 100%;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
.ledger.with-margin {
  grid-template-columns: minmax(0, 1fr) calc(var(--margin) + var(--edge));
}
.bench {
  min-height: 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.grid {
  flex: 1;
  min-height: 0;
  overflow: auto;
  outline-offset: -2px;
}
.nothing {
  padding: 14px 16px;
  font: var(--t-small);
  color: var(--muted);
}
.note-line {
  padding: 5px 16px;
  font: var(--t-small);
}
</style>
