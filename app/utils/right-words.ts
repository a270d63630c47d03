import type { PermissionCell, Step } from '@pasticcio/core'
import type { ShownNode } from './types'

/** For whom, or where, something is besides the node: `only in delta, upriver`. */
export const onlyWords = ({ kind, names }: ShownNode['asked'][number]['only'][number]): string =>
  `${kind === 'players' ? 'only for' : 'only in'} ${names.join(', ')}`

/** Which sign shows where a right comes from; `RightSigns` draws them. */
export const signOf = ({ by, isWildcard, may }: PermissionCell): string =>
  by === 'own' || by === 'parent' ? `${by}${isWildcard ? '-many' : ''}${may ? '' : '-denied'}` : by

/** A right in words, as `may, by regular, which has all of ferry`. */
export function rightWords({ may, by, isWildcard, from, grant }: PermissionCell): string {
  const many = isWildcard && grant ? ` with ${grant.node}` : ''
  if (by === 'nothing') return 'may not, nothing is said'
  if (by === 'default') return 'may, as everyone'
  if (by === 'operator') return 'may, as an operator'
  if (by === 'own') return may ? `may, granted here${many}` : `may not, denied here${many}`
  return may ? `may, from ${from}${many}` : `may not, denied by ${from}${many}`
}

/** What one step of a trace says. */
export function stepWords({ speaker, name, word, grant }: Step, plugin: string): string {
  const what = grant ? (grant.node === '*' ? 'everything' : grant.node.endsWith('.*') ? `all of ${grant.node.slice(0, -2)}` : 'it') : ''
  if (speaker === 'operator') return 'Operators may do all'
  if (speaker === 'default')
    return word === null ? `${plugin || 'Its plugin'} gives it to nobody by itself` : `${plugin || 'Its plugin'} gives it to everyone`
  if (word === null) return `${name}: nothing said`
  return word === 'granted' ? `${name} is granted ${what}` : `${name} is denied ${what}`
}
