<script setup lang="ts">
defineProps<{ title: string }>()
const visible = defineModel<boolean>('visible', { required: true })
const PARTS = { mask: 'mask', root: 'dialog', header: 'dialog-head', content: 'dialog-body' }
</script>

<template>
  <Dialog v-model:visible="visible" modal dismissable-mask :draggable="false" :header="title" :pt="PARTS">
    <template #closeicon><BaseIcon name="close" /></template>
    <slot />
  </Dialog>
</template>
