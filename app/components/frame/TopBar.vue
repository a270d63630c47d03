<script setup lang="ts">
defineEmits<{ find: [] }>()
const server = useServerStore()
const session = useSessionStore()
const words = { stopped: 'stopped', starting: 'starting', running: 'running', stopping: 'stopping', failed: 'not running' } as const
const { evening, toggleTheme } = useTheme()
</script>

<template>
  <header class="top">
    <NuxtLink class="brand" to="/"><LayerMark factory yours update /> Pasticcio</NuxtLink>
    <span class="b">{{ server.slug }}</span>
    <span class="sep" />
    <span class="status" :data-status="server.state.status"
      ><i class="dot" :class="server.state.status" /> {{ words[server.state.status] }}</span
    >
    <template v-if="server.state.status === 'running' && server.state.players !== null">
      <span class="sep" /><span>{{ server.state.players }} players</span> <span class="sep" /><span
        >{{ server.state.ticks?.toFixed(1) }} ticks/s</span
      >
    </template>
    <button class="find" @click="$emit('find')"><BaseIcon name="find" /> Find a setting on this server <kbd>/</kbd></button>
    <button class="theme" :aria-pressed="evening" @click="toggleTheme">{{ evening ? 'Day' : 'Evening' }}</button>
    <span class="who"
      >{{ session.me?.name }} <span class="muted">{{ session.me?.role }}</span></span
    >
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
.sep {
  width: 1px;
  height: 16px;
  background: var(--hairline);
  margin: 0 14px;
}
.dot {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  display: inline-block;
  border: 1px solid var(--field-rule);
  margin-right: 4px;
}
.dot.running {
  background: var(--running);
  border-color: var(--running);
}
.dot.starting,
.dot.stopping {
  background: var(--yours);
}
.dot.failed {
  background: var(--error);
  border-color: var(--error);
  border-radius: 0;
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
.theme {
  margin-left: 20px;
  font: var(--t-small);
  color: var(--muted);
  text-decoration: underline;
  text-underline-offset: 3px;
  text-decoration-color: var(--hairline);
}
.who {
  margin-left: 20px;
  font: var(--t-small);
}
</style>
