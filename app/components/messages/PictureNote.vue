<script setup lang="ts">
import { pointerWords, shortPath } from '~/utils/pointer-words'
import type { ShownPicture } from '~/utils/types'

/** A picture that players see: what it is, what its setting takes, how it takes turns, and another in its place. */
const props = defineProps<{ picture: ShownPicture }>()
const messages = useMessagesStore()
const server = useServerStore()
const session = useSessionStore()
const tray = useTrayStore()
const picker = useTemplateRef<HTMLInputElement>('picker')
const problem = ref('')
/** A picture of another size, which is taken where somebody says that it is right. */
const odd = shallowRef<File | null>(null)
const wanted = computed(() =>
  props.picture.width && props.picture.height ? `${props.picture.width} × ${props.picture.height}` : 'any size',
)
const isRight = computed(() => {
  const { size, width, height } = props.picture
  return size === null || ((width === null || size.width === width) && (height === null || size.height === height))
})
const TURNS = { together: 'all of them', 'in-turn': 'one after the other', 'at-random': 'one of them, at random' } as const

async function take(file: File | undefined, asItIs = false): Promise<void> {
  if (!file) return
  problem.value = ''
  odd.value = null
  const { file: path, pointer, name } = props.picture
  const asked = new URLSearchParams({ path, pointer, name, asItIs: String(asItIs) })
  try {
    await callApi(`${server.base}/named?${asked}`, { method: 'PUT', bytes: file })
    await Promise.all([tray.refresh(), messages.load()])
  } catch (error) {
    problem.value = wordsOf(error)
    const facts = error instanceof ApiProblem && error.code === 'picture-differs' ? error.data['picture'] : null
    if (facts) odd.value = file
  }
}
</script>

<template>
  <div class="body note">
    <header>
      <h3 class="cut">Picture</h3>
      <code class="cut">{{ picture.name }}</code>
      <NuxtLink class="push" :to="{ path: `/s/${server.slug}/settings/${picture.file}`, query: { at: picture.pointer } }"
        >line {{ picture.line }}</NuxtLink
      >
    </header>
    <div class="shown">
      <img v-if="picture.size" :src="messages.pictureAddress(picture)" :alt="picture.name" /><span v-else class="muted">{{
        picture.path ? 'no picture that can be read' : 'not there yet'
      }}</span>
    </div>
    <dl class="facts">
      <dt>Size</dt>
      <dd>
        <FindingMark v-if="!isRight" kind="warning" /> {{ picture.size ? `${picture.size.width} × ${picture.size.height}` : 'not known' }},
        the setting takes {{ wanted }}
      </dd>
      <dt>Kind</dt>
      <dd>{{ picture.kind.toUpperCase() || 'none' }}</dd>
      <dt>Shown</dt>
      <dd>{{ picture.turn ? TURNS[picture.turn] : 'always' }}</dd>
      <dt>Named by</dt>
      <dd>
        {{ picture.plugin }} <code>{{ pointerWords(picture.pointer) }}</code>
      </dd>
      <dt>Lies at</dt>
      <dd>
        <code>{{ picture.path ? shortPath(picture.path) : 'nowhere' }}</code>{{ picture.staged ? ', in the tray' : '' }}
      </dd>
    </dl>
    <button v-if="session.mayEdit" class="act" @click="picker?.click()">put another in its place …</button>
    <input
      ref="picker"
      class="sr"
      type="file"
      accept="image/*"
      tabindex="-1"
      aria-hidden="true"
      @change="take(($event.target as HTMLInputElement).files?.[0])"
    />
    <p v-if="problem" class="wrn" role="alert"><FindingMark kind="warning" /> {{ problem }}</p>
    <button v-if="odd" class="act" @click="take(odd, true)">it is right as it is</button>
  </div>
</template>

<style scoped>
.shown {
  display: grid;
  place-items: center;
  min-height: 96px;
  margin: 8px 0;
  background: var(--semolina);
  border-radius: var(--radius);
}
.shown img {
  min-width: 64px;
  max-width: 100%;
  image-rendering: pixelated;
}
</style>
