<script setup lang="ts">
/** Something is being done; nobody knows how long it takes. */
defineProps<{ label: string }>()
</script>

<template>
  <ProgressBar mode="indeterminate" :show-value="false" :aria-label="label" />
</template>
