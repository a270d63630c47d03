<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'
import { namedWith } from '~/utils/fit-picture'

/** The name of a file: picked from those that are there, typed, or uploaded to where the setting looks. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const { known, problem, find, upload } = useNamedFiles(() => props.row)
const name = computed(() => String(props.row.value ?? ''))
const picks = computed(() =>
  (known.value?.files ?? []).map((file) => ({ id: file.name, name: bytesOf(file.size), group: file.staged ? 'in the tray' : '' })),
)
const picker = useTemplateRef<HTMLInputElement>('picker')

async function take(file: File | undefined): Promise<void> {
  if (!file) return
  const put = await upload(file, namedWith(file.name, file.name.split('.').pop()!.toLowerCase()))
  if (put !== null && put !== name.value) emit('set', put)
}
</script>

<template>
  <IdPicker
    :model-value="name"
    registry=""
    :picks="picks"
    :label="row.label"
    :disabled="disabled"
    :bad="bad"
    @update:model-value="(file) => emit('set', file)"
  />
  <button class="act" :disabled="disabled" :aria-label="`Upload ${row.label}`" @click="picker?.click()">upload …</button>
  <input
    ref="picker"
    class="sr"
    type="file"
    tabindex="-1"
    aria-hidden="true"
    @change="take(($event.target as HTMLInputElement).files?.[0])"
  />
  <span v-if="problem" class="wrn cut" role="alert"><FindingMark kind="warning" /> {{ problem }}</span>
  <span v-else-if="name === ''" class="unit cut">{{ row.rule?.emptyMeans ?? '' }}</span>
  <span v-else-if="known && !find(name)" class="unit cut">not in {{ known.folder }} yet</span>
</template>
