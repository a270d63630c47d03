import { defineStore } from 'pinia'
import { economyOf, withPart, type EconomyFacts, type GatheredOffer, type Reckoning } from '@pasticcio/core'
import type { HistoryRow, ServerEconomy } from '~/utils/types'
import { ALL_PRICES, alsoIn, byItem, filterPrices, isOther, reckonPrices, type PriceChange, type PriceFilter } from '~/utils/price-rows'

/** What prices are held against: how they stand, an update, another server, or how it was before a change. */
export type Beside = 'standing' | 'update' | `server ${string}` | `before ${number}`

/** All items with their prices, filtered, held against another state, and reckoned with. */
export const usePriceBookStore = defineStore('price-book', () => {
  const server = useServerStore()
  const economy = useEconomyStore()
  const changes = useEconomyChangesStore()
  const filter = ref<PriceFilter>(ALL_PRICES)
  const beside = ref<Beside>('standing')
  const other = shallowRef<EconomyFacts | null>(null)
  const history = shallowRef<readonly HistoryRow[]>([])
  const open = ref('')
  const problem = ref('')
  const reckoning = ref<(Reckoning & { readonly side: GatheredOffer['way'] }) | null>(null)

  const book = computed(() => economy.draft.book)
  const before = computed(() => {
    if (beside.value === 'standing') return economy.standing === economy.draft ? null : byItem(economy.standing.book)
    if (beside.value === 'update') return economy.update ? byItem(economy.update.book) : null
    return other.value ? byItem(economyOf(other.value, economy.answer.kinds).book) : null
  })
  const rows = computed(() => filterPrices(book.value.rows, filter.value, before.value))
  const also = computed(() => alsoIn(economy.answer.facts))
  const counts = computed(() => ({
    loops: book.value.rows.filter(({ loop }) => loop !== null).length,
    'no-loss': book.value.rows.filter(({ spread }) => spread === 0).length,
    far: book.value.rows.filter(({ isFar }) => isFar).length,
    changed: before.value ? book.value.rows.filter((row) => isOther(row, before.value)).length : 0,
  }))
  const categories = computed(() => [...new Set(book.value.rows.flatMap(({ category }) => category ?? []))].sort())
  const plugins = computed(() => [...new Set(economy.answer.facts.offers.map(({ plugin }) => plugin))].sort())

  const reckoned = computed<{ readonly changes: readonly PriceChange[]; readonly problem: string }>(() => {
    if (!reckoning.value) return { changes: [], problem: '' }
    const { side } = reckoning.value
    const offers = rows.value.flatMap((row) => (side === 'buy' ? row.buys : row.sells))
    try {
      return { changes: reckonPrices(offers, reckoning.value), problem: '' }
    } catch (error) {
      return { changes: [], problem: wordsOf(error) }
    }
  })
  const reckonedFor = computed(() => new Map(reckoned.value.changes.map(({ offer, to }) => [offer, to])))
  async function takeReckoning(): Promise<void> {
    const all = reckoned.value.changes.map(({ offer: { file, pointer, around }, to }) => ({ file, pointer, around, to }))
    if (await changes.write(all)) reckoning.value = null
  }

  /** Holds the prices against another state. */
  async function hold(next: Beside): Promise<void> {
    beside.value = next
    problem.value = ''
    other.value = null
    const [kind, name] = next.split(' ') as [string, string | undefined]
    if (name === undefined) return
    try {
      const facts = kind === 'server' ? await standingOf(name) : await callApi<EconomyFacts>(`${server.base}/economy/before?change=${name}`)
      if (beside.value === next) other.value = facts
    } catch (error) {
      if (beside.value === next) problem.value = wordsOf(error)
    }
  }
  /** Another server as it stands, without its drafts. */
  async function standingOf(slug: string): Promise<EconomyFacts> {
    const { facts, standing } = await callApi<ServerEconomy>(`/api/servers/${slug}/economy`)
    return standing ? withPart(facts, standing) : facts
  }
  async function loadHistory(): Promise<void> {
    history.value = await callApi<HistoryRow[]>(`${server.base}/history`).catch(() => [])
  }

  return {
    filter,
    beside,
    before,
    history,
    open,
    problem,
    reckoning,
    book,
    rows,
    also,
    counts,
    categories,
    plugins,
    reckoned,
    reckonedFor,
    takeReckoning,
    hold,
    loadHistory,
  }
})
