<script setup lang="ts">
import { copiedText, csvOf, rowsOf, saveFile } from '~/utils/ledger-csv'
import type { LedgerView } from '~/stores/ledger-tables'
import type { Editing } from '~/utils/ledger-range'

/** Like things as a ledger: one row each, one column a setting, edited with keys as a spreadsheet is. */
const props = defineProps<{
  margin: boolean
  locked: boolean
  /** Where the table stands that was asked for; the largest one without. */ table?: string
  /** Whether it is shown over all files beside this one. */ over?: boolean
}>()
const emit = defineEmits<{ go: [pointer: string] }>()
const ledger = useLedgerStore()
const tables = useLedgerTablesStore()
const sheet = useSheetStore()
const drafts = useDraftsStore()
sheet.isAside = true
onUnmounted(() => {
  sheet.isAside = false
  void sheet.refresh()
})
const ROW = 24
const BEYOND = 12
/** Rows that scroll out of sight are drawn again as those that come, which costs less than new ones. */
const MOST_DRAWN = 120
const grid = useTemplateRef<HTMLElement>('grid')
const editing = ref<Editing | null>(null)
const uid = useId()
const { height } = useElementSize(grid)
const top = ref(0)
const from = computed(() => Math.max(0, Math.floor(top.value / ROW) - BEYOND))
const to = computed(() => Math.min(ledger.shown.rows.length, Math.ceil((top.value + (height.value || 600)) / ROW) + BEYOND))
const drawn = computed(() => ledger.shown.rows.slice(from.value, to.value))
const hasPlaces = computed(() => ledger.places.length > 1)
const widths = computed(() => {
  const place = hasPlaces.value ? ' minmax(60px, 110px)' : ''
  return `36px minmax(120px, 180px)${place} repeat(${ledger.columns.length}, minmax(84px, 220px)) 1fr`
})

watch(
  () => drafts.current,
  async () => {
    await tables.look()
    await open(props.table ?? '', props.over ?? false)
  },
  { immediate: true },
)
/** Opens a table, or the largest where there is none such. */
async function open(pointer: string, isOverFiles: boolean): Promise<void> {
  const isThere = [...tables.options.map((option) => option.pointer), ...tables.sets.map(({ pattern }) => pattern)].includes(pointer)
  await ledger.open(isThere ? { pointer, isOverFiles } : { pointer: tables.options[0]?.pointer ?? '', isOverFiles: false })
  await nextTick()
  grid.value?.focus()
}
const choose = (view: LedgerView): Promise<void> => open(view.pointer, view.isOverFiles)
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

/** Whoever reckoned goes on in the grid. */
watch(
  () => ledger.reckoning === null,
  (isLeft) => isLeft && grid.value?.focus(),
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
const isPicked = (row: number): boolean => row >= ledger.range.top && row <= ledger.range.bottom
/** Rows are laid out by themselves, so the least width of all of them is said once. */
const leastWidth = computed(() => 156 + (hasPlaces.value ? 60 : 0) + ledger.columns.length * 84)
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
  } else if (modified && event.key === 'z') ledger.undo()
  else if (modified && event.key === 'y') ledger.redo()
  else if (modified || event.altKey) return
  else if (event.key === 'Delete' || event.key === 'Backspace') void (props.locked || ledger.clear())
  else if (event.key === '*' && !props.locked) ledger.reckoning = { does: 'times', by: '1' }
  else if (isCommand(event.key)) void COMMANDS[event.key]!()
  else if (/^[\p{L}\p{N}.-]$/u.test(event.key) && !['s', 'm', 'u', 'g'].includes(event.key)) edit(event.key)
  else return
  event.preventDefault()
  event.stopPropagation()
}
/** Letters that do something to numbers and switches, which are not typed by letters. */
const COMMANDS: Readonly<Record<string, () => unknown>> = {
  f: ledger.toFactory,
  c: ledger.clear,
  d: async () => (added.value = await ledger.duplicate()),
}
const isCommand = (key: string): boolean =>
  !props.locked && COMMANDS[key] !== undefined && !['text', 'code'].includes(ledger.inFocus?.column.kind ?? '')
/** The row that was copied last. */
const added = ref('')
const save = (): void => saveFile(csvOf(ledger.shown, hasPlaces.value), `${nameOfTable.value}.csv`, 'text/csv')
/** Rows of a file wait for a look, as those that are pasted do. */
function load(text: string): void {
  const rows = rowsOf(text)
  if (rows.length > 0) ledger.match(rows)
}
const nameOfTable = computed(() => pointerWords(tables.view.pointer, 'this file').replaceAll('*', 'all'))
function onCopy(event: ClipboardEvent): void {
  if (editing.value !== null) return
  event.clipboardData?.setData('text/plain', copiedText(ledger.shown, ledger.range, hasPlaces.value))
  event.preventDefault()
  if (event.type === 'cut' && !props.locked) void ledger.clear()
}
function onPaste(event: ClipboardEvent): void {
  if (editing.value !== null || props.locked) return
  event.preventDefault()
  const rows = rowsOf(event.clipboardData?.getData('text') ?? '', '\t')
  if (rows.length > 0) void ledger.paste(rows)
}
function showAll(): void {
  ledger.filter = ledger.place = ''
  ledger.onlyMine = ledger.withFindings = false
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
  if (ledger.reckoning) return `${words}, ${ledger.reckoned.changes.length} would change`
  return count > 1 ? words : added.value === '' ? '' : `${added.value} was added`
})
</script>

<template>
  <div class="ledger" :class="{ 'with-margin': margin }">
    <section class="bench">
      <LedgerTools @open="choose" @save="save" @load="load" />
      <LedgerTroubles />
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
          :aria-label="`Ledger of ${nameOfTable}`"
          :aria-rowcount="ledger.shown.rows.length + 1"
          :aria-colcount="ledger.columns.length + (hasPlaces ? 2 : 1)"
          :aria-activedescendant="ledger.inFocus && editing === null ? `${uid}-at` : undefined"
          aria-multiselectable="true"
          @keydown="onKey"
          @copy="onCopy"
          @cut="onCopy"
          @paste="onPaste"
        >
          <div role="rowgroup" :style="{ minWidth: `${leastWidth}px` }">
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
              :cursor="from + i === ledger.cursor.row ? ledger.cursor.column : -1"
              :left="isPicked(from + i) ? ledger.range.left : -1"
              :right="isPicked(from + i) ? ledger.range.right : -1"
              @press="press"
              @drag="(column) => isDragging && ledger.select({ row: from + i, column }, true)"
              @edit="edit()"
              @leave="commit"
            />
            <div :style="{ height: `${(ledger.shown.rows.length - to) * ROW}px` }" />
          </div>
          <p v-if="ledger.shown.rows.length === 0" class="nothing">
            None of {{ ledger.table.rows.length }} fits. <button class="act" @click="showAll">Show all</button>
          </p>
        </div>
        <LedgerReckoning v-if="ledger.reckoning" />
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
