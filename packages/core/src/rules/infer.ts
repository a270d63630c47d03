import { apparentKind } from '../tree/compare'
import type { Document, Entry, Node } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { isGroup } from '../carry/groups'
import { unitOf } from '../carry/scale'
import { authorsComment, boundsIn, choicesIn } from './comments'
import type { Rule } from './rule'

/**
 * What settings may be, as a factory copy shows it: the kind of each default, and the bounds, choices and unit its
 * comment names. Entries of a group share their rules, under `*`.
 */
export function inferRules(factory: Document): Rule[] {
  const rules = new Map<string, Rule>()
  visit(factory, factory.root, [], rules)
  return [...rules.values()].filter((rule) => rule.kind !== 'null' || rule.choices !== undefined)
}

function visit(document: Document, node: Node, keys: readonly string[], rules: Map<string, Rule>): void {
  if (node.type !== 'map') return
  const group = isGroup([node])
  for (const entry of node.entries) {
    const path = [...keys, group ? '*' : entry.key]
    const pointer = formatPointer(path)
    const rule = ruleOf(document, entry, pointer)
    const known = rules.get(pointer)
    // entries of a group that differ in kind leave it open
    if (!known) rules.set(pointer, rule)
    else if (known.kind !== rule.kind) rules.set(pointer, { path: pointer, kind: 'null' })
    visit(document, entry.value, path, rules)
  }
}

function ruleOf(document: Document, entry: Entry, path: string): Rule {
  const kind = apparentKind(document, entry.value) as NonNullable<Rule['kind']>
  if (entry.value.type !== 'scalar') return { path, kind }
  const comment = authorsComment(document, entry)
  const unit = kind === 'number' ? unitOf(entry.key, comment) : null
  const bounds = boundsIn(comment)
  const choices = kind === 'text' ? choicesIn(comment, String(entry.value.value)) : []
  return {
    path,
    kind,
    ...(kind === 'number'
      ? { ...(bounds.min !== undefined ? { min: bounds.min } : {}), ...(bounds.max !== undefined ? { max: bounds.max } : {}) }
      : {}),
    ...(kind === 'text' && bounds.maxLength !== undefined ? { maxLength: bounds.maxLength } : {}),
    ...(kind === 'number' && /whole number/i.test(comment) ? { wholeNumber: true } : {}),
    ...(choices.length > 0 ? { choices } : {}),
    ...(unit ? { unit } : {}),
  }
}

/** Finds the rule for a place; rules of a group count for all of its entries. */
export class RuleBook {
  private readonly exact = new Map<string, Rule>()
  private readonly patterns = new Set<string>()

  constructor(rules: readonly Rule[]) {
    for (const rule of rules) {
      this.exact.set(rule.path, rule)
      const at = rule.path.split('/').indexOf('*')
      if (at > 0) this.patterns.add(rule.path.split('/').slice(0, at).join('/'))
    }
  }

  find(keys: readonly string[]): Rule | null {
    const direct = this.exact.get(formatPointer(keys))
    if (direct) return direct
    let pattern = ''
    for (const key of keys) pattern += this.patterns.has(pattern) ? '/*' : formatPointer([key])
    return this.exact.get(pattern) ?? null
  }
}
