<script setup lang="ts">
import { groupOf } from '~/utils/message-groups'
import type { CellState } from '~/utils/message-languages'

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

/** The languages, with only those texts of which something is to be said. */
function look(state: CellState): void {
  view.value = 'languages'
  messages.languageState = state
}
async function move(by: 1 | -1): Promise<void> {
  messages.move(by)
  await nextTick()
  book.value?.show()
}
/** The same text in the next language. */
function nextLanguage(): void {
  const { translated } = messages.current ?? {}
  if (!translated) return
  const same = messages.all.filter((one) => one.translated?.base === translated.base && one.translated.pointer === translated.pointer)
  messages.focus = same[(same.findIndex(({ id }) => id === messages.focus) + 1) % same.length]!.id
}
const inPage = (event: KeyboardEvent): boolean => (event.target as HTMLElement).closest('button, a, input, select, textarea') === null
useKeys({
  j: () => move(1),
  k: () => move(-1),
  ArrowDown: (event) => inPage(event) && move(1),
  ArrowUp: (event) => inPage(event) && move(-1),
  Enter: (event) => inPage(event) && margin.value?.enter(),
  l: nextLanguage,
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
      <MessageSieve v-if="view !== 'languages'" />
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
      <MessageCoverage @look="look" />
    </section>
    <MessageMargin ref="margin" />
  </div>
</template>

<style scoped>
.bench {
  display: flex;
  flex-direction: column;
}
</style>
