import type { Container, Document, Entry, Node, ScalarNode } from '../tree/nodes'
import type { Value } from '../tree/values'

/** A scalar's surroundings, which decide how its text may be written. */
export interface Place {
  readonly document: Document
  readonly container: Container | null
  readonly entry: Entry | null
  /** The scalar that stands there now, whose style is kept where it can be. */
  readonly old: ScalarNode | null
}

/** An entry on its way into a file, as lines without indentation of their own. */
export interface NewEntry {
  readonly lead: readonly string[]
  /** First line starts with key or dash (formats with commas: without the comma). */
  readonly body: readonly string[]
  /** Comment for the end of the line, with its marker; empty for none. */
  readonly trail: string
  readonly blankBefore: boolean
}

/** What a format knows about writing; everything else about edits is the same for all formats. */
export interface Writer {
  /** The source of a scalar. May hold line ends only if `old` is a block scalar. */
  scalar(place: Place, value: null | boolean | number | string | { readonly text: string }): string
  key(document: Document, container: Container, key: string, old: Entry | null): string
  /** The lines of one entry: `key` is null in a list. */
  entryLines(document: Document, container: Container, key: string | null, value: Value): string[]
  /** A whole value on one line, as inside brackets. */
  inline(document: Document, value: Value): string
  readonly commentMark: string
  /** Whether sections are nested by brackets (JSON) or, in blocks, by indentation (YAML). */
  readonly brackets: boolean
  readonly lists: boolean
  readonly sections: boolean
}

/** The unit of indentation a document uses: that of its first nested entry, two spaces without one. */
export function indentStep(document: Document): number {
  const match = /(?:^|\n)( +)[^\s#/*]/.exec(document.text)
  return match ? Math.min(match[1]!.length, 8) : 2
}

/** The style of the text scalars beside a place, for a value that has none of its own. */
export function neighbourStyle(container: Container | null): 'plain' | 'single' | 'double' {
  let single = 0
  let double = 0
  let plain = 0
  for (const entry of container?.entries ?? []) {
    const node: Node = entry.value
    if (node.type !== 'scalar' || node.kind !== 'text') continue
    if (node.style === 'single') single++
    else if (node.style === 'double') double++
    else plain++
  }
  if (single > plain && single >= double) return 'single'
  return double > plain ? 'double' : 'plain'
}
