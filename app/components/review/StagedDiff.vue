<script setup lang="ts">
import type { TrayFile, TrayText } from '~/utils/types'

/** One staged file against what it was made from, and against the server where that changed meanwhile. */
const props = defineProps<{ file: TrayFile }>()
const tray = useTrayStore()
const texts = shallowRef<TrayText | null>(null)
const problem = ref('')
watch(
  () => [props.file.path, props.file.sha, props.file.drifted],
  async () => {
    try {
      texts.value = await tray.textOf(props.file.path)
      problem.value = ''
    } catch (error) {
      problem.value = wordsOf(error)
    }
  },
  { immediate: true },
)
</script>

<template>
  <Message v-if="problem" severity="error">{{ problem }}</Message>
  <template v-else-if="texts">
    <div v-if="texts.now !== null" class="problem" role="alert">
      <p>
        {{ file.path }} was changed on the server since this draft was begun. Below: what the server changed. Your draft follows under it;
        copy what you need, then discard the draft and begin anew.
      </p>
      <TextDiff :before="texts.base" :after="texts.now" />
    </div>
    <TextDiff :before="texts.base" :after="texts.draft" />
  </template>
  <BaseProgress v-else label="Loading" />
</template>
