<script setup lang="ts">
defineProps<{ title: string; /** It stays until what it asks for is done. */ lasting?: boolean }>()
const visible = defineModel<boolean>('visible', { required: true })
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    :dismissable-mask="!lasting"
    :closable="!lasting"
    :close-on-escape="!lasting"
    :draggable="false"
    :header="title"
  >
    <template #closeicon><BaseIcon name="close" /></template>
    <slot />
  </Dialog>
</template>
