/** A number as people write it: `units` of ten to the minus `scale`. No digit is lost, as binary fractions would. */
export interface Decimal {
  readonly units: bigint
  readonly scale: number
}

const WRITTEN = /^([-+]?)(\d*)(?:\.(\d*))?(?:[eE]([-+]?\d{1,3}))?$/

/** Reads `12`, `-0.50`, `1e3`; null for what is no decimal number. */
export function readDecimal(text: string): Decimal | null {
  const found = WRITTEN.exec(text.trim())
  if (!found) return null
  const [, sign, whole = '', part = '', power = '0'] = found
  if (whole === '' && part === '') return null
  const units = BigInt(`${whole}${part}`) * (sign === '-' ? -1n : 1n)
  const scale = part.length - Number(power)
  return scale >= 0 ? { units, scale } : { units: units * 10n ** BigInt(-scale), scale: 0 }
}

/** Writes it with no more digits than it needs. */
export function printDecimal({ units, scale }: Decimal): string {
  const digits = (units < 0n ? -units : units).toString().padStart(scale + 1, '0')
  const whole = digits.slice(0, digits.length - scale)
  const part = digits.slice(digits.length - scale).replace(/0+$/, '')
  const text = scale > 0 && part !== '' ? `${whole}.${part}` : whole
  return units < 0n && /[1-9]/.test(text) ? `-${text}` : text
}

/** Both in the same units. */
export function alike(a: Decimal, b: Decimal): readonly [a: bigint, b: bigint, scale: number] {
  const scale = Math.max(a.scale, b.scale)
  return [a.units * 10n ** BigInt(scale - a.scale), b.units * 10n ** BigInt(scale - b.scale), scale]
}

export const plus = (a: Decimal, b: Decimal): Decimal => {
  const [x, y, scale] = alike(a, b)
  return { units: x + y, scale }
}
export const times = (a: Decimal, b: Decimal): Decimal => ({ units: a.units * b.units, scale: a.scale + b.scale })

/** Whether the first is less than the second. */
export const isLess = (a: Decimal, b: Decimal): boolean => {
  const [x, y] = alike(a, b)
  return x < y
}

/** The nearest multiple of a step above nought; of two as near the one further from nought. */
export function toStep(a: Decimal, step: Decimal): Decimal {
  const [x, y, scale] = alike(a, step)
  const size = x < 0n ? -x : x
  const steps = (size * 2n + y) / (y * 2n)
  return { units: (x < 0n ? -steps : steps) * y, scale }
}
