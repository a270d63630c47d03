<script setup lang="ts">
import { onlineOf } from '@pasticcio/core'
import { clearPicture, drawPicture, paintsIn } from '~/charts/plotly'
import { PURSES, REST, STAYS, flowPicture, flowTraces, type FlowNode } from '~/charts/flow'
import { amountWords, groupWords } from '~/utils/economy-words'

/** Today's flow of money as ribbons; the labels are ours, and lead to what they tell of. */
const economy = useEconomyStore()
const HEIGHT = 255
const LEFT = 208
const RIGHT = 200
const element = useTemplateRef<HTMLElement>('element')
const { width } = useElementSize(element)
const { evening } = useTheme()
const failed = ref(false)
const picture = computed(() => flowPicture(economy.flow, economy.kinds, HEIGHT))
const columns = computed<[number, number, number]>(() => {
  const wide = Math.max(width.value, 560)
  return [LEFT, Math.round((LEFT + wide - RIGHT) / 2), wide - RIGHT]
})
const kindOf = (id: string) => economy.kinds.find((kind) => `kind ${kind.id}` === id)
const onlineAt = (id: string): string => {
  const kind = kindOf(id)
  return kind ? amountWords(Number(onlineOf(kind.kind).toFixed(1))) : ''
}

interface Label {
  readonly node: FlowNode
  readonly title: string
  readonly under: string
  readonly now: string
  /** Null where the drafts have the same. */
  readonly draft: string | null
  readonly layer: 'yours' | 'factory' | 'loop' | null
}
const labels = computed(() => picture.value.nodes.filter(({ column }) => column !== 'kind').map(labelOf))
function labelOf(node: FlowNode): Label {
  const { id, group, amount } = node
  const now = amountWords(Math.round(amount))
  if (group) {
    const isLoop = group.streams.some(({ doing }) => doing === 'loop')
    const isShipped = group.streams.every((stream) => stream.isShipped)
    const draft = Math.round(group.draft) === Math.round(group.now) ? null : amountWords(Math.round(group.draft))
    return { node, ...groupWords(group), now, draft, layer: isLoop ? 'loop' : isShipped ? 'factory' : 'yours' }
  }
  const bare = { node, now, draft: null, layer: null, under: '' }
  if (id === STAYS) return { ...bare, title: 'Stays in purses' }
  if (id === PURSES) return { ...bare, title: 'Out of purses' }
  return { ...bare, title: id === REST.in ? 'Other income' : 'Other costs' }
}
const isShown = ({ node }: Label, side: FlowNode['column']): boolean => node.column === side
const kinds = computed(() => picture.value.nodes.filter(({ column }) => column === 'kind'))

async function draw(): Promise<void> {
  const at = element.value
  if (!at || width.value === 0 || picture.value.links.length === 0) return
  try {
    const size = { width: Math.round(width.value), height: HEIGHT, columns: columns.value, focus: economy.focus }
    const { traces, layout } = flowTraces(picture.value, size, paintsIn(at))
    await drawPicture(at, traces, layout, 'flow')
    failed.value = false
  } catch {
    failed.value = true
  }
}
watch([width, evening, picture, () => economy.focus], () => void draw(), { flush: 'post' })
onBeforeUnmount(() => element.value && void clearPicture(element.value))

const nodes = useTemplateRef<HTMLElement>('nodes')
/** Along the flow by left and right, within a column by up and down. */
function step(event: KeyboardEvent): void {
  const by = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[event.key]
  const all = [...(nodes.value?.querySelectorAll<HTMLElement>('[data-column]') ?? [])]
  const here = all.indexOf(event.target as HTMLElement)
  if (!by || here < 0) return
  const columnOf = (one: HTMLElement): number => Number(one.dataset['column'])
  const own = all.filter((one) => columnOf(one) === columnOf(all[here]!))
  const next = by[0] === 0 ? own[own.indexOf(all[here]!) + by[1]!] : all.find((one) => columnOf(one) === columnOf(all[here]!) + by[0]!)
  next?.focus()
  event.preventDefault()
}
const look = (id: string): void => void (economy.focus = economy.focus === id ? '' : id)
</script>

