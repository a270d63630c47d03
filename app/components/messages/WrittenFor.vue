<script setup lang="ts">
import type { Converted } from '@pasticcio/core'
import type { ListedMessage } from '~/utils/message-groups'

/** The text in focus as another family writes it, to be taken along to a server of that. */
const props = defineProps<{ message: ListedMessage }>()
const server = useServerStore()
const { problem, run } = useTask()
const families = shallowRef<readonly { readonly id: string; readonly title: string }[]>([])
const family = ref('')
const written = shallowRef<readonly Converted[]>([])
const isCopied = ref(false)
const lost = computed(() => [...new Set(written.value.flatMap((one) => one.lost))])
const text = computed(() => written.value.map((one) => one.text).join('\n'))

async function open(): Promise<void> {
  if (families.value.length === 0) await run(async () => void (families.value = await callApi('/api/families')))
}
watch([family, () => props.message.texts.join('\n')], async () => {
  written.value = []
  isCopied.value = false
  if (family.value === '') return
  const body = { texts: props.message.texts, family: family.value }
  await run(async () => void (written.value = await callApi(`${server.base}/messages/written`, { body })))
})
async function copy(): Promise<void> {
  await navigator.clipboard?.writeText(text.value)
  isCopied.value = true
}
</script>

<template>
  <details class="other" @toggle="open">
    <summary>As another family writes it</summary>
    <select v-model="family" class="in" aria-label="Family">
      <option value="">choose one</option>
      <option v-for="{ id, title } in families" :key="id" :value="id">{{ title }}</option>
    </select>
    <template v-if="written.length > 0">
      <pre class="text">{{ text }}</pre>
      <p v-if="lost.length > 0" class="lost"><FindingMark kind="warning" /> It has nothing for {{ lost.join(', ') }}.</p>
      <button class="act" @click="copy">{{ isCopied ? 'copied' : 'copy' }}</button>
    </template>
    <p v-if="problem" class="lost" role="alert"><FindingMark kind="error" /> {{ problem }}</p>
  </details>
</template>

<style scoped>
.other {
  margin-top: 10px;
  font: var(--t-small);
}
.other summary {
  font-weight: 700;
  cursor: pointer;
}
.text {
  margin: 6px 0 2px;
  padding: 4px 8px;
  background: var(--semolina);
  font: var(--t-value);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.lost {
  color: var(--warning);
  font: var(--t-fine);
}
</style>
