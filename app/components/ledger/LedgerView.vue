<script setup lang="ts">
import Papa from 'papaparse'
import type { TableFound } from '@pasticcio/core'
import type { Picked } from '~/utils/ledger-range'

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
const tables = shallowRef<readonly TableFound[]>([])
const scroller = useTemplateRef<HTMLElement>('scroller')
const grid = useTemplateRef<HTMLElement>('grid')
const field = useTemplateRef<HTMLInputElement[]>('field')
const editing = ref<string | null>(null)
const uid = useId()
const { height } = useElementSize(scroller)
const top = ref(0)
const from = computed(() => Math.max(0, Math.floor(top.value / ROW) - BEYOND))
const to = computed(() => Math.min(ledger.shown.rows.length, Math.ceil((top.value + (height.value || 600)) / ROW) + BEYOND))
const drawn = computed(() => ledger.shown.rows.slice(from.value, to.value))
const widths = computed(() => `36px minmax(120px, 180px) repeat(${ledger.columns.length}, minmax(84px, 1fr))`)

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
    const box = scroller.value
    if (!box) return
    const above = row * ROW
    if (above < box.scrollTop) box.scrollTop = above
    else if (above + ROW > box.scrollTop + box.clientHeight - 44) box.scrollTop = above + ROW - box.clientHeight + 44
  },
)

