<script setup lang="ts">
/** The servers below the pages of the house, with what is wrong on each and what is yours. */
const house = useHouseStore()
const session = useSessionStore()
</script>

<template>
  <h2>Servers<span>yours</span></h2>
  <ul>
    <li v-for="{ slug, about } in house.servers ?? []" :key="slug">
      <NuxtLink :to="`/s/${slug}/plugins`" :class="{ open: house.focus === slug }">
        <LayerMark factory :yours="(about?.yours ?? 0) > 0" :update="(about?.updates.length ?? 0) > 0" />
        <span class="cut">{{ slug }}</span>
        <span class="n"
          ><FindingMark v-if="(about?.errors ?? 0) > 0" kind="error" /><FindingMark v-if="(about?.warnings ?? 0) > 0" kind="warning" />{{
            about?.yours || ''
          }}</span
        >
      </NuxtLink>
    </li>
    <li v-if="session.isOwner"><NuxtLink to="/servers/new" class="muted">+ Add a server by its folder</NuxtLink></li>
  </ul>
</template>
