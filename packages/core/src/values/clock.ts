/** A time of day: minutes since midnight, and seconds where it is written with them. */
export interface ClockTime {
  readonly hour: number
  readonly minute: number
  readonly second: number
}

const CLOCK = /^\s*(\d{1,2}):(\d\d)(?::(\d\d))?(\s*)([ap]m)?\s*$/i

/** Reads `7:30`, `19:30:00` or `7:30 pm`; null for what is no time of day. */
export function readClock(text: string): ClockTime | null {
  const found = CLOCK.exec(text)
  if (!found) return null
  const [, hours, minutes, seconds = '0', , half] = found
  let hour = Number(hours)
  if (half) {
    if (hour < 1 || hour > 12) return null
    hour = (hour % 12) + (half.toLowerCase() === 'pm' ? 12 : 0)
  }
  return hour <= 24 && Number(minutes) < 60 && Number(seconds) < 60 && (hour < 24 || Number(minutes) + Number(seconds) === 0)
    ? { hour, minute: Number(minutes), second: Number(seconds) }
    : null
}

/** Writes a time of day the way another is written: with seconds or not, twelve hours or twenty-four, a leading nought or none. */
export function writeClock({ hour, minute, second }: ClockTime, like: string): string {
  const found = CLOCK.exec(like)
  const two = (amount: number): string => String(amount).padStart(2, '0')
  const half = found?.[5]
  const shown = half ? ((hour + 11) % 12) + 1 : hour % 24
  // `7:30` has no nought before it; of `19:30` nobody can tell
  const hours =
    found && /^0|^[12]\d$/.test(found[1]!) && !(half && !found[1]!.startsWith('0')) ? two(shown) : found ? String(shown) : two(shown)
  const seconds = found?.[3] !== undefined || second > 0 ? `:${two(second)}` : ''
  if (!half) return `${hours}:${two(minute)}${seconds}`
  const word = hour % 24 < 12 ? 'am' : 'pm'
  return `${hours}:${two(minute)}${seconds}${found![4]}${half === half.toUpperCase() ? word.toUpperCase() : word}`
}
