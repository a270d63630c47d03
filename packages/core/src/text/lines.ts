/** A place for people: both numbers start at 1, columns count UTF-16 units. */
export interface Position {
  readonly line: number
  readonly column: number
}

/** Finds line and column of offsets in one text; built once, each look-up costs a binary search. */
export class LineIndex {
  private readonly starts: number[] = [0]

  constructor(readonly text: string) {
    for (let at = 0; at < text.length; at++) {
      const code = text.charCodeAt(at)
      if (code === 10 || (code === 13 && text.charCodeAt(at + 1) !== 10)) this.starts.push(at + 1)
    }
  }

  get lineCount(): number {
    return this.starts.length
  }

  /** The line and column of an offset; offsets past the end give the end. */
  position(offset: number): Position {
    let low = 0
    let high = this.starts.length - 1
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (this.starts[middle]! <= offset) low = middle
      else high = middle - 1
    }
    return { line: low + 1, column: Math.min(offset, this.text.length) - this.starts[low]! + 1 }
  }

  /** Offset where a line (from 1) starts; past the last line, the end of the text. */
  startOf(line: number): number {
    return this.starts[line - 1] ?? this.text.length
  }
}

/** Start of the line that `offset` is on. */
export function lineStart(text: string, offset: number): number {
  let at = offset
  while (at > 0 && text.charCodeAt(at - 1) !== 10 && text.charCodeAt(at - 1) !== 13) at--
  return at
}

/** The blanks the line of `offset` starts with, no further than the offset. */
export function lineIndent(text: string, offset: number): string {
  return /^[ \t]*/.exec(text.slice(lineStart(text, offset), offset))![0]
}

/** End of the line that `offset` is on, before its line end. */
export function lineEnd(text: string, offset: number): number {
  let at = offset
  while (at < text.length && text.charCodeAt(at) !== 10 && text.charCodeAt(at) !== 13) at++
  return at
}

/** The offset after the line end that starts at `offset`; the same offset where there is none. */
export function skipBreak(text: string, offset: number): number {
  const code = text.charCodeAt(offset)
  if (code === 13 && text.charCodeAt(offset + 1) === 10) return offset + 2
  return code === 13 || code === 10 ? offset + 1 : offset
}

/** The line end this text uses: that of its first line, `\n` where it has only one line. */
export function eolOf(text: string): string {
  const at = text.search(/[\r\n]/)
  if (at < 0 || text[at] === '\n') return '\n'
  return text[at + 1] === '\n' ? '\r\n' : '\r'
}
