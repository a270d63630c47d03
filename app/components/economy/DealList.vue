<script setup lang="ts">
import { unpriced, type ValuedDeal } from '@pasticcio/core'
import { amountWords, asWords, changeWords } from '~/utils/economy-words'
import { settingLink } from '~/utils/pointer-words'

/** Bundles and rewards as the sum of what is in them. */
const economy = useEconomyStore()
const server = useServerStore()
const known = useKnownStore()
/** Items of the game that are given, drawn or asked for, and cost and bring nothing anywhere. */
const unknown = computed(() => unpriced(economy.answer.facts, economy.draft.book, (name) => known.ids['items']?.has(name) ?? false))
const itemsOf = ({ items }: ValuedDeal): string => items.map(({ item, count }) => `${count} ${item}`).join(', ')
const moneyOf = ({ money, isBought }: ValuedDeal): string =>
  money ? `${isBought ? 'costs' : 'pays'} ${amountWords(money.amount)}` : 'free'
function pauseOf({ cooldown }: ValuedDeal): string {
  if (cooldown === null || cooldown === 0) return 'any time'
  const [size, unit] = cooldown < 3600 ? ([60, 'min'] as const) : cooldown < 172_800 ? ([3600, 'h'] as const) : ([86_400, 'd'] as const)
  return `each ${amountWords(cooldown / size)} ${unit}`
}
</script>

<template>
  <section v-if="economy.deals.length > 0" class="deals" aria-label="Bundles and rewards">
    <div class="grp">
      <h2>Bundles and rewards</h2>
      <span class="ct">{{ counted(economy.deals.length, 'entry', 'entries') }}</span>
      <span class="r">worth what their items bring, or cost</span>
    </div>
    <table class="figures">
      <thead>
        <tr>
          <th scope="col">what</th>
          <th scope="col">plugin</th>
          <th scope="col">items</th>
          <th scope="col" class="no">money</th>
          <th scope="col" class="no">bring</th>
          <th scope="col" class="no">cost</th>
          <th scope="col" class="no">gain</th>
          <th scope="col" class="no">again</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="deal in economy.deals" :key="deal.file + deal.pointer">
          <th scope="row" class="cut">
            <NuxtLink :to="settingLink(server.slug, deal.file, deal.money?.pointer ?? deal.pointer)">{{ asWords(deal.name) }}</NuxtLink>
          </th>
          <td class="muted cut">{{ deal.plugin }}</td>
          <td class="cut" :title="itemsOf(deal)">
            {{ itemsOf(deal) }}<span v-if="deal.unknown.length > 0" class="wrn">, {{ deal.unknown.join(', ') }} without a price</span>
          </td>
          <td class="no">{{ moneyOf(deal) }}</td>
          <td class="no">{{ amountWords(deal.brings) }}</td>
          <td class="no">{{ amountWords(deal.costs) }}</td>
          <td class="no" :class="{ err: deal.gain > 0 && deal.gainAnHour === null && deal.money }">{{ changeWords(deal.gain) }}</td>
          <td class="no muted">{{ pauseOf(deal) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="unknown.length > 0" class="nowhere">Given or drawn, and bought and sold nowhere: {{ unknown.join(', ') }}</p>
  </section>
</template>

<style scoped>
.deals {
  max-height: 40%;
  overflow: auto;
  border-top: 1px solid var(--hairline);
}
table {
  table-layout: fixed;
}
thead th:nth-child(1) {
  width: 15%;
}
thead th:nth-child(3) {
  width: 28%;
}
thead th:last-child {
  width: 88px;
}
td.cut,
th.cut {
  max-width: 0;
}
.nowhere {
  padding: 2px 16px 8px;
  font: var(--t-fine);
  color: var(--muted);
}
</style>
