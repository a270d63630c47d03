import { PERCENT_TEXT } from '../rules/units'
import { amountOf } from '../tree/compare'
import type { Document } from '../tree/nodes'
import type { ValueLook } from './looks'

/** What stands around an amount in a text of its own: `5%`, or a command that pays. */
export interface TextAround {
  readonly before: string
  readonly after: string
}

export interface Written {
  readonly amount: number
  /** Whether it is of a hundred. */
  readonly isPercent: boolean
  /** Null where the value is the number itself. */
  readonly around: TextAround | null
}

/** The amount that a value says, as a number or as a text of percent; null where it says none. */
export function writtenIn(document: Document, { node, rule, text }: Pick<ValueLook, 'node' | 'rule' | 'text'>): Written | null {
  const amount = amountOf(document, node)
  if (amount !== null) return { amount, isPercent: rule?.unit === 'percent', around: null }
  const found = node.kind === 'text' ? PERCENT_TEXT.exec(text) : null
  return found ? { amount: Number(found[2]), isPercent: true, around: { before: found[1]!, after: found[3]! } } : null
}
