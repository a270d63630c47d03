<script setup lang="ts">
import { SURFACES } from '@pasticcio/core'
import type { Ground } from '~/utils/contrast'
import { groupOf } from '~/utils/message-groups'
import { SURFACE_WORDS } from '~/utils/message-words'

/** Every text that players read, in one place: as it is written, and as they see it. */
const messages = useMessagesStore()
const drafts = useDraftsStore()
const session = useSessionStore()
const VIEWS = [
  { id: 'events', name: 'Events' },
  { id: 'files', name: 'Files' },
  { id: 'languages', name: 'Languages' },
  { id: 'replace', name: 'Replace' },
] as const
const GROUNDS: readonly { readonly id: Ground | ''; readonly name: string }[] = [
  { id: '', name: 'own ground' },
  { id: 'dark', name: 'dark' },
  { id: 'light', name: 'light' },
]
const view = ref<(typeof VIEWS)[number]['id']>('events')
watch(view, (now) => (now === 'events' || now === 'files') && (messages.view = now))
const book = useTemplateRef<{ show(): void }>('book')
const margin = useTemplateRef<{ enter(): void }>('margin')

onMounted(() => messages.load())
onBeforeRouteLeave(() => drafts.flushAll())
onUnmounted(async () => {
  messages.stop()
  await drafts.leave()
  await drafts.leaveBeside()
})
useEventListener('pagehide', drafts.sendWaiting)

const surfaces = computed(() =>
  SURFACES.map((id) => ({ id, count: messages.all.filter(({ surface }) => surface === id).length })).filter(({ count }) => count > 0),
)
const picks = computed(() => [
  { key: 'plugin' as const, label: 'Plugin', names: messages.plugins },
  ...(messages.spoken.length > 0 ? [{ key: 'language' as const, label: 'Language', names: messages.spoken }] : []),
])
function set<K extends keyof typeof messages.filter>(key: K, value: (typeof messages.filter)[K]): void {
  messages.filter = { ...messages.filter, [key]: value }
}
async function move(by: 1 | -1): Promise<void> {
  messages.move(by)
  await nextTick()
  book.value?.show()
}
const inPage = (event: KeyboardEvent): boolean => (event.target as HTMLElement).closest('button, a, input, select, textarea') === null
useKeys({
  j: () => move(1),
  k: () => move(-1),
  ArrowDown: (event) => inPage(event) && move(1),
  ArrowUp: (event) => inPage(event) && move(-1),
  Enter: (event) => inPage(event) && margin.value?.enter(),
  p: () => messages.play(groupOf(messages.rows, messages.focus)),
  u: () => session.mayEdit && messages.undo(),
  f: () => session.mayEdit && messages.current?.shipped && !messages.current.isShipped && messages.toFactory(messages.current),
  'ctrl+z': () => session.mayEdit && messages.undo(),
})
</script>

<template>
  <div class="page">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1>Messages</h1>
          <span class="tally"
            ><span v-if="messages.isLoaded"
              >{{ counted(messages.all.length, 'text') }} of {{ counted(messages.plugins.length, 'plugin') }}</span
            ><span v-if="messages.counts.mine > 0"><i class="bar y" />{{ messages.counts.mine }} yours</span
            ><span v-if="messages.counts.updates > 0"><i class="bar u" />{{ messages.counts.updates }} in updates</span></span
          >
        </div>
        <BaseSegments v-model="view" class="push" :options="VIEWS" label="View of the messages" />
      </div>
      <div class="strip" role="toolbar" aria-label="Where it is shown">
        <button :aria-pressed="messages.filter.surface === ''" @click="set('surface', '')">
          <span>{{ messages.all.length }}</span>all
        </button>
        <button v-for="{ id, count } in surfaces" :key="id" :aria-pressed="messages.filter.surface === id" @click="set('surface', id)">
          <span><SurfaceSign :surface="id" />{{ count }}</span
          >{{ SURFACE_WORDS[id][0] }}
        </button>
      </div>
      <div class="sieve">
        <select
          v-for="{ key, label, names } in picks"
          :key="key"
          class="in"
          :aria-label="label"
          :value="messages.filter[key]"
          @change="set(key, ($event.target as HTMLSelectElement).value)"
        >
          <option value="">any {{ key }}</option>
          <option v-for="name in names" :key="name">{{ name }}</option>
        </select>
        <input
          class="in words"
          type="search"
          placeholder="words in it"
          aria-label="Words in the text"
          :value="messages.filter.words"
          @input="set('words', ($event.target as HTMLInputElement).value)"
        />
        <label class="tick"
          ><input type="checkbox" :checked="messages.filter.onlyMine" @change="set('onlyMine', !messages.filter.onlyMine)" /> Only
          mine</label
        >
        <label class="tick"
          ><input type="checkbox" :checked="messages.filter.withFindings" @change="set('withFindings', !messages.filter.withFindings)" />
          With findings, {{ messages.counts.findings }}</label
        >
        <BaseSegments v-model="messages.ground" class="push" :options="GROUNDS" label="Ground of the readings" />
      </div>
      <Message v-if="messages.problem" severity="error">{{ messages.problem }}</Message>
      <div v-if="messages.loading && !messages.isLoaded" class="skeleton" aria-busy="true">
        <i v-for="n in 12" :key="n" :style="{ width: `${50 + ((n * 29) % 45)}%` }" />
      </div>
      <MessageReplace v-else-if="view === 'replace'" />
      <MessageLanguages v-else-if="view === 'languages'" />
      <MessageBook v-else-if="messages.rows.length > 0" ref="book" @enter="margin?.enter()" />
      <div v-else-if="messages.isLoaded" class="state">
        <template v-if="messages.all.length === 0">
          <h2>No text was found</h2>
          <p>
            No settings file here has a text that players read. A rule can say that a setting is one: in its sheet, <i>say what it is</i>.
          </p>
        </template>
        <template v-else>
          <h2>Nothing fits</h2>
          <p>{{ counted(messages.all.length, 'text') }} are there, and none is left by these choices.</p>
        </template>
      </div>
    </section>
    <MessageMargin ref="margin" />
  </div>
</template>

<style scoped>
.bench {
  display: flex;
  flex-direction: column;
}
.strip {
  display: flex;
  gap: 2px;
  padding: 0 12px;
  border-bottom: 1px solid var(--hairline);
  overflow-x: auto;
}
.strip button {
  display: grid;
  justify-items: start;
  min-width: 56px;
  padding: 3px 6px;
  font: var(--t-fine);
  color: var(--muted);
  border-bottom: 2px solid transparent;
}
.strip button span {
  display: flex;
  gap: 5px;
  align-items: center;
}
.strip [aria-pressed='true'] {
  color: var(--crust);
  font-weight: 700;
  border-bottom-color: var(--crust);
}
.sieve {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 28px;
  padding: 4px 16px;
  border-bottom: 1px solid var(--hairline);
  font: var(--t-small);
}
.words {
  width: 120px;
}
.tick {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  white-space: nowrap;
}
</style>
