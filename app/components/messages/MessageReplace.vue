<script setup lang="ts">
import { hitsOf } from '~/utils/message-replace'
import { shortPath } from '~/utils/pointer-words'

/** Words that stand in many texts, changed in all of them after a look at each. */
const messages = useMessagesStore()
const session = useSessionStore()
const known = useKnownStore()
const words = ref('')
const by = ref('')
const matchCase = ref(true)
const wholeWords = ref(false)
/** Texts that are left as they are. */
const left = ref<ReadonlySet<string>>(new Set())
const done = ref('')
const busy = ref(false)
const hits = computed(() =>
  hitsOf(messages.shown, words.value, by.value, { matchCase: matchCase.value, wholeWords: wholeWords.value, markup: known.known.texts }),
)
const chosen = computed(() => hits.value.filter(({ message }) => !left.value.has(message.id)))
watch([words, by, matchCase, wholeWords], () => {
  left.value = new Set()
  done.value = ''
})
function toggle(id: string): void {
  const now = new Set(left.value)
  if (!now.delete(id)) now.add(id)
  left.value = now
}
async function replace(): Promise<void> {
  busy.value = true
  const count = chosen.value.length
  await messages.writeAll(chosen.value)
  busy.value = false
  if (!messages.problem) done.value = `${counted(count, 'text')} changed, in the tray now. One undo takes all back.`
}
</script>

<template>
  <div class="replace">
    <form class="fields" @submit.prevent="replace">
      <label for="replace-words">Find</label><input id="replace-words" v-model="words" class="in" placeholder="the shop’s address" />
      <label for="replace-by">and write</label><input id="replace-by" v-model="by" class="in" />
      <label class="tick"><input v-model="matchCase" type="checkbox" /> as spelt</label>
      <label class="tick"><input v-model="wholeWords" type="checkbox" /> whole words</label>
      <button class="btn small push" type="submit" :disabled="busy || chosen.length === 0 || !session.mayEdit">
        Change {{ counted(chosen.length, 'text') }}
      </button>
    </form>
    <p v-if="done" class="said" role="status">{{ done }} <button class="act" @click="messages.undo()">take it back</button></p>
    <p v-else-if="words !== '' && hits.length === 0" class="said muted" role="status">No text that is shown holds that.</p>
    <ul class="hits" aria-label="Texts that would change">
      <li v-for="{ message, texts, count } in hits.slice(0, 200)" :key="message.id" :class="{ left: left.has(message.id) }">
        <input
          type="checkbox"
          :checked="!left.has(message.id)"
          :aria-label="`Change ${message.plugin} line ${message.line}`"
          @change="toggle(message.id)"
        />
        <div>
          <p>
            <b>{{ message.plugin }}</b> <code>{{ shortPath(message.file) }}:{{ message.line }}</code>
            <span v-if="count > 1" class="muted">{{ count }} times</span>
          </p>
          <div class="pair">
            <ReadingView :message="message" ground="dark" />
            <ReadingView :message="{ ...message, texts }" ground="dark" />
          </div>
        </div>
      </li>
    </ul>
    <p v-if="hits.length > 200" class="said muted">and {{ hits.length - 200 }} more, which are changed too</p>
  </div>
</template>

<style scoped>
.replace {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 8px 16px;
}
.fields {
  display: flex;
  gap: 8px 12px;
  align-items: baseline;
  flex-wrap: wrap;
}
.fields .in {
  width: 180px;
}
.tick {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  font: var(--t-small);
}
.said {
  padding: 8px 0;
  font: var(--t-small);
}
.hits {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
.hits li {
  display: flex;
  gap: 8px;
  padding: 6px 0;
  border-bottom: 1px solid var(--hairline);
}
.hits li > div {
  flex: 1;
  min-width: 0;
}
.hits p {
  display: flex;
  gap: 8px;
  font: var(--t-fine);
}
.hits .left {
  opacity: 0.55;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin-top: 4px;
}
</style>
