import type { Role, Rule } from '../rules/rule'
import type { FileLooks, ValueLook } from './looks'

/** Roles that go for all of a section, also for what somebody added to it. */
const SHARED: ReadonlySet<Role | undefined> = new Set<Role>(['price', 'payout', 'chance'])
/** So many have to agree. */
const FEWEST = 2

const known = new WeakMap<FileLooks, FileLooks>()

/**
 * The same looks, in which numbers that somebody added to a section of prices, payouts or weights are what the others in it are: no rule
 * speaks of them, since the plugin ships no such setting.
 */
export function withKin(looks: FileLooks): FileLooks {
  let found = known.get(looks)
  if (!found) known.set(looks, (found = { ...looks, values: valuesWithKin(looks.values) }))
  return found
}

const isBare = ({ rule, node, isItem }: ValueLook): boolean => rule === null && node.kind === 'number' && !isItem

function valuesWithKin(values: readonly ValueLook[]): readonly ValueLook[] {
  if (!values.some(isBare)) return values
  const sections = new Map<string, ValueLook[]>()
  for (const value of values) {
    if (value.rule === null || value.node.kind !== 'number') continue
    const at = sectionOf(value)
    const section = sections.get(at)
    if (section) section.push(value)
    else sections.set(at, [value])
  }
  return values.map((value) => {
    const rule = isBare(value) ? commonRule(sections.get(sectionOf(value)) ?? []) : null
    return rule ? { ...value, rule } : value
  })
}

const sectionOf = ({ keys }: ValueLook): string => keys.slice(0, -1).join('\n')

/** The rule that all numbers of a section share; null where they differ, or are too few. */
function commonRule(section: readonly ValueLook[]): Rule | null {
  const rule = section[0]?.rule
  return section.length >= FEWEST && SHARED.has(rule?.role) && section.every((one) => one.rule?.role === rule?.role) ? rule! : null
}
