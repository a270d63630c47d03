<script setup lang="ts">
import type { ControlProps } from '~/utils/control-props'

/** Code is shown as it stands; only the source view changes it. */
defineProps<ControlProps>()
</script>

<template>
  <code class="code cut" :class="{ muted: row.control === 'reference' }">{{ row.source }}</code>
  <span v-if="row.control === 'code'" class="unit">kept as it stands</span>
</template>

<style scoped>
.code {
  border-left: 2px solid var(--hairline);
  padding-left: 6px;
}
</style>
