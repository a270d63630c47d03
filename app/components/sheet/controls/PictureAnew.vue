<script setup lang="ts">
import { FITS, drawAnew, type Fit } from '~/utils/fit-picture'

/** A picture as it is and as it would be, in the size and kind that a setting takes; nothing is staged before somebody says so. */
const props = defineProps<{ file: Blob; ending: string; width?: number; height?: number }>()
const emit = defineEmits<{ done: [picture: Blob]; asItIs: []; close: [] }>()
const fit = ref<Fit>('whole')
const picture = shallowRef<ImageBitmap | null>(null)
const made = shallowRef<Blob | null>(null)
const problem = ref('')
const size = computed(() => ({ width: props.width ?? picture.value?.width ?? 1, height: props.height ?? picture.value?.height ?? 1 }))
const isSkewed = computed(() => {
  const { width, height } = picture.value ?? size.value
  return Math.abs(width * size.value.height - height * size.value.width) > Math.max(width, height)
})
/** Whether the size alone is another, so that somebody may say it is right. */
const mayStay = computed(() => props.file.type === '' || props.file.type.endsWith(props.ending.replace('jpg', 'jpeg')))

watch(
  () => props.file,
  async () => (picture.value = await createImageBitmap(props.file).catch(() => null)),
  { immediate: true },
)
watch([picture, fit, size], async () => {
  if (!picture.value) return
  try {
    made.value = await drawAnew(picture.value, size.value, fit.value, props.ending)
  } catch (error) {
    problem.value = wordsOf(error)
  }
})
const before = useObjectUrl(() => props.file)
const after = useObjectUrl(made)
</script>

<template>
  <BaseDialog :visible="true" title="Make it fit" @update:visible="emit('close')">
    <div class="both">
      <figure>
        <img v-if="before" :src="before" alt="The picture as it is" />
        <figcaption v-if="picture">as it is: {{ picture.width }} × {{ picture.height }}</figcaption>
      </figure>
      <figure>
        <img v-if="after" :src="after" alt="The picture as it would be" />
        <figcaption>as it would be: {{ size.width }} × {{ size.height }} {{ ending.toUpperCase() }}</figcaption>
      </figure>
    </div>
    <fieldset v-if="isSkewed" class="fits">
      <legend class="sr">How it fits</legend>
      <label v-for="[id, words] in FITS" :key="id"><input v-model="fit" type="radio" name="fit" :value="id" /> {{ words }}</label>
    </fieldset>
    <p v-if="problem" role="alert"><FindingMark kind="error" /> {{ problem }}</p>
    <div class="acts">
      <button class="btn go" :disabled="!made" @click="emit('done', made!)">Put it into the tray</button>
      <button v-if="mayStay" class="btn" @click="emit('asItIs')">Take it as it is</button>
      <button class="btn quiet" @click="emit('close')">Never mind</button>
    </div>
  </BaseDialog>
</template>

<style scoped>
.both {
  display: flex;
  gap: 24px;
}
figure {
  width: 220px;
  display: grid;
  grid-template-rows: 1fr auto;
  align-items: center;
  gap: 6px;
  justify-items: center;
}
img {
  max-width: 218px;
  max-height: 218px;
  border: 1px solid var(--hairline);
  background: repeating-conic-gradient(var(--semolina) 0 25%, var(--flour) 0 50%) 0 / 12px 12px;
}
figcaption,
.fits {
  font: var(--t-fine);
  color: var(--muted);
}
.fits {
  display: flex;
  gap: 16px;
  border: none;
  padding: 8px 0 0;
}
.acts {
  display: flex;
  gap: 8px;
  margin-top: 14px;
}
</style>
