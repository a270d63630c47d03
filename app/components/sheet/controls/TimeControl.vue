<script setup lang="ts">
import { nextShift, readClock, writeClock, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** A time of day, typed on the clocks somebody lives by and written on those of the file. Both are shown. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const { ofFile, own, isSame, here, there } = useOwnZone(() => props.row.rule?.zone)
const written = computed(() => readClock(props.row.source))
const { typed } = useTyped(() => here(props.row.source))
/** When clocks change, the same time in the file is another one here. */
const shift = computed(() =>
  written.value && ofFile.value && own.value && !isSame.value ? nextShift(written.value, ofFile.value, own.value, new Date()) : null,
)
const shiftWords = computed(() => {
  if (!shift.value) return ''
  const day = shift.value.on.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
  return `${writeClock(shift.value.becomes, '00:00')} from ${day}`
})
</script>

<template>
  <input
    v-model="typed"
    class="in w0"
    :class="{ bad: bad || !written }"
    :disabled="disabled"
    :aria-label="row.label"
    placeholder="00:00"
    @change="emit('set', there(typed, row.source))"
  />
  <template v-if="ofFile">
    <ZonePick :label="`Zone to type ${row.label} in`" :disabled="disabled" />
    <span v-if="!isSame" class="unit">= {{ row.source }} {{ shortZone(ofFile) }}</span>
    <span v-if="shift" class="unit warn"><FindingMark kind="warning" /> {{ shiftWords }}</span>
  </template>
  <span v-else class="unit">server’s clock</span>
</template>

<style scoped>
.warn {
  color: var(--warning);
}
</style>
