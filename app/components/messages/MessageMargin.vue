<script setup lang="ts">
import { CAUSES } from '@pasticcio/core'
import { GROUNDS, contrastOf, type Ground } from '~/utils/contrast'
import { SURFACE_WORDS } from '~/utils/message-words'
import { pointerWords, shortPath } from '~/utils/pointer-words'

/** The text in focus: written at the top, seen below it on both grounds, with what it is filled with and where it comes from. */
const messages = useMessagesStore()
const known = useKnownStore()
const session = useSessionStore()
const server = useServerStore()
const editor = useTemplateRef<{ enter(): void }>('editor')
const one = computed(() => messages.current)
const limits = computed(() => (one.value ? (known.known.texts.surfaces?.[one.value.surface] ?? {}) : {}))
const most = computed(() => one.value?.letters ?? limits.value.letters ?? null)
const own = computed<Ground>(() => limits.value.ground ?? 'dark')
const GROUND_NAMES: readonly Ground[] = ['dark', 'light']

/** How long each row of the text is, as it is seen. */
const rows = computed(() => {
  const { texts, plugin } = one.value ?? { texts: [], plugin: '' }
  return texts.flatMap((text) => messages.seenLines(text, plugin)).map((line) => [...line.map((run) => run.text).join('')].length)
})
const valueOf = (placeholder: string): string => messages.valueOf(placeholder, one.value?.plugin ?? '')
const runs = computed(() => (one.value?.texts ?? []).flatMap((text) => known.markup.read(text)).flat())
const placeholders = computed(() => [...new Set(runs.value.flatMap(({ is, text }) => (is === 'placeholder' ? [text] : [])))])
const providerOf = (placeholder: string): string =>
  known.known.placeholders.find(({ text }) => text === placeholder)?.plugin ?? one.value?.plugin ?? ''

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
    <div v-if="one" class="body note">
      <header>
        <h3 class="cut">{{ SURFACE_WORDS[one.surface][1] }}</h3>
        <code class="cut">{{ pointerWords(one.pointer) }}</code>
        <NuxtLink class="push" :to="{ path: `/s/${server.slug}/settings/${one.file}`, query: { at: one.pointer } }"
          >line {{ one.line }}</NuxtLink
        >
      </header>
      <p v-if="one.says" class="comment">{{ one.says }} <span class="src">the author</span></p>
      <MessageEditor ref="editor" :message="one" :locked="!session.mayEdit" />
      <p v-if="rows.length > 0" class="lengths">
        <span v-for="(length, i) in rows.slice(0, 6)" :key="i" :class="{ over: most !== null && length > most }"
          >{{ rows.length > 1 ? `row ${i + 1} ` : '' }}{{ length }}{{ most === null ? '' : `/${most}` }}</span
        >
        <span v-if="limits.rows && rows.length > limits.rows && !one.isList" class="over">{{ limits.rows }} rows are seen</span>
      </p>
      <template v-for="ground in own === 'dark' ? GROUND_NAMES : [...GROUND_NAMES].reverse()" :key="ground">
        <div class="h">
          {{ ground === own ? 'As players see it' : `On a ${ground} ground` }}
          <span class="push ratios"
            ><span v-for="{ name, ratio } in contrasts(ground).slice(0, 3)" :key="name" :class="{ low: ratio < 4.5 }"
              ><FindingMark v-if="ratio < 4.5" kind="warning" /> {{ name }} {{ ratio.toFixed(1) }}</span
            ></span
          >
        </div>
        <ReadingView :message="one" :ground="ground" />
      </template>
      <template v-if="placeholders.length > 0">
        <div class="h">Placeholders</div>
        <dl class="facts now">
          <template v-for="placeholder in placeholders" :key="placeholder">
            <dt>
              <code>{{ placeholder }}</code>
            </dt>
            <dd>
              <input
                class="in"
                :value="valueOf(placeholder)"
                :aria-label="`What ${placeholder} shows here`"
                @change="messages.give(placeholder, ($event.target as HTMLInputElement).value)"
              /><span class="muted cut">{{ providerOf(placeholder) }}</span>
            </dd>
          </template>
        </dl>
      </template>
      <div class="h">
        Its layers
        <button v-if="session.mayEdit" class="act push" @click="messages.turnOff(one)">switch off</button>
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
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.now .in {
  width: 104px;
}
.under {
  font: var(--t-fine);
  color: var(--muted);
  margin-top: 8px;
}
</style>
