<script setup lang="ts">
defineProps<{ title: string }>()
const visible = defineModel<boolean>('visible', { required: true })
</script>

<template>
  <Dialog v-model:visible="visible" modal dismissable-mask :draggable="false" :header="title">
    <template #closeicon><BaseIcon name="close" /></template>
    <slot />
  </Dialog>
</template>
