import { amountOf, apparentKind } from '../tree/compare'
import { isContainer, type Document, type Entry, type Finding, type Node, type ScalarNode } from '../tree/nodes'
import { formatPointer, locate } from '../tree/pointer'
import { movedAlong } from '../formats/moved'
import type { Change } from '../formats/reread'
import type { Markup } from '../values/markup'
import { bookOf, type RuleBook } from './book'
import { brokenBy, compileRule, type CompiledRule } from './compile'
import { levelOf, type Rule, type RuleSource } from './rule'

const KIND_WORDS: Record<string, string> = {
  number: 'a number',
  bool: 'true or false',
  text: 'a text',
  list: 'a list',
  map: 'a section of settings',
  null: 'empty',
  alias: 'a reference',
}

/** Findings for values that are not what their rules say. */
export function checkRules(document: Document, rules: readonly Rule[], texts: Markup | null = null): Finding[] {
  if (rules.length === 0) return []
  const looked: Looked = { document, book: bookOf(rules), texts, findings: [] }
  visit(document.root, [], (entry, keys) => check(looked, entry, keys))
  return looked.findings
}

/**
 * The findings after a part of the document was read again (`reread`): those elsewhere move along, and only what was
 * read is checked.
 */
export function recheckRules(
  document: Document,
  rules: readonly Rule[],
  before: readonly Finding[],
  changes: readonly Change[] | null,
  texts: Markup | null = null,
): Finding[] {
  if (!changes) return checkRules(document, rules, texts)
  if (rules.length === 0) return []
  const kept = movedAlong(before, changes)
  const looked: Looked = { document, book: bookOf(rules), texts, findings: kept }
  const see = (item: Entry, keys: readonly string[]): void => check(looked, item, keys)
  for (const change of changes)
    for (const entry of change.entries) {
      const path = [...change.path, entry.key]
      see(entry, path)
      visit(entry.value, path, see)
    }
  // what a change lies in reaches over it, so that its own findings went with those of the change
  const around = new Map(
    changes.flatMap(({ path }) => path.map((_key, depth) => path.slice(0, depth + 1))).map((keys) => [formatPointer(keys), keys]),
  )
  for (const keys of around.values()) {
    const entry = locate(document, keys)?.entry
    if (entry) see(entry, keys)
  }
  return kept.sort((a, b) => a.from - b.from)
}

function visit(node: Node, keys: readonly string[], see: (entry: Entry, keys: readonly string[]) => void): void {
  if (!isContainer(node)) return
  for (const entry of node.entries) {
    const path = [...keys, entry.key]
    see(entry, path)
    visit(entry.value, path, see)
  }
}

type Sources = Readonly<Partial<Record<keyof Rule, RuleSource>>>

interface Looked {
  readonly document: Document
  readonly book: RuleBook
  readonly texts: Markup | null
  readonly findings: Finding[]
}

function check(looked: Looked, entry: Entry, keys: readonly string[]): void {
  const { document, book, findings } = looked
  const rule = book.find(keys)
  if (!rule) return
  const sources = book.sources(keys)
  const node = entry.value
  const { from, to } = node.from === node.to ? entry : node
  const kind = apparentKind(document, node)
  // where all values are texts, any of them may stand where a text is taken
  // an empty table is a list as well as a section
  const isOpen = document.traits.emptyTable && isContainer(node) && node.entries.length === 0 && ['list', 'map'].includes(rule.kind ?? '')
  const fits =
    kind === rule.kind ||
    kind === 'alias' ||
    isOpen ||
    (kind === 'null' && rule.mayBeEmpty) ||
    (rule.kind === 'text' && node.type === 'scalar' && document.traits.values === 'text')
  if (rule.kind && rule.kind !== 'null' && !fits) {
    findings.push({
      severity: levelOf(sources.kind),
      from,
      to,
      ...otherKind(document, entry, rule.kind, kind),
    })
    return
  }
  if (node.type === 'scalar') checkScalar(looked, entry, node, rule, sources)
  if (node.type !== 'list') return
  if (rule.maxItems !== undefined && node.entries.length > rule.maxItems)
    findings.push({
      code: 'too-many-items',
      severity: levelOf(sources.maxItems),
      from: entry.keyFrom,
      to: entry.keyTo,
      message: `“${entry.key}” has ${node.entries.length} of them, and ${whoSays(sources.maxItems)} says at most ${rule.maxItems}. Take some out.`,
    })
  for (const item of node.entries) checkItem(looked, { ...item, key: entry.key }, rule, sources)
}

/** One item of a list: whether it is of the kind they have to be, and what else is said of each. */
function checkItem(looked: Looked, item: Entry, rule: Rule, sources: Sources): void {
  const { document, findings } = looked
  const node = item.value
  const kind = apparentKind(document, node)
  if (rule.items && kind !== rule.items && kind !== 'alias') {
    const { from, to } = node.from === node.to ? item : node
    findings.push({ severity: levelOf(sources.items), from, to, ...otherKind(document, item, rule.items, kind) })
  } else if (node.type === 'scalar') checkScalar(looked, item, node, rule, sources)
}

function otherKind(document: Document, { key, value: node }: Entry, wanted: string, kind: string): Pick<Finding, 'code' | 'message'> {
  const shown = node.type === 'scalar' ? ` “${node.kind === 'text' ? String(node.value) : document.text.slice(node.from, node.to)}”` : ''
  const words = KIND_WORDS[wanted]
  if (kind === 'null')
    return {
      code: 'kind-changed',
      message: `“${key}” is empty, but the plugin ships ${words} here. Give it a value, or take the line out.`,
    }
  if (wanted === 'number')
    return {
      code: 'number-expected',
      message: `“${key}” takes a number, and${shown || ' this'} is ${KIND_WORDS[kind]}. Write digits only, as in 12 or 0.5.`,
    }
  return { code: 'kind-changed', message: `“${key}” takes ${words}, and${shown || ' this'} is ${KIND_WORDS[kind]}. ${nextStep(wanted)}` }
}

function nextStep(kind: string): string {
  if (kind === 'bool') return 'Write true or false.'
  if (kind === 'text') return 'Put quotes around it if it is meant as text.'
  return kind === 'list' ? 'Put each item on its own line with a dash.' : 'Write its settings below it, indented.'
}

/** Who says so; what stands in comments the author wrote. */
const whoSays = (source: RuleSource | undefined): string =>
  source === 'yours' ? 'your rule' : source === 'declared' || source === undefined ? 'its description' : 'the author'

const compiled = new WeakMap<Rule, CompiledRule>()

function checkScalar({ document, texts, findings }: Looked, entry: Entry, node: ScalarNode, rule: Rule, sources: Sources): void {
  const { value } = node
  const amount = amountOf(document, node)
  // what has words of its own counts also outside of the bounds
  if (rule.said?.some((said) => said.value === String(amount ?? value))) return
  if (amount === null && typeof value !== 'string') return
  let schemas = compiled.get(rule)
  if (!schemas) compiled.set(rule, (schemas = compileRule(rule, texts)))
  const { from, to } = node.from === node.to ? entry : node
  for (const { part, code, says } of brokenBy(schemas, amount ?? String(value)))
    findings.push({ code, severity: levelOf(sources[part]), from, to, message: `“${entry.key}” ${says(whoSays(sources[part]))}` })
}
