import type { Timed } from '../pack/descriptor'

const DAY = 24 * 60 * 60

export interface Span {
  /** Seconds since the server started: later than the first, and up to the second. */
  readonly after: number
  readonly until: number
  /** Seconds of the day in UTC at which the server started. */
  readonly dayAt: number
}

/** What falls due: at which second, what is said, and what is filled in there beside the settings. */
export interface Due {
  readonly at: number
  readonly template: string
  readonly values: Readonly<Record<string, unknown>>
}

/** What of a plugin's timed work falls into a span, in its order. */
export function dueIn(timed: readonly Timed[], used: Readonly<Record<string, unknown>>, span: Span): Due[] {
  const isIn = ({ at }: Due): boolean => at > span.after && at <= span.until
  const longest = 60 * 60
  return timed
    .flatMap((item) => momentsOf(item, used, { ...span, until: span.until + longest }).flatMap((at) => around(item, used, at)))
    .filter(isIn)
    .sort((a, b) => a.at - b.at)
}

/** The seconds at which it happens. */
function momentsOf({ every, at }: Timed, used: Readonly<Record<string, unknown>>, { after, until, dayAt }: Span): number[] {
  const found: number[] = []
  if (every !== undefined) {
    const step = Number(used[every]) * 60
    for (let moment = Math.max(1, Math.floor(after / step)) * step; moment <= until; moment += step) found.push(moment)
  }
  for (const time of timesOf(used[at ?? '']))
    for (let moment = time - dayAt; moment <= until; moment += DAY) if (moment >= after) found.push(moment)
  return found
}

/** Times of day, as in `03:40, 15:40`, in seconds. */
function timesOf(text: unknown): number[] {
  return [...String(text ?? '').matchAll(/(\d\d?):(\d\d)/g)].map(([, hours, minutes]) => Number(hours) * 3600 + Number(minutes) * 60)
}

/** It itself, and what is said before it. */
function around({ warnings, lead, leading, says }: Timed, used: Readonly<Record<string, unknown>>, at: number): Due[] {
  const texts = Object.entries((used[warnings ?? ''] ?? {}) as Record<string, unknown>)
  const warned = texts.map(([seconds, text]): Due => ({ at: at - Number(seconds), template: String(text), values: { seconds } }))
  const minutes = Number(used[lead ?? ''] ?? 0)
  const led = leading !== undefined && minutes > 0 ? [{ at: at - minutes * 60, template: leading, values: {} }] : []
  return [...warned, ...led, ...says.map((template): Due => ({ at, template, values: {} }))]
}
