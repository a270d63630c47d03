<script setup lang="ts">
import { firstDayOf, goalPrice, hoursToAfford, thingsOf, type AssumedGoal } from '@pasticcio/core'
import { amountWords, asWords, hoursWords } from '~/utils/economy-words'

/** What is to be affordable to whom and when, how long it takes, and how a first day is. */
const economy = useEconomyStore()
const session = useSessionStore()
/** Each has its own prices. */
const versions = computed(() =>
  economy.versions.map(({ version, economy: { streams, ...others } }) => ({
    name: version,
    streams,
    things: thingsOf({ streams, ...others }),
  })),
)
const priceNow = (goal: AssumedGoal): number | null => goalPrice(economy.things, goal)
function hoursOf(goal: AssumedGoal, { streams, things }: (typeof versions.value)[number]): number | null {
  const kind = economy.kinds.find(({ id }) => id === goal.kind)
  const price = goalPrice(things, goal)
  return kind && price !== null ? hoursToAfford(streams, kind.kind, price) : null
}
const change = (at: number, next: Partial<AssumedGoal>): void =>
  economy.setGoals(economy.goals.map((goal, i) => (i === at ? { ...goal, ...next } : goal)))
const remove = (at: number): void => economy.setGoals(economy.goals.filter((_goal, i) => i !== at))
function add(): void {
  const [thing, kind] = [economy.things[0], economy.kinds[0]]
  if (thing && kind) economy.setGoals([...economy.goals, { thing: thing.id, count: 1, kind: kind.id, hours: 10 }])
}
const newcomer = computed(() => economy.kinds.find(({ like }) => like === 'newcomer') ?? economy.kinds[0])
const firstDays = computed(() =>
  newcomer.value
    ? versions.value.map(({ name, streams, things }) => ({ name, day: firstDayOf(streams, newcomer.value!.kind, things) }))
    : [],
)
const setCount = (at: number, event: Event): void => {
  const count = Math.round(Number((event.target as HTMLInputElement).value))
  if (count > 0) change(at, { count })
}
const setHours = (at: number, event: Event): void => {
  const hours = Number((event.target as HTMLInputElement).value)
  if (hours > 0) change(at, { hours })
}
</script>

<template>
  <div class="goals scroll">
    <div class="grp">
      <h2>Goals</h2>
      <span class="ct">hours of play, on average</span>
      <button v-if="session.mayEdit" class="act push" @click="add">one more</button>
    </div>
    <table class="figures" v-if="economy.goals.length > 0">
      <thead>
        <tr>
          <th scope="col">who</th>
          <th scope="col">affords</th>
          <th scope="col" class="no">price</th>
          <th scope="col" class="no">in</th>
          <th v-for="{ name } in versions" :key="name" scope="col" class="no">{{ name }}</th>
          <th scope="col"><span class="sr">Take out</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(goal, i) in economy.goals" :key="i">
          <td>
            <select
              class="in"
              :value="goal.kind"
              :disabled="!session.mayEdit"
              :aria-label="`Whose goal ${i + 1} is`"
              @change="change(i, { kind: ($event.target as HTMLSelectElement).value })"
            >
              <option v-for="kind in economy.kinds" :key="kind.id" :value="kind.id">{{ kind.name }}</option>
            </select>
          </td>
          <td class="what">
            <input
              class="in count"
              inputmode="numeric"
              :value="goal.count"
              :disabled="!session.mayEdit"
              :aria-label="`How many of goal ${i + 1}`"
              @change="setCount(i, $event)"
            />
            <select
              class="in thing"
              :value="goal.thing"
              :disabled="!session.mayEdit"
              :aria-label="`What goal ${i + 1} is`"
              @change="change(i, { thing: ($event.target as HTMLSelectElement).value })"
            >
              <option v-if="priceNow(goal) === null" :value="goal.thing">{{ goal.thing }}, which is gone</option>
              <option v-for="thing in economy.things" :key="thing.id" :value="thing.id">
                {{ asWords(thing.name) }}, {{ thing.plugin }}
              </option>
            </select>
          </td>
          <td class="no">{{ priceNow(goal) === null ? '–' : amountWords(priceNow(goal)!) }}</td>
          <td class="no">
            <input
              class="in hours"
              inputmode="decimal"
              :value="goal.hours"
              :disabled="!session.mayEdit"
              :aria-label="`Hours of goal ${i + 1}`"
              @change="setHours(i, $event)"
            />
          </td>
          <td v-for="version in versions" :key="version.name" class="no">
            {{ priceNow(goal) === null ? '–' : hoursWords(hoursOf(goal, version)) }}
          </td>
          <td class="no">
            <button v-if="session.mayEdit" class="act" :aria-label="`Take out goal ${i + 1}`" @click="remove(i)">take out</button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="none muted">Nothing is to be affordable by a time yet.</p>
    <div class="grp">
      <h2>A first day</h2>
      <span class="ct">of one who is new: {{ newcomer ? `${amountWords(newcomer.hours.value)} h` : '' }}</span>
    </div>
    <table class="figures">
      <thead>
        <tr>
          <th scope="col"><span class="sr">Of which numbers</span></th>
          <th scope="col" class="no">begins with</th>
          <th scope="col" class="no">earns</th>
          <th scope="col" class="no">spends</th>
          <th scope="col" class="no">affords at once</th>
          <th scope="col" class="no">after that day</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ name, day } in firstDays" :key="name">
          <th scope="row">{{ name }}</th>
          <td class="no">{{ amountWords(day.start) }}</td>
          <td class="no">{{ amountWords(Math.round(day.earns)) }}</td>
          <td class="no">{{ amountWords(Math.round(day.spends)) }}</td>
          <td class="no">{{ day.atOnce }} of {{ day.things }}</td>
          <td class="no">{{ day.after }} of {{ day.things }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
table {
  margin-bottom: 12px;
}
.what {
  white-space: nowrap;
}
.count {
  width: 40px;
}
.hours {
  width: 48px;
}
.what .thing {
  max-width: 220px;
  text-align: left;
}
td:first-child .in {
  text-align: left;
}
.none {
  padding: 6px 16px;
}
</style>
