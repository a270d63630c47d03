<script setup lang="ts">
import { ALL_PRICES, type PriceFilter } from '~/utils/price-rows'
import type { Beside } from '~/stores/price-book'

/** Which prices are shown, what they are held against, and what is reckoned with them. */
const prices = usePriceBookStore()
const economy = useEconomyStore()
const house = useHouseStore()
const server = useServerStore()
const session = useSessionStore()
const ONLY: readonly { readonly id: PriceFilter['only']; readonly name: string }[] = [
  { id: 'loops', name: 'loops that pay' },
  { id: 'no-loss', name: 'without a loss' },
  { id: 'far', name: 'far from their kind' },
  { id: 'changed', name: 'other than beside' },
]
const MOST_PAST = 30
const others = computed(() => (house.servers ?? []).filter(({ slug }) => slug !== server.slug))
onMounted(() => Promise.all([house.servers ? undefined : house.load(), prices.loadHistory()]))
const beside = computed({ get: () => prices.beside, set: (next: Beside) => void prices.hold(next) })
function reckon(): void {
  prices.reckoning = prices.reckoning ? null : { side: 'buy', does: 'times', by: '1', step: '', least: '', most: '' }
}
</script>

<template>
  <div class="sieve">
    <input v-model="prices.filter.words" class="in words" type="search" placeholder="item" aria-label="Words of the item" />
    <select v-model="prices.filter.category" class="in" aria-label="Category">
      <option value="">any kind</option>
      <option v-for="category in prices.categories" :key="category" :value="category">{{ category }}</option>
    </select>
    <select v-model="prices.filter.plugin" class="in" aria-label="Plugin">
      <option value="">any plugin</option>
      <option v-for="plugin in prices.plugins" :key="plugin" :value="plugin">{{ plugin }}</option>
    </select>
    <select v-model="prices.filter.only" class="in" aria-label="Which items">
      <option value="">all items</option>
      <option v-for="{ id, name } in ONLY" :key="id" :value="id">{{ prices.counts[id as keyof typeof prices.counts] }} {{ name }}</option>
    </select>
    <label class="tick push"
      >beside
      <select v-model="beside" class="in" aria-label="What prices are held against">
        <option value="standing">as it stands</option>
        <option v-if="economy.update" value="update">with the updates</option>
        <option v-for="{ slug } in others" :key="slug" :value="`server ${slug}`">{{ slug }}</option>
        <option v-for="change in prices.history.slice(0, MOST_PAST)" :key="change.id" :value="`before ${change.id}`">
          before {{ change.title }}
        </option>
      </select></label
    >
    <button v-if="session.mayEdit" class="act" :aria-pressed="prices.reckoning !== null" @click="reckon">× 1.2, round to 5 …</button>
    <button v-if="prices.filter !== ALL_PRICES" class="act" @click="prices.filter = ALL_PRICES">all</button>
  </div>
</template>

<style scoped>
.sieve .in {
  flex: 0 1 112px;
}
.sieve .words {
  flex: 1 1 80px;
}
</style>
