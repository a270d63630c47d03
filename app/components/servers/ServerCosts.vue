<script setup lang="ts">
/** The server in focus: what each change cost it, and what its plugins take of a tick. */
const house = useHouseStore()
const MOST_PLUGINS = 6
const server = computed(() => house.current!)
const marks = computed(() =>
  house.marksOf(server.value.slug).map((mark) => ({ ...mark, priced: typeof mark.cost === 'string' ? null : mark.cost })),
)
const players = computed(() => {
  const ranges = marks.value.flatMap(({ priced }) => priced?.players ?? [])
  return ranges.length > 0 ? `${Math.min(...ranges)} to ${Math.max(...ranges)}` : ''
})
const most = computed(() => Math.max(...house.plugins.flatMap(({ now, before }) => [now ?? 0, before ?? 0]), 0.1))
const shown = computed(() => house.plugins.slice(0, MOST_PLUGINS))
const others = computed(() => {
  const rest = house.plugins.slice(MOST_PLUGINS)
  const sum = (of: 'now' | 'before'): number | null =>
    rest.some((item) => item[of] !== null) ? rest.reduce((all, item) => all + (item[of] ?? 0), 0) : null
  return rest.length > 0 ? [{ plugin: `${rest.length} others`, now: sum('now'), before: sum('before') }] : []
})
const share = (ms: number | null): string => `${Math.min(100, (100 * (ms ?? 0)) / most.value)}%`
</script>

<template>
  <div class="h">What did it cost us? <span class="r muted">ticks/s, 2 h before and after</span></div>
  <p v-if="marks.length === 0" class="muted fine">Nothing was done to it in this time.</p>
  <table v-else class="cost" aria-label="Each thing that was done, with the tick rate before and after">
    <colgroup>
      <col />
      <col v-for="n in 3" :key="n" class="num" />
    </colgroup>
    <tbody>
      <tr v-for="mark in marks" :key="mark.letter" :class="{ now: mark.letter === house.letter }">
        <th scope="row">
          <button class="line" @click="house.look(server.slug, mark.letter)">
            <b class="lt">{{ mark.letter }}</b><span class="cut"
              >{{ mark.title }}<i>{{ shortTime(mark.at) }} {{ mark.by }}</i></span
            >
          </button>
        </th>
        <template v-if="mark.priced">
          <td>{{ mark.priced.before.toFixed(1) }}</td>
          <td>{{ mark.priced.after.toFixed(1) }}</td>
          <td class="b" :class="costLook(mark.priced.change)">{{ signed(mark.priced.change) }}</td>
        </template>
        <td v-else colspan="3" class="muted why">{{ whyNoCost(mark.cost) }}</td>
      </tr>
    </tbody>
  </table>
  <p v-if="players" class="muted fine">Measured with like numbers of players, {{ players }}.</p>
  <div class="h">
    Time of a tick, by plugin <span class="r muted">ms, now{{ house.mark ? ` and before ${house.mark.letter}` : '' }}</span>
  </div>
  <p v-if="house.plugins.length === 0" class="muted fine">Its console tells nothing of what plugins take.</p>
  <ol class="ms" aria-label="Milliseconds of a tick by plugin">
    <li v-for="item in [...shown, ...others]" :key="item.plugin">
      <span class="cut">{{ item.plugin }}</span>
      <span class="rail" aria-hidden="true"
        ><i :style="{ width: share(item.now) }" /><i v-if="item.before !== null" class="was" :style="{ left: share(item.before) }"
      /></span>
      <b>{{ item.now?.toFixed(1) ?? '–' }}</b>
      <span v-if="house.mark" class="muted">{{ item.before?.toFixed(1) ?? '–' }}</span>
    </li>
  </ol>
  <div v-if="house.mark?.apply" class="acts">
    <NuxtLink class="btn" :to="`/s/${server.slug}/history?change=${house.mark.apply}`">Look at {{ house.mark.letter }} in History</NuxtLink>
  </div>
</template>

<style scoped>
.h .r {
  float: right;
  font: var(--t-fine);
}
.fine {
  font: var(--t-fine);
}
.cost {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  border-top: 1px solid var(--hairline);
}
.cost tr > * {
  height: 36px;
  border-bottom: 1px solid var(--hairline);
  padding: 0;
}
.cost .num {
  width: 40px;
}
.cost td {
  font: var(--t-value);
  text-align: right;
}
.cost td.b {
  font-weight: 600;
}
.cost .why {
  font: var(--t-fine);
}
.cost tr.now {
  background: var(--wash-warning);
}
.line {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr);
  width: 100%;
  text-align: left;
  font: var(--t-small);
}
.line i {
  display: block;
  font: var(--t-fine);
  color: var(--muted);
  margin-top: -2px;
}
.lt {
  font: 600 11px/18px var(--mono);
}
.ms li {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr) 36px 36px;
  gap: 6px;
  height: 22px;
  align-items: center;
  font: var(--t-small);
}
.ms b,
.ms .muted {
  font: var(--t-value);
  text-align: right;
}
.ms b {
  font-weight: 600;
}
.rail {
  position: relative;
  height: 14px;
}
.rail i {
  position: absolute;
  top: 3px;
  left: 0;
  height: 7px;
  background: var(--fill-yours);
  outline: 1px solid var(--yours-edge);
}
.rail .was {
  top: 1px;
  width: 2px;
  height: 12px;
  background: var(--crust);
  outline: 0;
}
</style>
