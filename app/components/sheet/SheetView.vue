<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { HeadRow, SheetRow } from '~/utils/sheet-rows'

/** The settings of a file as an annotated document; the note to the line in focus stands level with it. */
const props = defineProps<{ onlyMine: boolean; margin: boolean }>()
const file = useFileStore()
const session = useSessionStore()
const scroller = ref<HTMLElement | null>(null)
const sheet = ref<HTMLElement | null>(null)
const note = ref<HTMLElement | null>(null)
const noteTop = ref(0)
const naming = ref<{ pointer: string; name: string } | null>(null)
const locked = computed(() => !session.mayEdit || file.view?.record === true)

const rows = computed(() => (props.onlyMine ? file.rows.filter((row) => row.mine || row.staged) : file.rows))
const byLine = computed(() => {
  const found = new Map<string, 'error' | 'warning'>()
  for (const finding of file.findings) {
    const row = rowAt(finding.line)
    if (row && found.get(row.pointer) !== 'error') found.set(row.pointer, finding.severity === 'error' ? 'error' : 'warning')
  }
  return found
})

/** The last row that starts on or before a line. */
function rowAt(line: number): SheetRow | null {
  let best: SheetRow | null = null
  for (const row of file.rows) if (row.line > 0 && row.line <= line && (!best || row.line >= best.line)) best = row
  return best
}
const findingOf = (row: SheetRow): string =>
  file.findings.find((finding) => rowAt(finding.line)?.pointer === row.pointer)?.message.split('. ')[0] ?? ''

/** Long texts and lists of lines take the room of the note beside them. */
const isWide = (row: SheetRow): boolean =>
  row.type === 'setting' &&
  (row.control === 'lines' ||
    row.control === 'block' ||
    (row.control === 'text' && row.pointer === file.focus && row.source.length > 26)) &&
  !byLine.value.has(row.pointer)
const factoryOf = (row: SheetRow): string => ('factory' in row ? row.factory : null) || 'empty'

function focusOn(pointer: string, enter = false): void {
  file.focus = pointer
  void nextTick(() => {
    const line = sheet.value?.querySelector<HTMLElement>(`[data-pointer="${CSS.escape(pointer)}"]`)
    line?.scrollIntoView({ block: 'nearest' })
    if (enter) line?.querySelector<HTMLElement>('input, textarea, [role="combobox"], button')?.focus()
    placeNote()
  })
}
function placeNote(): void {
  const line = sheet.value?.querySelector<HTMLElement>(`[data-pointer="${CSS.escape(file.focus)}"]`)
  if (!line || !scroller.value || !note.value) return
  const { scrollTop, clientHeight } = scroller.value
  noteTop.value = Math.max(scrollTop, Math.min(line.offsetTop, scrollTop + clientHeight - note.value.offsetHeight))
  // one-line comments that the note would cut through give way to it
  const bottom = noteTop.value + note.value.offsetHeight
  for (const side of sheet.value!.querySelectorAll<HTMLElement>('.side')) {
    const top = side.parentElement!.offsetTop
    side.classList.toggle('covered', top + 24 > noteTop.value && top < bottom)
  }
}
watch(
  () => [file.focus, file.text, rows.value.length, file.findings],
  () => void nextTick(placeNote),
)

function move(by: number, fits: (row: SheetRow) => boolean = () => true): void {
  const at = rows.value.findIndex((row) => row.pointer === file.focus)
  for (let i = at + by; i >= 0 && i < rows.value.length; i += by) if (fits(rows.value[i]!)) return focusOn(rows.value[i]!.pointer)
}
function nextFinding(): void {
  const here = file.rows.find((row) => row.pointer === file.focus)?.line ?? 0
  const next = file.findings.find((finding) => finding.line > here) ?? file.findings[0]
  const row = next && rowAt(next.line)
  if (row) focusOn(row.pointer)
}
const inFocus = computed(() => file.rows.find((row) => row.pointer === file.focus) ?? null)
/** The entry that the line in focus is, or lies in. */
const entryInFocus = computed(
  () =>
    file.rows
      .filter((row): row is HeadRow => row.type === 'entry' && (row.pointer === file.focus || file.focus.startsWith(row.pointer + '/')))
      .at(-1) ?? null,
)