<template>
  <div ref="nodes" class="flow" role="group" aria-label="Money an hour from its sources through kinds of players" @keydown="step">
    <p class="sums">
      <span class="left">comes in</span><b class="comes">{{ amountWords(Math.round(economy.flow.now.comesIn)) }}</b
      ><span class="goes">goes out</span><b class="right">{{ amountWords(Math.round(economy.flow.now.goesOut)) }}</b>
    </p>
    <div ref="element" class="ribbons" aria-hidden="true" />
    <p v-if="failed" class="none">The picture could not be drawn. Its numbers are in the table.</p>
    <div class="labels">
      <template v-for="(side, column) in ['in', 'out'] as const" :key="side">
        <button
          v-for="label in labels.filter((one) => isShown(one, side))"
          :key="label.node.id"
          class="label"
          :class="[
            side === 'in' ? 'west' : 'east',
            { two: label.under, loop: label.layer === 'loop', on: economy.focus === label.node.id },
          ]"
          :style="{ top: `${label.node.at - (label.under ? 15 : 9)}px` }"
          :data-column="column * 2"
          :aria-pressed="economy.focus === label.node.id"
          @click="look(label.node.id)"
        >
          <i v-if="label.draft" class="chg" />
          <span class="mark"
            ><FindingMark v-if="label.layer === 'loop'" kind="error" /><i
              v-else-if="label.layer"
              class="bar"
              :class="label.layer === 'yours' ? 'y' : 'f'"
          /></span>
          <span class="name cut">{{ label.title }}</span>
          <span class="value"
            >{{ label.now
            }}<template v-if="label.draft"
              >&nbsp;→ <b>{{ label.draft }}</b></template
            ></span
          >
          <span v-if="label.under" class="under cut">{{ label.under }}</span>
        </button>
      </template>
      <button
        v-for="node in kinds"
        :key="node.id"
        class="kind"
        :style="{ left: `${columns[1] + 8}px`, top: `${node.at - 16}px` }"
        data-column="1"
        :aria-pressed="economy.focus === node.id"
        @click="look(node.id)"
      >
        <b>{{ kindOf(node.id)?.name }}</b><span>{{ onlineAt(node.id) }} online</span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.flow {
  position: relative;
  height: 277px;
}
.sums {
  position: relative;
  height: 20px;
  font: 400 12px/22px var(--sans);
  color: var(--muted);
}
.sums > * {
  position: absolute;
}
.sums b {
  color: var(--crust);
}
.left {
  left: 16px;
}
.sums .comes {
  right: calc(100% - 200px);
}
.sums .goes {
  left: calc(100% - 189px);
}
.right {
  right: 16px;
}
.ribbons {
  height: 255px;
  overflow: hidden;
}
.none {
  position: absolute;
  inset: 110px 220px auto;
  text-align: center;
}
.labels {
  position: absolute;
  inset: 20px 0 0;
  pointer-events: none;
}
.label,
.kind {
  position: absolute;
  pointer-events: auto;
  font: var(--t-small);
  white-space: nowrap;
  text-align: left;
}
.label {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto;
  align-items: baseline;
  line-height: 17px;
}
.label.west {
  left: 16px;
  width: 184px;
}
.label.east {
  right: 12px;
  width: 177px;
}
.name {
  text-decoration: underline;
  text-decoration-color: var(--field-rule);
  text-underline-offset: 3px;
}
.label.on .name {
  font-weight: 700;
}
.value {
  padding-left: 8px;
}
.label.loop .name,
.label.loop .value {
  font-weight: 700;
  color: var(--error);
}
.under {
  grid-column: 2 / 4;
  font: var(--t-fine);
  color: var(--muted);
  line-height: 13px;
}
.label .chg {
  position: absolute;
  left: -12px;
  top: 3px;
}
.label.east .chg {
  left: auto;
  right: -9px;
}
.kind {
  display: grid;
  line-height: 16px;
  padding: 0 4px;
  border-radius: 2px;
  background: color-mix(in srgb, var(--flour) 72%, transparent);
}
.kind span {
  color: var(--muted);
}
</style>
