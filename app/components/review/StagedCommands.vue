<script setup lang="ts">
/** What is to be said to the console, each to be taken back by itself. */
const tray = useTrayStore()
const session = useSessionStore()
</script>

<template>
  <section>
    <div class="grp">
      <h2>Said to the console</h2>
      <span class="r muted">what History goes back to is said the same way</span>
    </div>
    <ul class="commands">
      <li v-for="{ id, command, changedBy } in tray.commands" :key="id">
        <code>›_ {{ command }}</code> <span class="muted">{{ changedBy }}</span>
        <button v-if="session.mayEdit" class="act" :aria-label="`Discard ${command}`" @click="tray.discardCommand(id)">discard</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.commands {
  list-style: none;
  margin: 0;
  padding: 0 16px;
}
.commands li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 14px;
  align-items: baseline;
  padding: 5px 0;
  border-bottom: 1px solid var(--hairline);
  font: var(--t-small);
}
.commands code {
  overflow-wrap: anywhere;
}
</style>
