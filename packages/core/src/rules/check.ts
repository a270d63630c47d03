import { amountOf, apparentKind } from '../tree/compare'
import { isContainer, type Document, type Entry, type Finding, type Node, type ScalarNode } from '../tree/nodes'
import { formatPointer, locate } from '../tree/pointer'
import type { Change } from '../formats/reread'
import { RuleBook } from './book'
import type { Rule } from './rule'

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
export function checkRules(document: Document, rules: readonly Rule[]): Finding[] {
  if (rules.length === 0) return []
  const book = bookOf(rules)
  const findings: Finding[] = []
  visit(document.root, [], (entry, keys) => {
    const rule = book.find(keys)
    if (rule) check(document, entry, rule, findings)
  })
  return findings
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
): Finding[] {
  if (!changes) return checkRules(document, rules)
  if (rules.length === 0) return []
  const kept = before.flatMap((finding): Finding[] => {
    if (changes.some((change) => finding.to >= change.from && finding.from <= change.to)) return []
    const by = changes.reduce((sum, change) => (change.to <= finding.from ? sum + change.delta : sum), 0)
    return [{ ...finding, from: finding.from + by, to: finding.to + by }]
  })
  const book = bookOf(rules)
  const see = (item: Entry, keys: readonly string[]): void => {
    const rule = book.find(keys)
    if (rule) check(document, item, rule, kept)
  }
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

const books = new WeakMap<readonly Rule[], RuleBook>()

/** The rules made ready for looking up, once for each list of them. */
function bookOf(rules: readonly Rule[]): RuleBook {
  let book = books.get(rules)
  if (!book) books.set(rules, (book = new RuleBook(rules)))
  return book
}

function visit(node: Node, keys: readonly string[], see: (entry: Entry, keys: readonly string[]) => void): void {
  if (!isContainer(node)) return
  for (const entry of node.entries) {
    const path = [...keys, entry.key]
    see(entry, path)
    visit(entry.value, path, see)
  }
}

function check(document: Document, entry: Entry, rule: Rule, findings: Finding[]): void {
  const node = entry.value
  const { from, to } = node.from === node.to ? entry : node
  const add = (code: Finding['code'], severity: Finding['severity'], message: string): void =>
    void findings.push({ code, severity, from, to, message })
  const kind = apparentKind(document, node)
  // where all values are texts, any of them may stand where a text is taken
  const fits =
    kind === rule.kind || kind === 'alias' || (rule.kind === 'text' && node.type === 'scalar' && document.traits.values === 'text')
  if (rule.kind && rule.kind !== 'null' && !fits) {
    const shown = node.type === 'scalar' ? ` “${node.kind === 'text' ? String(node.value) : document.text.slice(node.from, node.to)}”` : ''
    const wanted = KIND_WORDS[rule.kind]
    if (kind === 'null')
      add('kind-changed', 'warning', `“${entry.key}” is empty, but the plugin ships ${wanted} here. Give it a value, or take the line out.`)
    else if (rule.kind === 'number')
      add(
        'number-expected',
        'error',
        `“${entry.key}” takes a number, and${shown || ' this'} is ${KIND_WORDS[kind]}. Write digits only, as in 12 or 0.5.`,
      )
    else
      add(
        'kind-changed',
        rule.kind === 'text' && node.type === 'scalar' ? 'warning' : 'error',
        `“${entry.key}” takes ${wanted}, and${shown || ' this'} is ${KIND_WORDS[kind]}. ${nextStep(rule.kind)}`,
      )
    return
  }
  if (node.type === 'scalar') checkScalar(entry.key, document, node, rule, add)
}

function nextStep(kind: string): string {
  if (kind === 'bool') return 'Write true or false.'
  if (kind === 'text') return 'Put quotes around it if it is meant as text.'
  return kind === 'list' ? 'Put each item on its own line with a dash.' : 'Write its settings below it, indented.'
}

function checkScalar(
  key: string,
  document: Document,
  node: ScalarNode,
  rule: Rule,
  add: (code: Finding['code'], severity: Finding['severity'], message: string) => void,
): void {
  const { value } = node
  const amount = amountOf(document, node)
  // what has words of its own counts also outside of the bounds
  if (rule.said?.some((said) => said.value === String(amount ?? value))) return
  if (amount !== null) {
    if (rule.min !== undefined && amount < rule.min)
      add('out-of-range', 'error', `“${key}” is ${amount}, and the author says at least ${rule.min}. Raise it.`)
    if (rule.max !== undefined && amount > rule.max)
      add('out-of-range', 'error', `“${key}” is ${amount}, and the author says at most ${rule.max}. Lower it.`)
    if (rule.wholeNumber && !Number.isInteger(amount))
      add('out-of-range', 'error', `“${key}” takes whole numbers only, and this is ${amount}.`)
  }
  if (typeof value === 'string') {
    if (rule.choices && !rule.choices.includes(value))
      add('unknown-choice', 'error', `“${key}” has no choice “${value}”. Pick one of ${rule.choices.join(', ')}.`)
    if (rule.maxLength !== undefined && value.length > rule.maxLength)
      add('out-of-range', 'warning', `“${key}” has ${value.length} characters, and the author says at most ${rule.maxLength}.`)
  }
}
