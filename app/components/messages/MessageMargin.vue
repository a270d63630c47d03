<script setup lang="ts">
import { CAUSES } from '@pasticcio/core'
import { GROUNDS, contrastOf, type Ground } from '~/utils/contrast'
import { SURFACE_WORDS } from '~/utils/message-words'
import type { ValueFrom } from '~/stores/samples'
import { pointerWords, shortPath } from '~/utils/pointer-words'

/** The text in focus: written at the top, seen below it on both grounds, with what it is filled with and where it comes from. */
const messages = useMessagesStore()
const known = useKnownStore()
const session = useSessionStore()
const server = useServerStore()
const samples = useSamplesStore()
const editor = useTemplateRef<{ enter(): void }>('editor')
const one = computed(() => messages.current)
/** The setting it stands in, or that names its file. */
const settingLink = computed(() => {
  const { file, pointer } = one.value?.book ?? one.value ?? { file: '', pointer: '' }
  return { path: `/s/${server.slug}/settings/${file}`, query: { at: pointer } }
})
const limits = computed(() => (one.value ? (known.known.texts.surfaces?.[one.value.surface] ?? {}) : {}))
const most = computed(() => one.value?.letters ?? limits.value.letters ?? null)
const own = computed<Ground>(() => limits.value.ground ?? 'dark')
/** Its own first; the page of a book has no other. */
const grounds = computed((): readonly Ground[] =>
  one.value?.surface === 'book' ? [own.value] : own.value === 'dark' ? ['dark', 'light'] : ['light', 'dark'],
)

/** How long each row of the text is, as it is seen. */
const rows = computed(() => {
  const { texts, plugin } = one.value ?? { texts: [], plugin: '' }
  return texts.flatMap((text) => samples.seenLines(text, plugin)).map((line) => [...line.map((run) => run.text).join('')].length)
})
const toldOf = (placeholder: string): ReturnType<typeof samples.told> => samples.told(placeholder, one.value?.plugin ?? '')
const runs = computed(() => (one.value?.texts ?? []).flatMap((text) => known.markup.read(text)).flat())
const placeholders = computed(() => [...new Set(runs.value.flatMap(({ is, text }) => (is === 'placeholder' ? [text] : [])))])
const providerOf = (placeholder: string): string =>
  known.known.placeholders.find(({ text }) => text === placeholder)?.plugin ?? one.value?.plugin ?? ''

/** Where the value comes from that is shown. */
const FROM_WORDS: Readonly<Record<ValueFrom, string>> = {
  given: 'yours, ',
  reader: 'the reader, ',
  now: 'now, ',
  plugin: '',
  sample: 'a sample, ',
}
const isTurning = computed(
  () => one.value !== null && one.value.texts.length > 1 && (one.value.turn === 'in-turn' || one.value.turn === 'at-random'),
)
const at = ref(0)
const shownAt = computed(() => (isTurning.value ? Math.min(at.value, one.value!.texts.length - 1) : undefined))
const still = usePreferredReducedMotion()
/** So long one stays before the next of those that take turns. */
const TURN_MS = 3000
useIntervalFn(() => {
  if (still.value !== 'reduce' && isTurning.value && one.value!.turn === 'in-turn') at.value = (at.value + 1) % one.value!.texts.length
}, TURN_MS)
watch(
  () => one.value?.id,
  () => (at.value = 0),
)

/** How well each colour can be read on a ground, the worst first. */
function contrasts(ground: Ground): readonly { readonly name: string; readonly ratio: number }[] {
  const colours = new Map<string, string>()
  for (const { colour, is } of runs.value) if (is !== 'unknown') colours.set(colour ?? GROUNDS[ground].text, nameOf(colour))
  return [...colours]
    .map(([colour, name]) => ({ name, ratio: contrastOf(colour, GROUNDS[ground].ground) }))
    .sort((a, b) => a.ratio - b.ratio)
}
const nameOf = (colour: string | undefined): string =>
  colour === undefined ? 'text' : (known.known.texts.marks.find((mark) => mark.colour === colour)?.code.replace(/[^\w]/g, '') ?? colour)
defineExpose({ enter: () => editor.value?.enter() })
</script>

