<script setup lang="ts">
import type { HeadRow, LineRow, SheetRow } from '~/utils/sheet-rows'
import { DRAWN_WHOLE } from '~/utils/row-places'

/** The settings of a file as an annotated document; the note to the line in focus stands level with it. */
const props = defineProps<{ margin: boolean }>()
const emit = defineEmits<{ ledger: [pointer: string] }>()
const sheet = useSheetStore()
const entries = useEntriesStore()
const session = useSessionStore()
const scroller = useTemplateRef<HTMLElement>('scroller')
const page = useTemplateRef<HTMLElement>('page')
const grid = useTemplateRef<HTMLElement>('grid')
const note = useTemplateRef<HTMLElement>('note')
const noteTop = ref(0)
const locked = computed(() => !session.mayEdit)

const pads = ref({ top: 0, bottom: 0 })
const lineOf = (pointer: string): HTMLElement | null =>
  page.value?.querySelector<HTMLElement>(`[data-pointer="${CSS.escape(pointer)}"]`) ?? null

const findingAt = computed(() => {
  const found = new Map<string, { severity: 'error' | 'warning'; words: string }>()
  for (const { pointer, severity, message } of sheet.findings) {
    const known = found.get(pointer)
    if (known?.severity === 'error' || (known && severity !== 'error')) continue
    found.set(pointer, { severity: severity === 'error' ? 'error' : 'warning', words: message.split('. ')[0]! })
  }
  // what tells entries apart, and is still as in the one a copy was made of
  for (const pointer of sheet.told?.differ ?? [])
    if (!found.has(pointer)) found.set(pointer, { severity: 'warning', words: `as in ${sheet.told!.from}` })
  return found
})

const WIDE = new Set(['lines', 'block', 'ids', 'slots', 'place', 'time', 'times', 'port', 'picture', 'file'])
/** Long texts, lists and values of several parts take the room of the note beside them. */
const isWide = (row: SheetRow): boolean =>
  row.type === 'setting' &&
  (WIDE.has(row.control) ||
    (row.control === 'duration' && (row.pointer === sheet.focus || (!row.mine && row.update === null))) ||
    (row.control === 'text' && row.pointer === sheet.focus && row.source.length > 26)) &&
  !row.waits &&
  !findingAt.value.has(row.pointer)

/** Makes room for the rows that are not drawn, and asks for those that are seen. */
function layOut(): void {
  const { snapshot } = sheet
  if (!snapshot) return
  const to = snapshot.from + snapshot.rows.length
  pads.value = { top: sheet.places.topOf(snapshot.from), bottom: sheet.places.total - sheet.places.topOf(to) }
  placeNote()
}
function lookAround(): void {
  placeNote()
  const box = scroller.value
  if (!box || sheet.places.count <= DRAWN_WHOLE) return
  const { from, to } = sheet.places.window(box.scrollTop, box.clientHeight)
  if (from !== sheet.range.from || to !== sheet.range.to) sheet.range = { from, to }
}
function measure(): void {
  const { snapshot } = sheet
  if (!snapshot || !grid.value || sheet.places.count <= DRAWN_WHOLE) return
  const drawn = [...grid.value.querySelectorAll<HTMLElement>(':scope > .row')]
  if (sheet.places.measure(drawn.map((row, i) => [snapshot.from + i, row.offsetHeight] as const))) layOut()
}
watch(
  () => sheet.snapshot,
  async (snapshot) => {
    if (!snapshot) return
    layOut()
    await nextTick()
    measure()
    lookAround()
  },
  { immediate: true },
)
watch([() => sheet.focus, () => sheet.findings], () => void nextTick(placeNote))

function placeNote(): void {
  if (!scroller.value || !note.value || !page.value) return
  const { scrollTop, clientHeight } = scroller.value
  const top = lineOf(sheet.focus)?.offsetTop ?? sheet.places.topOf(sheet.snapshot?.focus?.index ?? 0)
  noteTop.value = Math.max(scrollTop, Math.min(top, scrollTop + clientHeight - note.value.offsetHeight))
  // one-line comments that the note would cut through give way to it
  const bottom = noteTop.value + note.value.offsetHeight
  for (const side of page.value.querySelectorAll<HTMLElement>('.side')) {
    const at = side.parentElement!.offsetTop
    side.classList.toggle('covered', at + 24 > noteTop.value && at < bottom)
  }
}

