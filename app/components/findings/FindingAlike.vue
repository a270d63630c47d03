<script setup lang="ts">
import type { ListedFinding } from '~/stores/findings'

/** All places of one mistake, each of which can be left out, before they are mended at once. */
const props = defineProps<{ findings: readonly ListedFinding[]; locked: boolean }>()
const emit = defineEmits<{ mend: [findings: readonly ListedFinding[]] }>()
const left = ref<ReadonlySet<string>>(new Set())
const chosen = computed(() => props.findings.filter(({ subject }) => !left.value.has(subject)))
function toggle(subject: string): void {
  const now = new Set(left.value)
  if (!now.delete(subject)) now.add(subject)
  left.value = now
}
</script>

<template>
  <ul>
    <li v-for="one in findings" :key="one.subject">
      <label
        ><input type="checkbox" :checked="!left.has(one.subject)" :disabled="locked" @change="toggle(one.subject)" /><span class="cut">{{
          one.plugin ?? one.file
        }}</span
        ><code class="muted">{{ one.line }}</code
        ><code class="cut">{{ one.fix?.label }}</code></label
      >
    </li>
  </ul>
  <div class="acts">
    <button class="btn" :disabled="locked || chosen.length === 0" @click="emit('mend', chosen)">
      Mend {{ chosen.length === findings.length ? `all ${chosen.length} alike` : `these ${chosen.length}` }} <kbd>Shift Enter</kbd>
    </button>
  </div>
</template>

<style scoped>
label {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) 40px minmax(0, 1.4fr);
  align-items: center;
  min-height: 24px;
  font: var(--t-small);
  border-bottom: 1px solid var(--hairline);
}
</style>
