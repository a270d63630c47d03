import type { Document, Entry } from '../tree/nodes'
import { bareComment } from '../carry/index-tree'

/** What the author says about a setting: the comments right above it and behind it, joined as they run on. */
export function authorsComment(document: Document, entry: Entry): string {
  const attached = entry.lead.filter((comment) => comment.attached)
  const lines = attached.map((comment) => tidy(document.text.slice(comment.from, comment.to)))
  if (entry.trail) lines.push(tidy(document.text.slice(entry.trail.from, entry.trail.to)))
  return lines.filter((line) => !/^[-=*#~_\s]*$/.test(line)).join('\n')
}

function tidy(source: string): string {
  return source
    .split(/\r\n|\r|\n/)
    .map((line) => bareComment(line.trim()).replace(/^\*\s?/, ''))
    .join('\n')
}

/** Bounds a comment names: "0 to 1", "between 1 and 60", "at least 5", "at most 32 letters". */
export function boundsIn(comment: string): { min?: number; max?: number; maxLength?: number } {
  const number = '(-?\\d+(?:\\.\\d+)?)'
  const range = new RegExp(`(?:from|between)?\\s*${number}\\s*(?:to|and|–|\\.\\.|-)\\s*${number}(?![\\d:-]|\\.\\d)`, 'i').exec(comment)
  const letters = new RegExp(`at most ${number} (?:letters|characters)`, 'i').exec(comment)
  if (letters) return { maxLength: Number(letters[1]) }
  if (range && Number(range[1]) < Number(range[2]) && /from|between|to /i.test(range[0]))
    return { min: Number(range[1]), max: Number(range[2]) }
  const least = new RegExp(`at least ${number}`, 'i').exec(comment)
  const most = new RegExp(`at most ${number}`, 'i').exec(comment)
  return { ...(least ? { min: Number(least[1]) } : {}), ...(most ? { max: Number(most[1]) } : {}) }
}

/** Choices a comment lists: "One of: a, b, c." or "Either a or b"; words only, the value among them. */
export function choicesIn(comment: string, value: string): string[] {
  const listed = /(?:one of|either|any of|choices|possible values?|options)(?:\s+these)?\s*:?\s+([^.\n]+(?:\n[^.\n]+)?)/i.exec(comment)
  if (!listed) return []
  const words = listed[1]!
    .split(/,|\bor\b|\||\/|\n/)
    .map((word) =>
      word
        .trim()
        .replace(/^["'`“]|["'`”]$/g, '')
        .replace(/\s*\(.*$/, ''),
    )
    .filter((word) => word !== '')
  const plain = words.filter((word) => /^[\w.-]+$/.test(word))
  return plain.length >= 2 && plain.length === words.length && plain.includes(value) ? plain : []
}
