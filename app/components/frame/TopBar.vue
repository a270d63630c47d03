<script setup lang="ts">
/** The bar of a server: how it runs, and the way to find a setting on it. */
defineEmits<{ find: [] }>()
const server = useServerStore()
</script>

<template>
  <TopShell>
    <ServerSwitch />
    <span class="sep" />
    <span class="status" :data-status="server.state.status"
      ><i class="dot" :class="server.state.status" /> {{ STATUS_WORDS[server.state.status] }}</span
    >
    <template v-if="server.state.status === 'running' && server.state.players !== null">
      <span class="sep" /><span>{{ counted(server.state.players, 'player') }}</span> <span class="sep" /><span
        >{{ server.state.ticks?.toFixed(1) }} ticks/s</span
      >
    </template>
    <button class="find" @click="$emit('find')"><BaseIcon name="find" /> Find a setting on this server <kbd>/</kbd></button>
  </TopShell>
</template>

<style scoped>
.sep {
  width: 1px;
  height: 16px;
  background: var(--hairline);
  margin: 0 14px;
}
.find {
  margin-left: auto;
  width: 240px;
  height: 24px;
  display: flex;
  align-items: center;
  gap: 8px;
  border-bottom: 1px solid var(--field-rule);
  color: var(--muted);
  font: var(--t-small);
}
.find kbd {
  margin-left: auto;
}
</style>
