import { formatPointer, parsePointer } from '../tree/pointer'
import { explainRules, levelOf, type Meaning, type Rule, type RuleSource } from './rule'

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

  /** What rules that somebody wrote say of the settings in a section, by their names; not what is only told from a file. */
  below(keys: readonly string[]): ReadonlyMap<string, Rule> {
    this.names ??= this.namesByParent()
    const names = new Set([...(this.names.get(formatPointer(keys)) ?? []), ...(this.names.get(this.patternOf(keys)) ?? [])])
    return new Map([...names].map((name) => [name, this.find([...keys, name])!]))
  }

  private names: Map<string, string[]> | null = null

  private namesByParent(): Map<string, string[]> {
    const found = new Map<string, string[]>()
    for (const [path, rules] of this.exact) {
      const keys = parsePointer(path)
      if (!keys || keys.length === 0 || keys.at(-1) === '*' || !rules.some(isWritten)) continue
      const parent = formatPointer(keys.slice(0, -1))
      found.set(parent, [...(found.get(parent) ?? []), keys.at(-1)!])
    }
    return found
  }

  /** Whether rules speak of whatever is in a section. */
  hasAny(keys: readonly string[]): boolean {
    return this.patterns.has(formatPointer(keys)) || this.patterns.has(this.patternOf(keys))
  }

  private patternOf(keys: readonly string[]): string {
    let pattern = ''
    for (const key of keys) pattern += this.patterns.has(pattern) ? '/*' : formatPointer([key])
    return pattern
  }

  /** What each source says. */
  said(keys: readonly string[]): readonly Rule[] {
    const own = this.exact.get(formatPointer(keys)) ?? []
    const shared = this.exact.get(this.patternOf(keys)) ?? []
    return own === shared ? own : [...own, ...shared]
  }
}

const isWritten = ({ source }: Rule): boolean => levelOf(source ?? 'declared') === 'error'

const books = new WeakMap<readonly Rule[], RuleBook>()

/** The rules made ready for looking up, once for each list of them. */
export function bookOf(rules: readonly Rule[]): RuleBook {
  let book = books.get(rules)
  if (!book) books.set(rules, (book = new RuleBook(rules)))
  return book
}