function startCopy(row: HeadRow): void {
  if (/^\d+$/.test(row.key)) return void file.duplicate(row.pointer, null)
  naming.value = { pointer: row.pointer, name: `${row.key}-2` }
  void nextTick(() => sheet.value?.querySelector<HTMLInputElement>('.naming input')?.select())
}
function finishCopy(): void {
  if (!naming.value) return
  const { pointer, name } = naming.value
  if (!file.duplicate(pointer, name.trim())) return
  naming.value = null
  focusOn(pointer.slice(0, pointer.lastIndexOf('/') + 1) + name.trim())
}
function set(row: SheetRow, value: Value): void {
  file.set(row.pointer, value)
}

useKeys({
  j: () => move(1),
  k: () => move(-1),
  ArrowDown: () => move(1),
  ArrowUp: () => move(-1),
  ']': () => move(1, (row) => row.mine && row.type !== 'section'),
  '[': () => move(-1, (row) => row.mine && row.type !== 'section'),
  '.': nextFinding,
  Enter: () => focusOn(file.focus, true),
  f: () => !locked.value && file.toFactory(file.focus),
  d: () => entryInFocus.value && !locked.value && startCopy(entryInFocus.value),
  u: () => file.undo(),
  'ctrl+z': () => file.undo(),
  'ctrl+y': () => file.redo(),
})
function onEscape(event: KeyboardEvent): void {
  ;(event.target as HTMLElement).blur()
  naming.value = null
}
onMounted(() => {
  if (file.focus === '' && rows.value.length > 0) file.focus = rows.value.find((row) => row.type === 'setting')?.pointer ?? ''
  else focusOn(file.focus)
  placeNote()
})
defineExpose({ focusOn })
</script>

