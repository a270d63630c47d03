<script setup lang="ts" generic="Id extends string">
/** One of a few views, chosen by a row of buttons. */
defineProps<{ options: readonly { readonly id: Id; readonly name: string }[]; label: string }>()
const chosen = defineModel<Id>({ required: true })
</script>

<template>
  <SelectButton v-model="chosen" :options="[...options]" option-label="name" option-value="id" :allow-empty="false" :aria-label="label" />
</template>
