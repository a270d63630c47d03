<script setup lang="ts">
import { amountWords } from '~/utils/economy-words'

/** What the numbers of all plugins do to money together, over the drafts: each is a link to its setting, and is changed here. */
const economy = useEconomyStore()
const changes = useEconomyChangesStore()
const prices = usePriceBookStore()
const drafts = useDraftsStore()
const known = useKnownStore()
const session = useSessionStore()
const views = computed(() => [
  { id: 'whole' as const, name: 'Whole' },
  { id: 'prices' as const, name: 'Prices' },
  { id: 'chances' as const, name: `Chances ${economy.tables.length || ''}`.trim() },
  { id: 'goals' as const, name: `Goals ${economy.goals.length || ''}`.trim() },
])
/** What is looked at stands in the address, so that it can be sent to somebody. */
const route = useRoute()
const view = computed({
  get: () => views.value.find(({ id }) => id === route.query['view'])?.id ?? 'whole',
  set: (id) => void navigateTo({ query: { ...route.query, view: id === 'whole' ? undefined : id } }, { replace: true }),
})
/** So many items stand on the page of the whole. */
const FEW = 4
const settings = computed(() => {
  const { offers, streams } = economy.answer.facts
  const all = [...offers.filter(({ by }) => by === 'item'), ...streams]
  const shipped = all.filter(({ isShipped }) => isShipped).length
  return { all: all.length, shipped, yours: all.length - shipped }
})
const worries = computed(() =>
  [
    prices.counts.loops > 0 ? counted(prices.counts.loops, 'loop') : '',
    prices.counts['no-loss'] > 0 ? `${prices.counts['no-loss']} without a loss` : '',
    prices.counts.far > 0 ? `${prices.counts.far} far from their kind` : '',
  ].filter(Boolean),
)

onMounted(async () => {
  void economy.loadUpdates()
  await Promise.all([known.ready(), economy.load()])
  prices.open = prices.rows.find(({ loop }) => loop)?.item ?? ''
})
onBeforeRouteLeave(async () => {
  await Promise.all([drafts.flushAll(), economy.keep()])
})
onUnmounted(() => drafts.leaveBeside())
useEventListener('pagehide', drafts.sendWaiting)
function reckonAll(): void {
  view.value = 'prices'
  prices.reckoning = { side: 'buy', does: 'times', by: '1.2', step: '5', least: '', most: '' }
}
useKeys({
  '1': () => void (view.value = 'whole'),
  '2': () => void (view.value = 'prices'),
  '3': () => void (view.value = 'chances'),
  '4': () => void (view.value = 'goals'),
  u: () => session.mayEdit && void changes.undo(),
  'ctrl+z': () => session.mayEdit && void changes.undo(),
})
</script>

<template>
  <div class="page">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1>Economy</h1>
          <span v-if="economy.isLoaded && economy.hasMoney" class="tally"
            ><span>{{ counted(settings.all, 'setting') }} move{{ settings.all === 1 ? 's' : '' }} money</span
            ><span><i class="bar f" />{{ amountWords(settings.shipped) }} factory</span
            ><span><i class="bar y" />{{ amountWords(settings.yours) }} yours</span></span
          >
        </div>
        <BaseSegments v-model="view" class="push" :options="views" label="View of the economy" />
      </div>
      <Message v-if="economy.problem" severity="error">{{ economy.problem }}</Message>
      <Message v-if="prices.problem" severity="error">{{ prices.problem }}</Message>
      <p v-for="{ file, problem } in economy.answer.unread" :key="file" class="problem mild">
        {{ problem }} The rest is reckoned without it.
      </p>
      <p v-for="[currency, count] in economy.draft.foreign" :key="currency" class="problem mild">
        {{ counted(count, 'amount') }} in {{ currency }} are left out: nothing here says what one is worth.
      </p>
      <div v-if="economy.loading && !economy.isLoaded" class="skeleton" aria-busy="true">
        <i v-for="n in 12" :key="n" :style="{ width: `${50 + ((n * 29) % 45)}%` }" />
      </div>
      <div v-else-if="economy.isLoaded && !economy.hasMoney" class="state">
        <h2>Nothing here moves money yet</h2>
        <p>
          No setting of this server is known to be a price, a payout or a fee. Where one is, say so
          {{ economy.answer.facts.maybe.length > 0 ? 'below' : 'in its margin in Settings' }}.
        </p>
      </div>
      <LazyMaybeMoney v-if="economy.isLoaded && !economy.hasMoney" />
      <div v-else-if="economy.isLoaded && view === 'whole'" class="scroll">
        <EconomyFlow />
        <section v-if="prices.book.rows.length > 0" aria-label="Prices, the worst first">
          <div class="grp">
            <h2>Price book</h2>
            <button class="ct act" @click="view = 'prices'">{{ counted(prices.book.rows.length, 'item') }}</button>
            <span class="r">{{ worries.join(', ') }}</span>
            <button v-if="session.mayEdit" class="act" @click="reckonAll">× 1.2, round to 5 …</button>
          </div>
          <PriceBook :most="FEW" />
        </section>
        <LazyEconomyDays />
        <LazyMaybeMoney />
      </div>
      <template v-else-if="economy.isLoaded && view === 'prices'">
        <PriceTools />
        <PriceReckoning />
        <PriceBook v-if="prices.rows.length > 0" />
        <div v-else class="state">
          <h2>Nothing fits</h2>
          <p>{{ counted(prices.book.rows.length, 'item') }} have a price here, and none is left by these choices.</p>
        </div>
        <DealList />
      </template>
      <ChanceTables v-else-if="economy.isLoaded && view === 'chances'" />
      <EconomyGoals v-else-if="economy.isLoaded" />
    </section>
    <EconomyMargin />
  </div>
</template>
