<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { ControlProps } from '~/utils/control-props'
import { kindOfPicture, namedWith, writtenAs } from '~/utils/fit-picture'

/** A picture: seen, picked from those beside it, or uploaded; one of another kind or size is offered to be made anew. */
const props = defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
const server = useServerStore()
const { known, problem, find, upload } = useNamedFiles(() => props.row)
const name = computed(() => String(props.row.value ?? ''))
const file = computed(() => find(name.value))
const address = computed(() => file.value && `${server.base}/picture?path=${encodeURIComponent(file.value.path)}&of=${file.value.size}`)
const rule = computed(() => props.row.rule)
const wanted = computed(() => (rule.value?.width && rule.value.height ? `${rule.value.width} × ${rule.value.height}` : null))
const facts = computed(() => file.value?.picture ?? null)
const isRight = computed(
  () => !facts.value || !wanted.value || (facts.value.width === rule.value!.width && facts.value.height === rule.value!.height),
)
const picks = computed(() =>
  (known.value?.files ?? []).map(({ name: id, picture, staged }) => ({
    id,
    name: picture ? `${picture.width} × ${picture.height}` : 'no picture that can be read',
    group: staged ? 'in the tray' : '',
  })),
)
const picker = useTemplateRef<HTMLInputElement>('picker')
/** A picture that has to be made anew before it fits. */
const anew = shallowRef<{ readonly file: Blob; readonly name: string; readonly ending: string } | null>(null)

async function take(chosen: File | undefined): Promise<void> {
  if (!chosen) return
  problem.value = ''
  const kind = kindOfPicture(new Uint8Array(await chosen.slice(0, 16).arrayBuffer()))
  const size = kind && (await createImageBitmap(chosen).catch(() => null))
  if (!size) {
    problem.value = `${chosen.name} is no picture that can be read. Take a PNG.`
    return
  }
  const ending = writtenAs(rule.value?.endings ?? [], kind)
  const fits = ending === kind && (!wanted.value || (size.width === rule.value!.width && size.height === rule.value!.height))
  if (fits || ending === null) await give(chosen, namedWith(chosen.name, kind))
  else anew.value = { file: chosen, name: namedWith(chosen.name, ending), ending }
}
async function resize(): Promise<void> {
  const bytes = await fetch(address.value!).then((response) => response.blob())
  anew.value = { file: bytes, name: name.value, ending: facts.value!.kind }
}
async function give(picture: Blob, as: string, asItIs = false): Promise<void> {
  anew.value = null
  const put = await upload(picture, as, asItIs)
  if (put !== null && put !== name.value) emit('set', put)
}
</script>

<template>
  <span class="thumb"><img v-if="facts" :src="address!" :alt="`${row.label}, as it is now`" /></span>
  <span class="parts">
    <span class="part"
      ><IdPicker
        :model-value="name"
        registry=""
        :picks="picks"
        :label="row.label"
        :disabled="disabled"
        :bad="bad"
        @update:model-value="(picked) => emit('set', picked)" /><button
        class="act"
        :disabled="disabled"
        :aria-label="`Upload ${row.label}`"
        @click="picker?.click()"
      >
        upload …</button
      ><input
        ref="picker"
        class="sr"
        type="file"
        accept="image/*"
        tabindex="-1"
        aria-hidden="true"
        @change="take(($event.target as HTMLInputElement).files?.[0])"
    /></span>
    <span class="part says">
      <span v-if="problem" class="wrn cut" role="alert"><FindingMark kind="warning" /> {{ problem }}</span>
      <span v-else-if="name === ''" class="cut">{{ row.rule?.emptyMeans ?? 'no picture' }}</span>
      <template v-else-if="known && !file"
        ><span class="wrn cut"><FindingMark kind="warning" /> {{ name }} is not in {{ known.folder }} yet</span></template
      >
      <span v-else-if="file && !facts" class="wrn cut"><FindingMark kind="warning" /> no picture that can be read</span>
      <template v-else-if="facts && !isRight"
        ><span class="wrn cut"><FindingMark kind="warning" /> {{ facts.width }} × {{ facts.height }}, the setting takes {{ wanted }}</span
        ><button class="act" :disabled="disabled" @click="resize"><b>resize …</b></button></template
      >
      <span v-else-if="facts"
        >{{ facts.width }} × {{ facts.height }} {{ facts.kind.toUpperCase() }}{{ file?.staged ? ', in the tray' : '' }}</span
      >
    </span>
  </span>
  <PictureAnew
    v-if="anew"
    :file="anew.file"
    :ending="anew.ending"
    :width="rule?.width"
    :height="rule?.height"
    @done="(made) => give(made, anew!.name)"
    @as-it-is="give(anew!.file, anew!.name, true)"
    @close="anew = null"
  />
</template>

<style scoped>
.thumb {
  width: 60px;
  height: 40px;
  flex: none;
  margin: 4px 0;
  display: grid;
  place-items: center;
  background: var(--semolina);
  border: 1px solid var(--hairline);
  border-radius: 2px;
}
.thumb img {
  max-width: 58px;
  max-height: 38px;
  image-rendering: auto;
}
.parts {
  min-width: 0;
  display: grid;
}
.part {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
  min-height: 22px;
}
.says {
  font: var(--t-fine);
  color: var(--muted);
}
</style>
