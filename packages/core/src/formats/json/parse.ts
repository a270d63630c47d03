/*
 * A reader of JSON, strict or with comments and trailing commas, that knows the place of everything and reads on past
 * errors. Grammar: RFC 8259; what it tolerates is reported, so that strict readers of the same file are not surprised.
 */
import { withoutConsequences } from '../recover'
import { jsonRepairs } from './recover'
import {
  NO_COMMENTS,
  emptyScalar,
  type Comment,
  type Entry,
  type Finding,
  type FindingCode,
  type Node,
  type ScalarNode,
} from '../../tree/nodes'
import { LineIndex } from '../../text/lines'
import { Seen } from '../seen'
import type { Parsed } from '../format'
import type { Reading } from '../reading'

const DEEPEST = 400
const NUMBER = /^-?(0|[1-9]\d*)(\.\d+)?([eE][+-]?\d+)?$/

/** Reads JSON. Bad input gives findings and what could be read; it never throws. */
export function parseJson(text: string, reading: Reading): Parsed {
  const document = readOnce(text, reading)
  return { ...document, findings: withoutConsequences(text, document.findings, (other) => readOnce(other, reading).findings, jsonRepairs) }
}

function readOnce(text: string, reading: Reading): Parsed {
  const read = (byIndent: boolean): Parsed => {
    const parser = new JsonParser(text, reading.jsonComments, byIndent)
    const root = parser.document()
    return { root, findings: parser.findings }
  }
  const plain = read(false)
  if (
    plain.findings.length < 2 &&
    !plain.findings.some((finding) => finding.code === 'unclosed-bracket' || finding.code === 'text-after-value')
  )
    return plain
  // brackets do not match: only then does indentation, which intact files are free in, tell which one was left open
  const indented = read(true)
  return indented.findings.length <= plain.findings.length ? indented : plain
}

interface Pending extends Comment {
  readonly line: number
}

class JsonParser {
  readonly findings: Finding[] = []
  private pos = 0
  private line = 1
  private lineStart = 0
  private depth = 0
  private pending: Pending[] = []
  private commentTold = false
  /** The bracket just read was never closed, so no comma can be expected behind it. */
  private leftOpen = false
  /** Indentation of the line on which the bracket around the cursor was opened. */
  private openIndent = 0
  private readonly index: () => LineIndex

  constructor(
    private readonly text: string,
    private readonly relaxed: boolean,
    private readonly byIndent: boolean,
  ) {
    if (text.charCodeAt(0) === 0xfeff) this.pos = this.lineStart = 1
    let built: LineIndex | null = null
    this.index = () => (built ??= new LineIndex(text))
  }

  document(): Node {
    this.skip()
    const leading = this.take()
    if (this.pos >= this.text.length) {
      this.report('syntax', 0, 0, 'The file is empty. A JSON file needs at least {}.')
      return {
        type: 'map',
        flow: true,
        indent: -1,
        entries: [],
        tail: leading,
        from: this.pos,
        to: this.pos,
        outer: this.pos,
        anchor: null,
        tag: null,
      }
    }
    const root = this.value()
    this.skip()
    if (this.pos < this.text.length) {
      const where = this.pos
      this.report(
        'text-after-value',
        where,
        this.text.length,
        `After the end of the document, which line ${this.index().position(root.to).line} closes, more text follows. Remove it, or remove the bracket that closes too early.`,
      )
    }
    if ((root.type === 'map' || root.type === 'list') && this.pending.length + leading.length > 0)
      root.tail = [...root.tail, ...this.take()]
    return root
  }

  private report(code: FindingCode, from: number, to: number, message: string, fix?: Finding['fix']): void {
    if (this.findings.length < 500)
      this.findings.push(fix ? { code, severity: 'error', from, to, message, fix } : { code, severity: 'error', from, to, message })
  }

  private take(): readonly Comment[] {
    if (this.pending.length === 0) return NO_COMMENTS
    const taken = this.pending
    this.pending = []
    let line = this.line
    for (let i = taken.length - 1; i >= 0; i--) {
      const below = line - this.linesIn(taken[i]!)
      if (taken[i]!.line !== below) break
      taken[i]!.attached = true
      line = taken[i]!.line
    }
    return taken
  }

