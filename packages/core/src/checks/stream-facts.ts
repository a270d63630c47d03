import { lastWord } from '../carry/likeness'
import type { Role } from '../rules/rule'
import { amountOf } from '../tree/compare'
import { formatPointer } from '../tree/pointer'
import type { FileLooks, ValueLook } from './looks'
import { currencyIn, pauseIn } from './money-reader'
import type { WorkspaceFile } from './workspace'

/** What the amount of a stream is a share of, where it is no money by itself. */
export type ShareOf = 'balance' | 'price'

/** A setting that moves money by itself: no price of an item, which the price book has. */
export interface StreamFact {
  readonly pointer: string
  readonly from: number
  readonly to: number
  /** What it is called: its own name, or that of its entry. */
  readonly name: string
  readonly way: 'in' | 'out'
  /** What it says, but that shares are told of one, and not of a hundred. */
  readonly amount: number
  readonly isShipped: boolean
  /** A share of what players have, or of what they pay to the same plugin; null for money. */
  readonly shareOf: ShareOf | null
  readonly isOnce: boolean
  /** Of the same entry: how likely it is, the seconds until it may be done again, and how often a day; null where nobody says. */
  readonly chance: number | null
  readonly cooldown: number | null
  readonly limit: number | null
  /** Of a share: no more than this at once. */
  readonly most: number | null
  /** What the money is called, where its entry says it. */
  readonly currency: string | null
}

const MOVES: Readonly<Partial<Record<Role, Pick<StreamFact, 'way' | 'shareOf' | 'isOnce'>>>> = {
  payout: { way: 'in', shareOf: null, isOnce: false },
  'start-money': { way: 'in', shareOf: null, isOnce: true },
  price: { way: 'out', shareOf: null, isOnce: false },
  fee: { way: 'out', shareOf: null, isOnce: false },
  interest: { way: 'in', shareOf: 'balance', isOnce: false },
  tax: { way: 'out', shareOf: 'price', isOnce: false },
  'wealth-tax': { way: 'out', shareOf: 'balance', isOnce: false },
}
const LIMIT = new Set(['limit', 'times', 'uses'])
const MOST = new Set(['most', 'max', 'maximum', 'cap'])

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
    const { node, isShipped } = value
    const said = { ...when(file, siblings), currency: currencyIn(siblings) }
    const most = moves.shareOf === 'balance' ? numberAt(file, siblings, MOST) : null
    return [{ ...moves, ...said, most, pointer: formatPointer(value.keys), from: node.from, to: node.to, name: nameOf(value), isShipped }]
  })
}

type Moves = Pick<StreamFact, 'way' | 'amount' | 'shareOf' | 'isOnce'>

/** Which way a setting moves how much; null where it moves nothing. */
function movesBy({ document }: WorkspaceFile, { rule, node }: ValueLook): Moves | null {
  const moves = rule?.role && MOVES[rule.role]
  const amount = moves ? amountOf(document, node) : null
  if (!moves || amount === null || amount <= 0 || rule.said?.some((said) => said.value === String(amount))) return null
  if (moves.shareOf === null) return { ...moves, amount }
  const share = rule.unit === 'percent' ? amount / 100 : amount
  return share <= 1 ? { ...moves, amount: share } : null
}

/** The number of the first sibling without a part in the trade whose name ends so; null for none, and for none above nothing. */
function numberAt(file: WorkspaceFile, siblings: readonly ValueLook[], words: ReadonlySet<string>): number | null {
  const found = siblings.find(({ keys, rule }) => !rule?.role && words.has(lastWord(keys.at(-1) ?? '')))
  const amount = found ? amountOf(file.document, found.node) : null
  return amount !== null && amount > 0 ? amount : null
}

function when(file: WorkspaceFile, siblings: readonly ValueLook[]): Pick<StreamFact, 'chance' | 'cooldown' | 'limit'> {
  const number = (value: ValueLook | undefined): number | null => (value ? amountOf(file.document, value.node) : null)
  const chance = number(siblings.find(({ keys }) => lastWord(keys.at(-1) ?? '') === 'chance'))
  return {
    // a chance above one is one of a hundred
    chance: chance === null || chance < 0 || chance > 100 ? null : chance > 1 ? chance / 100 : chance,
    cooldown: pauseIn(file, siblings),
    limit: numberAt(file, siblings, LIMIT),
  }
}

/** A price is called like its entry, a payout of a list by itself. */
const nameOf = ({ keys, rule }: ValueLook): string =>
  (rule?.role === 'payout' && lastWord(keys.at(-2) ?? '') === 'payout' ? keys.at(-1) : (keys.at(-2) ?? keys.at(-1))) ?? ''
