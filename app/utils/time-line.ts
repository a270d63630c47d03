/** A line of a picture's time line. */
export interface TimeLine {
  /** Seconds since 1970. */
  readonly at: number
  readonly label: string
  /** Whether a day begins there. */
  readonly isDay: boolean
}

export type LoadSpan = 'day' | 'week' | 'month'

/** So many hours, or days, lie between two lines. */
const STEPS: Readonly<Record<LoadSpan, { readonly hours: number; readonly days: number }>> = {
  day: { hours: 3, days: 0 },
  week: { hours: 0, days: 1 },
  month: { hours: 0, days: 5 },
}

/** Where lines lie between two times (seconds since 1970), by the clock and the calendar of whoever looks. */
export function timeLines(from: number, until: number, span: LoadSpan): TimeLine[] {
  const { hours, days } = STEPS[span]
  const at = new Date(from * 1000)
  at.setMinutes(0, 0, 0)
  if (hours > 0) at.setHours(at.getHours() - (at.getHours() % hours))
  else at.setHours(0)
  const lines: TimeLine[] = []
  // clocks are set on and back: each line is looked for anew
  for (; at.getTime() / 1000 <= until; hours > 0 ? at.setHours(at.getHours() + hours) : at.setDate(at.getDate() + days)) {
    const seconds = at.getTime() / 1000
    if (seconds >= from) lines.push({ at: seconds, ...wordsOfLine(at) })
  }
  return lines
}

function wordsOfLine(at: Date): Pick<TimeLine, 'label' | 'isDay'> {
  const isDay = at.getHours() === 0
  return { isDay, label: isDay ? at.toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric' }) : String(at.getHours()) }
}

/** The time of day, with the day where it is not today's. */
export function shortTime(seconds: number, now: Date = new Date()): string {
  const at = new Date(seconds * 1000)
  const time = at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
  if (at.toDateString() === now.toDateString()) return time
  return `${at.toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric' })} ${time}`
}

/** The zone the line is in, as in `UTC+1`. */
export function zoneOf(now: Date = new Date()): string {
  const minutes = -now.getTimezoneOffset()
  if (minutes === 0) return 'UTC'
  const rest = Math.abs(minutes) % 60
  return `UTC${minutes < 0 ? '−' : '+'}${Math.floor(Math.abs(minutes) / 60)}${rest > 0 ? `:${String(rest).padStart(2, '0')}` : ''}`
}
