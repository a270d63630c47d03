<script setup lang="ts">
/** What somebody is asked before a whole entry is renamed, taken out, copied elsewhere, or added. */
const emit = defineEmits<{ done: [] }>()
const entries = useEntriesStore()
const title = computed(() => {
  const { asked } = entries
  if (!asked) return ''
  const { name, what } = asked
  return { rename: `Another name for ${name}`, remove: `Take out ${name}`, copy: `Copy ${name} to …`, add: `Add to ${name}` }[what]
})
const isOpen = computed(() => {
  const { asked, references, problem } = entries
  // what nobody refers to is taken out without asking
  return asked !== null && (asked.what !== 'remove' || problem !== '' || (references?.length ?? 0) > 0)
})
</script>

<template>
  <BaseDialog v-if="isOpen" :visible="true" :title="title" @update:visible="entries.asked = null">
    <div class="asked">
      <RenameEntry v-if="entries.asked?.what === 'rename'" :key="entries.asked.name" @done="emit('done')" />
      <RemoveEntry v-else-if="entries.asked?.what === 'remove'" />
      <CopyEntry v-else-if="entries.asked?.what === 'copy'" />
      <AddEntry v-else @done="emit('done')" />
      <p v-if="entries.problem" class="err" role="alert"><FindingMark kind="error" /> {{ entries.problem }}</p>
    </div>
  </BaseDialog>
</template>

<style scoped>
.asked {
  width: min(620px, 86vw);
  padding-top: 6px;
}
</style>
