import { formatPointer } from '../tree/pointer'
import { explainRules, type Meaning, type Rule, type RuleSource } from './rule'

/** Finds what is known of a place; rules of a group count for all of its entries. */
export class RuleBook {
  private readonly exact = new Map<string, Rule[]>()
  private readonly patterns = new Set<string>()
  private readonly meanings = new Set<Meaning>()
  private readonly merged = new Map<string, ReturnType<typeof explainRules>>()
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
    return this.explained(keys)?.rule ?? null
  }

  /** Which source each part of the rule comes from; those of nothing known are empty. */
  sources(keys: readonly string[]): Readonly<Partial<Record<keyof Rule, RuleSource>>> {
    return this.explained(keys)?.sources ?? {}
  }

  private explained(keys: readonly string[]): ReturnType<typeof explainRules> {
    const pointer = formatPointer(keys)
    let known = this.merged.get(pointer)
    if (known === undefined) this.merged.set(pointer, (known = explainRules(this.said(keys))))
    return known
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

const books = new WeakMap<readonly Rule[], RuleBook>()

/** The rules made ready for looking up, once for each list of them. */
export function bookOf(rules: readonly Rule[]): RuleBook {
  let book = books.get(rules)
  if (!book) books.set(rules, (book = new RuleBook(rules)))
  return book
}
