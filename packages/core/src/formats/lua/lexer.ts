import type { CommentStream } from '../comment-stream'

export const enum T {
  End,
  Name,
  Keyword,
  Number,
  String,
  Long,
  Op,
  Bad,
}

const KEYWORDS = new Set([
  'and',
  'break',
  'do',
  'else',
  'elseif',
  'end',
  'false',
  'for',
  'function',
  'goto',
  'if',
  'in',
  'local',
  'nil',
  'not',
  'or',
  'repeat',
  'return',
  'then',
  'true',
  'until',
  'while',
])
const THREE = new Set(['...'])
const TWO = new Set(['..', '==', '~=', '<=', '>=', '//', '::', '<<', '>>'])

/** Whether a text can stand as a name in Lua. */
export function isLuaName(text: string): boolean {
  return /^[A-Za-z_][A-Za-z0-9_]*$/.test(text) && !KEYWORDS.has(text)
}

/**
 * Lua's tokens (chapter 3.1 of the reference manual, 5.1 to 5.4), one at a time: `type`, `from`, `to` describe the
 * current one. Comments go to the stream as they are passed.
 */
export class LuaLexer {
  type: T = T.End
  from = 0
  to = 0
  /** End of the token before the current one. */
  before = 0
  /** Whether a line end stands between the token before and the current one. */
  newLine = true
  /** A quote or long bracket that is never closed: where it opens; -1 when all is well. */
  unclosed = -1
  private pos = 0

  constructor(
    readonly text: string,
    private readonly comments: CommentStream,
  ) {
    if (text.charCodeAt(0) === 0xfeff) this.pos = 1
    if (text.startsWith('#', this.pos)) this.pos = this.lineEnd(this.pos)
    this.before = this.pos
  }

  get value(): string {
    return this.text.slice(this.from, this.to)
  }

  at(type: T): boolean {
    return this.type === type
  }

  is(source: string): boolean {
    return (
      this.to - this.from === source.length && this.type !== T.String && this.type !== T.Long && this.text.startsWith(source, this.from)
    )
  }

  advance(): void {
    this.before = this.to
    this.skip()
    const { text } = this
    const from = (this.from = this.pos)
    this.unclosed = -1
    const code = text.charCodeAt(from)
    if (from >= text.length) this.finish(T.End, from)
    else if (isNameStart(code)) this.name(from)
    else if (isDigit(code) || (code === 46 && isDigit(text.charCodeAt(from + 1)))) this.number(from)
    else if (code === 34 || code === 39) this.string(from, code)
    else if (code === 91 && this.longLevel(from) >= 0) this.long(from)
    else if (code > 127 || code < 32 || code === 96 || code === 64 || code === 36 || code === 33 || code === 63 || code === 92)
      this.finish(T.Bad, from + 1)
    else if (THREE.has(text.slice(from, from + 3))) this.finish(T.Op, from + 3)
    else this.finish(T.Op, TWO.has(text.slice(from, from + 2)) ? from + 2 : from + 1)
  }

  private finish(type: T, to: number): void {
    this.type = type
    this.to = this.pos = to
  }

  private lineEnd(from: number): number {
    let at = from
    while (at < this.text.length && this.text.charCodeAt(at) !== 10 && this.text.charCodeAt(at) !== 13) at++
    return at
  }

  private skip(): void {
    const { text } = this
    this.newLine = this.pos === 0
    for (;;) {
      const code = text.charCodeAt(this.pos)
      if (code === 32 || code === 9 || code === 11 || code === 12) this.pos++
      else if (code === 10 || code === 13) {
        this.newLine = true
        this.pos++
      } else if (code === 45 && text.charCodeAt(this.pos + 1) === 45) this.comment()
      else return
    }
  }

  private comment(): void {
    const from = this.pos
    const level = this.longLevel(from + 2)
    if (level >= 0) {
      const close = this.text.indexOf(']' + '='.repeat(level) + ']', from + 2)
      this.pos = close < 0 ? this.text.length : close + level + 2
      if (close < 0) this.openComment = from
    } else this.pos = this.lineEnd(from)
    this.comments.add(from, this.pos)
  }

  /** Where a long comment opens that is never closed; -1 without one. */
  openComment = -1

  /** The number of equals signs in a long bracket that opens here; -1 where none does. */
  private longLevel(at: number): number {
    if (this.text.charCodeAt(at) !== 91) return -1
    let i = at + 1
    while (this.text.charCodeAt(i) === 61) i++
    return this.text.charCodeAt(i) === 91 ? i - at - 1 : -1
  }

  private long(from: number): void {
    const level = this.longLevel(from)
    const close = this.text.indexOf(']' + '='.repeat(level) + ']', from + level + 2)
    if (close < 0) this.unclosed = from
    this.finish(T.Long, close < 0 ? this.text.length : close + level + 2)
  }

  private name(from: number): void {
    const { text } = this
    let at = from + 1
    while (isNamePart(text.charCodeAt(at))) at++
    // the longest keyword has eight letters
    this.finish(at - from <= 8 && KEYWORDS.has(text.slice(from, at)) ? T.Keyword : T.Name, at)
  }

  private number(from: number): void {
    const { text } = this
    let at = from
    const hex = text.charCodeAt(at) === 48 && (text.charCodeAt(at + 1) | 32) === 120
    if (hex) at += 2
    for (; ; at++) {
      const code = text.charCodeAt(at)
      const exponent = hex ? (code | 32) === 112 : (code | 32) === 101
      if (exponent && (text.charCodeAt(at + 1) === 43 || text.charCodeAt(at + 1) === 45)) at++
      else if (!isNamePart(code) && code !== 46) break
      else if (code === 46 && text.charCodeAt(at + 1) === 46) break
    }
    this.finish(T.Number, at)
  }

  private string(from: number, quote: number): void {
    const { text } = this
    let at = from + 1
    for (; at < text.length; at++) {
      const code = text.charCodeAt(at)
      if (code === quote) return this.finish(T.String, at + 1)
      if (code === 10 || code === 13) break
      if (code === 92) {
        at++
        // \z passes over line ends, as a backslash in front of one does
        if (text.charCodeAt(at) === 122) while (/\s/.test(text[at + 1] ?? '')) at++
        else if (text.charCodeAt(at) === 13 && text.charCodeAt(at + 1) === 10) at++
      }
    }
    this.unclosed = from
    this.finish(T.String, Math.min(at, text.length))
  }

  /** Takes part of a text that is not closed back: it shall end at `to`. */
  cut(to: number): void {
    this.to = this.pos = to
  }
}

function isDigit(code: number): boolean {
  return code >= 48 && code <= 57
}

function isNameStart(code: number): boolean {
  return (code >= 97 && code <= 122) || (code >= 65 && code <= 90) || code === 95
}

function isNamePart(code: number): boolean {
  return isNameStart(code) || isDigit(code)
}
