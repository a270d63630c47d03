<script setup lang="ts">
import { GROUNDS, type Ground } from '~/utils/contrast'
import type { ListedMessage } from '~/utils/message-groups'

/** A text as a player sees it where it is shown, on the game's own ground. */
const props = defineProps<{
  message: Pick<ListedMessage, 'surface' | 'texts' | 'turn' | 'pointer' | 'plugin'>
  ground: Ground
  isRow?: boolean
}>()
const messages = useMessagesStore()
/** So many texts of a list are drawn in a row of the book; of those that are told in turn it is the first. */
const MOST_IN_ROW = 3
const texts = computed(() => {
  const { turn, texts: all } = props.message
  if (!props.isRow) return all
  return turn === 'in-turn' || turn === 'at-random' ? all.slice(0, 1) : all.slice(0, MOST_IN_ROW)
})
/** The line under a large title. */
const isSmall = computed(() => /(?:small|sub-?title|second|below)$/i.test(props.message.pointer))
/** What is read, in words: what it looks like there is a picture of the game, and need not be as easy to read as this page. */
const spoken = computed(() => texts.value.map(inWords).join(', ') || 'nothing')
const inWords = (text: string): string =>
  messages
    .seenLines(text, props.message.plugin)
    .map((line) => line.map((run) => run.text).join(''))
    .join(' ')
const colours = computed(() => ({ '--ground': GROUNDS[props.ground].ground, '--on-ground': GROUNDS[props.ground].text }))
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
    <i v-if="message.surface === 'banner'" class="picture" aria-hidden="true" />
    <i v-if="message.surface === 'item'" class="thing" aria-hidden="true" />
    <div class="words" aria-hidden="true">
      <p v-for="(text, i) in texts" :key="i">
        <TextRuns :text="text" :plugin="message.plugin" :most="isRow ? 2 : 99" /><br v-if="text === ''" />
      </p>
      <i v-if="message.surface === 'bar'" class="fill" aria-hidden="true" />
      <div v-if="message.surface === 'menu' && !isRow" class="slots" aria-hidden="true"><i v-for="n in 9" :key="n" /></div>
      <div v-if="message.surface === 'panel' && !isRow" class="buttons" aria-hidden="true"><i /><i /></div>
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
.thing {
  width: 20px;
  height: 20px;
}
.fill {
  display: block;
  width: 208px;
  max-width: 100%;
  height: 5px;
  margin: 3px auto 0;
  background: linear-gradient(90deg, var(--on-ground) 60%, color-mix(in srgb, var(--on-ground) 25%, transparent) 60%);
}
.slots,
.buttons {
  display: flex;
  gap: 4px;
  margin-top: 6px;
}
.slots i {
  width: 22px;
  height: 22px;
  border: 1px solid color-mix(in srgb, var(--on-ground) 40%, transparent);
}
.buttons i {
  width: 72px;
  height: 18px;
  border: 1px solid color-mix(in srgb, var(--on-ground) 50%, transparent);
  border-radius: 3px;
}
</style>
