import { formatPointer } from '../tree/pointer'
import { mergeRules, type Meaning, type Rule } from './rule'

/** Finds what is known of a place; rules of a group count for all of its entries. */
export class RuleBook {
  private readonly exact = new Map<string, Rule[]>()
  private readonly patterns = new Set<string>()
  private readonly meanings = new Set<Meaning>()
  private readonly merged = new Map<string, Rule | null>()
  /** Whether some values have words of their own. */
  readonly says: boolean

  constructor(rules: readonly Rule[]) {
    this.says = rules.some(({ said }) => said !== undefined)
    for (const rule of rules) {
      if (rule.means) this.meanings.add(rule.means)
      const known = this.exact.get(rule.path)
      if (known) known.push(rule)
      else this.exact.set(rule.path, [rule])
      const parts = rule.path.split('/')
      parts.forEach((part, at) => {
        if (part === '*') this.patterns.add(parts.slice(0, at).join('/'))
      })
    }
  }

  /** What all sources say together; null where nothing is known. */
  find(keys: readonly string[]): Rule | null {
    const pointer = formatPointer(keys)
    let rule = this.merged.get(pointer)
    if (rule === undefined) this.merged.set(pointer, (rule = mergeRules(this.said(keys))))
    return rule
  }

  /** Whether anything at all is of this meaning. */
  knows(meaning: Meaning): boolean {
    return this.meanings.has(meaning)
  }

  /** What each source says. */
  said(keys: readonly string[]): readonly Rule[] {
    const own = this.exact.get(formatPointer(keys)) ?? []
    let pattern = ''
    for (const key of keys) pattern += this.patterns.has(pattern) ? '/*' : formatPointer([key])
    const shared = this.exact.get(pattern) ?? []
    return own === shared ? own : [...own, ...shared]
  }
}
