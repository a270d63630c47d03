<script setup lang="ts">
import { isLanguage } from '@pasticcio/core'
import { languageCsv, languageProperties, takeCsv, takeProperties, type TakenIn } from '~/utils/language-table'
import { languageName, type LanguageRow } from '~/utils/message-languages'
import { saveFile } from '~/utils/ledger-csv'
import type { LanguagesShown } from '~/utils/types'

/** Languages as files that go out and come in, and one more language. */
const props = defineProps<{ group: LanguagesShown; rows: readonly LanguageRow[] }>()
const messages = useMessagesStore()
const session = useSessionStore()
const dialog = ref<'add' | 'out' | 'in' | ''>('')
const picker = useTemplateRef<HTMLInputElement>('picker')
const from = ref('')
const language = ref('')
const busy = ref(false)
const problem = ref('')
const taken = shallowRef<(TakenIn & { readonly name: string }) | null>(null)
const plain = computed(() => props.group.plugin || 'texts')
const source = computed(() => props.group.languages.find(({ isSource }) => isSource) ?? props.group.languages[0]!)
const nameOf = (one: string): string => languageName(one, messages.serverLanguage?.language ?? null)
const names = computed(() => props.group.languages.map((one) => nameOf(one.language)))
const isNew = computed(() => isLanguage(language.value) && !props.group.languages.some((one) => one.language === language.value))

function open(what: 'add' | 'out'): void {
  problem.value = ''
  from.value = source.value.language
  language.value = ''
  dialog.value = what
}
async function add(): Promise<void> {
  busy.value = true
  const isDone = await messages.addLanguage(props.group, from.value, language.value)
  busy.value = false
  if (isDone) dialog.value = ''
  else problem.value = messages.problem
}
function saveCsv(): void {
  saveFile(languageCsv(props.rows, names.value), `${plain.value}-languages.csv`, 'text/csv')
  dialog.value = ''
}
function saveProperties(one: string): void {
  saveFile(languageProperties(props.rows, one), `${plain.value}${one === '' ? '' : `_${one}`}.properties`, 'text/plain')
  dialog.value = ''
}
/** The language a `.properties` file is called after, as `texts_de.properties`; else the source. */
async function take(file: File | undefined): Promise<void> {
  if (!file) return
  problem.value = ''
  const text = await file.text()
  const called = props.group.languages.find((one) => one.language !== '' && new RegExp(`[._-]${one.language}\\.`).test(file.name))
  const read = file.name.endsWith('.csv')
    ? takeCsv(text, props.rows, props.group.languages, names.value)
    : takeProperties(text, props.rows, called ?? source.value)
  taken.value = { ...read, name: file.name }
  dialog.value = 'in'
}
async function takeIn(): Promise<void> {
  busy.value = true
  await messages.putAll(taken.value!.puts)
  busy.value = false
  problem.value = messages.problem
  if (problem.value === '') dialog.value = ''
}
</script>

<template>
  <span class="acts push">
    <button v-if="session.mayEdit" class="act" @click="open('add')">add a language …</button>
    <button class="act" @click="open('out')">give out …</button>
    <button v-if="session.mayEdit" class="act" @click="picker?.click()">take in …</button>
    <input
      ref="picker"
      class="sr"
      type="file"
      accept=".csv,.properties"
      tabindex="-1"
      aria-label="A table of languages, or the texts of one"
      @change="(take(($event.target as HTMLInputElement).files?.[0]), (($event.target as HTMLInputElement).value = ''))"
    />
  </span>
  <BaseDialog :visible="dialog === 'add'" title="Add a language" @update:visible="dialog = ''">
    <form class="form" @submit.prevent="add">
      <label for="language-code">Language</label>
      <input id="language-code" v-model.trim="language" class="in" placeholder="fr" autocomplete="off" />
      <label for="language-from">begins as a copy of</label>
      <select id="language-from" v-model="from" class="in">
        <option v-for="one in group.languages" :key="one.language" :value="one.language">{{ nameOf(one.language) }}</option>
      </select>
      <p v-if="language !== '' && !isNew" class="wrn">
        <FindingMark kind="warning" /> Write the code of a language that is not there yet, as fr.
      </p>
      <p v-if="problem" class="wrn" role="alert"><FindingMark kind="error" /> {{ problem }}</p>
      <button class="btn small" type="submit" :disabled="!isNew || busy">Add it to the tray</button>
    </form>
  </BaseDialog>
  <BaseDialog :visible="dialog === 'out'" title="Texts as a file" @update:visible="dialog = ''">
    <ul class="outs">
      <li><button class="act" @click="saveCsv">all languages as CSV</button></li>
      <li v-for="one in group.languages" :key="one.language">
        <button class="act" @click="saveProperties(one.language)">{{ nameOf(one.language) }} as .properties</button>
      </li>
    </ul>
  </BaseDialog>
  <BaseDialog :visible="dialog === 'in'" :title="`Take in ${taken?.name ?? ''}`" @update:visible="dialog = ''">
    <template v-if="taken">
      <p v-if="taken.unknown.length > 0" class="wrn">
        <FindingMark kind="warning" /> No text here is called {{ taken.unknown.slice(0, 5).join(', ')
        }}{{ taken.unknown.length > 5 ? ` and ${taken.unknown.length - 5} more` : '' }}.
      </p>
      <p v-if="taken.strange.length > 0" class="wrn">
        <FindingMark kind="warning" /> {{ taken.strange.join(', ') }} is no language here: add it first.
      </p>
      <ul class="changes" aria-label="Texts that would change">
        <li v-for="put in taken.puts.slice(0, 200)" :key="put.file + put.pointer">
          <b>{{ nameOf(put.language) }}</b> <code>{{ put.pointer.slice(1) }}</code> <del v-if="put.before !== null">{{ put.before }}</del>
          <ins>{{ put.texts.join(' · ') }}</ins>
        </li>
      </ul>
      <p v-if="taken.puts.length === 0">All texts in it are as they are here.</p>
      <p v-if="problem" class="wrn" role="alert"><FindingMark kind="error" /> {{ problem }}</p>
      <button class="btn small" :disabled="busy || taken.puts.length === 0" @click="takeIn">
        Take in {{ counted(taken.puts.length, 'text') }}
      </button>
    </template>
  </BaseDialog>
</template>

<style scoped>
.acts {
  display: inline-flex;
  gap: 14px;
}
.form {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px 12px;
  align-items: baseline;
}
.form p,
.form .btn {
  grid-column: 2;
  justify-self: start;
}
.outs,
.changes {
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
}
.outs li {
  padding: 3px 0;
}
.changes {
  max-height: 320px;
  overflow: auto;
}
.changes li {
  padding: 4px 0;
  border-bottom: 1px solid var(--hairline);
  font: var(--t-small);
}
.changes del {
  color: var(--muted);
}
.changes ins {
  text-decoration: none;
  font-weight: 700;
}
</style>