/** A control that comes on its own is waited for, as long as sixty pictures of the screen take. */
async function enterInto(line: HTMLElement | null): Promise<void> {
  for (let i = 0; line?.isConnected && line.dataset['pointer'] === sheet.focus && i < 60; i++) {
    const field = line.querySelector<HTMLElement>('input, textarea, [role="combobox"], button')
    if (field) return field.focus()
    await new Promise(requestAnimationFrame)
  }
}
async function focusOn(pointer: string, enter = false, block: ScrollLogicalPosition = 'nearest'): Promise<void> {
  sheet.focus = pointer
  await nextTick()
  if (!lineOf(pointer)) await drawAround(pointer)
  const line = lineOf(pointer)
  line?.scrollIntoView({ block })
  if (enter) void enterInto(line)
  placeNote()
}
/** Scrolls to a row that is not drawn, and waits until it is. */
async function drawAround(pointer: string): Promise<void> {
  await sheet.refresh()
  const focus = sheet.snapshot?.focus
  if (!scroller.value || focus?.row.pointer !== pointer) return
  scroller.value.scrollTop = sheet.places.topOf(focus.index) - scroller.value.clientHeight / 3
  lookAround()
  await sheet.refresh()
  await nextTick()
}

/** Keys pressed quickly are gone along one after the other. */
let moving: Promise<void> = Promise.resolve()
function move(by: 1 | -1, mine = false): void {
  moving = moving.then(() => step(by, mine))
}
/** The next row among those drawn, else wherever it is in the file. */
async function step(by: 1 | -1, mine: boolean): Promise<void> {
  const { rows } = sheet
  const at = rows.findIndex((row) => row.pointer === sheet.focus)
  for (let i = at + by; at >= 0 && i >= 0 && i < rows.length; i += by)
    if (!mine || (rows[i]!.mine && rows[i]!.type !== 'section')) return focusOn(rows[i]!.pointer)
  await focusOn(await sheet.seek(by, mine ? 'mine' : 'any'))
}
function nextFinding(): void {
  const here = sheet.inFocus?.line ?? 0
  const next = sheet.findings.find((finding) => finding.line > here) ?? sheet.findings[0]
  if (next?.pointer) void focusOn(next.pointer)
}

const { naming, showEntry, startCopy, finishCopy, copyEntry, ask, moveEntry } = useEntryActs(locked, (pointer) =>
  focusOn(pointer, false, 'center'),
)

useKeys({
  j: () => move(1),
  k: () => move(-1),
  ArrowDown: () => move(1),
  ArrowUp: () => move(-1),
  ']': () => move(1, true),
  '[': () => move(-1, true),
  '.': nextFinding,
  Enter: () => focusOn(sheet.focus, true),
  f: () => !locked.value && sheet.toFactory(sheet.focus),
  d: copyEntry,
  r: () => ask('rename'),
  'alt+ArrowUp': () => moveEntry(-1),
  'alt+ArrowDown': () => moveEntry(1),
  u: () => sheet.undo(),
  'ctrl+z': () => sheet.undo(),
  'ctrl+y': () => sheet.redo(),
})
function onEscape(event: KeyboardEvent): void {
  ;(event.target as HTMLElement).blur()
  naming.value = null
}
/** A closed list keeps Escape to itself, and is a field to be left like others. */
const isClosed = (field: Element): boolean => field.matches('[role="combobox"]:not(input)[aria-expanded="false"]')
const leaveClosed = ({ target }: KeyboardEvent): void => void (isClosed(target as Element) && (target as HTMLElement).blur())
onMounted(async () => {
  await focusOn(sheet.focus)
  // whoever comes from elsewhere sees what stands around it
  lineOf(sheet.focus)?.scrollIntoView({ block: 'center' })
})
defineExpose({ focusOn })
</script>

