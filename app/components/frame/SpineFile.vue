<script setup lang="ts">
import type { FileSummary } from '~/utils/types'

/** One settings file in the spine, with what is yours in it, or why it cannot be shown. */
defineProps<{ file: FileSummary; to: string; open: boolean }>()
</script>

<template>
  <NuxtLink class="file" :to="to" :class="{ on: open }" :aria-current="open ? 'true' : undefined">
    <code class="cut">{{ file.name }}</code><span class="n" :title="file.problem ?? undefined"
      ><FindingMark v-if="file.problem" kind="error" />{{ file.record ? 'server’s own' : file.mine || '' }}</span
    >
  </NuxtLink>
</template>

<style scoped>
.file {
  padding-left: 50px;
}
.file code {
  font-size: 12px;
}
.file.on code {
  font-weight: 600;
}
</style>
