<script setup lang="ts">
/** The bar at the top of every page: where one is, the look, and who is signed in. */
const { evening, toggleTheme } = useTheme()
</script>

<template>
  <header class="top">
    <NuxtLink class="brand" to="/"><LayerMark factory yours update /> Pasticcio</NuxtLink>
    <div class="mid"><slot /></div>
    <button class="theme" :aria-pressed="evening" @click="toggleTheme">Evening</button>
    <AccountMenu />
    <Toast position="bottom-right" />
  </header>
</template>

<style scoped>
.top {
  grid-area: top;
  height: var(--top);
  display: flex;
  align-items: center;
  background: var(--semolina);
  border-bottom: 1px solid var(--hairline);
  padding-right: 16px;
}
.brand {
  width: calc(var(--spine) + 16px);
  padding-left: 16px;
  font: 600 17px/24px var(--serif);
  letter-spacing: -0.01em;
  display: flex;
  align-items: center;
  gap: 8px;
  text-decoration: none;
}
.mid {
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: center;
}
.theme {
  margin-left: 20px;
  min-height: 24px;
  font: var(--t-small);
  color: var(--muted);
  text-decoration: underline;
  text-underline-offset: 3px;
  text-decoration-color: var(--hairline);
}
.theme[aria-pressed='true'] {
  color: var(--crust);
  font-weight: 700;
}
</style>
