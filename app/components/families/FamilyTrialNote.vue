<script setup lang="ts">
import type { FamilyTrial } from '~/utils/types'

/** What a description found on a server. */
const props = defineProps<{ trial: FamilyTrial }>()
const bare = computed(() => props.trial.plugins.filter(({ settings }) => settings === 0).length)
const off = computed(() => props.trial.plugins.filter(({ isOff }) => isOff))
const lines = computed(() =>
  Object.entries(props.trial.lines)
    .map(([type, count]) => `${count} ${type}`)
    .join(', '),
)
</script>

<template>
  <section class="trial" role="status">
    <p class="b">
      Game {{ trial.game }}, {{ counted(trial.plugins.length, 'plugin') }} found{{ bare > 0 ? `, ${bare} without settings` : '' }}
    </p>
    <ul>
      <li v-for="plugin in trial.plugins" :key="plugin.name">
        {{ plugin.name }} <code>{{ plugin.version }}</code>
        <span class="muted"
          >{{ plugin.folder === plugin.name ? ' ' : ` in ${plugin.folder}, ` }}{{ counted(plugin.settings, 'settings file')
          }}{{ plugin.records > 0 ? `, ${counted(plugin.records, 'record')}` : '' }}</span
        >
      </li>
    </ul>
    <p v-if="off.length > 0" class="problem mild">Not known to the server: {{ off.map(({ name }) => name).join(', ') }}</p>
    <p v-if="trial.strangers.length > 0" class="problem mild">Look like packages and are none: {{ trial.strangers.join(', ') }}</p>
    <p>{{ lines ? `Lines of the console that mean something: ${lines}.` : 'No line of the console means anything yet.' }}</p>
    <details v-if="trial.unread.length > 0">
      <summary>{{ counted(trial.unread.length, 'line') }} that mean nothing</summary>
      <code v-for="(line, i) in trial.unread" :key="i" class="line">{{ line }}</code>
    </details>
  </section>
</template>

<style scoped>
.trial {
  padding: 8px 0;
  border-bottom: 1px solid var(--hairline);
}
.trial > * + * {
  margin-top: 6px;
}
.line {
  display: block;
  overflow-wrap: anywhere;
}
</style>
