import { lastWord, nameWords } from '../carry/likeness'
import { LEAST, areBounds, has, isDeed, isDoneIn, isSale, isSizeOnly } from '../rules/infer/money-words'
import { amountsInText } from '../rules/money-text'
import type { Role } from '../rules/rule'
import { formatPointer } from '../tree/pointer'
import { commandMoneyIn } from './command-money'
import type { FileLooks, ValueLook } from './looks'
import { currencyIn } from './money-reader'
import { pauseForAll, pauseOf } from './pauses'
import { entryDepth, sectionsOf, type Sections } from './sections'
import { sleepingIn } from './sleeping'
import { writtenIn, type TextAround } from './written'
import type { WorkspaceFile } from './workspace'

/** What the amount of a stream is a share of, where it is no money by itself. */
export type ShareOf = 'balance' | 'price'

/** A table that something is drawn from. */
export interface Drawn {
  readonly pointer: string
  readonly name: string
  /** Whether each draw brings one of all that is in it. */
  readonly isOne: boolean
  /** The weight or chance of the entry that brings it. */
  readonly entry: { readonly pointer: string }
}

/** Which of two numbers that say how much one deed pays. */
export type Bound = 'least' | 'most'

/** A setting that moves money by itself: no price of an item, which the price book has. */
export interface StreamFact {
  readonly pointer: string
  /** The names it stands under and its own, those of sections that names with points stand for one by one. */
  readonly keys: readonly string[]
  readonly from: number
  readonly to: number
  /** What it is called: its own name, or that of its entry. */
  readonly name: string
  readonly way: 'in' | 'out'
  /** What moves each time; shares are told of one, and not of a hundred. */
  readonly amount: number
  /** The number as it is written. */
  readonly says: number
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
  /** Where it stands in a text, what is around it; null where it is the value itself. */
  readonly around: TextAround | null
  /** Where it says how much is paid at least, or at most: both are one deed, and each counts half. Null for all others. */
  readonly bound: Bound | null
  /** The table that it is drawn from; null where it is paid by itself. */
  readonly drawn: Drawn | null
  /** The first word of the command that pays it, where nobody knows yet whether that is one of money; null for settings. */
  readonly paidBy: string | null
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
const MOST_INTEREST = 0.2
const LIMIT = new Set(['limit', 'times', 'uses'])
const MOST = new Set(['most', 'max', 'maximum', 'cap'])

/** Settings that move money by themselves, each with what its own entry says of when. */
export function streamsIn(file: WorkspaceFile, looks: FileLooks): StreamFact[] {
  const moving = looks.values.flatMap((value) =>
    allMovesBy(file, value).flatMap((moves) => (sleepingIn(looks)(value) ? [] : [{ value, moves }])),
  )
  // most files move nothing
  if (moving.length === 0) return []
  const sections = sectionsOf(file.document, looks)
  const goods = new Set(looks.parts.filter(({ rule }) => rule?.keys === 'items').map(({ keys }) => keys.join('\n')))
  const isOfGood = ({ keys }: ValueLook): boolean => [1, 2, 3].some((up) => keys.length >= up && goods.has(keys.slice(0, -up).join('\n')))
  return moving.flatMap(({ value, moves }): StreamFact[] => {
    if (isOfGood(value) && !isDoneFor(value, sections)) return []
    const beside = sections.beside(value)
    const { node, isShipped, keys } = value
    const bound = moves.bound ?? boundOf(value, moves, moving)
    const said = { ...when(file, sections, value, beside, moves), currency: currencyIn(beside), bound }
    const most = moves.shareOf === 'balance' ? numberAt(file, beside, MOST) : null
    const at = { pointer: formatPointer(keys), keys, from: node.from, to: node.to }
    return [{ ...moves, ...said, ...at, most, drawn: null, name: sections.nameOf(value), isShipped }]
  })
}

export type Moves = Pick<StreamFact, 'way' | 'amount' | 'says' | 'shareOf' | 'isOnce' | 'around' | 'paidBy' | 'bound'>

/** Which way a setting moves how much: a text with the least and the most of a range moves both. */
function allMovesBy(file: WorkspaceFile, value: ValueLook): readonly Moves[] {
  const { rule, node, text } = value
  const moves = node.kind === 'text' && rule?.role ? MOVES[rule.role] : undefined
  const amounts = moves?.shareOf === null && !rule!.said?.some((said) => said.value === text) ? amountsInText(text) : []
  if (moves && amounts.length > 1)
    return amounts.map(({ amount, before, after }, i) => {
      return { ...moves, amount, says: amount, around: { before, after }, paidBy: null, bound: i === 0 ? 'least' : 'most' }
    })
  const one = movesBy(file, value) ?? commandMoneyIn(value)
  return one ? [one] : []
}

function movesBy({ document }: WorkspaceFile, value: ValueLook): Moves | null {
  const { rule } = value
  const moves = rule?.role && MOVES[rule.role]
  const written = moves ? writtenIn(document, value) : null
  if (!moves || !written || written.amount <= 0 || rule.said?.some((said) => said.value === value.text)) return null
  const { amount, isPercent, around } = written
  const of = { ...moves, says: amount, around, paidBy: null, bound: null }
  if (moves.shareOf === null) return isPercent ? null : { ...of, amount }
  // nobody takes more than there is, nor gives a fifth of it: what is above that is of a hundred
  const share = isPercent || amount > (rule.role === 'interest' ? MOST_INTEREST : 1) ? amount / 100 : amount
  return share <= 1 ? { ...of, amount: share } : null
}

/** Of what stands in a section of items: whether it is paid for doing something with one, where nothing is bought and sold. */
function isDoneFor(value: ValueLook, sections: Sections): boolean {
  if (value.rule?.role !== 'payout') return false
  const { keys } = value
  const isNamed = isDeed(nameWords(keys.at(-1)!)) || (isSizeOnly(nameWords(keys.at(-1)!)) && isDeed(nameWords(keys.at(-2) ?? '')))
  const isListed = !isSale(nameWords(keys.at(-1)!)) && [1, 2].some((up) => isDoneIn(keys.slice(0, -up).map(nameWords)))
  return (isNamed || isListed) && !sections.beside(value).some(({ rule }) => rule?.role === 'price')
}

/** Which bound of a payout it says, where another number beside it says the other; null for all else. */
function boundOf({ keys, rule }: ValueLook, { way }: Moves, moving: readonly { readonly value: ValueLook }[]): Bound | null {
  if (way !== 'in' || rule?.role !== 'payout') return null
  const own = nameWords(keys.at(-1)!)
  const section = keys.slice(0, -1).join('\n')
  const isThere = moving.some(
    ({ value }) => value.keys.slice(0, -1).join('\n') === section && areBounds(own, nameWords(value.keys.at(-1)!)),
  )
  return isThere ? (has(own, LEAST) ? 'least' : 'most') : null
}

/** The number of the first sibling without a part in the trade whose name ends so; null for none, and for none above nothing. */
function numberAt(file: WorkspaceFile, beside: readonly ValueLook[], words: ReadonlySet<string>): number | null {
  const found = beside.find(({ keys, rule }) => !rule?.role && words.has(lastWord(keys.at(-1) ?? '')))
  const amount = found ? (writtenIn(file.document, found)?.amount ?? null) : null
  return amount !== null && amount > 0 ? amount : null
}

function when(
  file: WorkspaceFile,
  sections: Sections,
  value: ValueLook,
  beside: readonly ValueLook[],
  { shareOf, isOnce }: Moves,
): Pick<StreamFact, 'chance' | 'cooldown' | 'limit'> {
  const said = beside.find(({ keys }) => lastWord(keys.at(-1) ?? '') === 'chance')
  const chance = said ? (writtenIn(file.document, said)?.amount ?? null) : null
  return {
    // a chance above one is one of a hundred
    chance: chance === null || chance < 0 || chance > 100 ? null : chance > 1 ? chance / 100 : chance,
    cooldown: isOnce
      ? null
      : (pauseOf(file, sections, value, beside) ?? pauseForAll(file, sections, value.keys.slice(0, entryDepth(value) + 1))),
    limit: shareOf === 'balance' ? null : numberAt(file, beside, LIMIT),
  }
}
