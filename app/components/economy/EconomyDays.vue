<script setup lang="ts">
import { clearPicture, drawPicture, paintsIn } from '~/charts/plotly'
import { daysTraces } from '~/charts/days'
import { asWords, hoursWords, largeWords, rangeWords } from '~/utils/economy-words'
import type { Lived } from '~/stores/economy-days'

/** Weeks of all players, lived in a worker from several seeds: all money there is, and what players have of it. */
const economy = useEconomyStore()
const days = useEconomyDaysStore()
const HEIGHT = 118
const element = useTemplateRef<HTMLElement>('element')
const { width } = useElementSize(element)
const { evening } = useTheme()
const failed = ref(false)
const SPANS = [7, 14, 30, 60, 90]

onMounted(() => days.lived.length === 0 && void days.live())
onUnmounted(() => days.stop())

async function draw(): Promise<void> {
  const at = element.value
  if (!at || width.value === 0 || days.lived.length === 0) return
  try {
    const { traces, layout } = daysTraces(days.lived, { width: Math.round(width.value), height: HEIGHT }, paintsIn(at))
    await drawPicture(at, traces, layout)
    failed.value = false
  } catch {
    failed.value = true
  }
}
watch([width, evening, () => days.lived], () => void draw(), { flush: 'post' })
onBeforeUnmount(() => element.value && void clearPicture(element.value))

const kindOf = (id: string): string => economy.kinds.find((kind) => kind.id === id)?.name.toLowerCase() ?? id
/** What a goal is, by its number among all. */
function goalOf(number: string): { readonly words: string; readonly kind: string } | null {
  const goal = economy.goals[Number(number)]
  const thing = economy.things.find(({ id }) => id === goal?.thing)
  if (!goal || !thing) return null
  return {
    words: `${goal.count > 1 ? `${goal.count} ` : ''}${asWords(thing.name).toLowerCase()}, for ${kindOf(goal.kind)}`,
    kind: goal.kind,
  }
}
const rows = computed(() => {
  const of = (value: (lived: Lived) => string): string[] => days.lived.map(value)
  const percent = (share: number): string => `${Math.round(share * 100)} %`
  const first = days.lived[0]?.outlook
  if (!first) return []
  const end = ({ outlook }: Lived): (typeof first.supply)[number] => outlook.supply.at(-1)!
  return [
    { name: 'All there is', values: of((one) => largeWords(end(one).middle)) },
    {
      name: 'in 8 of 10 runs',
      values: of((one) => rangeWords(end(one).low, end(one).high)),
    },
    { name: 'A typical balance', values: of(({ outlook }) => largeWords(outlook.balances[1])) },
    { name: 'A tenth has less than', values: of(({ outlook }) => largeWords(outlook.balances[0])) },
    { name: 'A tenth has more than', values: of(({ outlook }) => largeWords(outlook.balances[2])) },
    { name: 'The richest tenth holds', values: of(({ outlook }) => percent(outlook.richest)) },
    ...first.reached.flatMap(({ goal, kind }, i) => {
      const own = goalOf(goal)
      return own?.kind === kind ? [{ name: own.words, values: of(({ outlook }) => hoursWords(outlook.reached[i]?.hours ?? null)) }] : []
    }),
  ]
})
</script>

<template>
  <section class="lived" aria-label="Days to come">
    <div class="grp">
      <h2>
        Over
        <select v-model.number="days.days" class="in span" aria-label="How many days">
          <option v-for="n in SPANS" :key="n" :value="n">{{ n }}</option>
        </select>
        days
      </h2>
      <span class="ct">{{ economy.money }} about</span>
      <label v-if="economy.update" class="tick"><input v-model="days.withUpdate" type="checkbox" /> with the updates</label>
      <span v-if="days.isLiving" class="r" role="status"
        >run {{ days.done }} of {{ days.total }}, <button class="act" @click="days.stop()">cancel</button></span
      >
      <span v-else-if="days.lived.length > 0" class="r"
        >line the middle run, band 8 of 10 · {{ days.runs }} runs from seed 7700<template v-if="days.isStale"
          >, of other numbers, <button class="act" @click="days.live()">anew</button></template
        ></span
      >
      <button v-else class="act push" @click="days.live()">Live {{ days.days }} days</button>
    </div>
    <Message v-if="days.problem" severity="error">{{ days.problem }}</Message>
    <ProgressBar
      v-if="days.isLiving && days.lived.length === 0"
      class="going"
      :value="days.total === 0 ? 0 : Math.round((100 * days.done) / days.total)"
      :show-value="false"
      aria-label="Days that are lived"
    />
    <div
      v-show="days.lived.length > 0"
      class="both"
      :style="{ '--versions': days.lived.length }"
      :class="{ stale: days.isStale || days.isLiving }"
    >
      <div
        ref="element"
        class="picture"
        role="img"
        :aria-label="`All money over ${days.days} days; the same numbers in the table beside it`"
      />
      <p v-if="failed" class="none">The picture could not be drawn. Its numbers are in the table.</p>
      <table class="figures">
        <thead>
          <tr>
            <th scope="col">after {{ days.days }} days</th>
            <th v-for="{ version } in days.lived" :key="version" scope="col" class="no">
              <i class="bar" :class="version === 'update' ? 'u' : version === 'today' ? 'y' : 'd'" /> {{ version }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.name">
            <th scope="row" class="cut">{{ row.name }}</th>
            <td v-for="(value, i) in row.values" :key="i" class="no">{{ value }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.both {
  display: grid;
  /* each version has a column of numbers */
  grid-template-columns: minmax(0, 1fr) calc(176px + var(--versions) * 92px);
  gap: 16px;
  padding: 4px 12px 8px 8px;
}
/* what is reckoned anew stays to be read, muted */
.stale .picture {
  opacity: 0.55;
}
.stale th,
.stale td {
  color: var(--muted);
}
.picture {
  height: 118px;
  min-width: 0;
  overflow: hidden;
}
.span {
  font: inherit;
  height: auto;
}
.tick {
  font: var(--t-fine);
  color: var(--muted);
  display: inline-flex;
  gap: 5px;
  align-items: center;
}
.going {
  margin: 8px 16px;
}
.both table {
  align-self: start;
  table-layout: fixed;
}
.both th,
.both td {
  height: 20px;
  padding: 0 0 0 8px;
}
.both th:first-child {
  padding: 0;
}
.both th:not(:first-child) {
  width: 92px;
}
.bar.d {
  width: 3px;
  height: 12px;
  background: var(--crust);
}
</style>
