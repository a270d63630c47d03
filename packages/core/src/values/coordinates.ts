const NUMBER = /-?\d+(?:\.\d+)?/

/** A place in a text, as `delta 120.5 61 -40`: its numbers with their spelling, and what stands around them. */
export interface PlaceText {
  readonly numbers: readonly string[]
  /** What stands before, between and behind the numbers: one more than there are of those. */
  readonly around: readonly string[]
}

/** Reads the numbers of a place; null for a text that holds fewer than two or more than six. */
export function readPlace(text: string): PlaceText | null {
  // digits that belong to a word, as in `saltpans2`, are none of its numbers
  const found = [...text.matchAll(new RegExp(`(?<![\\p{L}\\p{N}_.])${NUMBER.source}(?![\\p{L}_])`, 'gu'))]
  if (found.length < 2 || found.length > 6) return null
  const around: string[] = []
  let at = 0
  for (const match of found) {
    around.push(text.slice(at, match.index))
    at = match.index + match[0].length
  }
  return { numbers: found.map(([number]) => number), around: [...around, text.slice(at)] }
}

/** Writes numbers in the places of those of a text. */
export const writePlace = (numbers: readonly string[], { around }: PlaceText): string =>
  around.map((text, i) => text + (numbers[i] ?? '')).join('')

/** The numbers of what somebody pastes for a place, as “x: 1204.5, y: 18, z: -377”; null where there are not as many as needed. */
export function pastedPlace(text: string, wanted: number): string[] | null {
  const numbers = [...text.matchAll(new RegExp(`(?<![\\p{L}\\p{N}_])${NUMBER.source}(?![\\p{L}_])`, 'gu'))].map(([number]) => number)
  return numbers.length >= Math.min(3, wanted) && numbers.length <= 6 ? numbers.slice(0, wanted) : null
}
