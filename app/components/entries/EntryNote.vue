<script setup lang="ts">
import type { EntryTold } from '~/drafts/operations'

/** What came of an entry that was copied or renamed: where its name went, what was chosen, and what is to be changed. */
const props = defineProps<{ told: EntryTold }>()
const words = computed(() => {
  const { renamed, chosen, differ, from, pointer } = props.told
  const name = (at: string): string => pointerWords(at.slice(pointer.length))
  return [
    ...(renamed.length > 0 ? [`its name put in ${counted(renamed.length, 'place')} instead of ${from}`] : []),
    ...chosen.map(({ column, to }) => `${pointerWords(column)} ${to} chosen, which is free`),
    ...(differ.length > 0 ? [`${differ.map(name).join(', ')} still as in ${from}`] : []),
  ]
})
</script>

<template>
  <p v-if="words.length > 0" class="told" role="status">{{ words.join('; ') }}</p>
</template>

<style scoped>
.told {
  width: 100%;
  font: italic 400 13px/20px var(--serif);
  color: var(--muted);
}
</style>
