<script setup lang="ts">
import type { NodeHead, ShownColumn } from '~/utils/permission-rows'

/** Groups across and nodes down, each with where its right comes from; only what is in sight is drawn. */
const permissions = usePermissionsStore()
const root = useTemplateRef<HTMLElement>('root')
const { height, width } = useElementSize(root)
const top = ref(0)
const left = ref(0)
const ROW = 24
const HEADS = 112
/** Words, node, and each group, in pixels; the words take what is left. */
const LEAST = 200
const MOST = 380
const NODE = 132
const COLUMN = 64
const words = computed(() => Math.min(MOST, Math.max(LEAST, width.value - NODE - permissions.columns.length * COLUMN)))
/** So many groups are drawn as a graph; more would be no picture. */
const MOST_DRAWN = 40
/** Rows and columns beyond the window that are drawn too. */
const SPARE = 2
const first = computed(() => Math.max(0, Math.floor(top.value / ROW) - SPARE))
const last = computed(() => Math.min(permissions.rows.length, Math.ceil((top.value + Math.max(height.value, 600)) / ROW) + SPARE))
/** Lines that leave the window are drawn anew as those that come into it. */
const rowSlots = computed(() => Math.ceil(Math.max(height.value, 600) / ROW) + 2 * SPARE + 1)
const drawn = computed(() =>
  permissions.rows.slice(first.value, last.value).map((row, i) => {
    const at = first.value + i
    return { row, top: at * ROW + HEADS, slot: at % rowSlots.value }
  }),
)
/** Columns come and go by threes, so that not each step across draws all lines anew. */
const STEP = 3
const byStep = (columns: number, round: (value: number) => number): number => round(columns / STEP) * STEP
const from = computed(() => byStep(left.value / COLUMN, Math.floor))
/** The width that is left for columns. */
const room = computed(() => Math.max(width.value, 800) - words.value - NODE)
const to = computed(() => Math.min(permissions.columns.length, byStep((left.value + room.value) / COLUMN, Math.ceil)))
const columnSlots = computed(() => byStep(room.value / COLUMN, Math.ceil) + STEP)
const across = computed(() =>
  permissions.columns.slice(from.value, to.value).map((column, i): ShownColumn => {
    const at = from.value + i
    return { column, left: words.value + NODE + at * COLUMN, slot: at % columnSlots.value }
  }),
)
const whole = computed(() => ({
  width: `${words.value + NODE + permissions.columns.length * COLUMN}px`,
  height: `${permissions.rows.length * ROW + HEADS}px`,
  '--words': `${words.value}px`,
}))
/** How many nodes of a head each subject may; reckoned once, until somebody changes something. */
const counts = computed(() => ({ book: permissions.book, rows: permissions.rows, known: new Map<string, number>() }))
function held({ id, nodes }: NodeHead, { id: column, subject }: (typeof permissions.columns)[number]): number {
  const { book, known } = counts.value
  const key = `${id} ${column}`
  let count = known.get(key)
  if (count === undefined) known.set(key, (count = nodes.filter((node) => book.may(subject, node)).length))
  return count
}
const active = computed(() => (permissions.node ? `right-${permissions.node}` : undefined))

/** Brings what is in focus into sight. */
function show(): void {
  const { value: element } = root
  const at = permissions.rows.findIndex(({ id }) => id === permissions.node)
  if (at < 0 || !element) return
  const y = at * ROW
  if (y < element.scrollTop + ROW) element.scrollTop = Math.max(0, y - ROW)
  else if (y + ROW + HEADS > element.scrollTop + element.clientHeight) element.scrollTop = y + ROW + HEADS - element.clientHeight
  const x = permissions.columns.findIndex(({ id }) => id === permissions.column) * COLUMN
  const wide = element.clientWidth - words.value - NODE
  if (x < element.scrollLeft) element.scrollLeft = x
  else if (x + COLUMN > element.scrollLeft + wide) element.scrollLeft = x + COLUMN - wide
}
defineExpose({ show })
function choose(node: string, column: string | null): void {
  permissions.node = node
  if (column !== null) permissions.column = column
}
function scrolled(event: Event): void {
  const element = event.target as HTMLElement
  top.value = element.scrollTop
  left.value = element.scrollLeft
}
</script>