function edit(text?: string): void {
  const at = ledger.inFocus
  if (props.locked || !at || (at.cell && !at.cell.editable)) return
  editing.value = text ?? at.cell?.text ?? ''
  void nextTick(() => {
    const [input] = field.value ?? []
    input?.focus()
    if (text === undefined) input?.select()
  })
}
async function commit(rows: number, across: number): Promise<void> {
  const text = editing.value
  editing.value = null
  grid.value?.focus()
  if (text === null) return
  const done = ledger.type(text)
  ledger.move(rows, across)
  await done
}
function onEditKey(event: KeyboardEvent): void {
  if (event.key === 'Enter') void commit(event.shiftKey ? -1 : 1, 0)
  else if (event.key === 'Tab') void commit(0, event.shiftKey ? -1 : 1)
  else if (event.key === 'Escape') {
    editing.value = null
    grid.value?.focus()
  } else return event.stopPropagation()
  event.preventDefault()
  event.stopPropagation()
}
const page = (): number => Math.max(1, Math.floor((scroller.value?.clientHeight ?? ROW) / ROW) - 2)
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
function sortBy(column: string | null, event: MouseEvent): void {
  const known = ledger.sort.find((key) => key.column === column)
  const next = { column, down: known ? !known.down : false }
  ledger.sort = event.shiftKey ? [...ledger.sort.filter((key) => key.column !== column), next] : [next]
}
const sortOf = (column: string | null): 'ascending' | 'descending' | 'none' => {
  const key = ledger.sort.find((one) => one.column === column)
  return !key ? 'none' : key.down ? 'descending' : 'ascending'
}
const previewOf = ({ row, column }: Pick<Picked, 'row' | 'column'>): { from: string; to: string } | undefined =>
  ledger.previewed.get(`${row.pointer} ${column.id}`)
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
          <div ref="scroller" class="scroll" @scroll.passive="top = ($event.target as HTMLElement).scrollTop">
            <div class="heads tr" role="row" aria-rowindex="1" :style="{ gridTemplateColumns: widths }">
              <span role="columnheader"><span class="sr">Layers</span></span>
              <span role="columnheader" :aria-sort="sortOf(null)"
                ><button tabindex="-1" class="th" @click="sortBy(null, $event)"><b>id</b><code>&nbsp;</code></button></span
              >
              <span v-for="column in ledger.columns" :key="column.id" role="columnheader" :aria-sort="sortOf(column.id)"
                ><button tabindex="-1" class="th" :class="{ r: column.kind === 'number' }" @click="sortBy(column.id, $event)">
                  <b class="cut">{{ column.label }}</b><code class="cut">{{ column.key || '&nbsp;' }}</code>
                </button></span
              >
            </div>
            <div :style="{ height: `${from * ROW}px` }" />
            <div
              v-for="(row, i) in drawn"
              :key="row.pointer"
              class="tr"
              :class="{ on: from + i === ledger.cursor.row, staged: row.staged }"
              role="row"
              :aria-rowindex="from + i + 2"
              :style="{ gridTemplateColumns: widths }"
            >
              <span role="gridcell" class="lm-at"
                ><LayerMark :factory="!row.mine || row.cells.some((cell) => cell && !cell.mine)" :yours="row.mine" :update="false"
              /></span>
              <span role="rowheader" class="id cut" :title="row.id">{{ row.id }}</span>
              <span
                v-for="(column, j) in ledger.columns"
                :id="from + i === ledger.cursor.row && j === ledger.cursor.column ? `${uid}-at` : undefined"
                :key="column.id"
                role="gridcell"
                class="td cut"
                :class="[
                  `is-${row.cells[column.at]?.kind ?? 'none'}`,
                  {
                    mine: row.cells[column.at]?.mine,
                    staged: row.cells[column.at]?.staged,
                    picked: isIn(ledger.range, from + i, j),
                    cursor: from + i === ledger.cursor.row && j === ledger.cursor.column,
                  },
                ]"
                :aria-selected="isIn(ledger.range, from + i, j)"
                :aria-readonly="locked || row.cells[column.at]?.editable === false"
                @mousedown="press($event, from + i, j)"
                @mouseenter="isDragging && ledger.select({ row: from + i, column: j }, true)"
                @dblclick="edit()"
              >
                <input
                  v-if="editing !== null && from + i === ledger.cursor.row && j === ledger.cursor.column"
                  ref="field"
                  v-model="editing"
                  class="cell-in"
                  :aria-label="`${column.label} of ${row.id}`"
                  @keydown="onEditKey"
                  @blur="commit(0, 0)"
                />
                <template v-else-if="previewOf({ row, column })"
                  ><s>{{ previewOf({ row, column })!.from }}</s> → <b>{{ previewOf({ row, column })!.to }}</b></template
                >
                <template v-else-if="row.cells[column.at]"
                  ><i v-if="row.cells[column.at]!.mine" class="bar y" aria-hidden="true" />{{
                    row.cells[column.at]!.kind === 'parts' ? `${row.cells[column.at]!.text} inside` : row.cells[column.at]!.text || 'empty'
                  }}</template
                ><template v-else>–</template>
              </span>
            </div>
            <div :style="{ height: `${(ledger.shown.rows.length - to) * ROW}px` }" />
            <p v-if="ledger.shown.rows.length === 0" class="nothing">
              None of {{ ledger.table.rows.length }} fits.
              <button class="act" @click="((ledger.filter = ''), (ledger.onlyMine = false))">Show all</button>
            </p>
          </div>
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
  outline-offset: -2px;
}
.scroll {
  height: 100%;
  overflow: auto;
}
.tr {
  display: grid;
  height: 24px;
  min-width: fit-content;
  align-items: stretch;
  border-bottom: 1px solid var(--hairline);
  line-height: 23px;
}
.tr.on {
  background: var(--semolina);
}
.heads {
  position: sticky;
  top: 0;
  z-index: 2;
  height: 40px;
  background: var(--flour);
  border-bottom-color: var(--crust);
}
.th {
  width: 100%;
  height: 100%;
  display: grid;
  align-content: center;
  text-align: left;
  padding: 0 8px;
  font: var(--t-fine);
  line-height: 15px;
}
.th.r {
  text-align: right;
}
.th code {
  color: var(--muted);
}
[aria-sort='ascending'] b::after {
  content: ' ↑';
}
[aria-sort='descending'] b::after {
  content: ' ↓';
}
.lm-at {
  display: grid;
  place-items: center;
}
.id {
  font: 400 12px/23px var(--mono);
  padding: 0 8px;
}
.td {
  font: 400 12px/23px var(--mono);
  padding: 0 8px;
  cursor: cell;
  position: relative;
  border-left: 1px solid transparent;
}
.td.is-number {
  text-align: right;
}
.td.is-none,
.td.is-parts,
.td.is-list,
.td.is-code {
  color: var(--muted);
}
.td.mine {
  background: var(--wash-yours);
  font-weight: 600;
}
.td.staged {
  box-shadow: inset 3px 0 0 var(--crust);
  background: var(--wash-yours);
}
.td.picked {
  background: color-mix(in srgb, var(--wash-yours) 60%, var(--semolina));
}
.td.cursor {
  outline: 2px solid var(--crust);
  outline-offset: -2px;
}
.td .bar {
  margin-right: 5px;
  width: 10px;
  height: 5px;
}
.td s {
  color: var(--muted);
  font-weight: 400;
}
.cell-in {
  position: absolute;
  inset: 0;
  width: 100%;
  padding: 0 7px;
  font: inherit;
  text-align: inherit;
  background: var(--flour);
  border: 0;
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
