<script setup lang="ts">
import type { EconomyFacts, Role } from '@pasticcio/core'
import { asWords } from '~/utils/economy-words'
import { settingLink } from '~/utils/pointer-words'
import { ROLE_WORDS } from '~/utils/rule-words'

/** Settings that may be money and that nothing says so of: people say what they are, and are reckoned with from then on. */
type Maybe = EconomyFacts['maybe'][number]
const ROLES: readonly Role[] = ['price', 'payout', 'start-money', 'fee', 'interest', 'tax', 'wealth-tax', 'resale']
const economy = useEconomyStore()
const changes = useEconomyChangesStore()
const server = useServerStore()
const session = useSessionStore()
const all = computed(() => economy.answer.facts.maybe)

const say = (maybe: Maybe, event: Event): void => {
  const to = (event.target as HTMLSelectElement).value
  void changes.sayWhat(maybe, to === '' ? null : (to as Role))
}
const placeOf = ({ count, file, pointer }: Maybe): string =>
  `${count > 1 ? `in ${counted(count, 'entry', 'entries')}, ` : ''}line ${economy.lineOf(file, pointer)}`
const valuesOf = ({ values, count }: Maybe): string => values.join(', ') + (count > values.length ? ' …' : '')
</script>

<template>
  <section v-if="all.length > 0" class="maybe" aria-label="What may be money">
    <div class="grp">
      <h2>What may be money</h2>
      <span class="ct">{{ counted(all.length, 'setting') }}</span>
      <span class="r">nothing says what they are: say it once, and they count</span>
    </div>
    <table class="figures">
      <thead>
        <tr>
          <th scope="col">setting</th>
          <th scope="col">plugin</th>
          <th scope="col" class="no">says</th>
          <th scope="col">it is</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in all" :key="one.file + one.path">
          <th scope="row" class="cut">
            <NuxtLink :to="settingLink(server.slug, one.file, one.pointer)">{{ asWords(one.name) }}</NuxtLink>
            <span class="muted">&ensp;{{ placeOf(one) }}</span>
          </th>
          <td class="cut">{{ one.plugin }}</td>
          <td class="no cut">{{ valuesOf(one) }}</td>
          <td>
            <select
              v-if="session.mayEdit"
              class="in"
              :disabled="changes.isBusy"
              :aria-label="`What ${asWords(one.name)} of ${one.plugin} is`"
              @change="say(one, $event)"
            >
              <option disabled selected value="?">not known</option>
              <option v-for="role in ROLES" :key="role" :value="role">{{ ROLE_WORDS[role] }}</option>
              <option value="">no money</option>
            </select>
            <span v-else class="muted">not known</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
table {
  table-layout: fixed;
}
th:first-child {
  width: 40%;
}
td .in {
  text-align: left;
}
</style>
