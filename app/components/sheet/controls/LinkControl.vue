<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'

const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const { typed, sent } = useTyped(() => String(props.row.value ?? ''))
/** Only pages are opened from here. */
const page = computed(() => (/^https?:\/\/\S+$/i.test(typed.value) ? typed.value : null))
function type(): void {
  sent(typed.value)
  emit('set', typed.value)
}
</script>

<template>
  <input
    v-model="typed"
    class="in w4"
    :class="{ bad }"
    type="url"
    :disabled="disabled"
    :aria-label="row.label"
    placeholder="empty"
    @input="type"
  />
  <a v-if="page" class="act" :href="page" target="_blank" rel="noopener noreferrer" :aria-label="`Open ${row.label}`">open</a>
  <span v-else-if="typed === '' && row.rule?.emptyMeans" class="unit cut">{{ row.rule.emptyMeans }}</span>
</template>
