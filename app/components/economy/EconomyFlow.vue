<script setup lang="ts">
import type { FlowGroup } from '@pasticcio/core'
import { amountWords, asWords, groupWords } from '~/utils/economy-words'

/** Money an hour: where it comes from, through whom it goes, and where it goes to; the same numbers as a picture and as a table. */
const economy = useEconomyStore()
const VIEWS = [
  { id: 'picture', name: 'Picture' },
  { id: 'table', name: 'Table' },
] as const
const view = ref<(typeof VIEWS)[number]['id']>('picture')
const flow = computed(() => economy.flow)
const isOther = computed(() => Math.abs(flow.value.draft.stays - flow.value.now.stays) > 0.5)
const of = (way: FlowGroup['way']): readonly FlowGroup[] => flow.value.groups.filter((group) => group.way === way)
const partOf = (group: FlowGroup, kind: string): number => group.by.find((one) => one.kind === kind)?.amount ?? 0
</script>

<template>
  <section class="flowing" aria-label="Money an hour">
    <div class="grp">
      <h2>{{ asWords(economy.money) }} an hour</h2>
      <span class="ct"
        >{{ amountWords(Math.round(flow.now.stays)) }} stay today<template v-if="isOther"
          >, <i class="chg" />{{ amountWords(Math.round(flow.draft.stays)) }} in the draft</template
        ></span
      >
      <BaseSegments v-model="view" class="push" :options="VIEWS" label="Show as" />
    </div>
    <LazyFlowPicture v-if="view === 'picture'" />
    <table v-else class="figures numbers">
      <caption class="sr">
        Money an hour by source and drain, and by kind of player
      </caption>
      <thead>
        <tr>
          <th scope="col">what</th>
          <th scope="col">plugin</th>
          <th v-for="kind in economy.kinds" :key="kind.id" scope="col" class="no">{{ kind.name }}</th>
          <th scope="col" class="no">today</th>
          <th scope="col" class="no">draft</th>
        </tr>
      </thead>
      <tbody v-for="way in ['in', 'out'] as const" :key="way">
        <tr class="head">
          <th scope="rowgroup" :colspan="economy.kinds.length + 2">{{ way === 'in' ? 'Comes in' : 'Goes out' }}</th>
          <td class="no">{{ amountWords(Math.round(way === 'in' ? flow.now.comesIn : flow.now.goesOut)) }}</td>
          <td class="no">{{ amountWords(Math.round(way === 'in' ? flow.draft.comesIn : flow.draft.goesOut)) }}</td>
        </tr>
        <tr v-for="group in of(way)" :key="group.id" :class="{ on: economy.focus === group.id }">
          <th scope="row">
            <button class="act" @click="economy.focus = group.id">{{ groupWords(group).title }}</button>
          </th>
          <td class="muted">{{ groupWords(group).under }}</td>
          <td v-for="kind in economy.kinds" :key="kind.id" class="no">{{ amountWords(partOf(group, kind.id)) }}</td>
          <td class="no">{{ amountWords(group.now) }}</td>
          <td class="no" :class="{ b: group.draft !== group.now }">{{ amountWords(group.draft) }}</td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <th scope="row" :colspan="economy.kinds.length + 2">Stays in purses</th>
          <td class="no">{{ amountWords(Math.round(flow.now.stays)) }}</td>
          <td class="no">{{ amountWords(Math.round(flow.draft.stays)) }}</td>
        </tr>
      </tfoot>
    </table>
  </section>
</template>

<style scoped>
.ct .chg {
  margin-right: 5px;
}
.flowing {
  border-bottom: 1px solid var(--hairline);
}
.numbers .act {
  font: inherit;
}
.numbers .head th,
.numbers .head td,
.numbers tfoot th,
.numbers tfoot td,
.numbers td.b {
  font-weight: 700;
}
.numbers .on {
  background: var(--semolina);
}
</style>
