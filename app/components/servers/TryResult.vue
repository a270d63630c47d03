<script setup lang="ts">
import type { Try, TryStep } from '~/utils/types'

/** How trying a server goes, step by step, with what its console says. */
defineProps<{ trial: Try }>()
const NAMES: Readonly<Record<TryStep['step'], string>> = {
  folder: 'The folder',
  start: 'Starting',
  stop: 'Stopping again',
}
</script>

<template>
  <div class="try" role="status">
    <ol>
      <li v-for="step in trial.steps" :key="step.step">
        <FindingMark v-if="step.ok !== null" :kind="step.ok ? 'done' : 'error'" /><span v-else class="fd" />
        <span class="b">{{ NAMES[step.step] }}</span> <span>{{ step.ok === null ? 'under way …' : step.detail }}</span>
      </li>
    </ol>
    <ConsoleLines v-if="trial.lines.length > 0" small :lines="trial.lines" />
  </div>
</template>

<style scoped>
.try {
  font: var(--t-small);
  padding: 8px 0;
}
.try :deep(.console) {
  max-height: 120px;
}
.try li {
  display: grid;
  grid-template-columns: 16px 110px minmax(0, 1fr);
  align-items: baseline;
  padding: 3px 0;
}
</style>
