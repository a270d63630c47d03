<script setup lang="ts">
/** The zone times are typed in; it holds for all of them. */
defineProps<{ label: string; disabled: boolean }>()
const known = useKnownStore()
const COMMON = ['UTC', 'Europe/London', 'Europe/Paris', 'America/New_York', 'America/Los_Angeles', 'Asia/Tokyo', 'Australia/Sydney']
const zones = computed(() => [...new Set([known.zone, ...COMMON])])
</script>

<template>
  <select v-model="known.zone" class="in zone" :disabled="disabled" :aria-label="label">
    <option v-for="zone in zones" :key="zone" :value="zone">{{ shortZone(zone) }}</option>
  </select>
</template>

<style scoped>
.zone {
  flex: none;
  width: 112px;
}
</style>
