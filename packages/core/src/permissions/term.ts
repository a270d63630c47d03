import type { Grant } from './model'

/** How long something is said for. */
export interface Term {
  readonly amount: number
  readonly unit: TermUnit
}
export const TERM_UNITS = ['minute', 'hour', 'day'] as const
export type TermUnit = (typeof TERM_UNITS)[number]

/** An end as settings write it, in milliseconds since 1970: a date (ISO 8601), or seconds or milliseconds since 1970; null for none. */
export function instantOf(until: string): number | null {
  const text = until.trim()
  if (/^\d{9,10}$/.test(text)) return Number(text) * 1000
  if (/^\d{12,13}$/.test(text)) return Number(text)
  const parsed = /^\d{4}-\d\d-\d\d/.test(text) ? Date.parse(text.replace(' ', 'T')) : Number.NaN
  return Number.isNaN(parsed) ? null : parsed
}

/** Whether what is said has ended by a moment, in milliseconds since 1970. */
export function isOver({ until }: Pick<Grant, 'until'>, now: number): boolean {
  const end = until === null ? null : instantOf(until)
  return end !== null && end <= now
}
