<script setup lang="ts">
/** The plugins on the server, with what is yours in them and what waits. */
const pantry = usePantryStore()
const server = useServerStore()
</script>

<template>
  <ul class="rows">
    <li v-for="item in pantry.installed" :key="item.name" class="plug">
      <LayerMark factory :yours="item.mine > 0" :update="item.update !== null" />
      <NuxtLink :to="pantry.settingsLink(item.name)" class="b cut">{{ item.name }}</NuxtLink><code>{{ item.version }}</code
      ><span class="muted cut">{{ item.summary }}</span>
      <span class="fine"
        ><template v-if="item.mine > 0"><i class="bar y" /> {{ item.mine }} yours</template
        ><span v-else class="muted">as shipped</span></span
      >
      <NuxtLink v-if="item.update" class="upd fine" :to="`/s/${server.slug}/updates/${item.name}`"
        ><i class="bar u" /> {{ item.update.to }} in the pantry</NuxtLink
      ><span v-else />
    </li>
  </ul>
  <p v-if="pantry.installed.length === 0 && server.overview" class="state">
    There is no plugin on this server yet. Take one from the pantry below.
  </p>
</template>

<style scoped>
.plug {
  display: grid;
  align-items: center;
  gap: 10px;
  min-height: 32px;
  padding: 0 12px 0 16px;
}
.plug {
  grid-template-columns: 18px 110px 50px minmax(0, 1fr) 90px 130px;
}
.fine {
  font: var(--t-fine);
}
</style>
