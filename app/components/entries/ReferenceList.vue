<script setup lang="ts">
/** What refers to an entry: where there is little doubt first, each with its file and line. */
defineProps<{ /** Whether some can be chosen of them. */ pick?: boolean }>()
const entries = useEntriesStore()
const server = useServerStore()
const groups = computed(() => {
  const all = (entries.references ?? []).map((one, at) => ({ ...one, at }))
  return [
    { head: 'Refers to it', list: all.filter(({ isSure }) => isSure) },
    { head: 'Says the same, and may mean something else', list: all.filter(({ isSure }) => !isSure) },
  ].filter(({ list }) => list.length > 0)
})
function toggle(at: number): void {
  const { chosen } = entries
  entries.chosen = chosen.includes(at) ? chosen.filter((one) => one !== at) : [...chosen, at]
}
</script>

<template>
  <p v-if="entries.references === null && !entries.problem" class="muted" role="status">Looking through all files …</p>
  <p v-else-if="entries.references?.length === 0" class="muted">Nothing in any file refers to it.</p>
  <section v-for="group in groups" :key="group.head" :aria-label="group.head">
    <h3>{{ group.head }}</h3>
    <ul>
      <li v-for="one in group.list" :key="one.at">
        <label v-if="pick"
          ><input type="checkbox" :checked="entries.chosen.includes(one.at)" @change="toggle(one.at)" /><code class="cut">{{
            one.text
          }}</code></label
        >
        <code v-else class="cut">{{ one.text }}</code>
        <span class="muted cut"
          ><NuxtLink :to="{ path: `/s/${server.slug}/settings/${one.file}`, query: { at: one.pointer } }" @click="entries.asked = null"
            >{{ shortPath(one.file) }}, line {{ one.line }}</NuxtLink
          >
          {{ pointerWords(one.pointer) }}</span
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
h3 {
  font: italic 400 13px/20px var(--serif);
  margin-top: 10px;
}
ul {
  max-height: 220px;
  overflow: auto;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr);
  gap: 12px;
  line-height: 24px;
  border-bottom: 1px solid var(--hairline);
  font: var(--t-small);
  align-items: center;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-width: 0;
}
</style>
