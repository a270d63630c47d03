import type { Customisation } from '../carry/types'
import { formatPointer, parsePointer } from '../tree/pointer'
import { bookOf } from './book'
import { APPLIES, type Applies, type Rule } from './rule'

/** What makes changes count, and the setting that asks for it. */
export interface AppliesBy {
  readonly applies: Applies
  /** JSON Pointer; empty where it is said of all of the file. */
  readonly pointer: string
}

/** Whether the first asks for more than the second: a restart is more than a reload, and to be stopped before is more than that. */
export const asksMore = (a: Applies, b: Applies): boolean => APPLIES.indexOf(a) > APPLIES.indexOf(b)

/**
 * What changes of a file ask for so that they count, as rules say of what was changed, of what is in it, of the sections it is in
 * and of the file. @returns null where nothing is said
 */
export function appliesOf(changes: readonly Customisation[], rules: readonly Rule[]): AppliesBy | null {
  if (!rules.some(({ applies }) => applies)) return null
  const book = bookOf(rules)
  let most: AppliesBy | null = null
  const hear = (keys: readonly string[]): void => {
    const applies = book.find(keys)?.applies
    if (applies && (!most || asksMore(applies, most.applies))) most = { applies, pointer: formatPointer(keys) }
  }
  for (const { path, kind, mine, factory } of changes) {
    if (kind === 'comment') continue
    const keys = parsePointer(path) ?? []
    for (let depth = 0; depth < keys.length; depth++) hear(keys.slice(0, depth))
    hearWithin(mine ?? factory, keys, hear)
  }
  return most
}

function hearWithin(value: unknown, keys: readonly string[], hear: (keys: readonly string[]) => void): void {
  hear(keys)
  if (typeof value !== 'object' || value === null) return
  for (const [key, below] of Object.entries(value)) hearWithin(below, [...keys, key], hear)
}
