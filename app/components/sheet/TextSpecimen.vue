<script setup lang="ts">
import { styleOf } from '~/utils/text-style'

/** Texts as players read them, on the game's own ground. */
const props = defineProps<{ texts: readonly string[] }>()
const known = useKnownStore()
/** So many lines are shown. */
const MOST = 12
const lines = computed(() => props.texts.flatMap((text) => known.markup.read(text)))
</script>

<template>
  <div class="specimen" role="group" aria-label="As players read it">
    <p v-for="(line, i) in lines.slice(0, MOST)" :key="i">
      <span v-for="(run, j) in line" :key="j" :class="run.is" :style="styleOf(run)">{{ run.text }}</span><br v-if="line.length === 0" />
    </p>
    <p v-if="lines.length > MOST" class="rest">and {{ lines.length - MOST }} more</p>
  </div>
</template>

<style scoped>
.specimen {
  margin-top: 8px;
  padding: 8px 10px;
  background: var(--specimen);
  color: var(--specimen-text);
  border-radius: var(--radius);
  font: var(--t-small);
  overflow-wrap: anywhere;
}
.placeholder {
  border-bottom: 1px dotted currentColor;
}
.unknown {
  text-decoration: underline wavy;
  text-underline-offset: 3px;
}
.rest {
  opacity: 0.75;
  font: var(--t-fine);
}
</style>
