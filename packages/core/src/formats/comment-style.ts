import type { Edit } from '../text/edits'
import { lineEnd, lineStart, skipBreak } from '../text/lines'
import type { Document, Entry } from '../tree/nodes'
import type { CommentStyle } from './format'

/** Comments that start with a mark and end with their line. */
export function lineComments(mark: string, off: RegExp, settingIn: (line: string) => string | null): CommentStyle {
  return { mark, off, settingIn, switchOff: (document, entry, to) => prefixLines(document, entry, to, mark) }
}

/** The name in a line `name: value`. */
export function nameBeforeColon(line: string): string | null {
  return /^["']?([\p{L}\p{N}_.-]+)["']?\s*:(?=\s|$)/u.exec(line)?.[1] ?? null
}

/** The name in a line `name = value` or `name: value`. */
export function nameBeforeEquals(line: string): string | null {
  return /^(?:local\s+)?\[?["']?([\p{L}\p{N}_.-]+?)["']?\]?\s*[=:](?!=)/u.exec(line)?.[1] ?? null
}

function prefixLines(document: Document, entry: Entry, to: number, mark: string): Edit[] {
  const { text } = document
  const column = entry.from - lineStart(text, entry.from)
  const edits: Edit[] = []
  for (let at = entry.from; at <= to;) {
    edits.push({ from: at, to: at, insert: mark + ' ' })
    const next = skipBreak(text, lineEnd(text, at))
    if (next === lineEnd(text, at) || next > to) break
    // lines of the value keep what they have in excess of the setting's own indentation
    const blank = lineEnd(text, next) === next
    at = blank ? next : next + Math.min(column, /^[ \t]*/.exec(text.slice(next, next + column))![0].length)
  }
  return edits
}
