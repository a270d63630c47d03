<script setup lang="ts">
/** One line of a form: its name, its field, and what is to be known about it. */
defineProps<{ label: string; field: string; help?: string | undefined }>()
</script>

<template>
  <div class="form-line">
    <label :for="field">{{ label }}</label>
    <div>
      <slot />
      <p v-if="help" :id="`${field}-help`" class="help">{{ help }}</p>
    </div>
  </div>
</template>

<style scoped>
.form-line {
  display: grid;
  grid-template-columns: 120px minmax(0, 1fr);
  gap: 12px;
  align-items: baseline;
  padding: 6px 0;
}
label {
  font: var(--t-small);
  color: var(--muted);
}
.help {
  font: var(--t-fine);
  color: var(--muted);
  margin-top: 4px;
}
</style>
