<script setup lang="ts">
import { GROUNDS, type Ground } from '~/utils/contrast'
import type { ListedMessage } from '~/utils/message-groups'
import { barStyle, colourNamed, initialsOf } from '~/utils/surface-look'

/** A text as a player sees it where it is shown, on the game's own ground. */
const props = defineProps<{
  message: Pick<ListedMessage, 'surface' | 'texts' | 'turn' | 'pointer' | 'plugin' | 'file' | 'dress' | 'opens' | 'letters'>
  ground: Ground
  isRow?: boolean
  /** Which of the texts is shown that take turns; all without. */
  at?: number
}>()
const messages = useMessagesStore()
const samples = useSamplesStore()
const known = useKnownStore()
/** So many texts of a list are drawn in a row of the book; of those that are told in turn it is the first. */
const MOST_IN_ROW = 3
const isTurning = computed(() => props.message.turn === 'in-turn' || props.message.turn === 'at-random')
const texts = computed(() => {
  const all = props.message.texts
  if (isTurning.value && (props.isRow || props.at !== undefined)) return all.slice(props.at ?? 0, (props.at ?? 0) + 1)
  return props.isRow ? all.slice(0, MOST_IN_ROW) : all
})
/** The line under a large title. */
const isSmall = computed(() => /(?:small|sub-?title|second|below)$/i.test(props.message.pointer))
/** Only where what is beyond is cut off; elsewhere it is counted, and told as a finding. */
const letters = computed(() => (props.message.surface === 'sign' ? (props.message.letters ?? limits.value.letters ?? null) : null))
const limits = computed(() => known.known.texts.surfaces?.[props.message.surface] ?? {})
const rows = computed(() => (props.isRow ? 2 : props.message.surface === 'sign' ? (limits.value.rows ?? 99) : 99))
/** What is read, in words: what it looks like there is a picture of the game, and need not be as easy to read as this page. */
const spoken = computed(() => texts.value.map(inWords).join(', ') || 'nothing')
const inWords = (text: string): string =>
  samples
    .seenLines(text, props.message.plugin)
    .map((line) => line.map((run) => run.text).join(''))
    .join(' ')
const colours = computed(() => ({ '--ground': GROUNDS[props.ground].ground, '--on-ground': GROUNDS[props.ground].text }))
const bar = computed(() => {
  const { colour, style, filled } = props.message.dress
  const share = `${Math.round((filled ?? 0.6) * 100)}%`
  return { style: barStyle(style), css: { '--fill': colourNamed(known.known.texts, colour) ?? 'var(--on-ground)', '--share': share } }
})
const picture = computed(() => (props.message.surface === 'banner' ? messages.pictureOf(props.message, props.at ?? 0) : null))
</script>

<template>
  <div
    class="reading"
    data-specimen
    role="img"
    :aria-label="spoken"
    :class="[`at-${message.surface}`, { row: isRow, single: texts.length === 1, small: isSmall }]"
    :style="colours"
  >
    <template v-if="message.surface === 'banner'">
      <img v-if="picture" class="picture" :src="picture" alt="" /><i v-else class="picture" aria-hidden="true" />
    </template>
    <i v-if="message.surface === 'item'" class="thing" aria-hidden="true">{{ initialsOf(message.dress.icon) }}</i>
    <div class="words" aria-hidden="true">
      <BookPages v-if="message.surface === 'book'" :text="texts[0] ?? ''" :plugin="message.plugin" is-row />
      <template v-else>
        <p v-for="(text, i) in texts" :key="i" :class="{ button: message.surface === 'panel' && message.opens !== '' }">
          <TextRuns :text="text" :plugin="message.plugin" :most="rows" :letters="letters" /><br v-if="text === ''" />
        </p>
      </template>
      <i v-if="message.surface === 'bar'" class="fill" :class="bar.style" :style="bar.css" aria-hidden="true" />
      <div v-if="message.surface === 'menu' && !isRow" class="slots" aria-hidden="true">
        <i v-for="n in 9" :key="n">{{ n === 1 ? initialsOf(message.dress.icon) : '' }}</i>
      </div>
    </div>
  </div>
</template>

<style scoped>
.reading {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 8px 12px;
  background: var(--ground);
  color: var(--on-ground);
  font: var(--t-small);
  overflow-wrap: anywhere;
  border-radius: var(--radius);
}
.reading.row {
  height: 100%;
  padding: 2px 12px;
  border-radius: 0;
  overflow: hidden;
  line-height: 16px;
}
.words {
  flex: 1;
  min-width: 0;
}
p {
  margin: 0;
}
.row p {
  overflow: hidden;
}
.row:not(.single) p {
  white-space: nowrap;
  text-overflow: ellipsis;
}
.row.single p {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
}
.at-title,
.at-prompt,
.at-list,
.at-bar,
.at-sign {
  text-align: center;
}
.at-title:not(.small) p:first-child {
  font-size: 16px;
  font-weight: 700;
}
.at-panel .words {
  padding: 4px 8px;
  border: 1px solid color-mix(in srgb, var(--on-ground) 35%, transparent);
  border-top-width: 6px;
}
.at-panel .button {
  display: inline-block;
  padding: 0 10px;
  border: 1px solid color-mix(in srgb, var(--on-ground) 60%, transparent);
  border-radius: 3px;
}
.at-sign .words {
  font: var(--t-value);
  border: 1px solid color-mix(in srgb, var(--on-ground) 25%, transparent);
}
.at-board .words {
  flex: none;
  width: 148px;
  margin-left: auto;
  padding: 2px 6px;
  background: color-mix(in srgb, var(--on-ground) 12%, transparent);
}
.at-item p:first-child,
.at-menu p:first-child,
.at-panel p:first-child {
  font-weight: 700;
}
.picture,
.thing {
  flex: none;
  width: 28px;
  height: 28px;
  background: color-mix(in srgb, var(--on-ground) 22%, transparent);
  border-radius: 2px;
}
.reading:not(.row) .picture {
  width: 48px;
  height: 48px;
}
.thing,
.slots i {
  display: grid;
  place-items: center;
  width: 22px;
  height: 22px;
  font: var(--t-fine);
  font-style: normal;
}
.fill {
  --ink: color-mix(in srgb, var(--on-ground) 25%, transparent);
  display: block;
  width: 208px;
  max-width: 100%;
  height: 5px;
  margin: 3px auto 0;
  background: linear-gradient(90deg, var(--fill) var(--share), var(--ink) var(--share));
}
.fill.notched {
  mask: repeating-linear-gradient(90deg, #000 0 calc(10% - 2px), transparent calc(10% - 2px) 10%);
}
.fill.striped {
  mask: repeating-linear-gradient(115deg, #000 0 6px, rgb(0 0 0 / 55%) 6px 10px);
}
.slots {
  display: flex;
  gap: 4px;
  margin-top: 6px;
}
.slots i {
  border: 1px solid color-mix(in srgb, var(--on-ground) 40%, transparent);
}
</style>
