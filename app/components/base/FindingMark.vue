<script setup lang="ts">
/** A diamond is an error, a triangle a warning, a ring a decision, a tick is settled. */
defineProps<{ kind: 'error' | 'warning' | 'note' | 'decision' | 'done' }>()
</script>

<template>
  <svg v-if="kind === 'error'" class="fd err" viewBox="0 0 12 12" role="img" aria-label="error">
    <path d="M6 0 12 6 6 12 0 6z" fill="currentColor" />
    <path d="M6 3v3.4M6 8.2v.6" stroke="var(--flour)" stroke-width="1.5" fill="none" />
  </svg>
  <svg v-else-if="kind === 'decision'" class="fd err" viewBox="0 0 12 12" role="img" aria-label="decision needed">
    <circle cx="6" cy="6" r="5" fill="none" stroke="currentColor" stroke-width="1.8" />
    <circle cx="6" cy="6" r="1.6" fill="currentColor" />
  </svg>
  <svg v-else-if="kind === 'done'" class="fd ok" viewBox="0 0 12 12" role="img" aria-label="settled">
    <path d="m1.5 6.5 3 3 6-7" fill="none" stroke="currentColor" stroke-width="1.8" />
  </svg>
  <svg v-else class="fd wrn" viewBox="0 0 12 12" role="img" aria-label="warning">
    <path d="M6 1.2 11.2 10.8H.8z" fill="none" stroke="currentColor" stroke-width="1.4" stroke-linejoin="round" />
    <path d="M6 4.6v2.8M6 8.6v.7" stroke="currentColor" stroke-width="1.3" />
  </svg>
</template>
