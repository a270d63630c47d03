/** Units of time, in seconds. A tick is what most games take it for: twenty are a second. */
export const SECONDS: Readonly<Record<string, number>> = {
  millisecond: 0.001,
  tick: 0.05,
  second: 1,
  minute: 60,
  hour: 3600,
  day: 86400,
  week: 604800,
}

const SPELLINGS: Readonly<Record<string, readonly string[]>> = {
  millisecond: ['ms', 'milli', 'millis', 'msec', 'millisecond'],
  tick: ['tick', 't'],
  second: ['s', 'sec', 'second'],
  minute: ['m', 'min', 'minute'],
  hour: ['h', 'hr', 'hour'],
  day: ['d', 'day'],
  week: ['w', 'wk', 'week'],
}

const BY_SPELLING = new Map(Object.entries(SPELLINGS).flatMap(([unit, names]) => names.map((name) => [name, unit] as const)))

/** The unit a word stands for, as `secs` for `second`; null for other words. Single letters count only with `short`. */
export function timeUnit(word: string, short = false): string | null {
  const small = word.toLowerCase()
  const unit = BY_SPELLING.get(small) ?? BY_SPELLING.get(small.replace(/s$/, '')) ?? null
  return unit !== null && small.length === 1 && !short ? null : unit
}

const PART = /(\d+(?:\.\d+)?)(\s*)([a-zA-Z]+)/g
const WHOLE = /^\s*(?:\d+(?:\.\d+)?\s*[a-zA-Z]+[\s,]*)+$/

/** A stretch of time in words, as `1h 30m`: its seconds, and how it is spelled. Null for what is none. */
export interface SpelledTime {
  readonly seconds: number
  readonly parts: readonly { readonly unit: string; readonly spelled: string; readonly gap: string }[]
  /** What stands between the parts. */
  readonly between: string
}

export function readSpelledTime(text: string): SpelledTime | null {
  if (!WHOLE.test(text)) return null
  const found = [...text.trim().matchAll(PART)]
  const parts = found.map(([, , gap, spelled]) => ({ unit: timeUnit(spelled!, true), spelled: spelled!, gap: gap! }))
  if (parts.length === 0 || parts.some(({ unit }) => unit === null)) return null
  const seconds = found.reduce((sum, [, amount], i) => sum + Number(amount) * SECONDS[parts[i]!.unit!]!, 0)
  const between = found.length > 1 ? text.trim().slice(found[0]![0].length, found[1]!.index) : ' '
  return { seconds: tidy(seconds), parts: parts as SpelledTime['parts'], between }
}

/** Units from the largest, for times made of several. */
const LARGEST_FIRST = Object.keys(SECONDS).sort((a, b) => SECONDS[b]! - SECONDS[a]!)

/**
 * Writes a stretch of time the way another was written: in its units and their spelling, and in smaller ones where it does
 * not come out whole.
 */
export function spellTime(seconds: number, like: SpelledTime): string {
  const spelledOf = (unit: string): string =>
    like.parts.find((part) => part.unit === unit)?.spelled ?? likeOthers(unit, like.parts[0]!.spelled)
  const gap = like.parts[0]!.gap
  const used = new Set(like.parts.map(({ unit }) => unit))
  const only = like.parts[0]!.unit
  if (used.size === 1 && Number.isInteger(tidy(seconds / SECONDS[only]!))) return tidy(seconds / SECONDS[only]!) + gap + spelledOf(only)
  const words: string[] = []
  let left = seconds
  for (const unit of LARGEST_FIRST.filter((unit) => unit !== 'week' && (unit !== 'tick' || used.has('tick')))) {
    const whole = Math.floor(tidy(left / SECONDS[unit]!))
    if (whole > 0) words.push(whole + gap + spelledOf(unit))
    left = tidy(left - whole * SECONDS[unit]!)
  }
  return words.length > 0 ? words.join(like.between) : `0${gap}${spelledOf(only)}`
}

/** A unit spelled as short, or as long, as another is; in capitals where that is. */
function likeOthers(unit: string, other: string): string {
  const short = SPELLINGS[unit]![0]!
  const spelled = other.length <= 2 ? short : unit + (other.toLowerCase().endsWith('s') ? 's' : '')
  return other === other.toUpperCase() ? spelled.toUpperCase() : spelled
}

/** An amount without the dust of floating point. */
export function tidy(amount: number): number {
  return Number(amount.toPrecision(12))
}

/** The unit a stretch of time is best read in: the largest in which it is whole, or has one digit behind the point. */
export function readableUnit(seconds: number): string {
  const whole = LARGEST_FIRST.filter((unit) => !['week', 'tick', 'millisecond'].includes(unit) && seconds >= SECONDS[unit]!)
  return (
    whole.find((unit) => Number.isInteger(tidy(seconds / SECONDS[unit]!))) ??
    whole.find((unit) => Number.isInteger(tidy((seconds / SECONDS[unit]!) * 10))) ??
    whole[0] ??
    (seconds === 0 ? 'second' : 'millisecond')
  )
}

/** An amount of a hundred in a text of its own, as `5%`: what stands before it, the amount, and what stands after it. */
export const PERCENT_TEXT = /^(\s*)(\d+(?:\.\d+)?)(\s*%\s*)$/
