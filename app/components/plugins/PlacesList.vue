<script setup lang="ts">
import type { AddedPlace, Places } from '~/utils/types'

/** The places of a server that are folders, and adding one from an archive. */
const server = useServerStore()
const session = useSessionStore()
const { busy, problem, run } = useTask()
const places = shallowRef<Places | null>(null)
const name = ref('')
const added = shallowRef<AddedPlace | null>(null)
const said = ref(false)
const picker = useTemplateRef<HTMLInputElement>('picker')
const load = async (): Promise<void> => void (places.value = await callApi<Places>(`${server.base}/places`))
onMounted(() => run(load))

const upload = (file: File | undefined): Promise<boolean> =>
  run(async () => {
    if (!file) return
    const called = name.value.trim() || file.name.replace(/\.[^.]+$/, '')
    said.value = false
    added.value = await callApi<AddedPlace>(`${server.base}/places/upload?name=${encodeURIComponent(called)}`, { bytes: file })
    name.value = ''
    await load()
  }, 'Unpacking')
const say = (): Promise<boolean> =>
  run(async () => {
    await callApi(`${server.base}/console`, { body: { line: added.value!.command } })
    said.value = true
  })
</script>

<template>
  <template v-if="places?.folder">
    <div class="grp">
      <h2>Places</h2>
      <span class="ct">{{ places.places.length }}</span><code>{{ places.folder }}/</code>
    </div>
    <Message v-if="problem" severity="error">{{ problem }}</Message>
    <BaseProgress v-if="busy" :label="busy" />
    <p class="line">
      <code v-for="place in places.places" :key="place">{{ place }}</code><span v-if="places.places.length === 0" class="muted"
        >none yet</span
      >
    </p>
    <form v-if="session.mayEdit" class="line" @submit.prevent="picker?.click()">
      <label for="place-name">Add one from an archive, called</label>
      <InputText id="place-name" v-model="name" class="w4" placeholder="as its file" />
      <button class="btn small" :disabled="busy !== ''">Choose the archive</button>
      <input
        ref="picker"
        type="file"
        class="sr"
        aria-label="Archive of a place"
        @change="upload(($event.target as HTMLInputElement).files?.[0])"
      />
    </form>
    <p v-if="added" class="line" role="status">
      <FindingMark kind="done" /> It is in its place.
      <template v-if="added.command"
        >Open it with <code>{{ added.command }}</code>
        <button class="btn small" :disabled="said || server.state.status !== 'running' || busy !== ''" @click="say">
          {{ said ? 'said' : 'Say it to the console' }}
        </button></template
      >
    </p>
  </template>
</template>

<style scoped>
.line {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 6px 16px;
  font: var(--t-small);
  flex-wrap: wrap;
}
</style>
