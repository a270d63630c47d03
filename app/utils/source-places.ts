import { Text, type ChangeSet, type ChangeSpec } from '@codemirror/state'
import type { Edit } from '@pasticcio/core'

/**
 * Places in a text and in the editor, which counts a line end as one character whatever it is in the file. Only a file
 * that ends all its lines alike can be told line by line; others are edited with their odd ends as characters.
 */
export class SourcePlaces {
  /** What the editor parts lines by. */
  readonly lineEnd: '\r\n' | '\n'

  constructor(text: string) {
    this.lineEnd = text.includes('\r\n') && !/(?<!\r)\n/.test(text) ? '\r\n' : '\n'
  }

  /** The offset in the text of a place in the editor. */
  offset(doc: Text, place: number): number {
    return place + (doc.lineAt(place).number - 1) * (this.lineEnd.length - 1)
  }

  /** The editor's text as it is in the file. */
  textOf(doc: Text): string {
    return doc.sliceString(0, doc.length, this.lineEnd)
  }

  /** The least change that makes the editor show a text; null where it does. */
  difference(doc: Text, text: string): ChangeSpec | null {
    const now = this.textOf(doc)
    if (now === text) return null
    let start = 0
    const most = Math.min(now.length, text.length)
    while (start < most && now.charCodeAt(start) === text.charCodeAt(start)) start++
    let end = 0
    while (end < most - start && now.charCodeAt(now.length - 1 - end) === text.charCodeAt(text.length - 1 - end)) end++
    const insert = text.slice(start, text.length - end)
    if (this.lineEnd.length === 1) return { from: start, to: now.length - end, insert }
    // whole lines, so that no line end is cut in two
    const from = doc.lineAt(this.placeOf(now, start)).from
    const to = doc.lineAt(this.placeOf(now, now.length - end)).to
    const until = text.length - (now.length - this.offset(doc, to))
    return { from, to, insert: Text.of(text.slice(this.offset(doc, from), until).split(this.lineEnd)) }
  }

  private placeOf(text: string, offset: number): number {
    return text.slice(0, offset).replaceAll(this.lineEnd, '\n').length - (text[offset - 1] === '\r' && text[offset] === '\n' ? 1 : 0)
  }
}

/** What was typed in the editor as edits of the draft's text. */
export function editsOf(
  change: { readonly changes: ChangeSet; readonly startState: { readonly doc: Text } },
  places: SourcePlaces,
): Edit[] {
  const edits: Edit[] = []
  const { doc } = change.startState
  change.changes.iterChanges((from, to, _fromNow, _toNow, inserted) => {
    edits.push({ from: places.offset(doc, from), to: places.offset(doc, to), insert: places.textOf(inserted) })
  })
  return edits
}
