<script setup lang="ts">
import { encodePath } from '~/stations'
import type { PluginRun } from '~/utils/types'

/** Why a plugin does not run since the server was started, with the line that is to be mended; nothing for one that runs. */
defineProps<{ run: PluginRun }>()
const server = useServerStore()
</script>

<template>
  <p v-if="run.state === 'failed'" class="note">
    <FindingMark kind="error" /> Not loaded: {{ run.reason }}
    <NuxtLink v-if="run.path" :to="`/s/${server.slug}/settings/${encodePath(run.path)}`"
      >{{ run.path.split('/').pop() }} line {{ run.line }}</NuxtLink
    >
  </p>
  <p v-else-if="run.state === 'silent'" class="note">
    <FindingMark kind="warning" /> The console said nothing of it since the start, neither that it is loaded nor why not.
  </p>
</template>

<style scoped>
.note {
  font: var(--t-fine);
}
</style>
