<script setup lang="ts">
import { clearPicture, drawPicture, paintsIn } from '~/charts/plotly'
import { gapsOf, staveOf, type Paints } from '~/charts/stave'
import type { LetteredMark } from '~/stores/house'
import type { TimeLine } from '~/utils/time-line'
import type { Load } from '~/utils/types'

/** How one server ran: ticks a second, players, and a letter wherever something was done to it. */
const props = defineProps<{
  load: Load
  lines: readonly TimeLine[]
  marks: readonly LetteredMark[]
  isRunning: boolean
  label: string
  letter: string
}>()
defineEmits<{ look: [letter: string] }>()
const HEIGHT = 112
const picture = useTemplateRef<HTMLElement>('picture')
const { width } = useElementSize(picture)
const { evening } = useTheme()
const failed = ref(false)

const placed = computed(() => {
  const { from, until } = props.load
  let last = -Infinity
  return props.marks.map((mark) => {
    // letters that would lie on each other stand side by side
    const left = Math.max((width.value * (mark.at - from)) / (until - from), last + 16)
    last = left
    return { ...mark, left: Math.min(left, width.value) }
  })
})
const stopped = computed(() => {
  const { from: first, until: last } = props.load
  return gapsOf(props.load, props.isRunning)
    .map(([from, until]) => ({
      left: (50 * (from + until - 2 * first)) / (last - first),
      share: (until - from) / (last - first),
      words: until === last ? 'stopped' : 'not measured',
    }))
    .filter(({ share }) => share > 0.1)
})

/** The paints are those of the page, by day and in the evening. */
function paintsOf(element: HTMLElement): Paints {
  const of = paintsIn(element)
  return {
    line: of('--crust'),
    slow: of('--error'),
    players: of('--fill-factory'),
    playersEdge: of('--factory'),
    hour: of('--hairline'),
    rule: of('--field-rule'),
    stopped: of('--semolina'),
  }
}
async function draw(): Promise<void> {
  const element = picture.value
  if (!element || width.value === 0) return
  try {
    const stave = { width: Math.round(width.value), height: HEIGHT, isRunning: props.isRunning }
    const { traces, layout } = staveOf(props.load, props.lines, paintsOf(element), stave)
    await drawPicture(element, traces, layout)
  } catch {
    failed.value = true
  }
}
watch([width, evening, () => props.load, () => props.isRunning], () => void draw(), { flush: 'post' })
onBeforeUnmount(() => picture.value && void clearPicture(picture.value))
</script>

<template>
  <div class="stave">
    <div ref="picture" class="picture" role="img" :aria-label="label" />
    <p v-if="failed" class="none">The picture could not be drawn. Its numbers are in the table.</p>
    <span v-for="gap in stopped" :key="gap.left" class="gap" :style="{ left: `${gap.left}%` }" aria-hidden="true">{{ gap.words }}</span>
    <button
      v-for="mark in placed"
      :key="mark.letter"
      class="mark"
      :class="{ on: mark.letter === letter }"
      :style="{ left: `${mark.left}px` }"
      :aria-label="`${mark.letter}: ${mark.title}`"
      :aria-pressed="mark.letter === letter"
      @click="$emit('look', mark.letter)"
    >
      {{ mark.letter }}
    </button>
  </div>
</template>

<style scoped>
.stave {
  position: relative;
  height: 112px;
}
.picture {
  height: 112px;
  overflow: hidden;
}
.none {
  position: absolute;
  inset: 40px 0 auto;
  text-align: center;
}
.gap {
  position: absolute;
  top: 56px;
  transform: translateX(-50%);
  font: var(--t-fine);
  color: var(--muted);
  pointer-events: none;
}
.mark {
  position: absolute;
  top: 0;
  width: 14px;
  height: 14px;
  margin-left: -7px;
  font: 600 11px/12px var(--mono);
  text-align: center;
  border: 1px solid var(--crust);
  border-radius: 2px;
  background: var(--flour);
  color: var(--crust);
}
/* what can be pressed is larger than what is seen, and the line goes down to the base */
.mark::before {
  content: '';
  position: absolute;
  inset: -6px -6px;
}
.mark::after {
  content: '';
  position: absolute;
  left: 5.5px;
  top: 13px;
  height: 98px;
  border-left: 1px solid var(--crust);
  pointer-events: none;
}
.mark.on {
  background: var(--crust);
  color: var(--flour);
}
</style>
