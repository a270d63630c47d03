<script setup lang="ts">
import { pointerWords, settingLink, shortPath } from '~/utils/pointer-words'
import { onlyWords } from '~/utils/right-words'

/** What is everybody’s, since the setting that could ask for a node asks for none; lists of players and places limit some of it. */
const visible = defineModel<boolean>('visible', { required: true })
const permissions = usePermissionsStore()
const server = useServerStore()
const settings = (file: string, at: string): ReturnType<typeof settingLink> => settingLink(server.slug, file, at)
</script>

<template>
  <BaseDialog v-model:visible="visible" title="Asks for no node, so everyone may">
    <ul class="open">
      <li v-for="one in permissions.answer.open" :key="one.file + one.pointer">
        <b>{{ one.plugin }}</b> <span class="cut">{{ pointerWords(one.pointer.slice(0, one.pointer.lastIndexOf('/'))) }}</span>
        <NuxtLink :to="settings(one.file, one.pointer)">{{ shortPath(one.file).split('/').pop() }}, line {{ one.line }}</NuxtLink>
        <span class="muted">{{ one.only.map(onlyWords).join('; ') || 'anywhere' }}</span>
      </li>
    </ul>
  </BaseDialog>
</template>

<style scoped>
.open {
  width: min(620px, 86vw);
  max-height: 60vh;
  overflow: auto;
}
li {
  display: grid;
  grid-template-columns: 88px minmax(0, 1fr) 124px minmax(0, 1fr);
  gap: 12px;
  padding: 4px 0;
  font: var(--t-small);
  border-bottom: 1px solid var(--hairline);
}
</style>
