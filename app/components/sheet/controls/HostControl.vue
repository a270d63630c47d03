<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

/** An address: typed, or one of those that say who may come. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const OFFERED = [
  { id: '127.0.0.1', name: 'this machine only', group: '' },
  { id: '0.0.0.0', name: 'everyone who can reach it', group: '' },
  { id: '::1', name: 'this machine only, IPv6', group: '' },
  { id: '::', name: 'everyone who can reach it, IPv6', group: '' },
]
const address = computed(() => String(props.row.value ?? ''))
const means = computed(() => OFFERED.find(({ id }) => id === (address.value === 'localhost' ? '127.0.0.1' : address.value))?.name)
/** Any address may be typed; those that are offered are no list it must be of. */
const picks = computed(() =>
  address.value === '' || (means.value && address.value !== 'localhost')
    ? OFFERED
    : [...OFFERED, { id: address.value, name: 'as it is', group: '' }],
)
</script>

<template>
  <IdPicker
    :model-value="address"
    registry=""
    :picks="picks"
    :label="row.label"
    :disabled="disabled"
    :bad="bad"
    @update:model-value="(host) => emit('set', host)"
  />
  <span class="unit cut more">{{ means ?? (address === '' ? row.rule?.emptyMeans : '') }}</span>
</template>
