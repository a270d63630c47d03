<script setup lang="ts">
import { placeholdersIn, type Mark } from '@pasticcio/core'
import { coloursOf, saysOf, type ToolPanel } from '~/utils/message-edit'
import type { ListedMessage } from '~/utils/message-groups'

/** What writes the family's codes into a text: bold, break, colours, a gradient, any code, and placeholders with their values. */
const props = defineProps<{ message: ListedMessage; locked: boolean }>()
const emit = defineEmits<{
  wrap: [mark: Mark]
  put: [text: string]
  pick: [placeholder: string]
  blend: [from: string, to: string]
  breakLine: []
}>()
const panel = defineModel<ToolPanel>('panel', { required: true })
const known = useKnownStore()
const samples = useSamplesStore()
const colours = computed(() => coloursOf(known.known.texts))
const marks = computed(() => known.known.texts.marks)
const bold = computed(() => marks.value.find((mark) => mark.bold))
const from = ref('')
const to = ref('')
watch(
  colours,
  (all) => {
    from.value = all[0]?.colour ?? ''
    to.value = all.at(-1)?.colour ?? ''
  },
  { immediate: true },
)
const toggle = (what: ToolPanel): void => void (panel.value = panel.value === what ? '' : what)
/** What puts a code in: around what is chosen where it has an end, at the caret else. */
function take(mark: Mark): void {
  if (mark.ends !== undefined || mark.code.includes('{colour}')) emit('put', mark.code.replace('{colour}', from.value.slice(1)))
  else emit('wrap', mark)
}
function pick(placeholder: string): void {
  panel.value = ''
  emit('pick', placeholder)
}
const placeholders = computed(() => [...new Set([...known.known.placeholders.map(({ text }) => text), ...inAuthors()])])
/** Those the author uses in this text: he fills them in. */
function inAuthors(): string[] {
  const [open = '{', close = '}'] = known.known.texts.placeholder
  return [...placeholdersIn(known.known.texts, [...(props.message.shipped ?? []), props.message.says])].map((name) => open + name + close)
}
function saidOf(text: string): string {
  const found = known.known.placeholders.find((one) => one.text === text)
  return found ? `${found.says}, ${found.plugin}` : 'the author fills it in here'
}
</script>

<template>
  <div class="tools" role="toolbar" aria-label="Codes" :aria-disabled="locked">
    <button v-if="bold" :disabled="locked" aria-label="bold" title="bold, Ctrl B" @click="emit('wrap', bold)"><b>b</b></button>
    <button :disabled="locked" aria-label="line break" title="line break, Shift Enter" @click="emit('breakLine')">↵</button>
    <button
      v-if="colours.length > 1"
      :disabled="locked"
      :aria-expanded="panel === 'gradient'"
      aria-label="gradient"
      title="gradient"
      @click="toggle('gradient')"
    >
      <span class="blend" :style="{ background: `linear-gradient(90deg, ${from}, ${to})` }" />
    </button>
    <button
      :disabled="locked"
      :aria-expanded="panel === 'placeholder'"
      aria-label="placeholder"
      title="placeholder, {"
      @click="toggle('placeholder')"
    >
      <code>{}</code>
    </button>
    <button
      v-if="marks.length > 0"
      :disabled="locked"
      :aria-expanded="panel === 'codes'"
      aria-label="all codes"
      title="all codes"
      @click="toggle('codes')"
    >
      …
    </button>
    <span class="v" />
    <button
      v-for="(colour, i) in colours"
      :key="colour.code"
      class="chip"
      :disabled="locked"
      :aria-label="colour.code"
      :title="`${colour.code}, Alt ${i + 1}`"
      @click="emit('wrap', colour)"
    >
      <i :style="{ background: colour.colour }" />
    </button>
  </div>
  <p v-if="panel === 'gradient'" class="row">
    from
    <select v-model="from" class="in" aria-label="The first colour">
      <option v-for="one in colours" :key="one.code" :value="one.colour">{{ one.code }}</option>
    </select>
    to
    <select v-model="to" class="in" aria-label="The last colour">
      <option v-for="one in colours" :key="one.code" :value="one.colour">{{ one.code }}</option>
    </select>
    <button class="act" :disabled="locked" @click="emit('blend', from, to)">over the text</button>
  </p>
  <ul v-else-if="panel === 'codes'" class="picks" aria-label="Codes of this game">
    <li v-for="mark in marks" :key="mark.code">
      <button class="act" :disabled="locked" @click="take(mark)">
        <code>{{ mark.code }}</code>
      </button>
      <i v-if="mark.colour" class="spot" :style="{ background: mark.colour }" />
      <span class="muted cut">{{ saysOf(mark) }}</span>
    </li>
    <li v-if="known.known.texts.lineBreak">
      <button class="act" :disabled="locked" @click="emit('put', known.known.texts.lineBreak!)">
        <code>{{ known.known.texts.lineBreak }}</code>
      </button>
      <span class="muted">line break</span>
    </li>
  </ul>
  <ul v-else-if="panel === 'placeholder'" class="picks" aria-label="Placeholders">
    <li v-for="one in placeholders" :key="one">
      <button class="act" @click="pick(one)">
        <code>{{ one }}</code>
      </button>
      <b class="cut">{{ samples.valueOf(one, message.plugin) }}</b>
      <span class="muted cut">{{ saidOf(one) }}</span>
    </li>
    <li v-if="placeholders.length === 0" class="muted">No plugin declares any.</li>
  </ul>
</template>

<style scoped>
.tools {
  display: flex;
  align-items: center;
  gap: 2px;
  flex-wrap: wrap;
  margin-top: 8px;
}
.tools button:not(.act) {
  min-width: 22px;
  height: 24px;
  border-radius: var(--radius);
}
.tools button:hover:not(:disabled, .act) {
  background: var(--press);
}
.v {
  width: 1px;
  height: 16px;
  background: var(--hairline);
  margin: 0 3px;
}
.chip i,
.blend,
.spot {
  display: inline-block;
  width: 14px;
  height: 14px;
  border: 1px solid var(--field-rule);
  border-radius: 3px;
  vertical-align: middle;
}
.row {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin-top: 6px;
  font: var(--t-fine);
  color: var(--muted);
}
.row .in {
  width: 84px;
}
.picks {
  list-style: none;
  margin: 4px 0;
  padding: 4px 0;
  max-height: 168px;
  overflow: auto;
  border-block: 1px solid var(--hairline);
  font: var(--t-fine);
}
.picks li {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
</style>
