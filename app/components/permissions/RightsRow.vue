<script setup lang="ts">
import type { Subject } from '@pasticcio/core'
import type { NodeLine, ShownColumn } from '~/utils/permission-rows'
import { rightWords, signOf } from '~/utils/right-words'

/** One node with the right of each subject in sight; drawn anew only where something of it is another. */
const props = defineProps<{
  row: NodeLine
  across: readonly ShownColumn[]
  /** The column in focus, where the row is; empty else. */
  focused: string
  isOn: boolean
}>()
const emit = defineEmits<{ choose: [column: string | null] }>()
const permissions = usePermissionsStore()

/** What is to be said to the console of it, and for how long; empty for nothing. */
function saidOf(subject: Subject): string {
  if (!('player' in subject)) return ''
  const staged = permissions.answer.staged.find(
    ({ change }) => change.player === subject.player && change.what === 'node' && change.name === props.row.id,
  )
  const term = staged?.change.term
  return staged ? `›_${term ? `${term.amount}${term.unit[0]}` : ''}` : ''
}
interface Drawn {
  readonly id: string
  readonly style: { readonly left: string }
  readonly sign: string
  readonly words: string
  readonly isStaged: boolean
  readonly said: string
}
/** What was drawn stays as it is while one scrolls, until somebody may something else. */
const known = computed(() => ({ of: [permissions.book, permissions.before, props.row.id], cells: new Map<string, Drawn>() }))
const cells = computed(() => {
  const { cells: drawn } = known.value
  return props.across.map((column) => {
    const key = `${column.column.id} ${column.left}`
    const cell = drawn.get(key) ?? drawnOf(column)
    drawn.set(key, cell)
    // the place is another where the window is: it is not the cell's to keep
    return { cell, slot: column.slot }
  })
})
function drawnOf({ column: { id, name, subject }, left }: ShownColumn): Drawn {
  const { book, before } = permissions
  const cell = book.cell(subject, props.row.id)
  return {
    id,
    style: { left: `${left}px` },
    sign: `sign-${signOf(cell)}`,
    words: `${name}: ${rightWords(cell)}`,
    isStaged: before !== null && before.may(subject, props.row.id) !== cell.may,
    said: saidOf(subject),
  }
}
</script>

<template>
  <div class="line" role="row" :aria-selected="isOn" :class="{ on: isOn }">
    <span class="words cut" role="rowheader" :title="row.words" @click="emit('choose', null)"
      >{{ row.words }} <span v-if="row.node.isStaff" class="muted">staff</span></span
    >
    <code class="node cut" role="gridcell" :title="row.id" @click="emit('choose', null)">{{ row.name }}</code>
    <span
      v-for="{ cell, slot } in cells"
      :key="slot"
      v-memo="[cell, cell.id === focused]"
      class="right"
      role="gridcell"
      :class="[cell.sign, { at: cell.id === focused, staged: cell.isStaged, told: cell.said }]"
      :style="cell.style"
      :aria-label="cell.words"
      @click="emit('choose', cell.id)"
      ><span v-if="cell.said" class="said">{{ cell.said }}</span></span
    >
  </div>
</template>

<style>
.rights .right.staged {
  background-color: var(--wash-yours);
}
/* the sign makes room for the words beside it */
.rights .right.told {
  padding-right: 26px;
  background-origin: content-box;
}
.rights .right .said {
  position: absolute;
  right: 3px;
  font: var(--t-fine);
  line-height: 24px;
  color: var(--crust);
}
.rights .right.at {
  outline: 2px solid var(--crust);
  outline-offset: -2px;
}
</style>
