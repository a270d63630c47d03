/*
 * What reads, but likely says something else than was meant: to a reader of YAML 1.1, as most game platforms have, or
 * to the person who wrote it.
 */
import type { Finding } from '../../tree/nodes'

/** What a plain value is to a reader of YAML 1.1 (yaml.org/type, 2005) where YAML 1.2 reads it otherwise; null where both agree. */
export function olderReading(text: string): string | null {
  const first = text.charCodeAt(0)
  // letters other than those of yes, no, on and off cannot start any of these, and most values start so
  const letter = (first | 32) >= 97 && (first | 32) <= 122
  if (letter) {
    if (text.length > 3) return null
    if (/^(yes|on)$/i.test(text)) return 'the switch true'
    return /^(no|off)$/i.test(text) ? 'the switch false' : null
  }
  if (!(first >= 48 && first <= 57) && first !== 43 && first !== 45 && first !== 46) return null
  if (/^\d{4}-\d\d?-\d\d?([Tt ].*)?$/.test(text)) return 'a date'
  if (/^[-+]?0[0-7_]+$/.test(text) && /[1-7]/.test(text)) return `the number ${parseInt(text.replaceAll('_', ''), 8)}`
  if (/^[-+]?[1-9][0-9_]*(:[0-5]?[0-9])+(\.[0-9_]*)?$/.test(text)) return `the number ${sixties(text)}`
  if (/^[-+]?[0-9][0-9_]*_[0-9_]*(\.[0-9_]*)?$/.test(text)) return `the number ${text.replaceAll('_', '')}`
  if (/^0b[01_]+$/.test(text)) return `the number ${parseInt(text.slice(2).replaceAll('_', ''), 2)}`
  if (/^0o[0-7]+$/.test(text) || /^[-+]?[0-9]+[eE][0-9]+$/.test(text)) return 'a text'
  return /^[-+]?\.[0-9]+$/.test(text) ? 'a text, as many readers want a digit in front of the point' : null
}

/** Base 60: hours, minutes, seconds. */
function sixties(text: string): number {
  const sign = text.startsWith('-') ? -1 : 1
  return (
    sign *
    text
      .replace(/^[-+]/, '')
      .replaceAll('_', '')
      .split(':')
      .reduce((sum, part) => sum * 60 + Number(part), 0)
  )
}

type Doubt = Pick<Finding, 'code' | 'severity' | 'message' | 'fix'> & { readonly from: number; readonly to: number }

/** Doubts about a plain value on one line; `alone` says that it stands on a line of its own below its name. */
export function doubtPlain(text: string, from: number, alone: boolean): Doubt | null {
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
  const old = olderReading(text)
  return old
    ? {
        code: 'older-reading',
        severity: 'note',
        from,
        to,
        message: `A reader of YAML 1.1 takes “${text}” for ${old}. Put it in quotes if it is meant as text; the server's own reader decides.`,
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
