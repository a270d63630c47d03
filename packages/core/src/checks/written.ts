import { amountInText, amountsInText } from '../rules/money-text'
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

/** The money that a value says on average, of a text with a range the middle of it; null where it says none. */
export function moneyOf(document: Document, value: Pick<ValueLook, 'node' | 'rule' | 'text'>): number | null {
  const [least, most] = value.node.kind === 'text' ? amountsInText(value.text) : []
  if (least && most) return (least.amount + most.amount) / 2
  return writtenIn(document, value)?.amount ?? null
}

/** The amount that a value says, as a number or as a text of percent or of money; null where it says none, or two. */
export function writtenIn(document: Document, { node, rule, text }: Pick<ValueLook, 'node' | 'rule' | 'text'>): Written | null {
  const amount = amountOf(document, node)
  if (amount !== null) return { amount, isPercent: rule?.unit === 'percent', around: null }
  if (node.kind !== 'text') return null
  const found = PERCENT_TEXT.exec(text)
  const money = found ? null : amountInText(text)
  if (money) return { amount: money.amount, isPercent: false, around: { before: money.before, after: money.after } }
  return found ? { amount: Number(found[2]), isPercent: true, around: { before: found[1]!, after: found[3]! } } : null
}
