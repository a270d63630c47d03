<script setup lang="ts">
/** What the plugin sites offer beyond the pantry. */
const pantry = usePantryStore()
const session = useSessionStore()
const groups = computed(() =>
  [...new Set(pantry.fresh.map(({ name }) => name))].map((name) => ({ name, offers: pantry.fresh.filter((offer) => offer.name === name) })),
)
</script>

<template>
  <p v-for="site in pantry.sites.filter(({ status }) => status !== 'answered')" :key="site.address" class="site fine" role="status">
    <FindingMark v-if="site.status === 'failed'" kind="warning" />
    {{ site.status === 'failed' ? site.problem : `${site.address} is being asked what it has …` }}
  </p>
  <template v-if="pantry.fresh.length > 0">
    <div class="grp">
      <h2>At the plugin site</h2>
      <span class="ct">{{ pantry.fresh.length }}</span>
    </div>
    <ul class="rows">
      <PackRow v-for="group in groups" :key="group.name" :name="group.name" :summary="group.offers.at(-1)!.summary">
        <VersionButton
          v-for="offer in group.offers"
          :key="offer.link"
          :plugin="offer.name"
          :version="offer.version"
          word="to the pantry"
          :disabled="!session.mayEdit || pantry.working !== ''"
          @click="pantry.fetchLink(offer.link, `${offer.name} ${offer.version}`)"
        />
      </PackRow>
    </ul>
  </template>
</template>

<style scoped>
.site {
  padding: 6px 16px;
}
</style>
