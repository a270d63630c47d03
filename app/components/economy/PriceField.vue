<script setup lang="ts">
import { unitPrice, type GatheredOffer } from '@pasticcio/core'
import { amountWords } from '~/utils/economy-words'
import { isOwnPrice, priceAt, type BookRow } from '~/utils/price-rows'
import { settingLink } from '~/utils/pointer-words'

/** What an item costs or brings somewhere: typed where it says so itself, else a link to what says it. */
const props = defineProps<{ row: BookRow; offer: GatheredOffer | null; side: 'buy' | 'sell' }>()
const changes = useEconomyChangesStore()
const prices = usePriceBookStore()
const server = useServerStore()
const session = useSessionStore()
const field = useTemplateRef<HTMLInputElement>('field')

const before = computed(() => {
  // of several places only the best is held against the best before
  if (props.offer !== props.row[props.side]) return undefined
  if (!prices.before) return undefined
  const was = priceAt(prices.before.get(props.row.item)?.[props.side])
  return was === priceAt(props.offer) ? undefined : was
})
const next = computed(() => props.offer && prices.reckonedFor.get(props.offer))
const may = computed(() => props.offer !== null && isOwnPrice(props.offer) && session.mayEdit)
const label = computed(() => `What players ${props.side} ${props.row.item} for at ${props.offer?.where ?? ''}`)
const shown = computed(() => (props.offer ? amountWords(unitPrice(props.offer)) : '–'))
const why = computed(() => {
  if (props.offer?.by === 'category') return `Its category ${props.row.category ?? ''} says it`
  if (props.offer?.by === 'deal') return `All that its entry ${props.side === 'buy' ? 'gives' : 'asks for'}`
  if (props.offer?.by === 'share') return `A share of ${amountWords(props.offer.share ? props.offer.amount / props.offer.share.amount : 0)}`
  return props.offer?.currency ? `Said in ${props.offer.currency}` : ''
})
const at = computed(() => props.offer?.share ?? props.offer)

async function write(): Promise<void> {
  if (!props.offer || !field.value) return
  const { file, pointer, amount, around } = props.offer
  await changes.type(field.value, { file, pointer, around }, { what: 'amount', name: props.row.item, says: amount })
}
/** Enter goes down the column. */
function down(event: KeyboardEvent): void {
  const all = [...document.querySelectorAll<HTMLInputElement>(`.price-field[data-side="${props.side}"]`)]
  void write()
  all[all.indexOf(event.target as HTMLInputElement) + 1]?.focus()
}
</script>

<template>
  <span class="price">
    <s v-if="before !== undefined && before !== null" class="was">{{ amountWords(before) }}</s>
    <template v-if="next"
      ><s class="was">{{ shown }}</s> <b>{{ next }}</b></template
    >
    <input
      v-else-if="may"
      ref="field"
      class="in price-field"
      inputmode="decimal"
      :data-side="side"
      :value="offer!.amount"
      :aria-label="label"
      :disabled="changes.isBusy"
      @change="write"
      @keydown.enter.prevent="down"
    />
    <NuxtLink
      v-else-if="offer && at"
      :to="settingLink(server.slug, at.file, at.pointer)"
      :title="why"
      :aria-label="`${label}: ${shown}. ${why}`"
      >{{ shown }}</NuxtLink
    >
    <template v-else>–</template><small v-if="offer && offer.count > 1" class="muted"> /{{ offer.count }}</small>
  </span>
</template>

<style scoped>
.price {
  font: var(--t-value);
  text-align: right;
  white-space: nowrap;
}
.was {
  color: var(--muted);
  font-size: 11px;
}
.price .in {
  width: 46px;
  text-align: right;
}
</style>