  /** Lines from the start of a comment to the line after its end. */
  private linesIn(comment: Comment): number {
    let lines = 1
    for (let i = comment.from; i < comment.to; i++) if (this.text.charCodeAt(i) === 10) lines++
    return lines
  }

  private newLine(): void {
    if (this.text.charCodeAt(this.pos) === 13 && this.text.charCodeAt(this.pos + 1) === 10) this.pos++
    this.pos++
    this.line++
    this.lineStart = this.pos
  }

  private skip(): void {
    for (;;) {
      const code = this.text.charCodeAt(this.pos)
      if (code === 32 || code === 9) this.pos++
      else if (code === 10 || code === 13) this.newLine()
      else if (code !== 47 && code !== 35) return
      else {
        const comment = this.comment()
        if (!comment) return
        this.pending.push(comment)
      }
    }
  }

  private comment(): Pending | null {
    const text = this.text
    const from = this.pos
    const line = this.line
    const code = text.charCodeAt(from)
    const next = text.charCodeAt(from + 1)
    if (!(code === 47 && (next === 47 || next === 42)) && code !== 35) return null
    if (code === 47 && next === 42) {
      const end = text.indexOf('*/', from + 2)
      const to = end < 0 ? text.length : end + 2
      if (end < 0) this.report('unclosed-bracket', from, from + 2, 'The comment opened here is never closed. Close it with */.')
      while (this.pos < to) {
        const at = text.charCodeAt(this.pos)
        if (at === 10 || at === 13) this.newLine()
        else this.pos++
      }
      this.pos = to
    } else while (this.pos < text.length && text.charCodeAt(this.pos) !== 10 && text.charCodeAt(this.pos) !== 13) this.pos++
    if (!this.relaxed && !this.commentTold) {
      this.commentTold = true
      this.report(
        'comment-not-allowed',
        from,
        this.pos,
        'A comment stands here, which strict JSON does not allow. Remove it, or check the file as relaxed JSON.',
      )
    } else if (code === 35 && !this.commentTold) {
      this.commentTold = true
      this.report('comment-not-allowed', from, this.pos, 'Comments in JSON start with //, not with #.', {
        label: 'Write //',
        edits: [{ from, to: from + 1, insert: '//' }],
      })
    }
    return { from, to: this.pos, attached: false, line }
  }

  private value(): Node {
    const code = this.text.charCodeAt(this.pos)
    if (code === 123 || code === 91) return this.container()
    if (code === 34) return this.string()
    if (code === 39 || code === 0x201c || code === 0x201d || code === 0x2018 || code === 0x2019) return this.strangeString()
    return this.word()
  }

  private scalar(from: number, kind: ScalarNode['kind'], value: ScalarNode['value'], style: ScalarNode['style']): ScalarNode {
    return { type: 'scalar', from, to: this.pos, outer: from, anchor: null, tag: null, kind, style, value }
  }

  private string(): ScalarNode {
    const text = this.text
    const from = this.pos
    let at = from + 1
    let escaped = false
    for (; at < text.length; at++) {
      const code = text.charCodeAt(at)
      if (code === 34 || code === 10 || code === 13) break
      if (code === 92) {
        escaped = true
        if (text.charCodeAt(at + 1) === 10 || text.charCodeAt(at + 1) === 13) break
        at++
      } else if (code < 32)
        this.report(
          'control-character',
          at,
          at + 1,
          `A control character stands in this text. Write it as \\${code === 9 ? 't' : 'u' + code.toString(16).padStart(4, '0')}.`,
          code === 9 ? { label: 'Write \\t', edits: [{ from: at, to: at + 1, insert: '\\t' }] } : undefined,
        )
    }
    if (at >= text.length || text.charCodeAt(at) !== 34) return this.unclosedString(from, Math.min(at, text.length))
    this.pos = at + 1
    return this.scalar(from, 'text', escaped ? this.unescape(from + 1, at) : text.slice(from + 1, at), 'double')
  }

