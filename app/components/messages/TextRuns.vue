<script setup lang="ts">
import { styleOf } from '~/utils/text-style'

/** One text as players read it: codes do what they do, and placeholders have values. */
const props = defineProps<{ text: string; plugin: string; most?: number }>()
const known = useKnownStore()
const messages = useMessagesStore()
const lines = computed(() => known.markup.read(props.text).slice(0, props.most ?? 99))
const valueOf = (text: string): string => messages.valueOf(known.bareName(text), props.plugin)
</script>

<template>
  <template v-for="(line, i) in lines" :key="i"
    ><br v-if="i > 0" /><span v-for="(run, j) in line" :key="j" :class="run.is" :style="styleOf(run)">{{
      run.is === 'placeholder' ? valueOf(run.text) : run.text
    }}</span></template
  >
</template>

<style scoped>
.unknown {
  text-decoration: underline wavy;
  text-underline-offset: 3px;
}
</style>
