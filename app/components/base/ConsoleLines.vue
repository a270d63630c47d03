<script setup lang="ts">
import type { NumberedLine } from '~/utils/types'

/** Console lines, the newest in view unless somebody scrolled up. */
const props = defineProps<{ lines: readonly NumberedLine[]; small?: boolean }>()
const host = ref<HTMLElement | null>(null)
watch(
  () => props.lines.length,
  () => {
    const box = host.value
    if (!box) return
    const atEnd = box.scrollHeight - box.scrollTop - box.clientHeight < 40
    if (atEnd) void nextTick(() => (box.scrollTop = box.scrollHeight))
  },
)
onMounted(() => (host.value!.scrollTop = host.value!.scrollHeight))
</script>

<template>
  <div ref="host" class="console" :class="{ small }" role="log" tabindex="0" aria-label="Console">
    <div v-for="line in lines" :key="line.seq">
      <span class="t">{{ line.time }}</span>
      <span :class="{ err: line.level === 'error', wrn: line.level === 'warn' }"
        ><template v-if="line.level === 'error' || line.level === 'warn'">{{ line.level }}: </template>{{ line.text }}</span
      >
    </div>
    <p v-if="lines.length === 0" class="t">Nothing yet.</p>
  </div>
</template>

<style scoped>
.small {
  padding: 6px 0;
  font-size: 11px;
  line-height: 16px;
  max-height: 320px;
  overflow: auto;
}
</style>
