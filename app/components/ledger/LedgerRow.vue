<script setup lang="ts">
import type { TableCell, TableColumn } from '~/drafts/table-view'
import type { LedgerRow } from '~/utils/ledger-files'
import type { Editing, Reckoned } from '~/utils/ledger-range'

/** One row of a ledger. Its cells are places of the grid, which has the keys; only what is typed into is a field. */
const props = defineProps<{
  row: LedgerRow
  index: number
  widths: string
  locked: boolean
  cursorId: string
  /** The column of the cursor where it is in this row, else -1. */
  cursor: number
  /** The first and last column that are selected in this row; -1 for none. */
  left: number
  right: number
}>()
const editing = defineModel<Editing | null>('editing', { required: true })
const emit = defineEmits<{
  press: [event: MouseEvent, row: number, column: number]
  drag: [column: number]
  edit: []
  leave: [rows: number, across: number, isKept: boolean]
}>()
const ledger = useLedgerStore()
const tables = useLedgerTablesStore()
const field = useTemplateRef<HTMLInputElement[]>('field')
const isHere = computed(() => props.cursor >= 0)
watch(
  () => editing.value !== null && isHere.value,
  async (begins) => {
    if (!begins) return
    await nextTick()
    const [input] = field.value ?? []
    input?.focus()
    if (!editing.value?.isFresh) input?.select()
  },
)
function onEditKey(event: KeyboardEvent): void {
  if (event.key === 'Enter') emit('leave', event.shiftKey ? -1 : 1, 0, true)
  else if (event.key === 'Tab') emit('leave', 0, event.shiftKey ? -1 : 1, true)
  else if (event.key === 'Escape') emit('leave', 0, 0, false)
  else return event.stopPropagation()
  event.preventDefault()
  event.stopPropagation()
}
const previewOf = (column: TableColumn): Reckoned | undefined => ledger.previewed.get(`${props.row.at} ${column.id}`)
interface ShownCell {
  readonly column: TableColumn
  readonly cell: TableCell | null
  readonly words: string
  readonly finding: 'error' | 'warning' | null
}
/** What each cell says, and what is wrong with it. */
const cells = computed<readonly ShownCell[]>(() =>
  ledger.columns.map((column) => {
    const { row } = props
    const cell = row.cells[column.at] ?? null
    const finding = tables.findingAt(row, column.id)
    return { column, cell, words: wordsIn(cell, column.at), finding: finding?.severity === 'error' ? 'error' : finding ? 'warning' : null }
  }),
)
function wordsIn(cell: LedgerRow['cells'][number], at: number): string {
  if (cell) return cell.says ?? (cell.kind === 'parts' ? `${cell.text} inside` : cell.text || 'empty')
  const followed = tables.follower?.follow(props.row, at)
  return followed ? `as ${followed.from}: ${followed.cell.says ?? followed.cell.text}` : '–'
}
</script>

<template>
  <div
    class="tr"
    :class="{
      on: isHere,
      staged: row.staged,
      default: row.isDefault,
      last: row.isDefault && index === ledger.defaults.length - 1,
    }"
    role="row"
    :aria-rowindex="index + 2"
    :style="{ gridTemplateColumns: widths }"
  >
    <span role="gridcell" class="lm-at"><LayerMark :factory="row.inFactory" :yours="row.mine" :update="false" /></span>
    <span role="rowheader" class="id cut" :title="row.id"
      >{{ row.id }}<span v-if="row.isDefault" class="for"> for {{ counted(ledger.followers.get(row.id) ?? 0, 'row') }}</span></span
    >
    <span v-if="ledger.places.length > 1" role="gridcell" class="place cut">{{ row.isDefault ? '' : row.place }}</span>
    <span
      v-for="({ column, cell, words, finding }, j) in cells"
      :id="j === cursor ? cursorId : undefined"
      :key="column.id"
      role="gridcell"
      class="td cut"
      :class="[
        `is-${cell?.kind ?? 'none'}`,
        {
          r: column.kind === 'number',
          says: cell?.says,
          mine: cell?.mine,
          staged: cell?.staged,
          picked: j >= left && j <= right,
          cursor: j === cursor,
        },
      ]"
      :aria-selected="j >= left && j <= right"
      :aria-readonly="locked || cell?.editable === false"
      @mousedown="emit('press', $event, index, j)"
      @mouseenter="emit('drag', j)"
      @dblclick="emit('edit')"
    >
      <input
        v-if="editing !== null && j === cursor"
        ref="field"
        :value="editing.text"
        @input="editing = { text: ($event.target as HTMLInputElement).value, isFresh: true }"
        class="cell-in"
        :aria-label="`${column.label} of ${row.id}`"
        @keydown="onEditKey"
        @blur="emit('leave', 0, 0, true)"
      />
      <template v-else-if="previewOf(column)"
        ><s>{{ previewOf(column)!.from }}</s> → <b>{{ previewOf(column)!.to }}</b></template
      >
      <template v-else
        ><FindingMark v-if="finding" :kind="finding" /><i v-if="cell?.mine" class="bar y" aria-hidden="true" />{{ words }}</template
      >
    </span>
  </div>
</template>

<style scoped>
.tr {
  display: grid;
  height: 24px;
  contain: strict;
  align-items: stretch;
  border-bottom: 1px solid var(--hairline);
  line-height: 23px;
}
.tr.on {
  background: var(--semolina);
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
.place {
  padding: 0 8px;
  font: var(--t-fine);
  line-height: 23px;
  padding-top: 2px;
}
.for {
  font: var(--t-fine);
  color: var(--muted);
}
.default .id {
  font-weight: 600;
}
.last {
  border-bottom-color: var(--crust);
}
.td.r {
  text-align: right;
}
.td.says {
  font: var(--t-fine);
  line-height: 23px;
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
</style>
