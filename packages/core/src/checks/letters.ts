import type { Finding, Span } from '../tree/nodes'

/** Where letters of a value or a name stand in its file. */
export interface Letters extends Span {
  /** Whether exactly they stand there; else it is all of the value, which is written otherwise than it reads. */
  readonly isExact: boolean
}

/**
 * Letters within something that is written plainly or in quotes.
 * @param place all of it, with its quotes
 * @param text what it reads as
 */
export function lettersOf({ from, to }: Span, text: string, at = 0, length = text.length - at): Letters {
  const quotes = (to - from - text.length) / 2
  if (quotes !== 0 && quotes !== 1) return { from, to, isExact: false }
  return { from: from + quotes + at, to: from + quotes + at + length, isExact: true }
}

/** The fix that writes what is meant in the place of letters; none where nothing is meant, or they are not exactly there. */
export function fixTo({ from, to, isExact }: Letters, meant: string | undefined): Pick<Finding, 'fix'> {
  return meant !== undefined && isExact ? { fix: { label: meant, edits: [{ from, to, insert: meant }] } } : {}
}