<template>
  <aside class="margin" aria-label="The text in focus">
    <div class="titleline side"><h2>In the margin</h2></div>
    <PictureNote v-if="messages.picture" :picture="messages.picture" />
    <div v-else-if="one" class="body note">
      <header>
        <h3 class="cut">{{ SURFACE_WORDS[one.surface][1] }}</h3>
        <code class="cut">{{ one.book?.name ?? pointerWords(one.pointer) }}</code>
        <NuxtLink class="push" :to="settingLink">line {{ one.book?.line ?? one.line }}</NuxtLink>
      </header>
      <p v-if="one.says" class="comment">{{ one.says }} <span class="src">the author</span></p>
      <MessageEditor ref="editor" :message="one" :locked="!session.mayEdit" />
      <p v-if="rows.length > 0 && one.surface !== 'book'" class="lengths">
        <span v-for="(length, i) in rows.slice(0, 6)" :key="i" :class="{ over: most !== null && length > most }"
          >{{ rows.length > 1 ? `row ${i + 1} ` : '' }}{{ length }}{{ most === null ? '' : `/${most}` }}</span
        >
        <span v-if="limits.rows && rows.length > limits.rows && !one.isList" class="over">{{ limits.rows }} rows are seen</span>
      </p>
      <template v-for="ground in grounds" :key="ground">
        <div class="h">
          {{ ground === own ? 'As players see it' : `On a ${ground} ground` }}
          <span class="push ratios"
            ><span v-for="{ name, ratio } in contrasts(ground).slice(0, 3)" :key="name" :class="{ low: ratio < 4.5 }"
              ><FindingMark v-if="ratio < 4.5" kind="warning" /> {{ name }} {{ ratio.toFixed(1) }}</span
            ></span
          >
        </div>
        <div
          v-if="one.surface === 'book'"
          class="paper"
          data-specimen
          :style="{ background: GROUNDS[ground].ground, color: GROUNDS[ground].text }"
        >
          <BookPages :text="one.texts[0] ?? ''" :plugin="one.plugin" />
        </div>
        <ReadingView v-else :message="one" :ground="ground" :at="shownAt" />
      </template>
      <p v-if="isTurning" class="turns">
        {{ one.turn === 'in-turn' ? 'one after the other' : 'one of these, at random' }}
        <button
          v-for="(_text, i) in one.texts.slice(0, 20)"
          :key="i"
          class="act"
          :aria-pressed="i === shownAt"
          :aria-label="`text ${i + 1} of ${one.texts.length}`"
          @click="at = i"
        >
          {{ i + 1 }}
        </button>
      </p>
      <p v-if="one.opens" class="turns">
        opens <code>{{ one.opens }}</code>
      </p>
      <p v-if="one.surface === 'title' && one.stays !== null" class="turns">
        comes in {{ one.dress.comes ?? 0 }} s, stays {{ one.stays }} s, goes in {{ one.dress.goes ?? 0 }} s
      </p>
      <template v-if="placeholders.length > 0">
        <div class="h">
          Placeholders
          <label class="push reader"
            >read by <input v-model.lazy.trim="samples.reader" class="in" aria-label="The player who reads"
          /></label>
        </div>
        <dl class="facts now">
          <template v-for="placeholder in placeholders" :key="placeholder">
            <dt>
              <code>{{ placeholder }}</code>
            </dt>
            <dd>
              <input
                class="in"
                :value="toldOf(placeholder).value"
                :aria-label="`What ${placeholder} shows here`"
                @change="samples.give(placeholder, ($event.target as HTMLInputElement).value)"
              /><span class="muted cut">{{ FROM_WORDS[toldOf(placeholder).from] }}{{ providerOf(placeholder) }}</span>
            </dd>
          </template>
        </dl>
      </template>
      <div class="h">
        Its layers
        <button v-if="session.mayEdit && !one.book" class="act push" @click="messages.turnOff(one)">switch off</button>
        <button v-if="!one.isShipped && one.shipped && session.mayEdit" class="act" @click="messages.toFactory(one)">
          back to factory
        </button>
      </div>
      <dl class="layers">
        <div v-if="one.shipped">
          <dt><i class="bar f" />factory</dt>
          <dd>{{ one.shipped.join(' · ') || 'empty' }}</dd>
        </div>
        <div v-if="!one.isShipped">
          <dt><i class="bar y" />yours</dt>
          <dd>{{ one.texts.join(' · ') || 'empty' }}</dd>
        </div>
        <div v-if="one.update">
          <dt><i class="bar u" />update</dt>
          <dd>{{ one.update.join(' · ') || 'empty' }}</dd>
        </div>
      </dl>
      <ol v-if="one.findings.length > 0" class="footnotes" aria-label="Findings in this text">
        <li v-for="finding in one.findings" :key="finding.subject">
          <FindingMark :kind="finding.severity" /><span
            >{{ finding.message }}
            <NuxtLink :to="{ path: `/s/${server.slug}/findings`, query: { at: finding.subject } }">{{
              CAUSES[finding.code].title
            }}</NuxtLink></span
          >
        </li>
      </ol>
      <WrittenFor :message="one" />
      <p class="under">{{ shortPath(one.file) }}</p>
    </div>
  </aside>
</template>

<style scoped>
.lengths,
.ratios {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  font: var(--t-fine);
  color: var(--muted);
}
.over,
.low {
  color: var(--warning);
}
.now dd {
  min-width: 0;
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.reader {
  font: var(--t-fine);
  color: var(--muted);
}
.reader .in {
  width: 84px;
}
.now .in {
  flex: none;
  width: 88px;
}
.turns {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 4px;
  font: var(--t-fine);
  color: var(--muted);
}
.turns [aria-pressed='true'] {
  font-weight: 700;
}
.paper {
  padding: 6px 12px;
  border-radius: var(--radius);
}
.under {
  font: var(--t-fine);
  color: var(--muted);
  margin-top: 8px;
}
</style>
