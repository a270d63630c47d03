<script setup lang="ts">
import { NumberText, type Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** A port, with the settings that use it already, and the next one that none does. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const known = useKnownStore()
const sheet = useSheetStore()
const others = computed(() => known.usersOf(props.row.amount ?? 0, sheet.view?.path ?? '', props.row.pointer))
const free = computed(() => known.nextFree((props.row.amount ?? 1024) + 1))
</script>

<template>
  <RuleNumber :row="row" :disabled="disabled" :bad="bad" @set="(value) => emit('set', value)" />
  <template v-if="others.length > 0">
    <span class="unit warn cut"><FindingMark kind="warning" /> {{ others[0]!.plugin }} has it too</span>
    <button v-if="!disabled" class="act" @click="emit('set', new NumberText(String(free)))">take {{ free }}</button>
  </template>
</template>

<style scoped>
.warn {
  color: var(--warning);
}
</style>
