import { nameWords } from '../carry/likeness'
import type { Role } from '../rules/rule'
import { amountOf } from '../tree/compare'
import type { Document, Node } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { textOf, type FileLooks, type ValueLook } from './looks'
import { byKeysOf, countIn, first, itemIn, moneyReader, ownOf, pauseIn, type MoneyFact } from './money-reader'
import type { WorkspaceFile } from './workspace'

/** So many of an item. */
export interface Share {
  readonly item: string
  readonly count: number
}

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

/** Words of names of lists that players are given. */
const GIVEN = new Set(['gift', 'give', 'reward', 'loot', 'prize', 'kit', 'starter', 'bonus'])

/**
 * Entries with a list of items and a price, or a reward: and lists of items that are given for nothing. Items are written as lines with
 * counts, as sections with an item and a count, or as counts by their names.
 */
export function dealsIn(file: WorkspaceFile, looks: FileLooks): DealFact[] {
  let known: ReadonlyMap<string, ValueLook> | null = null
  const byKeys = (): ReadonlyMap<string, ValueLook> => (known ??= byKeysOf(looks))
  const lists = looks.parts.flatMap(({ keys, node }) => {
    const items = keys.length === 0 ? [] : sharesIn(file, looks, keys, node, byKeys)
    return items.length === 0 ? [] : [{ keys, items }]
  })
  // most files give nothing
  if (lists.length === 0) return []
  const money = moneyReader(file.document)
  const sections = new Map(looks.parts.map(({ keys, node }) => [keys.join('\n'), node]))
  const deals = new Map<string, DealFact>()
  for (const { keys, items } of lists) {
    const entry = keys.slice(0, -1)
    const section = sections.get(entry.join('\n'))
    const own = section?.type === 'map' ? ownOf(byKeys(), entry, section) : []
    const costs = first(own, (value) => money(value, own, 'price'))
    const pays = first(own, (value) => money(value, own, 'payout'))
    if (costs && pays) continue
    // what costs nothing may have words of its own for that
    const isPriced = own.some(({ rule }) => rule?.role === 'price')
    const isBare = costs === null && pays === null && !isPriced
    if (isBare && !nameWords(keys.at(-1)!).some((word) => GIVEN.has(word))) continue
    const pointer = formatPointer(isBare ? keys : entry)
    const before = deals.get(pointer)
    deals.set(pointer, {
      pointer,
      name: (isBare ? keys : entry).at(-1)!,
      items: [...(before?.items ?? []), ...items],
      money: costs ?? pays,
      isBought: pays === null,
      ...pauseOf(file, own),
    })
  }
  return [...deals.values()]
}

function pauseOf(file: WorkspaceFile, own: readonly ValueLook[]): Pick<DealFact, 'hasPause' | 'cooldown'> {
  const cooldown = pauseIn(file, own)
  const isSaid = own.some(({ rule }) => rule?.role === 'cooldown')
  return { cooldown, hasPause: isSaid ? cooldown !== 0 : null }
}

/** The items of a list or section; none for what is no such. */
function sharesIn(
  { document }: WorkspaceFile,
  looks: FileLooks,
  keys: readonly string[],
  node: Node,
  byKeys: () => ReadonlyMap<string, ValueLook>,
): Share[] {
  if (node.type === 'list') {
    const rule = looks.book.find(keys)
    const isLines = rule?.means === 'amount' && rule.registry === 'items'
    return node.entries.flatMap(({ key, value }) =>
      value.type === 'map'
        ? sectionShare(document, ownOf(byKeys(), [...keys, key], value))
        : isLines && value.type === 'scalar'
          ? (shareIn(textOf(document, value)) ?? [])
          : [],
    )
  }
  const rule = node.type === 'map' ? looks.book.find(keys) : null
  if (node.type !== 'map' || rule?.keys !== 'items') return []
  return node.entries.flatMap(({ key, value }) => {
    const count = looks.book.find([...keys, key])?.role ? null : amountOf(document, value)
    return count !== null && count > 0 ? [{ item: key, count }] : []
  })
}

/** The item of a section that says one and no money; none for others. */
function sectionShare(document: Document, own: readonly ValueLook[]): Share[] {
  const item = itemIn(own)
  return item === null || own.some(({ rule }) => MONEY.has(rule?.role)) ? [] : [{ item, count: countIn(document, own) }]
}

const MONEY: ReadonlySet<Role | undefined> = new Set<Role>(['price', 'payout'])

/** An item and how many of it, as `clay 64`; null for what is no such. */
export function shareIn(text: string): Share | null {
  const found = /^(\S+?)[\s:x*]+(\d+)$/i.exec(text)
  return found ? { item: found[1]!, count: Number(found[2]) } : null
}
