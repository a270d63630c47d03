import { defineStore } from 'pinia'
import { inTurn } from '~/utils/in-turn'
import {
  NOTHING_ASSUMED,
  NOTHING_SEEN,
  NO_ECONOMY,
  drawTables,
  economyOf,
  firstGoals,
  fitKinds,
  groupedFlow,
  movers,
  thingsOf,
  valuedDeals,
  withPart,
  type Assumed,
  type AssumedGoal,
  type AssumedKind,
  type Economy,
  type EconomyFacts,
  type EconomyPart,
} from '@pasticcio/core'
import type { AssumedRow, ServerEconomy } from '~/utils/types'

const NOTHING: ServerEconomy = {
  facts: NO_ECONOMY,
  standing: null,
  kinds: {},
  lines: {},
  assumed: null,
  seen: NOTHING_SEEN,
  money: '',
  unread: [],
}
/** Which numbers are reckoned with, and what they come to. */
export interface EconomyVersion {
  readonly version: 'today' | 'draft' | 'update'
  readonly economy: Economy
}

/** Typing rests so long before what is assumed is kept. */
const KEEP_MS = 400

/** What the numbers of the server at hand do to money, as the drafts have them, as they stand, and as updates would have them. */
export const useEconomyStore = defineStore('economy', () => {
  const server = useServerStore()
  const answer = shallowRef<ServerEconomy>(NOTHING)
  const problem = ref('')
  const loading = ref(false)
  const isLoaded = ref(false)
  /** What updates would change; it is read once, since no draft changes it. */
  const updates = shallowRef<EconomyPart | null>(null)
  const assumed = shallowRef<Assumed>(NOTHING_ASSUMED)
  const isKept = ref(true)
  let revision = 0
  /** What is looked at: a group of the flow, or a kind of player. */
  const focus = ref('')

  const reckon = (facts: EconomyFacts): ReturnType<typeof economyOf> => economyOf(facts, answer.value.kinds)
  const draft = computed(() => reckon(answer.value.facts))
  const standing = computed(() => (answer.value.standing ? reckon(withPart(answer.value.facts, answer.value.standing)) : draft.value))
  const update = computed(() => {
    const { facts, standing: before } = answer.value
    return updates.value ? reckon(withPart(before ? withPart(facts, before) : facts, updates.value)) : null
  })
  /** Today's numbers, and those of the drafts and of updates where they are others. */
  const versions = computed<readonly EconomyVersion[]>(() => [
    { version: 'today', economy: standing.value },
    ...(draft.value === standing.value ? [] : [{ version: 'draft' as const, economy: draft.value }]),
    ...(update.value ? [{ version: 'update' as const, economy: update.value }] : []),
  ])
  const kinds = computed(() =>
    fitKinds(
      standing.value,
      versions.value.flatMap(({ economy }) => economy.streams),
      assumed.value,
      answer.value.seen,
    ),
  )
  const people = computed(() => kinds.value.map(({ kind }) => kind))
  const flow = computed(() => groupedFlow(standing.value.streams, draft.value.streams, people.value))
  const moves = computed(() => movers(standing.value, people.value))
  const tables = computed(() => drawTables(answer.value.facts))
  const tablesBefore = computed(() => {
    const { facts, standing: before } = answer.value
    return new Map(before ? drawTables(withPart(facts, before)).map((table) => [table.id, table]) : [])
  })
  const deals = computed(() => valuedDeals(answer.value.facts, draft.value.book))
  const things = computed(() => thingsOf(draft.value))
  const goals = computed<readonly AssumedGoal[]>(() => assumed.value.goals ?? firstGoals(standing.value, kinds.value))
  const hasMoney = computed(() => draft.value.streams.length + draft.value.book.rows.length + tables.value.length > 0)
  const money = computed(() => answer.value.money || 'money')

  const ask = inTurn()
  /** Reads it anew. An answer that comes after one that was asked for later tells of drafts as they were, and is not heard. */
  async function load(): Promise<void> {
    const isLast = ask()
    loading.value = true
    problem.value = ''
    try {
      const now = await callApi<ServerEconomy>(`${server.base}/economy`)
      if (!isLast()) return
      answer.value = now
      // what is being typed counts until it is kept
      if (isKept.value) take(now.assumed)
      isLoaded.value = true
    } catch (error) {
      if (isLast()) problem.value = wordsOf(error)
    } finally {
      if (isLast()) loading.value = false
    }
  }
  /** Reads what updates would change; the page is there without it. */
  async function loadUpdates(): Promise<void> {
    const { part } = await callApi<{ part: EconomyPart | null }>(`${server.base}/economy/update`).catch(() => ({ part: null }))
    updates.value = part
  }
  function take(row: AssumedRow | null): void {
    assumed.value = row?.assumed ?? NOTHING_ASSUMED
    revision = row?.revision ?? 0
  }

  const keepLater = useDebounceFn(keep, KEEP_MS)
  function assume(next: Assumed): void {
    assumed.value = next
    isKept.value = false
    void keepLater()
  }
  /** Keeps what is assumed; where somebody else was faster, theirs is shown. */
  async function keep(): Promise<void> {
    if (isKept.value) return
    const sent = assumed.value
    try {
      const row = await callApi<AssumedRow>(`${server.base}/economy/assumed`, { method: 'PUT', body: { assumed: sent, since: revision } })
      revision = row.revision
      isKept.value = assumed.value === sent
      if (!isKept.value) void keepLater()
    } catch (error) {
      isKept.value = true
      await load()
      problem.value = wordsOf(error)
    }
  }

  /** Says how often a kind of player does something; null leaves it to be inferred. */
  function setRate(activity: string, kind: string, times: number | null): void {
    const { [kind]: _before, ...others } = assumed.value.rates[activity] ?? {}
    const own = times === null ? others : { ...others, [kind]: times }
    const { [activity]: _all, ...rates } = assumed.value.rates
    assume({ ...assumed.value, rates: Object.keys(own).length > 0 ? { ...rates, [activity]: own } : rates })
  }
  function setKind(id: string, change: Partial<AssumedKind>): void {
    assume({ ...assumed.value, kinds: assumed.value.kinds.map((kind) => (kind.id === id ? { ...kind, ...change } : kind)) })
  }
  /** One more kind, like those who come again and again. */
  function addKind(name: string): void {
    const taken = new Set(assumed.value.kinds.map(({ id }) => id))
    let n = taken.size + 1
    while (taken.has(`kind-${n}`)) n++
    const kind: AssumedKind = { id: `kind-${n}`, name, like: 'regular', players: 0, hours: null }
    assume({ ...assumed.value, kinds: [...assumed.value.kinds, kind] })
  }
  function removeKind(id: string): void {
    const { goals: own } = assumed.value
    assume({
      ...assumed.value,
      kinds: assumed.value.kinds.filter((kind) => kind.id !== id),
      goals: own?.filter(({ kind }) => kind !== id) ?? null,
    })
  }
  const setGoals = (next: readonly AssumedGoal[]): void => assume({ ...assumed.value, goals: next })

  const lineOf = (file: string, pointer: string): number | undefined => answer.value.lines[`${file}#${pointer}`]

  return {
    answer,
    problem,
    loading,
    isLoaded,
    assumed,
    isKept,
    focus,
    draft,
    standing,
    update,
    versions,
    kinds,
    people,
    flow,
    moves,
    tables,
    tablesBefore,
    deals,
    things,
    goals,
    hasMoney,
    money,
    load,
    loadUpdates,
    keep,
    setRate,
    setKind,
    addKind,
    removeKind,
    setGoals,
    lineOf,
  }
})
