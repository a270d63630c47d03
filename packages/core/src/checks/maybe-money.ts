import { lastWord, nameWords } from '../carry/likeness'
import { isNoMoney } from '../rules/infer/money-words'
import { apparentKind } from '../tree/compare'
import { formatPointer } from '../tree/pointer'
import { sourceOf, type FileLooks, type ValueLook } from './looks'
import { sectionsOf } from './sections'
import type { WorkspaceFile } from './workspace'

/** A setting that may be money and that nothing says so of, or all settings of its name in the entries of a group. */
export interface MaybeMoney {
  /** Of the first of them, and its place. */
  readonly pointer: string
  readonly from: number
  /** What a rule has to be given to: the setting, or that name in all entries. */
  readonly path: string
  readonly name: string
  readonly count: number
  /** What the first few say. */
  readonly values: readonly string[]
}

/** Names that mostly stand for money, or for points and tokens that are none. */
const LIKE = new Set([
  ...['reward', 'prize', 'bonus', 'value', 'worth', 'pay', 'deposit', 'stake', 'bet', 'pot', 'jackpot', 'tip', 'refund', 'discount'],
  ...['token', 'gem', 'gold', 'silver', 'shell', 'pearl', 'penalty', 'fine', 'tax', 'interest', 'charge', 'balance', 'funds', 'sale'],
])
const FEW = 3
const MOST = 40

/** What people have to say of, since nothing else does; of each file no more than forty. */
export function maybeMoneyIn(file: WorkspaceFile, looks: FileLooks): MaybeMoney[] {
  const found = new Map<string, MaybeMoney & { readonly values: string[] }>()
  const sections = sectionsThatMayBe(file, looks)
  for (const value of looks.values) {
    const section = value.keys.slice(0, -1).join('\n')
    if (!mayBeMoney(file, looks, value, sections.has(section))) continue
    // what is said of one in a section of nothing else goes for all of them
    const path = sections.has(section) ? `${formatPointer(value.keys.slice(0, -1))}/*` : (value.rule?.path ?? formatPointer(value.keys))
    const before = found.get(path)
    if (before && before.values.length < FEW) before.values.push(value.text)
    found.set(path, before ? { ...before, count: before.count + 1 } : told(file, looks, value, path))
  }
  return [...found.values()].slice(0, MOST)
}

function told({ document }: WorkspaceFile, looks: FileLooks, value: ValueLook, path: string): MaybeMoney & { values: string[] } {
  const { keys, node, text } = value
  const isOfMany = path.includes('*')
  const name = path.endsWith('/*') ? keys.at(-2)! : isOfMany ? keys.at(-1)! : sectionsOf(document, looks).nameOf(value)
  return { pointer: formatPointer(keys), from: node.from, path, name, count: 1, values: [text] }
}

/** Sections called after what mostly stands for money that hold nothing but numbers. */
function sectionsThatMayBe({ document }: WorkspaceFile, { parts }: FileLooks): ReadonlySet<string> {
  const found = parts.filter(({ keys, node, rule }) => {
    const isNamed = keys.length > 0 && LIKE.has(lastWord(keys.at(-1)!)) && !isNoMoney(nameWords(keys.at(-1)!))
    const areNumbers = node.entries.length > 1 && node.entries.every(({ value }) => apparentKind(document, value) === 'number')
    return isNamed && node.type === 'map' && areNumbers && rule?.keys === undefined
  })
  return new Set(found.map(({ keys }) => keys.join('\n')))
}

function mayBeMoney(
  { document }: WorkspaceFile,
  { book }: FileLooks,
  { keys, node, rule, isItem, text }: ValueLook,
  isOfSection: boolean,
): boolean {
  if (apparentKind(document, node) !== 'number' || isItem || rule?.role || text === '0') return false
  if (rule?.means !== undefined && rule.means !== 'number') return false
  if (isNoMoney(nameWords(keys.at(-1)!)) || !(isOfSection || LIKE.has(lastWord(keys.at(-1)!)))) return false
  // somebody said already that it is a mere number
  return sourceOf(book, keys, 'means') !== 'yours'
}
