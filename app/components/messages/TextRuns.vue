<script setup lang="ts">
import { cutAt } from '~/utils/surface-look'
import { styleOf } from '~/utils/text-style'

/** One text as players read it: codes do what they do, placeholders have values, and letters nobody sees are struck. */
const props = defineProps<{
  text: string
  plugin: string
  /** So many rows are drawn. */
  most?: number
  /** So many letters of a row are seen; null for all. */
  letters?: number | null
}>()
const samples = useSamplesStore()
const lines = computed(() =>
  samples
    .seenLines(props.text, props.plugin)
    .slice(0, props.most ?? 99)
    .map((line) => cutAt(line, props.letters ?? null)),
)
</script>

<template>
  <template v-for="(line, i) in lines" :key="i"
    ><br v-if="i > 0" /><span v-for="(run, j) in line" :key="j" :class="[run.is, { over: run.isOver }]" :style="styleOf(run)">{{
      run.text
    }}</span></template
  >
</template>

<style scoped>
.over {
  text-decoration: line-through !important;
  opacity: 0.6;
}
</style>