  /** The text ends with its line; what looks like a colon or comma outside stays outside. */
  private unclosedString(from: number, lineTo: number): ScalarNode {
    const line = this.text.slice(from + 1, lineTo)
    const end = /^[^:,{}[\]]*(?=\s*[:,])/.exec(line)?.[0].length ?? line.replace(/\s*[,}\]]*\s*$/, '').length
    this.pos = from + 1 + end
    this.report('unclosed-quote', from, lineTo, 'The quote opened here is not closed on this line. Close it before the comma or colon.', {
      label: 'Close it',
      edits: [{ from: this.pos, to: this.pos, insert: '"' }],
    })
    return this.scalar(from, 'text', this.text.slice(from + 1, this.pos), 'double')
  }

  private unescape(from: number, to: number): string {
    const source = this.text.slice(from, to)
    try {
      return JSON.parse(
        '"' + source.replace(/[\u0000-\u001f]/g, (c) => '\\u' + c.charCodeAt(0).toString(16).padStart(4, '0')) + '"',
      ) as string
    } catch {
      const bad = /\\(?!["\\/bfnrt]|u[0-9a-fA-F]{4})/.exec(source.replace(/\\\\/g, '..'))?.index ?? 0
      this.report(
        'bad-escape',
        from + bad,
        from + bad + 2,
        `“${source.slice(bad, bad + 2)}” means nothing in JSON. Write two backslashes for one.`,
        { label: 'Double the backslash', edits: [{ from: from + bad, to: from + bad, insert: '\\' }] },
      )
      return source
    }
  }

  private strangeString(): ScalarNode {
    const from = this.pos
    const open = this.text[from]!
    const closers = open === "'" ? "'" : '\u201c\u201d\u2018\u2019"'
    let at = from + 1
    while (at < this.text.length && !closers.includes(this.text[at]!) && this.text[at] !== '\n' && this.text[at] !== '\r') at++
    const closed = at < this.text.length && closers.includes(this.text[at]!)
    this.pos = closed ? at + 1 : at
    const body = this.text.slice(from + 1, at)
    this.report(
      'syntax',
      from,
      this.pos,
      open === "'"
        ? 'JSON takes double quotes, not single ones.'
        : 'A curly quote, as web pages and word processors write it, stands here. Use the straight one.',
      closed ? { label: 'Use straight double quotes', edits: [{ from, to: this.pos, insert: JSON.stringify(body) }] } : undefined,
    )
    return this.scalar(from, 'text', body, 'double')
  }

  private word(): ScalarNode {
    const text = this.text
    const from = this.pos
    let at = from
    while (at < text.length && !endsWord(text.charCodeAt(at))) at++
    if (at === from) at = Math.min(from + 1, text.length)
    this.pos = at
    const source = text.slice(from, at)
    if (source === 'true' || source === 'false') return this.scalar(from, 'bool', source === 'true', 'plain')
    if (source === 'null') return this.scalar(from, 'null', null, 'plain')
    if (NUMBER.test(source)) return this.scalar(from, 'number', Number(source), 'plain')
    const next = /^(true|false|null)$/i.test(source)
      ? `Write ${source.toLowerCase()} in small letters.`
      : 'Text needs double quotes; a number is written like 12 or 0.5.'
    this.report(
      'syntax',
      from,
      at,
      `“${source}” is not a JSON value. ${next}`,
      /^[\w.-]+$/.test(source) ? { label: 'Put it in quotes', edits: [{ from, to: at, insert: JSON.stringify(source) }] } : undefined,
    )
    return this.scalar(from, 'text', source, 'plain')
  }

  private container(): Node {
    const from = this.pos
    const isList = this.text.charCodeAt(from) === 91
    const close = isList ? 93 : 125
    if (this.depth >= DEEPEST) {
      this.report('too-deep', from, from + 1, `Brackets are nested more than ${DEEPEST} deep here; the rest was not read.`)
      this.pos = this.text.length
      return emptyScalar(from)
    }
    this.depth++
    const openIndent = this.byIndent ? this.indentOfLine() : 0
    const openOutside = this.openIndent
    this.openIndent = openIndent
    const outside = this.pending.length > 0 ? this.pending : null
    if (outside) this.pending = []
    const entries: Entry[] = []
    const seen = isList ? null : new Seen(entries)
    this.pos++
    let closed = false
    while (!closed) {
      this.skip()
      const code = this.text.charCodeAt(this.pos)
      if (this.pos >= this.text.length) break
      if (code === 93 || code === 125) {
        if (code !== close || (this.byIndent && this.depth > 1 && this.closesOuter(openIndent))) break
        this.trailingComma(entries)
        this.pos++
        closed = true
      } else if (this.byIndent && this.depth > 1 && this.belongsOutside(openIndent)) break
      else if (code === 44) {
        this.report('extra-comma', this.pos, this.pos + 1, 'A comma stands where a value should. Remove it.', {
          label: 'Remove the comma',
          edits: [{ from: this.pos, to: this.pos + 1, insert: '' }],
        })
        this.pos++
      } else entries.push(this.entry(isList, entries, seen))
    }
    if (!closed && this.findings.every((finding) => finding.code !== 'too-deep')) this.unclosed(from, isList)
    this.openIndent = openOutside
    const tail: readonly Comment[] = this.pending.length > 0 ? this.pending : NO_COMMENTS
    if (outside) this.pending = outside
    else if (tail.length > 0) this.pending = []
    this.depth--
    return isList
      ? { type: 'list', documents: false, flow: true, indent: -1, entries, tail, from, to: this.pos, outer: from, anchor: null, tag: null }
      : { type: 'map', flow: true, indent: -1, entries, tail, from, to: this.pos, outer: from, anchor: null, tag: null }
  }

  private unclosed(from: number, isList: boolean): void {
    const wrong = this.pos < this.text.length && this.text.charCodeAt(this.pos) === (isList ? 125 : 93)
    this.leftOpen = true
    const outer = this.depth === 1 && wrong
    if (outer) this.pos++
    this.report(
      'unclosed-bracket',
      from,
      from + 1,
      `The “${isList ? '[' : '{'}” opened here is never closed. Close it with “${isList ? ']' : '}'}” after its last value.`,
    )
  }

  private indentOfLine(): number {
    let at = this.lineStart
    while (this.text.charCodeAt(at) === 32 || this.text.charCodeAt(at) === 9) at++
    return at - this.lineStart
  }

  /** A value on a line that is indented no deeper than the one the bracket was opened on stands beside that, not in it. */
  private belongsOutside(openIndent: number): boolean {
    return this.lineStart + this.indentOfLine() === this.pos && this.indentOfLine() <= openIndent
  }

  /** A bracket alone on a line that is indented less than where the current one was opened closes an outer one. */
  private closesOuter(openIndent: number): boolean {
    return this.indentOfLine() < openIndent && this.lineStart + this.indentOfLine() === this.pos
  }

  private trailingComma(entries: readonly Entry[]): void {
    const last = entries[entries.length - 1]
    if (!last || last.comma < 0 || this.relaxed) return
    this.report(
      'extra-comma',
      last.comma,
      last.comma + 1,
      'A comma stands after the last value. Strict JSON does not allow it; remove it.',
      { label: 'Remove the comma', edits: [{ from: last.comma, to: last.comma + 1, insert: '' }] },
    )
  }

  private entry(isList: boolean, entries: readonly Entry[], seen: Seen | null): Entry {
    const start = this.pos
    const lead = this.pending.length > 0 ? this.take() : NO_COMMENTS
    const entry: Entry = isList
      ? {
          key: String(entries.length),
          keyFrom: start,
          keyTo: start,
          value: this.value(),
          from: start,
          to: start,
          lead,
          trail: null,
          comma: -1,
        }
      : this.member(start, lead, seen!)
    entry.to = Math.max(this.pos, start)
    if (entry.value.to > entry.value.from) entry.to = entry.value.to
    this.comma(entry, isList)
    if (this.pos === start) this.pos++
    return entry
  }

  private member(start: number, lead: readonly Comment[], seen: Seen): Entry {
    const { text } = this
    // a name in quotes without escapes, as nearly all are
    let at = start + 1
    if (text.charCodeAt(start) === 34)
      for (let code = text.charCodeAt(at); code !== 34 && code !== 92 && code >= 32;) code = text.charCodeAt(++at)
    let key: string
    if (text.charCodeAt(start) === 34 && text.charCodeAt(at) === 34) {
      this.pos = at + 1
      key = text.slice(start + 1, at)
    } else key = String((text.charCodeAt(start) === 34 ? this.string() : this.strangeKey()).value)
    const keyTo = this.pos
    const value = this.memberValue(key, start, keyTo)
    const entry: Entry = { key, keyFrom: start, keyTo, value, from: start, to: start, lead, trail: null, comma: -1 }
    const first = seen.before(entry)
    if (first)
      this.report(
        'duplicate-key',
        start,
        keyTo,
        `“${key}” stands twice in this section, first on line ${this.index().position(first.keyFrom).line}. Only one of them counts; remove the other.`,
      )
    return entry
  }

  private memberValue(name: string, keyFrom: number, keyTo: number): Node {
    this.skip()
    const code = this.text.charCodeAt(this.pos)
    if (code === 61) {
      this.report('missing-colon', this.pos, this.pos + 1, 'An equals sign stands where JSON takes a colon.', {
        label: 'Write a colon',
        edits: [{ from: this.pos, to: this.pos + 1, insert: ':' }],
      })
      this.pos++
    } else if (code === 58) this.pos++
    else {
      this.report('missing-colon', keyTo, keyTo, `After “${name}” a colon and a value are missing.`)
      if (code === 44 || code === 125 || code === 93 || this.pos >= this.text.length) return emptyScalar(keyTo)
    }
    this.skip()
    const next = this.text.charCodeAt(this.pos)
    if (next === 44 || next === 125 || next === 93 || this.pos >= this.text.length) {
      this.report('syntax', keyFrom, this.pos, `“${name}” has no value. Write one after the colon.`)
      return emptyScalar(keyTo)
    }
    return this.value()
  }

  private strangeKey(): ScalarNode {
    const code = this.text.charCodeAt(this.pos)
    if (code === 39 || code >= 0x2018) return this.strangeString()
    const from = this.pos
    let at = from
    while (at < this.text.length && /[\w$.-]/.test(this.text[at]!)) at++
    if (at === from) at = from + 1
    this.pos = at
    const source = this.text.slice(from, at)
    this.report(
      'syntax',
      from,
      at,
      `The name “${source}” needs double quotes in JSON.`,
      /^[\w$.-]+$/.test(source) ? { label: 'Put it in quotes', edits: [{ from, to: at, insert: JSON.stringify(source) }] } : undefined,
    )
    return this.scalar(from, 'text', source, 'plain')
  }

  private comma(entry: Entry, isList: boolean): void {
    this.skip()
    const { leftOpen } = this
    this.leftOpen = false
    const code = this.text.charCodeAt(this.pos)
    if (code === 44) {
      entry.comma = this.pos
      this.pos++
      this.trail(entry)
      return
    }
    if (code === 93 || code === 125 || this.pos >= this.text.length) {
      this.ownTrail(entry)
      return
    }
    this.ownTrail(entry)
    if (isList && code === 58) {
      this.report(
        'syntax',
        this.pos,
        this.pos + 1,
        'A colon stands in a list, where values have no names. Use { } around named values, or remove the name.',
      )
      this.pos++
      return
    }
    if (this.byIndent && this.depth > 1 && this.belongsOutside(this.openIndent)) return
    if (!leftOpen)
      this.report('missing-comma', entry.to, entry.to, 'A comma is missing after this value.', {
        label: 'Insert the comma',
        edits: [{ from: entry.to, to: entry.to, insert: ',' }],
      })
  }

  /** The comment behind the comma, on the same line. */
  private trail(entry: Entry): void {
    while (this.text.charCodeAt(this.pos) === 32 || this.text.charCodeAt(this.pos) === 9) this.pos++
    const waiting = this.pending
    const comment = this.comment()
    this.pending = waiting
    if (comment) entry.trail = comment
    else this.ownTrail(entry)
  }

  /** The comment right behind a value that has no comma, or stands before it, is already among the waiting ones. */
  private ownTrail(entry: Entry): void {
    const first = this.pending[0]
    if (!first || /[\r\n]/.test(this.text.slice(entry.to, first.from))) return
    entry.trail = first
    this.pending = this.pending.slice(1)
  }
}

/** What cannot be part of a number or word: blanks, brackets, quotes, commas, colons, slashes and equals signs. */
function endsWord(code: number): boolean {
  return (
    code <= 32 ||
    code === 44 ||
    code === 58 ||
    code === 123 ||
    code === 125 ||
    code === 91 ||
    code === 93 ||
    code === 34 ||
    code === 47 ||
    code === 61 ||
    code === 0xa0 ||
    code === 0xfeff
  )
}
