<script setup lang="ts">
/** The slice through the dish: update, yours, factory, each in its own place. */
const props = defineProps<{ factory?: boolean; yours?: boolean; update?: boolean }>()
const label = computed(
  () => 'layers: ' + [props.factory && 'factory', props.yours && 'yours', props.update && 'update'].filter(Boolean).join(', '),
)
</script>

<template>
  <span class="lm" role="img" :aria-label="label"
    ><i v-if="update" class="u" /><i v-if="yours" class="y" /><i v-if="factory" class="f"
  /></span>
</template>
