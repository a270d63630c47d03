import { SECONDS, readSpelledTime, readableUnit, spellTime, tidy } from '../rules/units'

/** A stretch of time as a file has it, and as it is best read. */
export interface ShownDuration {
  readonly seconds: number
  /** The amount in the file's own unit; null for one in words (`1h30m`). */
  readonly amount: number | null
  readonly readable: { readonly amount: number; readonly unit: string }
}

/**
 * Reads a stretch of time.
 * @param source as it stands in the file, without quotes
 * @param amount what it comes to, where the file has arithmetic (`15 * 60 * 1000`)
 * @param unit the file's unit; null where it is in words
 * @returns null for what is no stretch of time
 */
export function readDuration(source: string, unit: string | null, amount?: number): ShownDuration | null {
  const spelled = readSpelledTime(source)
  const own = spelled ? null : (amount ?? (source.trim() === '' ? NaN : Number(source)))
  if (own !== null && (!Number.isFinite(own) || unit === null || !(unit in SECONDS))) return null
  const seconds = spelled ? spelled.seconds : tidy(own! * SECONDS[unit!]!)
  const readable = readableUnit(Math.abs(seconds))
  return { seconds, amount: own, readable: { unit: readable, amount: tidy(seconds / SECONDS[readable]!) } }
}

/** Writes a stretch of time the way another is written: in the file's unit, or in words as they were. */
export function writeDuration(seconds: number, unit: string | null, like: string): string {
  const spelled = readSpelledTime(like)
  if (spelled) return spellTime(seconds, spelled)
  const amount = tidy(seconds / SECONDS[unit ?? 'second']!)
  // what has a point keeps one, so that readers go on to take it for a fraction
  return Number.isInteger(amount) && /^-?\d+\.\d+$/.test(like) ? `${amount}.0` : String(amount)
}

/** The factors of a sum as `15 * 60 * 1000`, each with what it may stand for; null for what is none. */
export function explainSum(source: string, unit: string): string | null {
  const factors = source.split('*').map((factor) => factor.trim())
  if (factors.length < 2 || !factors.every((factor) => /^\d+(\.\d+)?$/.test(factor))) return null
  const names = ['second', 'minute', 'hour', 'day', 'week']
  let size = SECONDS[unit] ?? 1
  let named = unit
  for (const factor of factors.slice(1).reverse()) {
    size = tidy(size * Number(factor))
    named = names.find((name) => SECONDS[name] === size) ?? named
  }
  return SECONDS[named] === size ? `${factors[0]} ${named}${factors[0] === '1' ? '' : 's'}` : null
}
