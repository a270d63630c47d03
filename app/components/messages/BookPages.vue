<script setup lang="ts">
import { pagesOf } from '@pasticcio/core'
import { styleOf } from '~/utils/text-style'

/** A text as the pages of a book, of as many rows and letters as the game’s have. */
const props = defineProps<{ text: string; plugin: string; isRow?: boolean }>()
const samples = useSamplesStore()
const known = useKnownStore()
/** What a page holds where the family does not say. */
const USUAL = { letters: 28, rows: 14 }
const size = computed(() => ({ ...USUAL, ...known.known.texts.surfaces?.book }))
const lines = computed(() => props.text.split(/\r?\n/).flatMap((line) => samples.seenLines(line, props.plugin)))
const pages = computed(() => pagesOf(lines.value, size.value))
const at = ref(0)
const page = computed(() => pages.value[Math.min(at.value, pages.value.length - 1)] ?? [])
const rows = computed(() => (props.isRow ? page.value.slice(0, 2) : page.value))
</script>

<template>
  <div class="leaf" :class="{ row: isRow }" :style="isRow ? undefined : { minHeight: `${size.rows * 17 + 12}px` }" aria-hidden="true">
    <p v-for="(row, i) in rows" :key="i">
      <span v-for="(run, j) in row" :key="j" :style="styleOf(run)">{{ run.text }}</span><br v-if="row.length === 0" />
    </p>
  </div>
  <div v-if="!isRow" class="turn">
    <button class="act" :disabled="at === 0" @click="at--">back</button>
    <span>page {{ Math.min(at + 1, pages.length) }} of {{ pages.length }}</span>
    <button class="act" :disabled="at >= pages.length - 1" @click="at++">on</button>
  </div>
</template>

<style scoped>
.leaf p {
  margin: 0;
  line-height: 17px;
}
.leaf.row p {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  line-height: 16px;
}
.turn {
  display: flex;
  justify-content: space-between;
  padding-top: 4px;
  font: var(--t-fine);
}
.turn .act:disabled {
  visibility: hidden;
}
</style>
