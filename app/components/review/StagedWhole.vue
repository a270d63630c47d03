<script setup lang="ts">
import type { TrayFile } from '~/utils/types'

/** A staged file that is no text: a picture as it is and as it will be, or the word that another file takes its place. */
const props = defineProps<{ file: TrayFile }>()
const tray = useTrayStore()
const session = useSessionStore()
const server = useServerStore()
const isPicture = computed(() => /\.(?:png|jpe?g|gif|webp|bmp)$/i.test(props.file.path))
const isThere = ref(true)
watch(
  () => props.file.sha,
  () => (isThere.value = true),
)
const address = (standing: boolean): string =>
  `${server.base}/picture?path=${encodeURIComponent(props.file.path)}&standing=${String(standing)}&of=${props.file.sha}`
</script>

<template>
  <div v-if="file.drifted" class="problem" role="alert">
    <p>{{ file.path }} was changed on the server since this one was staged. Nothing is lost until you choose.</p>
    <div v-if="session.mayEdit" class="acts">
      <button class="btn small" @click="tray.rebase(file.path, 'mine')">Keep mine, and write over theirs</button>
      <button class="btn small quiet" @click="tray.discard(file.path, file.sha)">Discard mine</button>
    </div>
  </div>
  <div v-if="isPicture" class="both">
    <figure v-if="isThere">
      <img :src="address(true)" alt="As it is" @error="isThere = false" />
      <figcaption>as it is</figcaption>
    </figure>
    <figure>
      <img :src="address(false)" alt="As it will be" />
      <figcaption>{{ isThere ? 'as it will be' : 'new' }}</figcaption>
    </figure>
  </div>
  <p v-else class="muted">The file is put there whole; what stands there now is kept in History.</p>
</template>

<style scoped>
.both {
  display: flex;
  gap: 24px;
  padding: 10px 16px;
}
figure {
  display: grid;
  gap: 4px;
  justify-items: center;
}
img {
  max-width: 192px;
  max-height: 128px;
  border: 1px solid var(--hairline);
}
figcaption,
.muted {
  font: var(--t-fine);
  color: var(--muted);
}
.muted {
  padding: 8px 16px;
}
</style>