<template>
  <div ref="scroller" class="scroll" @scroll.passive="lookAround">
    <div
      ref="page"
      class="sheet"
      :class="{ 'with-margin': props.margin }"
      :style="{ paddingTop: `${pads.top}px`, paddingBottom: `${pads.bottom + 40}px` }"
      @keydown.esc.capture="leaveClosed"
      @keydown.esc="onEscape"
    >
      <div ref="grid" role="grid" :aria-rowcount="sheet.snapshot?.count ?? 0" :aria-label="`Settings in ${sheet.view?.path}`">
        <div
          v-for="(row, i) in sheet.rows"
          :key="row.pointer"
          class="row"
          role="row"
          :aria-rowindex="(sheet.snapshot?.from ?? 0) + i + 1"
          :aria-selected="row.pointer === sheet.focus"
          :data-pointer="row.pointer"
          :class="[row.type, { focus: row.pointer === sheet.focus, staged: row.staged && row.type !== 'section', wide: isWide(row) }]"
          @mousedown="sheet.focus = row.pointer"
          @focusin="sheet.focus = row.pointer"
        >
          <SheetRowHead
            v-if="row.type === 'section' || row.type === 'entry'"
            :row="row"
            :focused="row.pointer === sheet.focus"
            :locked="locked"
            :naming="naming?.pointer === row.pointer ? naming.name : null"
            @ledger="emit('ledger', row.pointer)"
            :told="sheet.told?.pointer === row.pointer ? sheet.told : null"
            @copy="startCopy(row.pointer)"
            @ask="(what) => ask(what, row as HeadRow)"
            @move="(by) => moveEntry(by, row as HeadRow)"
            @named="(name) => finishCopy(row.pointer, name)"
            @cancel="naming = null"
          />
          <SheetRowLine
            v-else
            :row="row as LineRow"
            :locked="locked"
            :finding="findingAt.get(row.pointer) ?? null"
            @set="(value) => sheet.set(row.pointer, value)"
            @turn-on="sheet.turnOn(row.pointer)"
          />
          <span v-if="props.margin" role="gridcell" class="side cut">{{ row.comment.split('\n')[0] }}</span>
        </div>
        <SheetEmpty v-if="sheet.snapshot && sheet.rows.length === 0" :only-mine="sheet.onlyMine" />
      </div>
      <div v-if="props.margin" ref="note" class="note-box" :style="{ top: `${noteTop}px` }">
        <MarginNote :row="sheet.inFocus" :locked="locked" @go="focusOn" />
      </div>
    </div>
    <LazyEntryDialogs v-if="entries.asked" @done="showEntry(true)" />
  </div>
</template>

<style scoped>
.scroll {
  container-type: inline-size;
}
.sheet {
  position: relative;
  min-height: 100%;
}
.row {
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
.with-margin .row {
  grid-template-columns: minmax(0, 1fr) var(--margin);
}
.with-margin::before {
  content: '';
  position: absolute;
  top: 0;
  bottom: 0;
  right: var(--margin);
  border-left: 1px solid var(--hairline);
}
.staged::before {
  content: '';
  position: absolute;
  left: 4px;
  top: 3px;
  bottom: 3px;
  width: 3px;
  background: var(--crust);
  border-radius: 1px;
  z-index: 1;
}
.focus > :deep(.ln),
.focus > :deep(.head) {
  background: var(--semolina);
  box-shadow:
    inset 0 1px 0 var(--crust),
    inset 0 -1px 0 var(--hairline);
}
.side {
  font: italic 400 13px/24px var(--serif);
  color: var(--muted);
  padding: 0 12px 0 16px;
  height: 24px;
}
.side.covered {
  visibility: hidden;
}
.note-box {
  position: absolute;
  right: 0;
  width: calc(var(--margin) - 1px);
  background: var(--flour);
  border-top: 1px solid var(--crust);
  padding: 0 16px 12px;
}
</style>
