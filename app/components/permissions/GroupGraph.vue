<script setup lang="ts">
import { graphOf, type GraphEdge, type GraphPoint } from '~/utils/group-graph'

/**
 * Who inherits from whom, over the heads of the columns. A point is drawn onto the one it shall inherit from; by keyboard, Enter takes
 * a point, arrows go over those it may inherit from, and Enter again sets or ends it. What would go round is not offered.
 */
const props = defineProps<{ /** Where the first column begins, and how wide each is. */ left: number; wide: number }>()
const permissions = usePermissionsStore()
const changes = useRightChangesStore()
const session = useSessionStore()
const groups = computed(() => permissions.columns.flatMap(({ group }) => group ?? []))
const graph = computed(() => graphOf(groups.value))
const taken = ref('')
const over = ref('')
/** Whether a point is being drawn; else one was taken by keyboard, which no pointer lets go. */
const isDrawn = ref(false)
const say = ref('')
const LANE = 13
const x = ({ column }: GraphPoint): number => props.left + (column + 0.5) * props.wide
const y = ({ lane }: GraphPoint): number => 8 + lane * LANE
/** Down to the lane of the group right behind its parent, and along it. */
function pathOf({ from, to }: GraphEdge): string {
  const [x1, y1, x2, y2] = [x(from), y(from), x(to), y(to)]
  if (y1 === y2) return `M${x1} ${y1}H${x2}`
  const turn = x1 + Math.sign(x2 - x1) * props.wide * 0.6
  return `M${x1} ${y1}C${(x1 + turn) / 2 + 6} ${y1} ${(x1 + turn) / 2 - 6} ${y2} ${turn} ${y2}H${x2}`
}
const isHeard = (name: string): boolean => {
  const subject = permissions.currentColumn?.subject
  return subject !== undefined && permissions.book.hears(subject, name)
}
/** Groups that one may inherit from, or does. */
const offered = (name: string): readonly string[] =>
  groups.value.map((group) => group.name).filter((other) => other !== name && !permissions.book.inherits(other, name))
const doesInherit = (name: string, parent: string): boolean =>
  permissions.groupBy(name)?.inherits.some((one) => one.name === parent) ?? false

async function link(name: string, parent: string): Promise<void> {
  taken.value = over.value = ''
  const group = permissions.groupBy(name)
  if (!group || !offered(name).includes(parent)) return
  say.value = doesInherit(name, parent) ? `${name} inherits from ${parent} no more` : `${name} inherits from ${parent} now`
  await changes.inherit(group, parent)
}
function down(event: PointerEvent, name: string): void {
  permissions.column = `group ${name}`
  over.value = ''
  isDrawn.value = session.mayEdit && event.button === 0
  taken.value = isDrawn.value ? name : ''
}
function entered(name: string): void {
  if (isDrawn.value && offered(taken.value).includes(name)) over.value = name
}
function up(): void {
  if (!isDrawn.value) return
  isDrawn.value = false
  if (over.value !== '') void link(taken.value, over.value)
  else taken.value = ''
}
useEventListener('pointerup', up)

function key(event: KeyboardEvent, name: string): void {
  if (event.key === 'Escape' && taken.value !== '') taken.value = over.value = ''
  else if (event.key === 'Enter' && taken.value === '') take(name)
  else if (event.key === 'Enter' && over.value !== '') void link(taken.value, over.value)
  else if (/^Arrow(?:Left|Right)$/.test(event.key) && taken.value !== '') step(event.key === 'ArrowRight' ? 1 : -1)
  else return
  event.preventDefault()
  event.stopPropagation()
}
function take(name: string): void {
  permissions.column = `group ${name}`
  if (!session.mayEdit || offered(name).length === 0) return
  taken.value = name
  step(0)
}
function step(by: number): void {
  const list = offered(taken.value)
  over.value = list[Math.min(list.length - 1, Math.max(0, list.indexOf(over.value) + by))] ?? ''
  say.value = `${taken.value}: ${doesInherit(taken.value, over.value) ? 'end inheriting' : 'inherit'} from ${over.value}?`
}
const labelOf = (name: string): string => {
  const parents = permissions.groupBy(name)?.inherits.map((one) => one.name) ?? []
  return `${name} inherits from ${parents.length === 0 ? 'nobody' : parents.join(', ')}`
}
</script>

<template>
  <svg class="graph" role="group" aria-label="Who inherits from whom" :width="left + wide * groups.length" height="54">
    <path
      v-for="edge in graph.edges"
      :key="`${edge.from.name} ${edge.to.name}`"
      :d="pathOf(edge)"
      class="edge"
      :class="{ heard: isHeard(edge.from.name) && isHeard(edge.to.name) }"
    />
    <line v-for="point in graph.points" :key="point.name" class="drop" :x1="x(point)" :x2="x(point)" :y1="y(point)" y2="54" />
    <path
      v-if="taken && over"
      class="edge new"
      :d="pathOf({ from: graph.points.find(({ name }) => name === over)!, to: graph.points.find(({ name }) => name === taken)! })"
    />
    <g
      v-for="point in graph.points"
      :key="point.name"
      class="point"
      :class="{ heard: isHeard(point.name), taken: taken === point.name, over: over === point.name }"
      role="button"
      tabindex="0"
      :aria-label="labelOf(point.name)"
      :aria-pressed="taken === point.name"
      @pointerdown="down($event, point.name)"
      @pointerenter="entered(point.name)"
      @pointerleave="isDrawn && over === point.name && (over = '')"
      @keydown="key($event, point.name)"
    >
      <title>{{ labelOf(point.name) }}</title>
      <circle class="around" :cx="x(point)" :cy="y(point)" r="11" />
      <circle class="dot" :cx="x(point)" :cy="y(point)" r="4.5" />
    </g>
  </svg>
  <span class="sr" role="status">{{ say }}</span>
</template>

<style scoped>
.graph {
  position: absolute;
  left: 0;
  top: 6px;
  display: block;
  pointer-events: none;
}
.edge {
  fill: none;
  stroke: var(--hairline);
  stroke-width: 1.5;
}
.edge.heard {
  stroke: var(--crust);
  stroke-width: 3;
}
.edge.new {
  stroke: var(--yours);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
.drop {
  stroke: var(--hairline);
}
.point {
  pointer-events: auto;
  cursor: grab;
  outline: none;
  touch-action: none;
}
.around {
  fill: transparent;
}
.dot {
  fill: var(--flour);
  stroke: var(--muted);
  stroke-width: 1.5;
}
.heard .dot {
  fill: var(--crust);
  stroke: var(--crust);
}
.point:focus-visible .around,
.over .around,
.taken .around {
  stroke: var(--crust);
  stroke-width: 2;
}
.over .around {
  stroke: var(--yours);
}
</style>
