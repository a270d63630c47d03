import { nameWords } from '../carry/likeness'
import { THINGS, isAct, isMoneyPart, isPaidAct, isSale, isSizeOnly } from '../rules/infer/money-words'
import { apparentKind } from '../tree/compare'
import type { Document } from '../tree/nodes'
import { sleepingIn } from './sleeping'
import type { FileLooks, ValueLook } from './looks'

const COMMANDS = new Set(['command', 'cmd', 'action', 'list', 'entry'])
const NAMES = ['name', 'id', 'title', 'key', 'job', 'task', 'item', 'type', 'material']
const INDEX = /^\d+$/

/** Whether a section says no more than what the one around it costs, brings or gives: `price`, `reward`, `buy`. */
export const isPart = (key: string): boolean => isMoneyPart(nameWords(key))

const isThing = (key: string): boolean => THINGS.has(nameWords(key).join(' '))

/** How deep the name of the entry stands that a value of a group belongs to; below nothing for what stands alone. */
export const entryDepth = ({ rule, isItem }: Pick<ValueLook, 'rule' | 'isItem'>): number =>
  isItem ? -1 : (rule?.path.split('/').slice(1, -1).lastIndexOf('*') ?? -1)

const known = new WeakMap<FileLooks, Sections>()

/** The sections of a file; gone through once, and only when somebody asks. */
export function sectionsOf(document: Document, looks: FileLooks): Sections {
  let found = known.get(looks)
  if (!found) known.set(looks, (found = new Sections(document, looks)))
  return found
}

export type { Sections }

/** Values of a file by the sections they stand in, for what has to be read together; what is switched off is left out. */
class Sections {
  private readonly bySection = new Map<string, ValueLook[]>()
  /** The names of sections in sections. */
  private readonly inner = new Map<string, readonly string[]>()
  private readonly lists = new Set<string>()

  constructor(
    private readonly document: Document,
    looks: FileLooks,
  ) {
    for (const { keys, node } of looks.parts) {
      const inner = node.type === 'map' ? node.entries.flatMap(({ key, value }) => (value.type === 'map' ? [key] : [])) : []
      if (node.type === 'list') this.lists.add(keys.join('\n'))
      if (inner.length > 0) this.inner.set(keys.join('\n'), inner)
    }
    const isAsleep = sleepingIn(looks)
    for (const value of looks.values) {
      if (isAsleep(value)) continue
      const at = value.keys.slice(0, -1).join('\n')
      const section = this.bySection.get(at)
      if (section) section.push(value)
      else this.bySection.set(at, [value])
    }
  }

  /** The values that stand in a section itself. */
  own(keys: readonly string[]): readonly ValueLook[] {
    return this.bySection.get(keys.join('\n')) ?? []
  }

  /** The names of sections in a section. */
  inside(keys: readonly string[]): readonly string[] {
    return this.inner.get(keys.join('\n')) ?? []
  }

  /** The values of an entry, with those of sections in it that only say what it is, costs or brings. */
  entry(keys: readonly string[]): readonly ValueLook[] {
    const inner = this.inside(keys).filter((key) => isPart(key) || isThing(key))
    return [...this.own(keys), ...inner.flatMap((key) => this.entry([...keys, key]))]
  }

  /** What stands beside a value, the nearest first: in its section, and around that as long as it only says what its entry costs or gives. */
  beside(value: ValueLook): readonly ValueLook[] {
    const found: ValueLook[] = []
    for (let at = value.keys.slice(0, -1); ; at = at.slice(0, -1)) {
      found.push(...this.own(at).filter((other) => other !== value))
      if (at.length === 0 || !(isPart(at.at(-1)!) || (value.isItem && at.length === value.keys.length - 1))) return found
    }
  }

  /**
   * What a number of an entry is called: of a group by its entry, else by its own name, or that of the nearest section which says more
   * than that it is money. Entries of lists are called as they call themselves, and what is done by that and with what: `break clay`.
   */
  nameOf({ keys, rule, isItem }: ValueLook): string {
    const names = keys.slice(0, -1).map(nameWords)
    const isDone = rule?.role === 'payout' && !names.some(isSale)
    const act = names.findLastIndex((name, at) => (isDone && isAct(name)) || isPaidAct(names.slice(0, at + 1)))
    if (act >= 0) {
      const what = this.entryName(keys.slice(0, act + 2))
      return saysMore(what) ? `${keys[act]!} ${what}` : keys[act]!
    }
    const star = entryDepth({ rule, isItem })
    const isOfGroup = star >= 0 && (!saysMore(keys.at(-1)!) || keys.slice(star + 1, -1).every((key) => isPart(key) || isThing(key)))
    for (let at = isOfGroup ? star : keys.length - 1; at >= 0; at--) {
      const name = INDEX.test(keys[at]!) ? this.nameIn(keys.slice(0, at + 1)) : saysMore(keys[at]!) ? this.counted(keys, at) : null
      if (name !== null) return name
    }
    return keys.findLast((key) => !INDEX.test(key) && !isSizeOnly(nameWords(key))) ?? keys.at(-1) ?? ''
  }

  /**
   * A name, of many without names of their own in it with which of them it is: `levels 5`; those of lists are counted from one.
   */
  private counted(keys: readonly string[], at: number): string {
    const which = keys.findIndex((key, depth) => depth > at && depth < keys.length - 1 && INDEX.test(key))
    if (which < 0) return keys[at]!
    return `${keys[at]!} ${this.lists.has(keys.slice(0, which).join('\n')) ? Number(keys[which]) + 1 : keys[which]!}`
  }

  /** What an entry is called: of a list as it calls itself. */
  entryName(keys: readonly string[]): string {
    const key = keys.at(-1)!
    return INDEX.test(key) ? (this.nameIn(keys) ?? key) : key
  }

  private nameIn(keys: readonly string[]): string | null {
    const own = this.own(keys)
    for (const name of NAMES) {
      const found = own.find((value) => value.keys.at(-1)!.toLowerCase() === name && apparentKind(this.document, value.node) === 'text')
      if (found?.text) return found.text
    }
    return null
  }
}

/** Whether a name says more than that something is money, or commands. */
const saysMore = (key: string): boolean => {
  const words = nameWords(key)
  return (
    words.length > 0 && !isSizeOnly(words) && !BARE.has(words.join(' ')) && !words.every((word) => COMMANDS.has(word) || BARE.has(word))
  )
}
const BARE = new Set([
  ...['price', 'cost', 'buy', 'sell', 'payout', 'pay', 'payment', 'reward', 'money', 'mark', 'coin', 'cash', 'amount', 'value'],
  ...['prize', 'fee', 'economy', 'setting', 'rate', 'percent', 'percentage', 'share', 'require', 'requirement', 'need'],
  ...['tax', 'interest', 'start'],
])
