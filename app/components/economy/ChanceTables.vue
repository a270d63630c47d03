<script setup lang="ts">
import { worthIn, worthOfDraw, worthOfEntry, type DrawTable, type TableEntry } from '@pasticcio/core'
import { amountWords, asWords, percentWords, tableWords } from '~/utils/economy-words'
import { settingLink } from '~/utils/pointer-words'

/** Tables that are drawn from: true percents, what a draw is worth, and after how many tries somebody has it. */
const economy = useEconomyStore()
const changes = useEconomyChangesStore()
const server = useServerStore()
const session = useSessionStore()
const worth = computed(() => worthIn(economy.draft.book))
/** How often an hour somebody draws, as it is assumed here for all tables. */
const drawsAnHour = useLocalStorage('pasticcio-draws-an-hour', 30)
const valueOf = ({ outcomes }: DrawTable): number => worthOfDraw(outcomes, worth.value.of)
const worthAt = (entry: TableEntry): string => {
  const value = worthOfEntry(entry, worth.value.of)
  return value === null ? '–' : amountWords(value)
}
const before = (table: DrawTable, entry: TableEntry): number | null => {
  const was = economy.tablesBefore.get(table.id)
  if (!was) return null
  const share = was.entries.find(({ pointer }) => pointer === entry.pointer)?.chance ?? 0
  return Math.abs(share - entry.chance) < 1e-9 ? null : share
}
const triesOf = (table: DrawTable, entry: TableEntry): number | null | undefined =>
  table.outcomes.find(({ name }) => name === entry.name)?.tries
const innerOf = (id: string): DrawTable | undefined => economy.tables.find((table) => table.id === id)
const circleOf = ({ circle }: DrawTable): string => (circle ?? []).map((id) => (innerOf(id) ? tableWords(innerOf(id)!) : id)).join(' → ')

const write = ({ file }: DrawTable, { pointer, name, weight, around }: TableEntry, event: Event): Promise<void> =>
  changes.type(event.target as HTMLInputElement, { file, pointer, around }, { what: 'weight', name: asWords(name), says: weight })
</script>

<template>
  <div class="chances scroll">
    <p class="per">
      <label>somebody draws <input v-model.number="drawsAnHour" class="in" type="number" min="0" /> times an hour</label>
      <span class="muted">tries: until one, in nine of ten cases</span>
    </p>
    <section v-for="table in economy.tables" :key="table.id" :aria-label="tableWords(table)">
      <div class="grp">
        <h2>{{ tableWords(table) }}</h2>
        <span class="ct">{{ table.plugin }}</span>
        <span class="r"
          >{{ table.isOne ? 'one of these at each draw' : 'each by itself' }} · {{ amountWords(valueOf(table)) }} {{ economy.money }} a
          draw, {{ amountWords(Math.round(valueOf(table) * drawsAnHour)) }} an hour</span
        >
      </div>
      <p v-if="table.circle" class="problem mild">{{ circleOf(table) }} goes round in a circle: a draw from it never ends.</p>
      <table class="figures">
        <thead>
          <tr>
            <th scope="col">what</th>
            <th scope="col" class="no">{{ table.isByWeight ? 'weight' : 'chance' }}</th>
            <th scope="col"><span class="sr">As a bar</span></th>
            <th scope="col" class="no">comes in</th>
            <th scope="col" class="no">one after</th>
            <th scope="col" class="no">worth</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="entry in table.entries" :key="entry.pointer" :class="{ staged: before(table, entry) !== null }">
            <th scope="row" class="cut">
              <NuxtLink :to="settingLink(server.slug, table.file, entry.pointer)"
                ><code>{{ entry.name }}</code></NuxtLink
              ><template v-if="entry.count > 1"> × {{ entry.count }}</template>
              <span v-if="entry.table" class="muted">
                draws from {{ innerOf(entry.table) ? tableWords(innerOf(entry.table)!) : entry.name }}</span
              >
            </th>
            <td class="no">
              <input
                class="in"
                inputmode="decimal"
                :value="entry.weight"
                :disabled="!session.mayEdit || changes.isBusy"
                :aria-label="`${table.isByWeight ? 'Weight' : 'Chance'} of ${entry.name} in ${tableWords(table)}`"
                @change="write(table, entry, $event)"
                @keydown.enter.prevent="write(table, entry, $event)"
              />
            </td>
            <td class="track"><i :style="{ width: `${Math.max(0.5, entry.chance * 100)}%` }" /></td>
            <td class="no share">
              <s v-if="before(table, entry) !== null" class="muted">{{ percentWords(before(table, entry)!) }}</s>
              {{ percentWords(entry.chance) }}
            </td>
            <td class="no">
              <template v-if="entry.table">–</template
              ><template v-else>{{
                triesOf(table, entry) === null ? 'never' : counted(triesOf(table, entry) ?? 0, 'try', 'tries')
              }}</template>
            </td>
            <td class="no muted">{{ worthAt(entry) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="table.entries.some((entry) => entry.table)" class="resolved">
        In the end
        <span v-for="{ name, chance, tries } in table.outcomes" :key="name"
          ><code>{{ name }}</code> {{ percentWords(chance)
          }}<template v-if="tries !== null">, {{ counted(tries, 'try', 'tries') }}</template></span
        >
      </p>
    </section>
    <div v-if="economy.tables.length === 0" class="state">
      <h2>Nothing is drawn here</h2>
      <p>No plugin of this server has a table of weights or chances.</p>
    </div>
  </div>
</template>

<style scoped>
.per {
  display: flex;
  gap: 16px;
  align-items: baseline;
  margin: 0;
  padding: 6px 16px;
  font: var(--t-small);
}
.per .in {
  width: 48px;
  text-align: right;
}
table {
  table-layout: fixed;
  margin-bottom: 10px;
}
th:first-child {
  width: 30%;
}
th:nth-child(2) {
  width: 76px;
}
td .in {
  width: 56px;
}
.track i {
  display: block;
  height: 7px;
  background: var(--fill-factory);
  border: 1px solid var(--factory);
}
.staged .track i {
  background: var(--fill-yours);
  border-color: var(--yours-edge);
}
.staged th {
  box-shadow: inset 3px 0 var(--crust);
}
.resolved {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin: 0 16px 12px;
  font: var(--t-fine);
  color: var(--muted);
}
</style>
