/*
 * Choices that an author lists in a comment. What is listed counts only where the value the plugin ships is one of them, so
 * that a sentence with commas is not taken for a list.
 */

const WORD = /^[\p{L}\p{N}_][\p{L}\p{N}_.+:-]*$/u
const INTRODUCED =
  /(?:one of(?: these)?|either|any of|choices(?: are)?|(?:possible|valid|allowed|available|accepted|supported|known) (?:values?|options?|types?|modes?|kinds?|choices?|are|ones)(?: are| is)?|options(?: are)?|values?(?: are| is)?|types?(?: are)?|modes?(?: are)?|can be|may be|must be|takes|accepts)\s*[:=]?\s+/gi

const unquoted = (word: string): string =>
  word
    .trim()
    .replace(/\s*\((?:the )?(?:default|standard|recommended)[^)]*\)$/i, '')
    .replace(/^["'`“‘«]+|["'`”’».]+$/g, '')
    .trim()

/** A stretch of words as a list of choices; null where it is a sentence. */
function listed(text: string): string[] | null {
  const words = text
    .split(/,|\||\/|\n|;|\bor\b|\band\b/)
    .map((word) => unquoted(word.replace(/\s*\(.*$/, '').replace(/\s+[-–—=:]\s+.*$/, '')))
    .filter((word) => word !== '')
  return words.length >= 2 && words.every((word) => WORD.test(word)) ? [...new Set(words)] : null
}

const has = (choices: readonly string[], value: string): boolean =>
  choices.some((choice) => choice.toLowerCase() === value.toLowerCase()) || value === ''

/** A list behind “One of:” and the like, up to the end of its sentence. */
function introduced(comment: string): string[][] {
  return [...comment.matchAll(INTRODUCED)].flatMap((found) => {
    const rest = comment.slice(found.index + found[0].length)
    const end = /\.(?=\s|$)|\n(?=\s*\p{Lu})|\n\s*\n/u.exec(rest)?.index ?? rest.length
    const sentence = rest.slice(0, end)
    return [listed(sentence), listed(sentence.split('\n')[0]!)].filter((list) => list !== null)
  })
}

/** Words in brackets or after a colon, and sentences that are nothing but a list: `(low/fair/high)`, `low, fair or high`. */
function bare(comment: string): string[][] {
  const inBrackets = [...comment.matchAll(/[([]([^()[\]]+)[)\]]/g)].map(([, inner]) => inner!)
  const sentences = comment.split(/\.(?=\s|$)|\n/).flatMap((sentence) => [sentence, sentence.slice(sentence.indexOf(':') + 1)])
  return [...inBrackets, ...sentences].flatMap((text) => {
    const list = /[|/,]|\bor\b/.test(text) ? listed(text) : null
    return list ? [list] : []
  })
}

/** One choice a line or a clause, each with what it does: `- hold: kept`, `0 = off, 1 = on`, `"none" for nobody`. */
function explained(comment: string): string[][] {
  const lines = comment.split('\n').flatMap((line) => {
    const found = /^\s*(?:[-*•]\s*)?[“"'`]?([\p{L}\p{N}_.+-]+)[”"'`]?\s*(?:[:=]|\s[-–—]|->|=>)\s*\S/u.exec(line)
    return found ? [found[1]!] : []
  })
  const clauses = [...comment.matchAll(/(?:^|[\s(,;])[“"'`]?([\p{L}\p{N}_.+-]+)[”"'`]?\s*(?:=|:|\bfor\b|\bmeans\b)\s*[\p{L}“"'`]/gu)].map(
    ([, word]) => word!,
  )
  return [lines, clauses].filter((list) => list.length >= 2).map((list) => [...new Set(list)])
}

/** Choices a comment lists, in its order; none where it lists none, or not the value. */
export function choicesIn(comment: string, value: string): string[] {
  if (comment === '') return []
  const found =
    introduced(comment).find((list) => has(list, value)) ?? (value === '' ? undefined : bare(comment).find((list) => has(list, value)))
  const lists = found ?? (value === '' ? undefined : explained(comment).find((list) => has(list, value)))
  return lists ?? []
}

/** Whole numbers that stand for something each: `0 = off, 1 = on, 2 = all`. */
export function codesIn(comment: string, value: string): { readonly value: string; readonly says: string }[] {
  if (!/\d/.test(comment)) return []
  const found = [...comment.matchAll(/(?:^|[\s(,;])(-?\d{1,3})\s*(?:=|:|\bfor\b|\bmeans\b)\s*([\p{L}][\p{L}\p{N}’' -]*)/gu)].map(
    ([, code, says]) => ({
      value: code!,
      says: says!.trim().replace(/\s+(?:and|or)$/, ''),
    }),
  )
  return found.length >= 2 && found.some((code) => code.value === value) ? found : []
}
