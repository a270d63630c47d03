<script setup lang="ts">
import { movedByAll } from '@pasticcio/core'
import { changeWords } from '~/utils/economy-words'

/** The plugins by what they give and take an hour. */
const economy = useEconomyStore()
const prices = usePriceBookStore()
const server = useServerStore()
const moving = computed(() => {
  const sums = new Map<string, number>()
  for (const stream of economy.draft.streams) {
    const moved = movedByAll(stream, economy.people) * (stream.way === 'in' ? 1 : -1)
    sums.set(stream.plugin, (sums.get(stream.plugin) ?? 0) + moved)
  }
  return [...sums].map(([name, sum]) => ({ name, sum })).sort((a, b) => b.sum - a.sum)
})
const plugins = computed(() => server.overview?.plugins ?? [])
const markOf = (name: string) => plugins.value.find((plugin) => plugin.name === name)
const still = computed(() => plugins.value.filter(({ name }) => !moving.value.some((one) => one.name === name)))
const loops = computed(() => new Set(economy.draft.book.rows.flatMap(({ loop }) => (loop ? [loop.buy.where, loop.sell.where] : []))))
</script>

<template>
  <h2 v-if="moving.length > 0">Money moves in<span>an hour</span></h2>
  <ul v-if="moving.length > 0" class="plugins">
    <li v-for="{ name, sum } in moving" :key="name">
      <button
        :class="{ on: prices.filter.plugin === name }"
        @click="prices.filter = { ...prices.filter, plugin: prices.filter.plugin === name ? '' : name }"
      >
        <LayerMark factory :yours="(markOf(name)?.mine ?? 0) > 0" :update="Boolean(markOf(name)?.update)" />
        <span class="cut">{{ name }}</span>
        <span class="n"><FindingMark v-if="loops.has(name)" kind="error" />{{ changeWords(Math.round(sum)) }}</span>
      </button>
    </li>
  </ul>
  <template v-if="still.length > 0">
    <h2>No money</h2>
    <ul class="plugins">
      <li v-for="plugin in still" :key="plugin.name">
        <NuxtLink :to="`/s/${server.slug}/settings?plugin=${encodeURIComponent(plugin.name)}`">
          <LayerMark factory :yours="plugin.mine > 0" :update="plugin.update !== null" /> <span class="cut">{{ plugin.name }}</span>
        </NuxtLink>
      </li>
    </ul>
  </template>
</template>
