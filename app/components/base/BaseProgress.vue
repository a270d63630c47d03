<script setup lang="ts">
/** Something is being done: so much of it, where that is known. */
defineProps<{ label: string; done?: number; of?: number | null }>()
</script>

<template>
  <ProgressBar
    v-if="of"
    :value="Math.min(100, Math.round((100 * (done ?? 0)) / of))"
    :show-value="false"
    :aria-label="label"
    :aria-valuetext="`${bytesOf(done ?? 0)} of ${bytesOf(of)}`"
  />
  <ProgressBar v-else mode="indeterminate" :show-value="false" :aria-label="label" />
</template>