<template>
  <div
    ref="root"
    class="rights"
    role="grid"
    tabindex="0"
    aria-label="Who may do what"
    :aria-rowcount="permissions.rows.length + 1"
    :aria-colcount="permissions.columns.length + 2"
    :aria-activedescendant="active"
    @scroll="scrolled"
  >
    <div class="all" role="presentation" :style="whole">
      <div class="heads" role="row" :style="{ width: whole.width }">
        <span v-if="permissions.columns.length <= MOST_DRAWN" role="columnheader"
          ><LazyGroupGraph :left="words + NODE" :wide="COLUMN"
        /></span>
        <span class="corner" role="columnheader"
          ><span class="sr">What may be done</span><RightsLegend /><span class="scales" aria-hidden="true"
            ><span>weight</span><span>players</span></span
          ></span
        >
        <span
          v-for="{ column, left: at, slot } in across"
          :key="slot"
          class="colhead"
          role="columnheader"
          :class="{ on: column.id === permissions.column }"
          :style="{ left: `${at}px` }"
          @click="permissions.column = column.id"
        >
          <span class="cut" :title="column.name">{{ column.name }}</span>
          <code>{{ column.group ? (column.group.weight ?? '–') : 'player' }}</code>
          <code>{{ column.players }}</code>
        </span>
      </div>
      <template v-for="{ row, top: at, slot } in drawn" :key="slot">
        <div v-if="row.kind === 'head'" class="line head" role="row" :style="{ transform: `translateY(${at}px)`, width: whole.width }">
          <span class="words" role="rowheader"
            ><h2 class="cut">{{ row.title }}</h2></span
          >
          <code class="node" role="gridcell"
            >{{ row.prefix }} <span>of {{ row.nodes.length }}</span></code
          >
          <span v-for="{ column, left: x, slot: place } in across" :key="place" class="right" role="gridcell" :style="{ left: `${x}px` }">{{
            held(row, column)
          }}</span>
        </div>
        <RightsRow
          v-else
          :id="`right-${row.id}`"
          :row="row"
          :across="across"
          :focused="row.id === permissions.node ? permissions.column : ''"
          :is-on="row.id === permissions.node"
          :style="{ transform: `translateY(${at}px)`, width: whole.width }"
          @choose="(column) => choose(row.id, column)"
        />
      </template>
    </div>
  </div>
</template>

<style>
.rights {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.rights .all {
  position: relative;
}
.rights .heads {
  position: sticky;
  top: 0;
  z-index: 2;
  height: 112px;
  background: var(--flour);
  border-bottom: 1px solid var(--hairline);
}
.rights .corner,
.rights .words {
  position: sticky;
  left: 0;
  z-index: 1;
  display: inline-block;
  width: var(--words);
  padding-left: 16px;
  background: inherit;
}
.rights .corner {
  display: inline-flex;
  justify-content: space-between;
  width: calc(var(--words) + 132px);
  height: 111px;
  padding: 8px 8px 0 16px;
  font: var(--t-fine);
  color: var(--muted);
  background: var(--flour);
}
.rights .scales {
  display: grid;
  align-content: end;
  justify-items: end;
  padding-bottom: 6px;
}
.rights .colhead {
  position: absolute;
  bottom: 4px;
  width: 64px;
  display: grid;
  justify-items: center;
  font: var(--t-small);
  cursor: default;
}
.rights .colhead code {
  font: var(--t-fine);
  color: var(--muted);
}
.rights .colhead .cut {
  max-width: 62px;
}
.rights .colhead.on .cut {
  font-weight: 700;
}
.rights .line {
  position: absolute;
  inset: 0 auto auto 0;
  height: 24px;
  line-height: 24px;
  background: var(--flour);
  white-space: nowrap;
  contain: layout style;
}
.rights .line.head {
  border-bottom: 1px solid var(--hairline);
}
.rights .line.head h2 {
  font: var(--t-section);
  line-height: 23px;
}
.rights .line.on {
  background: var(--semolina);
}
.rights .words {
  height: 23px;
  font: var(--t-small);
  line-height: 24px;
  vertical-align: top;
}
.rights :is(.words .muted, .head .node, .head .right) {
  font: var(--t-fine);
  line-height: 24px;
  color: var(--muted);
}
.rights .node {
  position: sticky;
  left: var(--words);
  z-index: 1;
  display: inline-block;
  width: 132px;
  height: 23px;
  padding: 0 4px;
  font: var(--t-value);
  line-height: 24px;
  background: inherit;
  vertical-align: top;
}
.rights .head .node {
  display: inline-flex;
  justify-content: space-between;
}
.rights .right {
  position: absolute;
  top: 0;
  width: 64px;
  height: 24px;
  text-align: center;
}
.rights .line:not(.head) .right {
  border-left: 1px solid var(--hairline);
}
</style>
