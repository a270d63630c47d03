<script setup lang="ts">
import { placeholdersIn } from '@pasticcio/core'
import {
  STATE_WORDS,
  languageName,
  languageRows,
  missingText,
  type CellState,
  type LanguageCell,
  type LanguageRow,
  type TextParts,
} from '~/utils/message-languages'
import { pointerWords, shortPath } from '~/utils/pointer-words'

/** The same texts in all their languages, side by side: what is missing, older or leaves something out, and where that is written. */
const messages = useMessagesStore()
const known = useKnownStore()
const session = useSessionStore()
const server = useServerStore()
/** So many rows are drawn; choices above bring others into sight. */
const MOST = 500
const group = computed(() => messages.languages.find(({ base }) => base === messages.languageBase) ?? messages.languages[0] ?? null)
const languages = computed(() => group.value?.languages ?? [])
const parts: TextParts = {
  placeholders: (texts) => [...placeholdersIn(known.known.texts, texts)],
  words: (text) =>
    known.markup
      .read(text)
      .flat()
      .map((run) => (run.is === 'text' ? run.text : ''))
      .join(' '),
}
const nameOf = (language: string): string => languageName(language, messages.serverLanguage?.language ?? null)
const rows = computed(() => (group.value ? languageRows(messages.all, group.value, parts) : []))
const counts = computed(() => {
  const found = new Map<CellState, number>()
  for (const { cells } of rows.value) for (const { state } of cells) found.set(state, (found.get(state) ?? 0) + 1)
  return found
})
const states = computed(() =>
  (Object.keys(STATE_WORDS) as (keyof typeof STATE_WORDS)[]).filter((state) => (counts.value.get(state) ?? 0) > 0 || state === 'missing'),
)
const shown = computed(() => {
  const { languageState: state, filter } = messages
  const words = filter.words.trim().toLowerCase()
  return rows.value.filter(
    ({ pointer, cells }) =>
      (state === '' || cells.some((cell) => cell.state === state)) &&
      (words === '' || pointer.toLowerCase().includes(words) || cells.some((cell) => textOf(cell).toLowerCase().includes(words))),
  )
})
const textOf = ({ message }: LanguageCell): string => message?.texts.join(' · ') ?? ''

/** Writes a text where a language has none: it begins as that of the source. */
async function write(row: LanguageRow, cell: LanguageCell): Promise<void> {
  const source = languages.value.find(({ isSource }) => isSource)
  const from = row.cells.find(({ language }) => language === source?.language)?.message
  const to = languages.value.find(({ language }) => language === cell.language)
  if (!from || !to) return
  const put = missingText(rows.value, rows.value.indexOf(row), to, from.texts)
  await messages.putAll([put])
  messages.focus = `${put.file}#${put.pointer}`
}
</script>

<template>
  <div v-if="group" class="languages">
    <div class="line">
      <select v-if="messages.languages.length > 1" v-model="messages.languageBase" class="in" aria-label="Texts">
        <option v-for="{ base, plugin } in messages.languages" :key="base" :value="base">{{ plugin }} {{ shortPath(base) }}</option>
      </select>
      <b v-else
        >{{ group.plugin }} <code>{{ shortPath(group.base) }}</code></b
      >
      <span v-if="group.chosen" class="muted"
        >speaks {{ group.chosen.language }},
        <NuxtLink :to="{ path: `/s/${server.slug}/settings/${group.chosen.file}`, query: { at: group.chosen.pointer } }"
          >line {{ group.chosen.line }} of {{ shortPath(group.chosen.file) }}</NuxtLink
        ></span
      >
      <span v-else-if="messages.serverLanguage" class="muted"
        >the server speaks {{ messages.serverLanguage.language }},
        <code>{{ messages.serverLanguage.file }}:{{ messages.serverLanguage.line }}</code></span
      >
    </div>
    <div class="line" role="toolbar" aria-label="What is shown">
      <button class="act" :aria-pressed="messages.languageState === ''" @click="messages.languageState = ''">all {{ rows.length }}</button>
      <button
        v-for="state in states"
        :key="state"
        class="act"
        :aria-pressed="messages.languageState === state"
        :title="STATE_WORDS[state][1]"
        @click="messages.languageState = state"
      >
        {{ STATE_WORDS[state][0] }} {{ counts.get(state) ?? 0 }}
      </button>
      <input v-model="messages.filter.words" class="in words" type="search" placeholder="words in it" aria-label="Words in the text" />
      <LanguageFiles :group="group" :rows="rows" />
    </div>
    <div class="sheet">
      <table>
        <thead>
          <tr>
            <th scope="col">Text</th>
            <th v-for="one in languages" :key="one.language" scope="col">
              {{ nameOf(one.language) }} <span class="muted">{{ one.isSource ? 'the others follow it' : counted(one.texts, 'text') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in shown.slice(0, MOST)" :key="row.pointer">
            <th scope="row">
              <code class="cut">{{ pointerWords(row.pointer) }}</code>
            </th>
            <td v-for="cell in row.cells" :key="cell.language" :class="[cell.state, { on: cell.message?.id === messages.focus }]">
              <button v-if="cell.message" class="cell" @click="messages.focus = cell.message.id">
                <LayerMark
                  :factory="cell.message.shipped !== null"
                  :yours="!cell.message.isShipped"
                  :update="cell.message.update !== null"
                />
                <span>{{ textOf(cell) || '(empty)' }}</span>
              </button>
              <button v-else-if="session.mayEdit && cell.state === 'missing'" class="act" @click="write(row, cell)">write it</button>
              <span v-if="cell.state" class="state" :title="STATE_WORDS[cell.state][1]">{{ STATE_WORDS[cell.state][0] }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="shown.length > MOST" class="muted">and {{ shown.length - MOST }} more; words above bring them into sight</p>
      <p v-else-if="shown.length === 0" class="muted">None is like that.</p>
    </div>
  </div>
  <div v-else class="state-none state">
    <h2>No texts are there in several languages</h2>
    <p>
      They stand in files such as <code>texts.en.yml</code> and <code>texts.de.yml</code>, in a folder of each language, or in sections of
      one file. None of the plugins here has some.
    </p>
  </div>
</template>

<style scoped>
.languages {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  min-height: 32px;
  padding: 4px 16px;
  border-bottom: 1px solid var(--hairline);
  font: var(--t-small);
}
.words {
  width: 110px;
}
.line [aria-pressed='true'] {
  font-weight: 700;
}
.sheet {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 0 16px 12px;
}
table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  font: var(--t-small);
}
th,
td {
  padding: 4px 8px;
  text-align: left;
  vertical-align: top;
  border-bottom: 1px solid var(--hairline);
}
thead th {
  position: sticky;
  top: 0;
  background: var(--flour);
}
thead .muted {
  font: var(--t-fine);
}
th:first-child {
  width: 148px;
  padding-left: 0;
}
tbody th {
  font-weight: 400;
}
.cell {
  display: flex;
  gap: 6px;
  align-items: baseline;
  text-align: left;
  overflow-wrap: anywhere;
}
.on {
  background: var(--semolina);
  box-shadow: inset 3px 0 var(--crust);
}
.state {
  display: block;
  padding: 0;
  font: var(--t-fine);
  color: var(--warning);
}
.same .state,
.extra .state {
  color: var(--muted);
}
.missing .state {
  display: inline;
  margin-left: 8px;
}
</style>
