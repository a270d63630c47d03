<script setup lang="ts">
import type { TableColumn, TableRow } from '~/drafts/table-view'
import type { Editing, Reckoned } from '~/utils/ledger-range'

/** One row of a ledger. Its cells are places of the grid, which has the keys; only what is typed into is a field. */
const props = defineProps<{ row: TableRow; index: number; widths: string; locked: boolean; cursorId: string }>()
const editing = defineModel<Editing | null>('editing', { required: true })
const emit = defineEmits<{
  press: [event: MouseEvent, row: number, column: number]
  drag: [column: number]
  edit: []
  leave: [rows: number, across: number, isKept: boolean]
}>()
const ledger = useLedgerStore()
const field = useTemplateRef<HTMLInputElement[]>('field')
const isHere = computed(() => props.index === ledger.cursor.row)
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
const previewOf = (column: TableColumn): Reckoned | undefined => ledger.previewed.get(`${props.row.pointer} ${column.id}`)
</script>

<template>
  <div
    class="tr"
    :class="{ on: index === ledger.cursor.row, staged: row.staged }"
    role="row"
    :aria-rowindex="index + 2"
    :style="{ gridTemplateColumns: widths }"
  >
    <span role="gridcell" class="lm-at"
      ><LayerMark :factory="!row.mine || row.cells.some((cell) => cell && !cell.mine)" :yours="row.mine" :update="false"
    /></span>
    <span role="rowheader" class="id cut" :title="row.id">{{ row.id }}</span>
    <span
      v-for="(column, j) in ledger.columns"
      :id="index === ledger.cursor.row && j === ledger.cursor.column ? cursorId : undefined"
      :key="column.id"
      role="gridcell"
      class="td cut"
      :class="[
        `is-${row.cells[column.at]?.kind ?? 'none'}`,
        {
          mine: row.cells[column.at]?.mine,
          staged: row.cells[column.at]?.staged,
          picked: isIn(ledger.range, index, j),
          cursor: index === ledger.cursor.row && j === ledger.cursor.column,
        },
      ]"
      :aria-selected="isIn(ledger.range, index, j)"
      :aria-readonly="locked || row.cells[column.at]?.editable === false"
      @mousedown="emit('press', $event, index, j)"
      @mouseenter="emit('drag', j)"
      @dblclick="emit('edit')"
    >
      <input
        v-if="editing !== null && index === ledger.cursor.row && j === ledger.cursor.column"
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
      <template v-else-if="row.cells[column.at]"
        ><i v-if="row.cells[column.at]!.mine" class="bar y" aria-hidden="true" />{{
          row.cells[column.at]!.kind === 'parts' ? `${row.cells[column.at]!.text} inside` : row.cells[column.at]!.text || 'empty'
        }}</template
      ><template v-else>–</template>
    </span>
  </div>
</template>

<style scoped>
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
</style>
