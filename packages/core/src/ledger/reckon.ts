import { OperationError } from '../formats/error'
import { alike, isLess, plus, printDecimal, readDecimal, times, toStep, type Decimal } from './decimal'

/** What is done to numbers; amounts are as they are typed. */
export interface Reckoning {
  readonly does: 'set' | 'add' | 'times'
  readonly by: string
  /** Rounds to a multiple of this. A number above nought never comes to nought. */
  readonly step?: string
  /** Bounds that are kept. */
  readonly least?: string
  readonly most?: string
}

/** A reckoning that was read, for many numbers. */
export interface Reckoner {
  /** What becomes of a number, written with no more digits than it needs; null for what is no plain number. */
  of(text: string): string | null
}

/** Reads a reckoning. @throws OperationError `cannot-hold` naming the amount that is none */
export function readReckoning({ does, by, step, least, most }: Reckoning): Reckoner {
  const amount = (name: string, text: string): Decimal => {
    const read = readDecimal(text)
    if (!read) throw new OperationError('cannot-hold', `${name} takes a number, and “${text}” is none`)
    return read
  }
  const given = (name: string, text: string | undefined): Decimal | null =>
    text === undefined || text.trim() === '' ? null : amount(name, text)
  const operand = amount(does, by)
  const [steps, low, high] = [given('the step', step), given('the least', least), given('the most', most)]
  if (steps && steps.units <= 0n) throw new OperationError('cannot-hold', `the step must be above 0, and ${step} is not`)
  if (low && high && isLess(high, low)) throw new OperationError('cannot-hold', `the least, ${least}, is more than the most, ${most}`)
  return {
    of(text) {
      const before = readDecimal(text)
      if (!before) return null
      const raw = does === 'set' ? operand : does === 'add' ? plus(before, operand) : times(before, operand)
      return printDecimal(bounded(steps ? rounded(raw, steps) : raw, low, high))
    },
  }
}

function rounded(amount: Decimal, step: Decimal): Decimal {
  const near = toStep(amount, step)
  // what costs something never comes to cost nothing
  if (near.units !== 0n || amount.units === 0n) return near
  return amount.units > 0n ? step : { ...step, units: -step.units }
}

function bounded(amount: Decimal, low: Decimal | null, high: Decimal | null): Decimal {
  if (low && isLess(amount, low)) return low
  return high && isLess(high, amount) ? high : amount
}

/** Whether two texts are the same number, however they are written. */
export function isSameNumber(a: string, b: string): boolean {
  const [x, y] = [readDecimal(a), readDecimal(b)]
  if (!x || !y) return false
  const [p, q] = alike(x, y)
  return p === q
}
