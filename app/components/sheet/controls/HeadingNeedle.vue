<script setup lang="ts">
/** A small dial: the needle points where a heading does. */
defineProps<{ degrees: number }>()
</script>

<template>
  <svg class="dial" viewBox="0 0 16 16" aria-hidden="true">
    <circle cx="8" cy="8" r="7" />
    <path d="M8 8V2.5" :transform="`rotate(${degrees} 8 8)`" />
  </svg>
</template>

<style scoped>
.dial {
  width: 16px;
  height: 16px;
  flex: none;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.2;
}
</style>
