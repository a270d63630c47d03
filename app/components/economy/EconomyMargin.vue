<script setup lang="ts">
/** What is looked at, whom is reckoned with, what they do, which setting moves most, and what a setting has to be for a goal. */
const economy = useEconomyStore()
</script>

<template>
  <aside class="margin" aria-label="What is assumed">
    <div class="titleline side"><h2>In the margin</h2></div>
    <div v-if="economy.isLoaded && economy.hasMoney" class="body">
      <StreamNote />
      <PeopleTable class="note" />
      <DoingTable />
      <MoversList />
      <FindPrice />
    </div>
  </aside>
</template>
