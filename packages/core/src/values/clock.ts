import { DateTime, IANAZone } from 'luxon'

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

/** Whether this is a zone that is known, as `Europe/Paris`. */
export const isZone = (zone: string): boolean => IANAZone.isValidZone(zone)

/** The same moment of a day on the clocks of another zone. @param day any moment of that day */
export function inZone(time: ClockTime, from: string, to: string, day: Date): ClockTime {
  const moment = DateTime.fromJSDate(day, { zone: from })
    .set({ ...time, hour: time.hour % 24, millisecond: 0 })
    .setZone(to)
  return { hour: moment.hour, minute: moment.minute, second: moment.second }
}

/** When the difference between two zones changes next, and what a time of day of the first becomes on the clocks of the second. */
export interface ZoneShift {
  readonly on: Date
  readonly becomes: ClockTime
}

/** The next change of clocks that moves a time of day, within so many days; null where none does. */
export function nextShift(time: ClockTime, from: string, to: string, day: Date, days = 200): ZoneShift | null {
  const now = inZone(time, from, to, day)
  for (let after = 1; after <= days; after++) {
    const on = DateTime.fromJSDate(day).plus({ days: after }).toJSDate()
    const then = inZone(time, from, to, on)
    if (then.hour !== now.hour || then.minute !== now.minute) return { on, becomes: then }
  }
  return null
}
