import { lastWord, nameWords } from '../carry/likeness'
import { isDeed } from '../rules/infer/money-words'
import type { Role } from '../rules/rule'
import { amountOf } from '../tree/compare'
import type { Document, Node } from '../tree/nodes'
import { formatPointer, parsePointer } from '../tree/pointer'
import { CHANCE } from './draw-facts'
import { textOf, type FileLooks, type ValueLook } from './looks'
import { first, itemIn, meanCountIn, moneyReader, type MoneyFact } from './money-reader'
import { pauseForAll, pauseIn } from './pauses'
import { isPart, sectionsOf } from './sections'
import { shareIn, type Share } from './shares'
import type { WorkspaceFile } from './workspace'

/** Items that are given for money or for nothing, or money for items. */
export interface DealFact {
  /** Of the entry that says it, or of the list itself where no money is said beside it. */
  readonly pointer: string
  readonly name: string
  readonly items: readonly Share[]
  /** Null for what is given. */
  readonly money: MoneyFact | null
  /** Whether players pay, or nothing, and get the items; else they bring them and are paid. */
  readonly isBought: boolean
  /** Whether it can be had again only after a while; null where nothing is said of it. */
  readonly hasPause: boolean | null
  /** The seconds until it can be had again; null where nothing is said of it. */
  readonly cooldown: number | null
}

/** Words of names of lists that players are given, and of those that they have to bring. */
const GIVEN = new Set(['gift', 'give', 'reward', 'loot', 'prize', 'kit', 'starter', 'bonus'])
const BROUGHT = new Set([
  ...['need', 'require', 'requirement', 'required', 'bring', 'deliver', 'delivery', 'collect', 'turn', 'ingredient', 'input', 'demand'],
  ...['wanted', 'consume', 'take', 'ask'],
])

/** Names of lists that say nothing of what happens with what is in them. */
const PLAIN = new Set(['item', 'content'])

/**
 * Entries with a list of items and a price, or a reward: and lists of items that are given for nothing. Items are written as lines with
 * counts, as sections with an item and a count, or as counts by their names. What is asked for or given in a section of its own belongs
 * to the entry around it.
 */
export function dealsIn(file: WorkspaceFile, looks: FileLooks): DealFact[] {
  const lists = looks.parts.flatMap(({ keys, node }) => {
    const items = keys.length === 0 ? [] : sharesIn(file, looks, keys, node)
    return items.length === 0 ? [] : [{ keys, items }]
  })
  // most files give nothing
  if (lists.length === 0) return []
  const money = moneyReader(file.document)
  const sections = sectionsOf(file.document, looks)
  const nodes = new Map(looks.parts.map(({ keys, node }) => [keys.join('\n'), node]))
  const deals = new Map<string, DealFact>()
  for (const { keys, items } of lists) {
    const entry = entryOf(keys)
    const section = nodes.get(entry.join('\n'))
    const own = section?.type === 'map' ? sections.entry(entry) : []
    const costs = first(own, (value) => money(value, own, 'price'))
    const pays = first(own, (value) => money(value, own, 'payout'))
    const way = wayOf(keys, entry, costs, pays, own)
    if (way === null) continue
    const isBare = way === 'given'
    const pointer = formatPointer(isBare ? keys : entry)
    const before = deals.get(pointer)
    deals.set(pointer, {
      pointer,
      name: isBare && lastWord(keys.at(-1)!) === 'item' ? keys.at(-2)! : (isBare ? keys : entry).at(-1)!,
      items: [...(before?.items ?? []), ...items],
      money: way === 'bought' ? costs : way === 'sold' ? pays : null,
      isBought: way !== 'sold',
      ...pauseAt(file, own, () => pauseForAll(file, sections, entry)),
    })
  }
  return [...deals.values()]
}

/** The entry that a list belongs to: the section it is in, but for those that only say what is asked for or given. */
function entryOf(keys: readonly string[]): readonly string[] {
  let entry = keys.slice(0, -1)
  while (entry.length > 1 && (isPart(entry.at(-1)!) || nameWords(entry.at(-1)!).every((word) => BROUGHT.has(word))))
    entry = entry.slice(0, -1)
  return entry
}

/** What happens with the items of a list; null where that is not to be told, and where nothing says that anybody gets them. */
function wayOf(
  keys: readonly string[],
  entry: readonly string[],
  costs: MoneyFact | null,
  pays: MoneyFact | null,
  own: readonly ValueLook[],
): 'bought' | 'sold' | 'given' | null {
  const words = keys.slice(entry.length).flatMap(nameWords)
  const isGiven = words.some((word) => GIVEN.has(word))
  if (words.some((word) => BROUGHT.has(word)) && !isGiven) return pays ? 'sold' : null
  if (costs && pays) return null
  if (costs) return 'bought'
  // what costs nothing may have words of its own for that
  const isPriced = own.some(({ rule }) => rule?.role === 'price')
  // things beside money are given with it, where nothing says that they are asked for
  if (pays) return isGiven || (isDeed(nameWords(lastOf(pays))) && words.some((word) => PLAIN.has(word))) ? 'given' : 'sold'
  return isPriced ? 'bought' : isGiven ? 'given' : null
}

const lastOf = ({ pointer }: MoneyFact): string => parsePointer(pointer)?.at(-1) ?? ''

function pauseAt(file: WorkspaceFile, own: readonly ValueLook[], forAll: () => number | null): Pick<DealFact, 'hasPause' | 'cooldown'> {
  const said = pauseIn(file, own)
  const isOwn = said !== null || own.some(({ rule }) => rule?.role === 'cooldown')
  const cooldown = isOwn ? said : forAll()
  const isSaid = isOwn || cooldown !== null
  return { cooldown, hasPause: isSaid ? cooldown !== 0 : null }
}

/** The items of a list or section; none for what is no such, and for what is drawn from. */
function sharesIn({ document }: WorkspaceFile, looks: FileLooks, keys: readonly string[], node: Node): Share[] {
  if (node.type === 'list') {
    const rule = looks.book.find(keys)
    const isLines = rule?.means === 'amount' && rule.registry === 'items'
    const entries = node.entries.map(({ key, value }) => ({
      value,
      own: value.type === 'map' ? sectionsOf(document, looks).own([...keys, key]) : [],
    }))
    if (entries.some(({ own }) => own.some(isOdds))) return []
    return entries.flatMap(({ value, own }) =>
      value.type === 'map'
        ? sectionShare(document, own)
        : isLines && value.type === 'scalar'
          ? (shareIn(textOf(document, value)) ?? [])
          : [],
    )
  }
  const rule = node.type === 'map' ? looks.book.find(keys) : null
  // a list of prices counts nothing
  if (
    node.type !== 'map' ||
    rule?.keys !== 'items' ||
    sectionsOf(document, looks)
      .own(keys)
      .some((value) => MONEY.has(value.rule?.role))
  )
    return []
  return node.entries.flatMap(({ key, value }) => {
    const count = looks.book.find([...keys, key])?.role ? null : amountOf(document, value)
    return count !== null && count > 0 ? [{ item: key, count }] : []
  })
}

const isOdds = ({ keys, rule }: ValueLook): boolean => rule?.role === 'chance' || CHANCE.has(lastWord(keys.at(-1)!))

/** The item of a section that says one and no money; none for others. */
function sectionShare(document: Document, own: readonly ValueLook[]): Share[] {
  const item = itemIn(own)
  return item === null || own.some(({ rule }) => MONEY.has(rule?.role)) ? [] : [{ item, count: meanCountIn(document, own) }]
}

const MONEY: ReadonlySet<Role | undefined> = new Set<Role>(['price', 'payout'])
