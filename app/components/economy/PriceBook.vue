<script setup lang="ts">
import { priceOf } from '@pasticcio/core'
import { changeWords, percentWords } from '~/utils/economy-words'
import { isOther, type BookRow } from '~/utils/price-rows'

/** Items with what they cost and bring, the worst first; a loop opens under its row. Only what is in sight is drawn. */
const props = defineProps<{ most?: number }>()
const prices = usePriceBookStore()
const root = useTemplateRef<HTMLElement>('root')
const { height, width } = useElementSize(root)
/** Where there is room, a price is told as a share of the other, too. */
const isWide = computed(() => width.value > 900)
const top = ref(0)
const ROW = 24
const LOOP = 92
const SPARE = 6
const shown = computed(() => (props.most === undefined ? prices.rows : prices.rows.slice(0, props.most)))
const openAt = computed(() => shown.value.findIndex(({ item }) => item === prices.open))
/** All offers of an item have room where there is nothing but prices. */
const offersOf = ({ buys, sells }: BookRow): number =>
  props.most === undefined && buys.length + sells.length > 2 ? Math.max(buys.length, sells.length) : 0
const mayOpen = (row: BookRow): boolean => row.loop !== null || offersOf(row) > 0
const openHeight = computed(() => {
  const row = shown.value[openAt.value]
  return row ? (row.loop ? LOOP : 0) + ROW * offersOf(row) : 0
})
const topOf = (index: number): number => index * ROW + (openAt.value >= 0 && index > openAt.value ? openHeight.value : 0)
const first = computed(() => (props.most === undefined ? Math.max(0, Math.floor((top.value - openHeight.value) / ROW) - SPARE) : 0))
const last = computed(() => Math.min(shown.value.length, Math.ceil((top.value + Math.max(height.value, 600)) / ROW) + SPARE))
const drawn = computed(() => shown.value.slice(first.value, last.value).map((row, i) => ({ row, top: topOf(first.value + i) })))
const whole = computed(() => shown.value.length * ROW + (openAt.value >= 0 ? openHeight.value : 0))

const boxOf = (row: BookRow) => (row.category === null ? undefined : prices.book.boxes.get(row.category))
const isStaged = (row: BookRow): boolean => prices.beside === 'standing' && isOther(row, prices.before)
const more = (offers: readonly unknown[]): string => (offers.length > 1 ? `+${offers.length - 1}` : '')
</script>

