import type { Reading } from '../reading'
import { olderReading } from './older'
import type { ScalarKind } from '../../tree/nodes'

export interface Resolved {
  readonly kind: ScalarKind
  readonly value: null | boolean | number | string
}

const INT = /^[-+]?[0-9]+$/
const FLOAT = /^[-+]?(\.[0-9]+|[0-9]+(\.[0-9]*)?)([eE][-+]?[0-9]+)?$/

/** What a plain scalar means: in the core schema of YAML 1.2 (chapter 10.3.2 of its specification), or in YAML 1.1. */
export function resolvePlain(text: string, yaml: Reading['yaml'] = '1.2'): Resolved {
  return (yaml === '1.1' ? olderReading(text) : null) ?? resolveCore(text)
}

function resolveCore(text: string): Resolved {
  const first = text.charCodeAt(0)
  if (text === '' || text === '~') return { kind: 'null', value: null }
  // letters other than those that null, true and false start with cannot be anything but text
  if (first === 46 || first === 43 || first === 45 || (first >= 48 && first <= 57)) return resolveNumber(text)
  switch (text) {
    case 'null':
    case 'Null':
    case 'NULL':
      return { kind: 'null', value: null }
    case 'true':
    case 'True':
    case 'TRUE':
      return { kind: 'bool', value: true }
    case 'false':
    case 'False':
    case 'FALSE':
      return { kind: 'bool', value: false }
  }
  return { kind: 'text', value: text }
}

function resolveNumber(text: string): Resolved {
  if (INT.test(text) || FLOAT.test(text)) return { kind: 'number', value: Number(text) }
  if (/^0x[0-9a-fA-F]+$/.test(text) || /^0o[0-7]+$/.test(text)) return { kind: 'number', value: Number(text) }
  if (/^[-+]?\.(inf|Inf|INF)$/.test(text)) return { kind: 'number', value: text.startsWith('-') ? -Infinity : Infinity }
  if (/^\.(nan|NaN|NAN)$/.test(text)) return { kind: 'number', value: NaN }
  return { kind: 'text', value: text }
}

/** Joins the lines of a plain or quoted scalar: one line end is a space, each further one a line end (chapter 6.5). */
export function foldLines(lines: readonly string[]): string {
  let result = lines[0]!
  let empty = 0
  for (let i = 1; i < lines.length; i++) {
    const line = lines[i]!
    if (line === '' && i < lines.length - 1) {
      empty++
      continue
    }
    result += empty > 0 ? '\n'.repeat(empty) : ' '
    result += line
    empty = 0
  }
  return result
}

const ESCAPES: Readonly<Record<string, string>> = {
  '0': '\0',
  a: '\x07',
  b: '\b',
  t: '\t',
  '\t': '\t',
  n: '\n',
  v: '\v',
  f: '\f',
  r: '\r',
  e: '\x1b',
  ' ': ' ',
  '"': '"',
  '/': '/',
  '\\': '\\',
  N: '\x85',
  _: '\xa0',
  L: '\u2028',
  P: '\u2029',
}

export interface Unescaped {
  readonly value: string
  /** Offset within the source of the first escape that means nothing; -1 when all are fine. */
  readonly bad: number
}

/** The text between double quotes, its escapes and line ends resolved (chapter 5.7). */
export function unescapeDouble(source: string): Unescaped {
  if (!source.includes('\\') && !/[\r\n]/.test(source)) return { value: source, bad: -1 }
  let value = ''
  let bad = -1
  // blanks written as escapes stay where the line ends
  let written = 0
  for (let i = 0; i < source.length; i++) {
    const char = source[i]!
    if (char === '\r' || char === '\n') {
      const fold = foldBreak(source, i)
      value = value.slice(0, written) + value.slice(written).replace(/[ \t]+$/, '') + fold.text
      i = fold.next - 1
    } else if (char !== '\\') {
      value += char
    } else {
      const next = source[i + 1] ?? ''
      const width = next === 'x' ? 2 : next === 'u' ? 4 : next === 'U' ? 8 : 0
      if (width > 0) {
        const digits = source.slice(i + 2, i + 2 + width)
        const code = /^[0-9a-fA-F]+$/.test(digits) && digits.length === width ? parseInt(digits, 16) : -1
        if (code < 0 || code > 0x10ffff) {
          if (bad < 0) bad = i
          value += char
          continue
        }
        value += String.fromCodePoint(code)
        written = value.length
        i += 1 + width
      } else if (next === '\n' || next === '\r') {
        i = foldBreak(source, i + 1).next - 1
      } else if (ESCAPES[next] !== undefined) {
        value += ESCAPES[next]
        written = value.length
        i++
      } else {
        if (bad < 0) bad = i
        value += char
      }
    }
  }
  return { value, bad }
}

function foldBreak(source: string, at: number): { text: string; next: number } {
  let breaks = 0
  let i = at
  while (i < source.length) {
    const char = source[i]
    if (char === '\r' && source[i + 1] === '\n') i++
    if (char === '\r' || char === '\n') breaks++
    else if (char !== ' ' && char !== '\t') break
    i++
  }
  return { text: breaks > 1 ? '\n'.repeat(breaks - 1) : ' ', next: i }
}

/** The text between single quotes. */
export function unescapeSingle(source: string): string {
  const text = source.includes("''") ? source.replaceAll("''", "'") : source
  if (!/[\r\n]/.test(text)) return text
  const lines = text.split(/\r\n|\r|\n/)
  return foldLines(
    lines.map((line, i) => {
      const left = i > 0 ? line.replace(/^[ \t]+/, '') : line
      return i < lines.length - 1 ? left.replace(/[ \t]+$/, '') : left
    }),
  )
}

/** The value of a literal (`|`) or folded (`>`) block from its lines with the indentation taken off (chapter 8.1). */
export function blockValue(lines: readonly string[], folded: boolean, chomp: 'clip' | 'strip' | 'keep'): string {
  let end = lines.length
  while (end > 0 && lines[end - 1] === '') end--
  const body = lines.slice(0, end)
  let text = folded ? foldBlock(body) : body.join('\n')
  if (chomp === 'keep') text += '\n'.repeat(lines.length - end + (end > 0 ? 1 : 0))
  else if (chomp === 'clip' && end > 0) text += '\n'
  return text
}

function foldBlock(lines: readonly string[]): string {
  let result = ''
  let previous: string | null = null
  let empty = 0
  const spaced = (line: string): boolean => line.startsWith(' ') || line.startsWith('\t')
  for (const line of lines) {
    if (line === '') {
      empty++
      continue
    }
    if (previous === null) result += '\n'.repeat(empty)
    else if (spaced(line) || spaced(previous)) result += '\n'.repeat(empty + 1)
    else result += empty > 0 ? '\n'.repeat(empty) : ' '
    result += line
    previous = line
    empty = 0
  }
  return result
}
