<script setup lang="ts">
const server = useServerStore()
</script>

<template>
  <div class="state">
    <h2>No settings yet</h2>
    <p>Plugins write their settings when the server starts with them for the first time. Install one, and its settings appear here.</p>
    <div class="acts"><NuxtLink class="btn go" :to="`/s/${server.slug}/plugins`">Go to Plugins</NuxtLink></div>
  </div>
</template>
