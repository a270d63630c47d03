/*
 * What reads, but likely says something else than was meant: to a reader of YAML 1.1, as most game platforms have, or
 * to the person who wrote it.
 */
import type { Finding } from '../../tree/nodes'
import type { Reading } from '../reading'
import { olderReading } from './older'

type Doubt = Pick<Finding, 'code' | 'severity' | 'message' | 'fix'> & { readonly from: number; readonly to: number }

/** Doubts about a plain value on one line; `alone` says that it stands on a line of its own below its name. */
export function doubtPlain(text: string, from: number, alone: boolean, yaml: Reading['yaml']): Doubt | null {
  const to = from + text.length
  const first = text.charCodeAt(0)
  if (first === 64 || first === 96 || first === 37)
    return {
      code: 'syntax',
      severity: 'error',
      from,
      to,
      message: `A text cannot start with “${text[0]}” in YAML. Put it in quotes.`,
      fix: quoted(text, from, to),
    }
  if (first >= 0x2018 && first <= 0x201f && /[\u2018-\u201f"']$/.test(text) && text.length > 1)
    return {
      code: 'wrong-quote',
      severity: 'warning',
      from,
      to,
      message: 'Curly quotes, as web pages and word processors write them, do not quote: they are part of the text. Use straight ones.',
      fix: { label: 'Use straight quotes', edits: [{ from, to, insert: JSON.stringify(text.slice(1, -1)) }] },
    }
  if (alone) return doubtGlued(text, from)
  // where it is known how the platform reads, there is no doubt
  const old = yaml === 'unsaid' ? olderReading(text) : null
  return old
    ? {
        code: 'older-reading',
        severity: 'note',
        from,
        to,
        message: `A reader of YAML 1.1 takes “${text}” for ${old.words}. Put it in quotes if it is meant as text; the server's own reader decides.`,
      }
    : null
}

/** `name:value` and `-item` without the blank, which are read as one text. */
export function doubtGlued(text: string, from: number): Doubt | null {
  const glued = /^([\p{L}\p{N}_.-]+):(?=[^\s/:])/u.exec(text)
  if (glued && !/^\d+$/.test(glued[1]!)) {
    const at = from + glued[0].length
    return {
      code: 'missing-space',
      severity: 'warning',
      from,
      to: from + text.length,
      message: `After “${glued[1]}:” a space is missing, so this is read as a text and not as a setting.`,
      fix: { label: 'Insert the space', edits: [{ from: at, to: at, insert: ' ' }] },
    }
  }
  if (/^-[^\s\d.-]/.test(text))
    return {
      code: 'missing-space',
      severity: 'warning',
      from,
      to: from + text.length,
      message: 'After the dash a space is missing, so this is read as a text and not as an item of a list.',
      fix: { label: 'Insert the space', edits: [{ from: from + 1, to: from + 1, insert: ' ' }] },
    }
  return null
}

function quoted(text: string, from: number, to: number): NonNullable<Finding['fix']> {
  return { label: 'Put it in quotes', edits: [{ from, to, insert: `'${text.replaceAll("'", "''")}'` }] }
}

/** A value that starts with a hash right behind its name's blank: all of it is a comment. */
export function doubtComment(comment: string, from: number): Doubt | null {
  if (!/^#[^\s#!]/.test(comment)) return null
  const word = /^#\S+/.exec(comment)![0]
  return {
    code: 'swallowed',
    severity: 'warning',
    from,
    to: from + word.length,
    message: `“${word}” is read as a comment, and the setting has no value. Put it in quotes.`,
    fix: { label: 'Put it in quotes', edits: [{ from, to: from + word.length, insert: `'${word.replaceAll("'", "''")}'` }] },
  }
}

/** An anchor that nothing refers to is likely the start of a text. */
export function doubtAnchor(name: string, from: number, to: number, lineTo: number, line: string): Doubt {
  return {
    code: 'swallowed',
    severity: 'warning',
    from,
    to,
    message: `“&${name}” is read as an anchor for others to refer to, and nothing does. If it is part of the text, put quotes around all of it.`,
    fix: { label: 'Put it in quotes', edits: [{ from, to: lineTo, insert: `'${line.replaceAll("'", "''")}'` }] },
  }
}
