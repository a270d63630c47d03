<script setup lang="ts">
import type { TrayFile, TrayText } from '~/utils/types'

/** One staged file against what it was made from, and against the server where that changed meanwhile. */
const props = defineProps<{ file: TrayFile }>()
const tray = useTrayStore()
const session = useSessionStore()
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
        {{ file.path }} was changed on the server since this draft was begun. Below: what was changed there, and under it your draft.
        Nothing is lost until you choose.
      </p>
      <div v-if="session.mayEdit" class="acts">
        <button class="btn small" @click="tray.rebase(file.path, 'merge')">Bring both together</button>
        <button class="btn small" @click="tray.rebase(file.path, 'mine')">Keep mine, and write over theirs</button>
        <button class="btn small quiet" @click="tray.discard(file.path, file.sha)">Discard mine</button>
      </div>
      <TextDiff :before="texts.base" :after="texts.now" />
    </div>
    <TextDiff :before="texts.base" :after="texts.draft" />
  </template>
  <BaseProgress v-else label="Loading" />
</template>
