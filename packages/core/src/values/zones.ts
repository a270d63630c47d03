import { DateTime, IANAZone } from 'luxon'
import type { ClockTime } from './clock'

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
