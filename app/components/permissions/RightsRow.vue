<script setup lang="ts">
import type { Subject } from '@pasticcio/core'
import type { Column } from '~/stores/permissions'
import type { NodeLine } from '~/utils/permission-rows'
import { rightWords } from '~/utils/right-words'

/** One node with the right of each subject in sight; drawn anew only where something of it is another. */
const props = defineProps<{
  row: NodeLine
  across: readonly { readonly column: Column; readonly left: number }[]
  /** The column in focus, where the row is; empty else. */
  focused: string
  isOn: boolean
}>()
const emit = defineEmits<{ choose: [column: string | null] }>()
const permissions = usePermissionsStore()

const cells = computed(() =>
  props.across.map(({ column, left }) => ({ column, left, cell: permissions.book.cell(column.subject, props.row.id) })),
)
/** What is to be said to the console of it, for how long; null for nothing. */
function saidOf(subject: Subject): { readonly term: string } | null {
  if (!('player' in subject)) return null
  const staged = permissions.answer.staged.find(
    ({ change }) => change.player === subject.player && change.what === 'node' && change.name === props.row.id,
  )
  const term = staged?.change.term
  return staged ? { term: term ? `${term.amount}${term.unit[0]}` : '' } : null
}
/** Whether the drafts change what somebody may. */
const isStaged = (subject: Subject, may: boolean): boolean =>
  permissions.before !== null && permissions.before.may(subject, props.row.id) !== may
</script>

<template>
  <div class="line" role="row" :aria-selected="isOn" :class="{ on: isOn }">
    <span class="words cut" role="rowheader" :title="row.words" @click="emit('choose', null)"
      >{{ row.words }} <span v-if="row.node.isStaff" class="muted">staff</span></span
    >
    <code class="node cut" role="gridcell" :title="row.id" @click="emit('choose', null)">{{ row.name }}</code>
    <span
      v-for="{ column, left: x, cell } in cells"
      :key="column.id"
      class="right"
      role="gridcell"
      :class="{ at: column.id === focused, staged: isStaged(column.subject, cell.may) }"
      :style="{ left: `${x}px` }"
      :aria-label="`${column.name}: ${rightWords(cell)}`"
      @click="emit('choose', column.id)"
      ><RightSign :cell="cell" /><span v-if="saidOf(column.subject)" class="said">›_{{ saidOf(column.subject)!.term }}</span></span
    >
  </div>
</template>
