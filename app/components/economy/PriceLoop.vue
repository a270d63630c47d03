<script setup lang="ts">
import { mendsOf, type GatheredOffer, type LoopMend, type MoneyLoop } from '@pasticcio/core'
import { amountWords, changeWords } from '~/utils/economy-words'
import { settingLink, shortPath } from '~/utils/pointer-words'

/** Buying here and selling there for more, drawn as the round it is, with what would end it. */
const props = defineProps<{ loop: MoneyLoop<GatheredOffer> }>()
const economy = useEconomyStore()
const changes = useEconomyChangesStore()
const server = useServerStore()
const session = useSessionStore()
const mends = computed(() => mendsOf(props.loop))
const paid = computed(() => props.loop.buy.amount * (props.loop.count / Math.max(1, props.loop.buy.count)))
const got = computed(() => paid.value + props.loop.gainARound)
type Mend = LoopMend<GatheredOffer>
const isOfShare = ({ offer, pointer }: Mend): boolean => offer.share !== undefined && pointer === offer.share.pointer
function take(mend: Mend): Promise<boolean> {
  const { file, pointer, amount, offer } = mend
  return changes.write([{ file, pointer, to: String(amount), around: isOfShare(mend) ? null : offer.around }])
}
function wordsOfMend(mend: Mend): string {
  const of = (economy.draft.book.rows.find(({ item }) => item === props.loop.item)?.category ?? '') || 'its kind'
  if (isOfShare(mend)) return `pay ${mend.amount} of the price for all`
  const whose = mend.offer.by === 'category' ? ` for all of ${of}` : ''
  const money = mend.offer.currency ? ` ${mend.offer.currency}` : ''
  return `${mend.offer.way} for ${amountWords(mend.amount)}${money}${whose}`
}
</script>

<template>
  <div class="loop">
    <svg width="208" height="68" viewBox="0 0 208 68" aria-hidden="true">
      <rect class="track" x="5" y="9" width="190" height="50" rx="25" />
      <path class="head" d="M96 4l9 5-9 5z" />
      <path class="head" d="M105 54l-9 5 9 5z" />
      <circle class="stop" cx="5" cy="34" r="4.5" />
      <circle class="stop" cx="195" cy="34" r="4.5" />
    </svg>
    <div class="on" aria-hidden="true">
      <span
        ><b class="cut">{{ loop.buy.where }}</b
        >pay {{ amountWords(paid) }}</span
      >
      <strong>{{ changeWords(loop.gainARound) }}</strong>
      <span class="right"
        ><b class="cut">{{ loop.sell.where }}</b
        >get {{ amountWords(got) }}</span
      >
    </div>
    <div class="says">
      <p>
        <b
          >Buy {{ loop.count > 1 ? `${loop.count} ` : '' }}{{ loop.item }} at {{ loop.buy.where }} for {{ amountWords(paid) }}, sell at
          {{ loop.sell.where }} for {{ amountWords(got) }}: {{ changeWords(loop.gainARound) }} a round,
          {{ amountWords(Math.round(loop.gainAnHour)) }} an hour.</b
        >
        A round takes {{ amountWords(loop.seconds) }} s.
        <NuxtLink v-for="side in ['buy', 'sell'] as const" :key="side" :to="settingLink(server.slug, loop[side].file, loop[side].pointer)"
          ><code>{{ shortPath(loop[side].file) }} {{ economy.lineOf(loop[side].file, loop[side].pointer) }}</code></NuxtLink
        >
      </p>
      <p v-if="session.mayEdit" class="mends" role="group" aria-label="What ends it">
        <label v-for="mend in mends" :key="mend.file + mend.pointer">
          <input type="radio" :name="`mend ${loop.item}`" :disabled="changes.isBusy" @change="take(mend)" />
          <span class="cut" :title="wordsOfMend(mend)">{{ wordsOfMend(mend) }}, {{ changeWords(mend.gainARound) }} a round</span>
        </label>
      </p>
    </div>
  </div>
</template>

<style scoped>
.loop {
  position: relative;
  display: grid;
  grid-template-columns: 208px minmax(0, 1fr);
  gap: 20px;
  height: 92px;
  padding: 8px 12px 6px 40px;
  border-bottom: 1px solid var(--hairline);
  overflow: hidden;
}
.track {
  fill: none;
  stroke: var(--error);
  stroke-width: 1.5;
}
.head {
  fill: var(--error);
}
.stop {
  fill: var(--flour);
  stroke: var(--error);
  stroke-width: 1.5;
}
.on {
  position: absolute;
  left: 62px;
  top: 24px;
  width: 160px;
  display: grid;
  grid-template-columns: 1fr auto 1fr;
  gap: 6px;
  align-items: center;
  font: var(--t-fine);
}
.on span {
  display: grid;
  min-width: 0;
}
.on .right {
  text-align: right;
}
.on strong {
  font: 600 17px/20px var(--serif);
  color: var(--error);
}
.says p {
  font: var(--t-small);
  margin: 0 0 2px;
}
.says code {
  white-space: nowrap;
  font-size: 11px;
  margin-left: 6px;
}
.mends {
  display: flex;
  gap: 16px;
}
.mends label {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-width: 0;
  white-space: nowrap;
}
.mends input {
  flex: none;
  margin: 0;
}
</style>
