import { lastWord } from '../carry/likeness'
import { SECONDS } from '../rules/units'
import { amountOf } from '../tree/compare'
import { formatPointer } from '../tree/pointer'
import type { FileLooks, ValueLook } from './looks'
import type { WorkspaceFile } from './workspace'

/** A setting that moves money by itself: no price of an item, which the price book has. */
export interface StreamFact {
  readonly pointer: string
  readonly from: number
  readonly to: number
  /** What it is called: its own name, or that of its entry. */
  readonly name: string
  readonly way: 'in' | 'out'
  readonly amount: number
  /** Whether it is a share of the balance. */
  readonly isShare: boolean
  readonly isOnce: boolean
  /** Of the same entry: how likely it is, the seconds until it may be done again, and how often a day; null where nobody says. */
  readonly chance: number | null
  readonly cooldown: number | null
  readonly limit: number | null
}

/** A table that is drawn from by weight. */
export interface DrawFact {
  readonly pointer: string
  readonly name: string
  readonly entries: readonly { readonly name: string; readonly weight: number; readonly pointer: string; readonly from: number }[]
}

const WAYS: Readonly<Partial<Record<string, StreamFact['way']>>> = { payout: 'in', 'start-money': 'in', price: 'out', fee: 'out' }
/** Last words of the names of settings that are shares of what players have. */
const SHARES: Readonly<Record<string, StreamFact['way']>> = { interest: 'in', tax: 'out' }
const LIMIT = new Set(['limit', 'times', 'uses'])

/** Settings that move money by themselves, each with what its own entry says of when. */
export function streamsIn(file: WorkspaceFile, looks: FileLooks): StreamFact[] {
  const moving = looks.values.flatMap((value) => {
    const moves = movesBy(file, value)
    return moves ? [{ value, moves, entry: formatPointer(value.keys.slice(0, -1)) }] : []
  })
  // most files move nothing
  if (moving.length === 0) return []
  const items = new Set(looks.parts.filter(({ rule }) => rule?.keys === 'items').map(({ keys }) => formatPointer(keys)))
  const beside = new Map(moving.map(({ entry }) => [entry, [] as ValueLook[]]))
  for (const value of looks.values) beside.get(formatPointer(value.keys.slice(0, -1)))?.push(value)
  return moving.flatMap(({ value, moves, entry }): StreamFact[] => {
    if (items.has(entry) || items.has(formatPointer(value.keys.slice(0, -2)))) return []
    const siblings = beside.get(entry)!.filter((other) => other !== value)
    const { from, to } = value.node
    return [{ ...moves, ...when(file, siblings), pointer: formatPointer(value.keys), from, to, name: nameOf(value) }]
  })
}

type Moves = Pick<StreamFact, 'way' | 'amount' | 'isShare' | 'isOnce'>

/** Which way a setting moves how much; null where it moves nothing. */
function movesBy({ document }: WorkspaceFile, { rule, node, keys }: ValueLook): Moves | null {
  const amount = node.kind === 'number' ? amountOf(document, node) : null
  if (amount === null || amount <= 0 || rule?.said?.some((said) => said.value === String(amount))) return null
  const way = WAYS[rule?.role ?? '']
  if (way) return { way, amount, isShare: false, isOnce: rule?.role === 'start-money' }
  const share = SHARES[lastWord(keys.at(-1) ?? '')]
  return share && !rule?.role && amount < 1 ? { way: share, amount, isShare: true, isOnce: false } : null
}

function when(file: WorkspaceFile, siblings: readonly ValueLook[]): Pick<StreamFact, 'chance' | 'cooldown' | 'limit'> {
  const number = (value: ValueLook | undefined): number | null =>
    value?.node.kind === 'number' ? amountOf(file.document, value.node) : null
  const pause = siblings.find(({ rule }) => rule?.role === 'cooldown')
  const seconds = number(pause)
  const chance = number(siblings.find(({ keys }) => lastWord(keys.at(-1) ?? '') === 'chance'))
  const limit = number(siblings.find(({ keys, rule }) => !rule?.role && LIMIT.has(lastWord(keys.at(-1) ?? ''))))
  return {
    // a chance above one is one of a hundred
    chance: chance === null || chance < 0 || chance > 100 ? null : chance > 1 ? chance / 100 : chance,
    cooldown: seconds === null ? null : seconds * (SECONDS[pause?.rule?.unit ?? 'second'] ?? 1),
    limit: limit !== null && limit > 0 ? limit : null,
  }
}

/** A price is called like its entry, a payout of a list by itself. */
const nameOf = ({ keys, rule }: ValueLook): string =>
  (rule?.role === 'payout' && lastWord(keys.at(-2) ?? '') === 'payout' ? keys.at(-1) : (keys.at(-2) ?? keys.at(-1))) ?? ''

/** Tables whose entries are weights. */
export function drawsIn({ document }: WorkspaceFile, { values }: FileLooks): DrawFact[] {
  const tables = new Map<string, { readonly keys: readonly string[]; readonly entries: DrawFact['entries'][number][] }>()
  for (const { keys, rule, node } of values) {
    if (rule?.role !== 'chance' || node.kind !== 'number') continue
    const pointer = formatPointer(keys.slice(0, -1))
    const table = tables.get(pointer) ?? { keys: keys.slice(0, -1), entries: [] }
    table.entries.push({ name: keys.at(-1) ?? '', weight: amountOf(document, node) ?? 0, pointer: formatPointer(keys), from: node.from })
    tables.set(pointer, table)
  }
  return [...tables].flatMap(([pointer, { keys, entries }]) =>
    entries.length < 2 ? [] : [{ pointer, name: keys.slice(-2).join(' '), entries }],
  )
}
