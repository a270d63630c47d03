<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** A weight among others, with the share of all that it comes to. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const share = computed(() => props.row.share)
</script>

<template>
  <RuleNumber :row="row" :disabled="disabled" :bad="bad" @set="(value) => emit('set', value)" />
  <span v-if="share !== null" class="rail" aria-hidden="true"><i :style="{ width: `${share}%` }" /></span>
  <span class="unit share">{{ share === null ? 'nothing can be drawn' : `${share.toFixed(1)} %` }}</span>
</template>

<style scoped>
.rail {
  flex: none;
  width: 56px;
  height: 4px;
  border-bottom: 1px solid var(--field-rule);
  position: relative;
}
.rail i {
  position: absolute;
  bottom: -1px;
  left: 0;
  height: 3px;
  min-width: 1px;
  background: var(--crust);
}
.share {
  min-width: 44px;
  text-align: right;
}
</style>
