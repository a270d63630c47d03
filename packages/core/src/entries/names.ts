/*
 * A name within a text: as it is, or spelt for people (`night_fisher`, “Night fisher”, “NIGHT-FISHER”). It counts where it
 * stands by itself: `oil` is none of `lamp_oil`, and what stands in a placeholder's brackets is a name of its own.
 */

/** Shorter names are words of every language: they count only as a whole text, or between the dots of a node. */
const SHORTEST = 3

const wordsIn = (name: string): string[] =>
  name
    .replace(/(\p{Ll}|\p{N})(\p{Lu})/gu, '$1 $2')
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '')

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&')
const BEFORE = '(?<![\\p{L}\\p{N}_{%<$-])'
const AFTER = '(?![\\p{L}\\p{N}_-])'

/** Where a name stands in a text, however it is spelt. */
function spellings(name: string): RegExp | null {
  const words = wordsIn(name)
  if (words.join('').length < SHORTEST || !/\p{L}/u.test(name)) return null
  return new RegExp(`${BEFORE}(?:${escaped(name)}|${words.map(escaped).join('[ _-]?')})${AFTER}`, 'giu')
}

/** Where a name stands in a text letter by letter, between what is no part of a name. */
const exactly = (name: string): RegExp => new RegExp(`(?<![\\p{L}\\p{N}_{%<$]|(?<!^)-)${escaped(name)}${AFTER}`, 'gu')

/** Whether a text holds a name letter by letter, as a part of its own. */
export const hasName = (text: string, name: string): boolean => text === name || exactly(name).test(text)

/** A text with another name in the place of one, where that stands letter by letter. */
export const withExactName = (text: string, from: string, to: string): string =>
  text === from ? to : text.replace(exactly(from), () => to)

/** A text with another name in the place of one, spelt as that was: `Night fisher` becomes `Frog catcher`. */
export function withName(text: string, from: string, to: string): string {
  if (text === from) return to
  const spelt = spellings(from)
  if (spelt) return text.replace(spelt, (found) => speltLike(found, from, to))
  return /\s/.test(text) ? text : withExactName(text, from, to)
}

function speltLike(found: string, from: string, to: string): string {
  if (found === from) return to
  const words = wordsIn(to)
  const old = wordsIn(found)
  // capital letters of a name that has some are how it is spelt, and not how a sentence begins
  const isLower = from === from.toLowerCase()
  const gap = /[ _-]/.exec(found)?.[0] ?? (old.length > 1 ? '' : ' ')
  if (found.length > 1 && found === found.toUpperCase() && isLower) return words.join(gap).toUpperCase()
  const starts = old.map((word) => /^\p{Lu}/u.test(word))
  const isEach = old.length > 1 && starts.every(Boolean)
  return words
    .map((word, at) => (isEach || (at === 0 && starts[0]) ? word.charAt(0).toUpperCase() + word.slice(1) : word.toLowerCase()))
    .join(gap)
}

/** A name near another that nobody has yet: `lamps` gives `lamps-2`, `pit_09` gives `pit_10`. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  const numbered = /^(.*?)(\d+)$/.exec(name)
  const gap = name.includes('_') ? '_' : name.includes('-') || !/\p{Lu}/u.test(name) ? '-' : ''
  const stem = numbered ? numbered[1]! : name + gap
  const width = numbered ? numbered[2]!.length : 1
  for (let next = BigInt(numbered?.[2] ?? 1) + 1n; ; next++) {
    const free = stem + String(next).padStart(width, '0')
    if (!taken.has(free)) return free
  }
}
