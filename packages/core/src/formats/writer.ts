import type { Edit } from '../text/edits'
import type { Container, Document, Entry, Node, ScalarNode } from '../tree/nodes'
import type { CodeText, NumberText, Value } from '../tree/values'

export type ScalarValue = null | boolean | number | string | NumberText | CodeText

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
  /** Lua, scripts: an assignment of its own, not a field inside brackets. XML: an element, not an attribute. INI: a section. */
  readonly standsAlone?: boolean
}

/** A new entry and the position of the entry it follows in its section; -1 puts it first. */
export interface Insertion {
  readonly after: number
  readonly entry: NewEntry
}

/** What a format knows about writing; everything else about edits is the same for all formats. */
export interface Writer {
  /** The source of a scalar. May hold line ends only if `old` is a block scalar. */
  scalar(place: Place, value: ScalarValue): string
  key(document: Document, container: Container, key: string, old: Entry | null): string
  /** The lines of one entry: `key` is null in a list. */
  entryLines(document: Document, container: Container, key: string | null, value: Value): string[]
  /** A whole value on one line, as inside brackets. */
  inline(document: Document, value: Value): string
  /** Whether a blank must part a name's colon and a value that was left out. */
  readonly blankBeforeValue?: boolean
  /** Whether there is nothing but values to write: no names, no lines of an entry's own. */
  readonly onlyValues?: boolean
  /** Whether the source of a value means the same wherever in such a file it stands. */
  readonly portable?: boolean
  /** Why a value cannot stand in this format or place, in words that follow "it"; null when it can. */
  refuses?(container: Container, value: Value): string | null
  /** Formats whose entries are neither lines nor parted by commas change sections in their own way. */
  splice?(
    document: Document,
    container: Container,
    owner: Entry | null,
    removals: ReadonlySet<number>,
    insertions: readonly Insertion[],
  ): Edit[]
  /** Replaces a value by one of another kind, where that takes more than other text in its place; null where it does not. */
  replace?(document: Document, container: Container, entry: Entry, value: Value): Edit[] | null
  /** Puts the lines of a whole entry in the place of one, for formats in which a value alone cannot change its kind. */
  replaceWith?(document: Document, container: Container, entry: Entry, body: readonly string[]): Edit[]
  /** Prepares a copy of an entry of the same format, where its own lines are not simply its text. */
  copy?(
    source: Document,
    entry: Entry,
    from: Container,
    target: Document,
    to: Container,
    name: string | null,
  ): Pick<NewEntry, 'body' | 'standsAlone'>
  /** The form new entries of this name take, where a section holds several. */
  standsAlone?(container: Container, key: string | null, value: Value): boolean
  /** Whether the source of one entry's value can stand as that of the other. */
  swappable?(at: Entry, from: Entry): boolean
  /** Whether the source of a value on one line means the same outside its own file. */
  readsAnywhere?(source: string): boolean
  rename?(document: Document, container: Container, entry: Entry, name: string): Edit[]
}

/** A section and a list inside brackets, of no document and without entries: what is written for them stands anywhere. */
export const ANY_SECTION: Container = {
  type: 'map',
  flow: true,
  indent: -1,
  entries: [],
  tail: [],
  from: 0,
  to: 0,
  outer: 0,
  anchor: null,
  tag: null,
}
export const ANY_LIST: Container = { ...ANY_SECTION, type: 'list', documents: false }

/** The unit of indentation a document uses: that of its first nested entry, two spaces without one. */
export function indentStep(document: Document): number {
  const match = /(?:^|\n)( +)[^\s#/*-]/.exec(document.text) ?? /(?:^|\n)( +)[^\s#/*]/.exec(document.text)
  return match ? Math.min(match[1]!.length, 8) : 2
}

/** One step of indentation as text: spaces, or a tab where the document indents by tabs. */
export function indentText(document: Document): string {
  return /(?:^|\n)\t/.test(document.text) && !/(?:^|\n) {2}/.test(document.text) ? '\t' : ' '.repeat(indentStep(document))
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
