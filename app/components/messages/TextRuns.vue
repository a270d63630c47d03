<script setup lang="ts">
import { styleOf } from '~/utils/text-style'

/** One text as players read it: codes do what they do, and placeholders have values. */
const props = defineProps<{ text: string; plugin: string; most?: number }>()
const known = useKnownStore()
const messages = useMessagesStore()
// codes that nobody tells of are taken off, as the server takes them off; what is wrong with them is told as a finding
const lines = computed(() =>
  known.markup
    .read(props.text)
    .slice(0, props.most ?? 99)
    .map((line) => line.filter(({ is }) => is !== 'unknown')),
)
const valueOf = (text: string): string => messages.valueOf(known.bareName(text), props.plugin)
</script>

<template>
  <template v-for="(line, i) in lines" :key="i"
    ><br v-if="i > 0" /><span v-for="(run, j) in line" :key="j" :class="run.is" :style="styleOf(run)">{{
      run.is === 'placeholder' ? valueOf(run.text) : run.text
    }}</span></template
  >
</template>