<template>
  <div ref="scroller" class="scroll" @scroll.passive="placeNote">
    <div
      ref="sheet"
      class="sheet"
      :class="{ 'with-margin': margin }"
      role="grid"
      :aria-label="`Settings in ${file.view?.path}`"
      @keydown.esc="onEscape"
    >
      <div
        v-for="row in rows"
        :key="row.pointer"
        class="row"
        role="row"
        :aria-selected="row.pointer === file.focus"
        :data-pointer="row.pointer"
        :class="[row.type, { focus: row.pointer === file.focus, staged: row.staged && row.type !== 'section', wide: isWide(row) }]"
        @mousedown="file.focus = row.pointer"
        @focusin="file.focus = row.pointer"
      >
        <div
          v-if="row.type === 'section' || row.type === 'entry'"
          class="head"
          :style="{ paddingLeft: `${46 + Math.max(0, row.depth - 1) * 12}px` }"
        >
          <span v-if="row.type === 'entry'" class="no">{{ row.line }}</span><LayerMark
            v-if="row.type === 'entry'"
            class="lm-at"
            :factory="row.inFactory"
            :yours="row.mine"
            :update="row.update !== null"
          />
          <h2>{{ row.label }}</h2>
          <code v-if="row.type === 'section'">{{ row.key }}</code>
          <span v-if="row.type === 'entry' && row.pointer === file.focus && !locked" class="entry-acts">
            <button class="act" @click="startCopy(row)">Duplicate</button><kbd>d</kbd
            ><button class="act" @click="file.remove(row.pointer)">Remove</button>
          </span>
          <span class="r"
            >{{ row.settings }} settings<template v-if="row.mineCount > 0">, {{ row.mineCount }} yours</template></span
          >
          <form v-if="naming?.pointer === row.pointer" class="naming" @submit.prevent="finishCopy">
            <label>Name of the copy <input v-model="naming.name" class="in w3" @keydown.esc.stop="naming = null" /></label
            ><button class="btn small">Duplicate</button>
          </form>
        </div>
        <div v-else class="ln">
          <span class="no">{{ row.line || '' }}</span><LayerMark
            class="lm-at"
            :factory="row.inFactory"
            :yours="row.mine"
            :update="row.update !== null"
          />
          <span class="lb cut" :style="{ paddingLeft: `${Math.max(0, row.depth - 1) * 12}px` }" :title="row.label">{{
            row.label
          }}</span><code class="ky cut">{{ row.key }}</code>
          <span v-if="row.type === 'removed'" class="ct muted">you took it out</span>
          <span v-else-if="row.type === 'setting'" class="ct"
            ><SettingControl :row="row" :disabled="locked" :bad="byLine.get(row.pointer) === 'error'" @set="(value) => set(row, value)"
          /></span>
          <span class="nt cut">
            <template v-if="byLine.get(row.pointer)"
              ><FindingMark :kind="byLine.get(row.pointer)!" /><span
                class="w"
                :class="byLine.get(row.pointer) === 'error' ? 'err' : 'wrn'"
                >{{ findingOf(row) }}</span
              ></template
            >
            <template v-else
              ><template v-if="row.mine && row.inFactory"
                ><i class="bar f" /><span class="cut">{{ factoryOf(row) }}</span></template
              ><template v-if="row.update !== null"
                ><i class="bar u" /><span class="upd cut">{{ row.update || 'empty' }}</span></template
              ></template
            >
          </span>
        </div>
        <p v-if="margin" class="side cut">{{ row.comment.split('\n')[0] }}</p>
      </div>
      <div v-if="rows.length === 0" class="state">
        <h2>{{ onlyMine ? 'Nothing here is yours yet' : 'This file holds no settings' }}</h2>
        <p>
          {{
            onlyMine
              ? 'Every setting is as the plugin shipped it. Switch “Only mine” off to see them all.'
              : 'Its text can be seen and edited under Source.'
          }}
        </p>
      </div>
      <div v-if="margin" ref="note" class="note-box" :style="{ top: `${noteTop}px` }">
        <MarginNote :row="inFocus" :locked="locked" @go="focusOn" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.sheet {
  position: relative;
  min-height: 100%;
  padding-bottom: 40px;
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
.head {
  min-height: var(--head);
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding: 5px 22px 2px 46px;
  border-bottom: 1px solid var(--hairline);
  position: relative;
  flex-wrap: wrap;
}
.head h2 {
  font: var(--t-section);
}
.head code {
  color: var(--muted);
}
.head .r {
  margin-left: auto;
  font: var(--t-fine);
  color: var(--muted);
}
.entry .head {
  border-bottom: 0;
  border-top: 1px solid var(--hairline);
  padding-left: 84px !important;
}
.section + .entry .head {
  border-top: 0;
}
.head .no {
  position: absolute;
  left: 0;
  width: 36px;
}
.head .lm-at {
  position: absolute;
  left: 48px;
  margin: 0;
  top: 6px;
}
.entry-acts {
  display: inline-flex;
  gap: 8px;
  font: var(--t-fine);
  align-items: baseline;
}
.naming {
  width: 100%;
  display: flex;
  gap: 8px;
  align-items: center;
  font: var(--t-small);
  padding: 2px 0 4px;
}
.ln {
  min-height: var(--line);
  display: grid;
  grid-template-columns: 36px 36px 176px 100px minmax(210px, 1.1fr) minmax(0, 1fr);
  align-items: center;
  padding-right: 22px;
}
.no {
  font: 400 11px/20px var(--mono);
  color: var(--muted);
  text-align: right;
}
.lm-at {
  margin-left: 12px;
}
.ky {
  color: var(--muted);
  padding-right: 6px;
}
.ct {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.nt {
  font: var(--t-key);
  color: var(--muted);
  display: flex;
  align-items: center;
  gap: 5px;
  padding-left: 8px;
}
.nt .w {
  font: var(--t-fine);
  overflow: hidden;
  text-overflow: ellipsis;
}
.removed .lb {
  text-decoration: line-through;
  color: var(--muted);
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
.focus > .ln,
.focus > .head {
  background: var(--semolina);
  box-shadow:
    inset 0 1px 0 var(--crust),
    inset 0 -1px 0 var(--hairline);
}
.focus .lb {
  font-weight: 700;
}
.focus .ln {
  min-height: 28px;
}
.wide .ct {
  grid-column: 5 / 7;
}
.wide .nt {
  display: none;
}
.wide .ct :deep(.in) {
  width: 100%;
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
