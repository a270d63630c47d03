<script setup lang="ts">
import type { ShownPart, ShownStep } from '~/utils/types'

/** One thing that is done: where, what comes of it, and what stays as it is. */
const props = defineProps<{ step: ShownStep; part: ShownPart; number: number }>()
const install = useInstallStore()
const isFolder = computed(() => props.part.kind === 'package' && props.part.actions.length > 1)
const folder = computed(() => install.folders[props.step.name] ?? props.step.folder)
const above = computed(() => props.part.path.split('/').slice(0, -1).join('/') + '/')
const wrong = computed(
  () =>
    install.plan?.problems.find(({ code, message }) => ['bad-folder', 'folder-taken'].includes(code) && message.includes(folder.value))
      ?.message ?? '',
)
</script>

<template>
  <section class="plan-part" :class="{ skipped: part.skipped !== '' }">
    <div class="grp">
      <span class="plan-no">{{ number }}</span>
      <h3>{{ partTitle(part) }}</h3>
      <span v-if="isFolder" class="ct">{{ counted(part.actions.length, 'file') }}</span>
      <code v-else class="cut">{{ part.path }}</code>
      <span class="r cut">{{ partNote(part) }}</span>
    </div>
    <div v-if="isFolder" class="plan-line field">
      <label :for="`folder-${step.name}`" class="b">Into the folder</label>
      <span class="path"
        ><code>{{ above }}</code
        ><InputText
          :id="`folder-${step.name}`"
          class="w4"
          :model-value="folder"
          :disabled="step.replaces !== null"
          :invalid="wrong !== ''"
          @update:model-value="install.setFolder(step.name, String($event ?? ''))"
      /></span>
      <span v-if="wrong" class="err" role="alert"><FindingMark kind="error" /> {{ wrong }}</span>
      <span v-else class="muted"><FindingMark kind="done" /> free; what it is known by follows this name</span>
    </div>
    <p v-for="path in part.leftAsIs.filter((item) => !item.includes('#'))" :key="path" class="plan-line">
      <code class="cut">{{ path }}</code><span class="muted">is there already and stays</span>
      <button v-if="part.kind === 'copy'" class="act" @click="install.toggle('overwrite', path)">replace it</button>
    </p>
    <p v-for="path in part.replaced" :key="path" class="plan-line">
      <FindingMark kind="decision" /><code class="cut">{{ path }}</code
      ><span class="muted">is there and will be replaced; what it holds is kept in History</span>
      <button v-if="install.overwrite.includes(path)" class="act" @click="install.toggle('overwrite', path)">leave it</button>
    </p>
    <TextDiff v-for="text in part.texts" :key="text.path" :before="text.before ?? ''" :after="text.after ?? ''" />
  </section>
</template>

<style scoped>
.field {
  background: var(--semolina);
  display: grid;
  grid-template-columns: 110px 240px minmax(0, 1fr);
  padding: 4px 12px 4px 40px;
}
.path {
  display: inline-flex;
  align-items: center;
}
.skipped {
  color: var(--muted);
}
</style>
