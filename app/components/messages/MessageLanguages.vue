<script setup lang="ts">
import { languageRows } from '~/utils/message-languages'
import { pointerWords, shortPath } from '~/utils/pointer-words'

/** Texts of files that are called after languages, side by side. */
const messages = useMessagesStore()
const onlyOpen = ref(false)
const rows = computed(() => languageRows(messages.all, messages.languages, messages.spoken))
const isStale = (id: string): boolean =>
  messages.all.find((one) => one.id === id)?.findings.some(({ code }) => code === 'translation-stale') ?? false
const open = computed(() => rows.value.filter(({ cells }) => cells.some((cell) => cell === null || isStale(cell.id))))
const shown = computed(() => (onlyOpen.value ? open.value : rows.value).slice(0, 500))
</script>

<template>
  <div class="languages">
    <template v-if="rows.length > 0">
      <label class="tick"><input v-model="onlyOpen" type="checkbox" /> only what is missing or stale, {{ open.length }}</label>
      <table>
        <thead>
          <tr>
            <th>Text</th>
            <th v-for="language in messages.spoken" :key="language">{{ language }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in shown" :key="row.base + row.pointer">
            <th scope="row">
              <code class="cut">{{ pointerWords(row.pointer) }}</code><span class="muted cut">{{ shortPath(row.base) }}</span>
            </th>
            <td
              v-for="(cell, i) in row.cells"
              :key="i"
              :class="{ missing: !cell, stale: cell && isStale(cell.id), on: cell?.id === messages.focus }"
            >
              <button v-if="cell" class="cell" @click="messages.focus = cell.id">{{ cell.texts.join(' · ') || '(empty)' }}</button><span
                v-else
                >missing</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <div v-else class="state">
      <h2>No file is called after a language</h2>
      <p>
        Texts of several languages stand in files such as <code>texts.en.yml</code> and <code>texts.de.yml</code>. None of the plugins here
        has some.
      </p>
    </div>
  </div>
</template>

<style scoped>
.languages {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 8px 16px;
}
.tick {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  font: var(--t-small);
}
table {
  width: 100%;
  border-collapse: collapse;
  margin-top: 8px;
  font: var(--t-small);
}
th,
td {
  padding: 4px 8px 4px 0;
  text-align: left;
  vertical-align: top;
  border-bottom: 1px solid var(--hairline);
}
tbody th {
  width: 180px;
  font-weight: 400;
}
tbody th span {
  display: block;
  font: var(--t-fine);
}
.cell {
  text-align: left;
}
.on {
  background: var(--semolina);
}
.missing {
  color: var(--warning);
}
.stale {
  text-decoration: underline dotted var(--warning);
}
</style>
