<script setup lang="ts">
import { readClock, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** Times of day that repeat: each as it is here, and written as the file has it. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const { ofFile, isSame, here, there } = useOwnZone(() => props.row.rule?.zone)
const adding = ref('')
const { items: times, set } = useItems(
  () => props.row.value,
  (now) => emit('set', [...now]),
)

function add(): void {
  if (!readClock(adding.value)) return
  set([...times.value, there(adding.value, times.value[0] ?? '00:00')])
  adding.value = ''
}
const inOrder = (shown: readonly string[]): string[] => shown.map((time) => times.value.find((own) => here(own) === time) ?? time)
</script>

<template>
  <ReorderTokens class="times" :items="times.map(here)" :label="row.label" :disabled="disabled" @set="(now) => set(inOrder(now))">
    <input
      v-model="adding"
      class="in w0"
      :disabled="disabled"
      placeholder="+"
      :aria-label="`Add to ${row.label}`"
      @keydown.enter.prevent="add"
      @change="add"
    />
  </ReorderTokens>
  <template v-if="ofFile">
    <ZonePick :label="`Zone to type ${row.label} in`" :disabled="disabled" />
    <span v-if="!isSame" class="unit cut">= {{ times.join(', ') }} {{ shortZone(ofFile) }}</span>
  </template>
</template>

<style scoped>
/* what the file has gives way first; the zone beside them needs its room */
.times {
  flex-shrink: 0;
  max-width: calc(100% - 120px);
}
</style>