<template>
  <div
    ref="root"
    class="book"
    role="table"
    :class="{ whole: most !== undefined, wide: isWide }"
    :aria-rowcount="prices.rows.length + 1"
    aria-label="Price book"
    @scroll="top = ($event.target as HTMLElement).scrollTop"
  >
    <div class="pb hd" role="row">
      <span role="columnheader" class="first">item</span>
      <span role="columnheader" class="two">players buy at</span>
      <span role="columnheader" class="two">players sell at</span>
      <span role="columnheader" class="g">gain</span>
      <span v-if="isWide" role="columnheader" class="g">margin</span>
      <span role="columnheader">also in</span>
      <span role="columnheader" class="kd">among its kind</span>
    </div>
    <div class="lines" role="rowgroup" :style="{ height: `${whole}px` }">
      <template v-for="{ row, top: at } in drawn" :key="row.item">
        <div class="pb" role="row" :class="{ staged: isStaged(row) }" :style="{ top: `${at}px` }">
          <span role="rowheader" class="id"
            ><button
              v-if="mayOpen(row)"
              class="opens"
              :aria-expanded="prices.open === row.item"
              :aria-label="row.loop ? `${row.item}: a loop that pays` : `${row.item}: everywhere it is bought and sold`"
              @click="prices.open = prices.open === row.item ? '' : row.item"
            >
              <FindingMark v-if="row.loop" kind="error" /><BaseIcon v-else :name="prices.open === row.item ? 'down' : 'right'" />
            </button>
            <code class="cut" :title="row.item">{{ row.item }}</code></span
          >
          <PriceField role="cell" :row="row" :offer="row.buy" side="buy" />
          <span role="cell" class="w"
            ><template v-if="row.buy"
              ><i class="bar" :class="row.buy.isShipped ? 'f' : 'y'" /><span class="cut">{{ row.buy.where }}</span
              ><small class="muted">{{ more(row.buys) }}</small></template
            ></span
          >
          <PriceField role="cell" :row="row" :offer="row.sell" side="sell" />
          <span role="cell" class="w"
            ><template v-if="row.sell"
              ><i class="bar" :class="row.sell.isShipped ? 'f' : 'y'" /><span class="cut">{{ row.sell.where }}</span
              ><small class="muted">{{ more(row.sells) }}</small></template
            ></span
          >
          <span role="cell" class="g" :class="{ err: row.loop, wrn: row.spread === 0 }">{{
            row.spread === null ? '–' : changeWords(Number((-row.spread).toFixed(2)))
          }}</span>
          <span v-if="isWide" role="cell" class="g thin">{{ row.margin === null ? '–' : percentWords(row.margin) }}</span>
          <span role="cell" class="al cut">{{ prices.also.get(row.item) ?? '–' }}</span>
          <span role="cell" class="kd"
            ><PriceSpread v-if="boxOf(row)" :box="boxOf(row)!" :price="priceOf(row) ?? 0" :is-far="row.isFar" /><span class="cut">{{
              row.category ?? ''
            }}</span></span
          >
        </div>
        <div v-if="prices.open === row.item && mayOpen(row)" class="opened" role="row" :style="{ top: `${at + ROW}px` }">
          <div role="cell" :aria-colspan="isWide ? 9 : 8">
            <PriceLoop v-if="row.loop" :loop="row.loop" />
            <PriceOffers v-if="offersOf(row) > 0" :row="row" />
          </div>
        </div>
      </template>
    </div>
  </div>
</template>

<style scoped>
.book {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.book.whole {
  flex: none;
  overflow: visible;
}
.lines {
  position: relative;
}
.pb {
  height: 24px;
  display: grid;
  grid-template-columns: minmax(100px, 1.2fr) 72px minmax(100px, 1fr) 72px minmax(100px, 1fr) 46px minmax(48px, 0.7fr) 112px;
  align-items: center;
  gap: 0 8px;
  padding: 0 12px 0 16px;
  white-space: nowrap;
}
.wide .pb {
  grid-template-columns: minmax(100px, 1.2fr) 72px minmax(108px, 1fr) 72px minmax(108px, 1fr) 46px 64px minmax(48px, 1fr) 132px;
}
.g.thin {
  font-weight: 400;
}
.lines .pb,
.opened {
  position: absolute;
  left: 0;
  right: 0;
}
.pb.hd {
  position: sticky;
  top: 0;
  z-index: 1;
  height: 22px;
  background: var(--flour);
  font: var(--t-fine);
  color: var(--muted);
  border-bottom: 1px solid var(--hairline);
}
.pb.hd .two {
  grid-column: span 2;
  padding-left: 30px;
}
.first {
  padding-left: 24px;
}
.id {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  font-size: 12px;
}
.id code {
  grid-column: 2;
  grid-row: 1;
}
.opens {
  display: inline-flex;
}
.w {
  font: var(--t-small);
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.g {
  font: var(--t-value);
  text-align: right;
  font-weight: 600;
}
.pb.hd .g {
  font: var(--t-fine);
}
.al,
.kd {
  font: var(--t-fine);
  color: var(--muted);
}
.kd {
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
}
.pb.staged::before {
  content: '';
  position: absolute;
  left: 4px;
  top: 3px;
  bottom: 3px;
  width: 3px;
  background: var(--crust);
  border-radius: 1px;
}
</style>
