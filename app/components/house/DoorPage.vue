<script setup lang="ts">
/** A page before anybody is signed in: one thing to do, on an empty sheet. */
defineProps<{ title: string }>()
useTheme()
</script>

<template>
  <main class="door">
    <p class="brand"><LayerMark factory yours update /> Pasticcio</p>
    <h1>{{ title }}</h1>
    <slot />
  </main>
</template>

<style scoped>
.door {
  max-width: 480px;
  margin: 0 auto;
  padding: 96px 16px 32px;
}
.brand {
  font: 600 17px/24px var(--serif);
  display: flex;
  align-items: center;
  gap: 8px;
  padding-bottom: 24px;
}
h1 {
  font: var(--t-title);
  padding-bottom: 8px;
}
</style>
