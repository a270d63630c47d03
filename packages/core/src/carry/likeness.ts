/** The words a name is made of: `saveEvery`, `save-every` and `save_every` have the same. Plurals count as singular. */
export function nameWords(name: string): string[] {
  return name
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/([A-Z])([A-Z][a-z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '')
    .map(singular)
}

/** The last of them, which mostly says what a setting is; empty for none. */
export const lastWord = (name: string): string => nameWords(name).at(-1) ?? ''

/** Words that are no plurals, though they end like some. */
const ENDING_IN_S = /(?:^(?:gas|lens)|alias|atlas|canvas|bias)$/

function singular(word: string): string {
  if (word.length > 4 && word.endsWith('ies')) return word.slice(0, -3) + 'y'
  if (word.length > 4 && word.endsWith('es')) {
    const stem = word.slice(0, -2)
    if (/zz$/.test(stem)) return stem.slice(0, -1)
    // `bonuses` are of one bonus, `prizes` and `houses` of one with an e
    if (/(?:ss|x|[cs]h|[lt]z|[^aeiouf]us)$/.test(stem) || ENDING_IN_S.test(stem)) return stem
  }
  return word.length > 2 && word.endsWith('s') && !/[siu]s$/.test(word) && !ENDING_IN_S.test(word) ? word.slice(0, -1) : word
}

/** Dice's coefficient of two bags of words: 1 for the same words, 0 for none in common. */
export function wordLikeness(a: readonly string[], b: readonly string[]): number {
  if (a.length === 0 || b.length === 0) return 0
  const left = new Set(a)
  const right = new Set(b)
  let common = 0
  for (const word of left) if (right.has(word)) common++
  return (2 * common) / (left.size + right.size)
}

/** How alike two names are, 0 to 1: by their words, or by letters where a word was merely respelt. */
export function nameLikeness(a: string, b: string): number {
  if (a === b) return 1
  const left = nameWords(a)
  const right = nameWords(b)
  const words = wordLikeness(left, right)
  const letters = letterLikeness(left.join(''), right.join(''))
  return Math.max(words, letters > 0.6 ? letters * 0.9 : 0)
}

/** Dice's coefficient of letter pairs. */
function letterLikeness(a: string, b: string): number {
  if (a.length < 2 || b.length < 2) return a === b ? 1 : 0
  const pairs = new Map<string, number>()
  const shortA = a.slice(0, 64)
  const shortB = b.slice(0, 64)
  for (let i = 0; i < shortA.length - 1; i++) pairs.set(shortA.slice(i, i + 2), (pairs.get(shortA.slice(i, i + 2)) ?? 0) + 1)
  let common = 0
  for (let i = 0; i < shortB.length - 1; i++) {
    const left = pairs.get(shortB.slice(i, i + 2)) ?? 0
    if (left > 0) {
      common++
      pairs.set(shortB.slice(i, i + 2), left - 1)
    }
  }
  return (2 * common) / (shortA.length + shortB.length - 2)
}

/** How alike two comments are. */
export function commentLikeness(a: string, b: string): number {
  if (a === '' || b === '') return 0
  if (a === b) return 1
  return wordLikeness(nameWords(a.slice(0, 600)), nameWords(b.slice(0, 600)))
}
