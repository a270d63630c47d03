<script setup lang="ts">
import { styleOf } from '~/utils/text-style'

/** One text as players read it: codes do what they do, and placeholders have values. */
const props = defineProps<{ text: string; plugin: string; most?: number }>()
const messages = useMessagesStore()
const lines = computed(() => messages.seenLines(props.text, props.plugin).slice(0, props.most ?? 99))
</script>

<template>
  <template v-for="(line, i) in lines" :key="i"
    ><br v-if="i > 0" /><span v-for="(run, j) in line" :key="j" :class="run.is" :style="styleOf(run)">{{ run.text }}</span></template
  >
</template>
