import { RuleBook, bookOf } from '../rules/book'
import type { Rule, RuleSource } from '../rules/rule'
import { sameScalar } from '../tree/compare'
import { isContainer, isNameless, type Document, type Entry, type Node, type ScalarNode } from '../tree/nodes'
import type { WorkspaceFile } from './workspace'

/** One value with all that checks ask of it. */
export interface ValueLook {
  readonly keys: readonly string[]
  readonly entry: Entry
  readonly node: ScalarNode
  /** Its rule; of an item of a list, that of the list. */
  readonly rule: Rule | null
  /** What is written, without quotes. */
  readonly text: string
  /** What the plugin ships in its place; null where it ships nothing there, as in an entry of one's own. */
  readonly shipped: string | null
  /** Whether it is as the plugin ships it, also at another place of the same list. */
  readonly isShipped: boolean
  /** Whether it is an item of a list. */
  readonly isItem: boolean
}

/** One section or list with what the plugin ships in its place. */
export interface PartLook {
  readonly keys: readonly string[]
  readonly entry: Entry | null
  readonly node: Extract<Node, { entries: readonly Entry[] }>
  readonly rule: Rule | null
  readonly shipped: Node | null
}

export interface FileLooks {
  readonly book: RuleBook
  readonly values: readonly ValueLook[]
  readonly parts: readonly PartLook[]
}

const known = new WeakMap<WorkspaceFile, FileLooks>()

/** All values and sections of a file with their rules and what is shipped in their places; gone through once for a file. */
export function looksOf(file: WorkspaceFile): FileLooks {
  let looks = known.get(file)
  if (!looks) known.set(file, (looks = goThrough(file)))
  return looks
}

/** What a scalar says, without quotes; numbers and code as they are written. */
export const textOf = (document: Document, node: ScalarNode): string =>
  node.kind === 'number' || node.kind === 'code' ? document.text.slice(node.from, node.to) : String(node.value ?? '')

function goThrough(file: WorkspaceFile): FileLooks {
  const { document, factory } = file
  const book = bookOf(file.rules)
  const values: ValueLook[] = []
  const parts: PartLook[] = []
  const visit = (node: Node, keys: readonly string[], entry: Entry | null, shipped: Node | null): void => {
    if (!isContainer(node)) return
    const rule = book.find(keys)
    parts.push({ keys, entry, node, rule, shipped })
    const twin = twinsOf(shipped)
    const items = node.type === 'list' && factory && shipped?.type === 'list' ? textsOf(factory, shipped) : null
    for (const child of node.entries) {
      if (isNameless(child)) continue
      const path = [...keys, child.key]
      const other = twin(child.key)
      if (child.value.type === 'scalar') values.push(look(child, child.value, path, other, items, node.type === 'list' ? rule : null))
      else visit(child.value, path, child, other)
    }
  }
  const look = (
    entry: Entry,
    node: ScalarNode,
    keys: readonly string[],
    other: Node | null,
    items: ReadonlySet<string> | null,
    ofList: Rule | null,
  ): ValueLook => {
    const text = textOf(document, node)
    const shipped = factory && other?.type === 'scalar' ? textOf(factory, other) : null
    const isSame = factory !== null && other?.type === 'scalar' && sameScalar(document, node, factory, other)
    const rule = ofList ?? book.find(keys)
    return {
      keys,
      entry,
      node,
      rule,
      text,
      shipped,
      isShipped: isSame || (items?.has(`${node.kind} ${text}`) ?? false),
      isItem: ofList !== null,
    }
  }
  visit(document.root, [], null, factory?.root ?? null)
  return { book, values, parts }
}

/** Finds what is shipped by its key; sections of many keys are gone through once. */
function twinsOf(shipped: Node | null): (key: string) => Node | null {
  if (!shipped || !isContainer(shipped)) return () => null
  const byKey = new Map(shipped.entries.map((entry) => [entry.key, entry.value]))
  return (key) => byKey.get(key) ?? null
}

/** Items with their kinds: an id that lost its quotes is another. */
const textsOf = (document: Document, list: Extract<Node, { type: 'list' }>): ReadonlySet<string> =>
  new Set(list.entries.flatMap(({ value }) => (value.type === 'scalar' ? [`${value.kind} ${textOf(document, value)}`] : [])))

/** Where the part of a rule comes from. */
export const sourceOf = (book: RuleBook, keys: readonly string[], part: keyof Rule): RuleSource => book.sources(keys)[part] ?? 'seen'

/** The source of a value's rule: that of its list, where it is an item. */
export const sourceFor = (book: RuleBook, { keys, isItem }: Pick<ValueLook, 'keys' | 'isItem'>, part: keyof Rule): RuleSource =>
  sourceOf(book, isItem ? keys.slice(0, -1) : keys, part)
