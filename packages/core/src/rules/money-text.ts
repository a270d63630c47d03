import { nameWords } from '../carry/likeness'
import { isCash } from './infer/money-words'

/** An amount that a text says, with what stands around it there. */
export interface TextAmount {
  readonly amount: number
  readonly before: string
  readonly after: string
}

const NUMBER = String.raw`\d+(?:,\d{3})*(?:\.\d+)?`
const SIGN = String.raw`\s*\p{Sc}?\s*`
const UNIT = String.raw`\s*(?:\p{Sc}|\p{L}+)?\s*`
/** `250`, `$1,250`, `40 marks`, `10k`. */
const ONE = new RegExp(`^(${SIGN})(${NUMBER})(?:([km])(?!\\p{L}))?(${UNIT})$`, 'iu')
/** `5-10`, `5 to 10`, `5..10`. */
const RANGE = new RegExp(`^(${SIGN})(${NUMBER})(\\s*(?:[-–—~]|\\.{2,3}|to)${SIGN})(${NUMBER})(${UNIT})$`, 'iu')
const TIMES: Readonly<Record<string, number>> = { k: 1000, m: 1_000_000 }

const numberOf = (text: string): number => Number(text.replaceAll(',', ''))

/** Whether what stands behind a number is nothing, or a word or sign of money. */
function isOfMoney(after: string): boolean {
  const word = after.trim()
  return word === '' || /^\p{Sc}$/u.test(word) || nameWords(word).every(isCash)
}

/** The one amount of money that a text says; null for a range, and for other texts. */
export function amountInText(text: string): TextAmount | null {
  const [one, ...others] = amountsInText(text)
  return one && others.length === 0 ? one : null
}

/**
 * The amounts of money that a text says and nothing else: one, or the least and the most of a range. What shortens an amount (`10k`) is
 * left out of what stands around it, since another amount is written out.
 * @returns none for other texts
 */
export function amountsInText(text: string): readonly TextAmount[] {
  const one = ONE.exec(text)
  if (one) {
    const [, before, number, times, after] = one
    const amount = numberOf(number!) * (TIMES[times?.toLowerCase() ?? ''] ?? 1)
    return isOfMoney(after!) ? [{ amount, before: before!, after: after! }] : []
  }
  const range = RANGE.exec(text)
  if (!range) return []
  const [, before, least, between, most, after] = range
  const [from, to] = [numberOf(least!), numberOf(most!)]
  if (!isOfMoney(after!) || from > to) return []
  return [
    { amount: from, before: before!, after: `${between}${most}${after}` },
    { amount: to, before: `${before}${least}${between}`, after: after! },
  ]
}
