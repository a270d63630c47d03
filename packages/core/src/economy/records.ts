import { amountOf } from '../tree/compare'
import { isContainer, type Document, type Node } from '../tree/nodes'
import { nameWords } from '../carry/likeness'
import { quantile } from './box'
import type { Seen } from './assume'

/** A number of a file with the names it stands below. */
interface Told {
  readonly path: readonly string[]
  readonly amount: number
}

const MONEY = new Set(['balance', 'money', 'purse', 'coin', 'mark', 'amount', 'credit', 'cash', 'account'])
const DAY_SECONDS = 86_400
/** From here on a time is in milliseconds. */
const MILLISECONDS = 1e11

/**
 * What players have, as a file of accounts says that a server wrote: of the largest section whose entries each have a number that is
 * called after money, those; where there is none, the numbers of the largest section.
 */
export function balancesIn(document: Document): readonly number[] {
  let [named, plain]: [readonly number[], readonly number[]] = [[], []]
  const visit = (node: Node): void => {
    if (!isContainer(node)) return
    const accounts = node.entries.flatMap(({ value }) => namedBalance(document, value) ?? [])
    const numbers = node.entries.flatMap(({ value }) => amountOf(document, value) ?? [])
    if (accounts.length > named.length) named = accounts
    if (numbers.length > plain.length) plain = numbers
    for (const { value } of node.entries) visit(value)
  }
  visit(document.root)
  return named.length > 0 ? named : plain
}

function namedBalance(document: Document, node: Node): number | null {
  if (!isContainer(node)) return null
  const found = node.entries.find(({ key, value }) => nameWords(key).some((word) => MONEY.has(word)) && amountOf(document, value) !== null)
  return found ? amountOf(document, found.value) : null
}

/**
 * How often a day a player does each of some things, as a file says that keeps when each player did it last: how many of all players did
 * it in the last day that the file knows of. Names stand in keys, as `player/thing`, or below one another.
 * @param names of what is done
 * @param players how many there are
 */
export function doneADay(document: Document, names: ReadonlySet<string>, players: number): ReadonlyMap<string, number> {
  const told = numbersIn(document.root, document, [])
  const last = new Map<string, number[]>()
  for (const { path, amount } of told) {
    const words = path.flatMap((key) => key.split(/[/:|]/))
    const name = words.findLast((word) => names.has(word))
    if (name === undefined || words.length < 2) continue
    const at = amount > MILLISECONDS ? amount / 1000 : amount
    const list = last.get(name)
    if (list) list.push(at)
    else last.set(name, [at])
  }
  const newest = Math.max(...[...last.values()].flat())
  return new Map([...last].map(([name, times]) => [name, times.filter((at) => newest - at < DAY_SECONDS).length / Math.max(1, players)]))
}

function numbersIn(node: Node, document: Document, path: readonly string[]): Told[] {
  if (!isContainer(node)) {
    const amount = amountOf(document, node)
    return amount === null ? [] : [{ path, amount }]
  }
  return node.entries.flatMap(({ key, value }) => numbersIn(value, document, [...path, key]))
}

/** What balances say of how many players there are, and what one in the middle has; nothing for none. */
export function accountsSeen(balances: readonly number[]): Pick<Seen, 'players' | 'balance'> {
  if (balances.length === 0) return { players: null, balance: null }
  const sorted = [...balances].sort((a, b) => a - b)
  return { players: sorted.length, balance: quantile(sorted, 0.5) }
}
