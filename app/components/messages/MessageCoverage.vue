<script setup lang="ts">
import { coverageOf, type CellState } from '~/utils/message-languages'

/** How far each language is: said solid, older hatched, missing hollow. Its figures lead to the texts. */
const emit = defineEmits<{ look: [state: CellState] }>()
const messages = useMessagesStore()
const coverage = computed(() => coverageOf(messages.languages, messages.serverLanguage?.language ?? null))
const share = (part: number, { said, stale, missing }: (typeof coverage.value)[number]): string =>
  `${(100 * part) / Math.max(1, said + stale + missing)}%`
</script>

<template>
  <footer v-if="coverage.length > 0" class="coverage" aria-label="Languages">
    <i class="lead">Languages</i>
    <span v-for="one in coverage" :key="one.language" class="one">
      {{ one.language }}
      <span class="rod" aria-hidden="true"
        ><i class="said" :style="{ width: share(one.said, one) }" /><i class="stale" :style="{ width: share(one.stale, one) }"
      /></span>
      {{ one.said + one.stale
      }}<template v-if="messages.serverLanguage?.language === one.language"
        >, the server’s, <code>{{ messages.serverLanguage.file }}:{{ messages.serverLanguage.line }}</code></template
      >
      <button v-if="one.stale > 0" class="act" @click="emit('look', 'stale')">{{ one.stale }} older</button>
      <button v-if="one.missing > 0" class="act" @click="emit('look', 'missing')">{{ one.missing }} missing</button>
    </span>
  </footer>
</template>

<style scoped>
.coverage {
  display: flex;
  gap: 18px;
  align-items: center;
  min-height: 32px;
  padding: 0 16px;
  border-top: 1px solid var(--hairline);
  font: var(--t-small);
  overflow-x: auto;
  white-space: nowrap;
}
.lead {
  color: var(--muted);
  font: var(--t-comment);
}
.one {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.rod {
  display: inline-flex;
  width: 56px;
  height: 6px;
  border: 1px solid var(--crust);
}
.rod .said {
  background: var(--crust);
}
.rod .stale {
  background: repeating-linear-gradient(90deg, var(--crust) 0 1px, transparent 1px 3px);
}
</style>
