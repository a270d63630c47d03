import type { ScalarKind } from '../tree/nodes'

/** What a setting may be. `path` is a JSON Pointer in which `*` stands for any one name. */
export interface Rule {
  readonly path: string
  readonly kind?: ScalarKind | 'map' | 'list'
  readonly min?: number
  readonly max?: number
  readonly wholeNumber?: boolean
  readonly choices?: readonly string[]
  /** At most so many characters. */
  readonly maxLength?: number
  readonly unit?: string
}

const KINDS = new Set(['null', 'bool', 'number', 'text', 'map', 'list'])

/** Reads rules from JSON data: a list of them, or `{ "rules": [...] }`. @throws TypeError naming what is wrong. */
export function readRules(data: unknown): readonly Rule[] {
  const list = Array.isArray(data) ? data : typeof data === 'object' && data !== null && 'rules' in data ? data.rules : null
  if (!Array.isArray(list)) throw new TypeError('it must be a list of rules')
  return list.map((item: unknown, i) => readRule(item, i))
}

function readRule(item: unknown, index: number): Rule {
  const fail = (what: string): never => {
    throw new TypeError(`rule ${index + 1}: ${what}`)
  }
  if (typeof item !== 'object' || item === null) return fail('it must be an object')
  const rule = item as Record<string, unknown>
  if (typeof rule['path'] !== 'string' || !(rule['path'] === '' || rule['path'].startsWith('/')))
    return fail('“path” must be a JSON Pointer')
  if (rule['kind'] !== undefined && !KINDS.has(String(rule['kind']))) return fail(`“kind” must be one of ${[...KINDS].join(', ')}`)
  for (const key of ['min', 'max', 'maxLength'] as const)
    if (rule[key] !== undefined && typeof rule[key] !== 'number') return fail(`“${key}” must be a number`)
  if (rule['choices'] !== undefined && !Array.isArray(rule['choices'])) return fail('“choices” must be a list')
  return rule as unknown as Rule
}
