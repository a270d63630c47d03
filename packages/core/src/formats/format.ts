import type { Edit } from '../text/edits'
import type { Document, Entry, Finding, Node } from '../tree/nodes'
import type { Reading } from './reading'
import type { Writer } from './writer'

/** What is true of every file of a format, for the code that works on all of them. */
export interface Traits {
  /** Whether values have kinds of their own (`typed`), or are texts that only a reader gives a kind. */
  readonly values: 'typed' | 'text'
  /** Whether empty brackets may be a list as well as a section. */
  readonly emptyTable: boolean
  /** Whether a list of one item cannot be told from a single value. */
  readonly singleItem: boolean
  /** Whether entries of a section may change places. */
  readonly reorderable: boolean
  /** Whether sections are nested by brackets or, in blocks, by indentation or headings. */
  readonly brackets: boolean
  /** Whether a comma may stand behind the last value in brackets. */
  readonly trailingComma: boolean
  /** Whether what stands in front of a value in brackets (`vec3(1, 2, 3)`) is part of it, or only says how to read it. */
  readonly tags: 'meaning' | 'hint'
  /** Whether readers refuse a file in which a name stands twice, or take the last. */
  readonly duplicates: 'refused' | 'last-counts'
  /** Whether points in names stand for sections: `shop.clay.buy`. */
  readonly dotted: boolean
}

const USUAL: Traits = {
  values: 'typed',
  emptyTable: false,
  singleItem: false,
  reorderable: true,
  brackets: false,
  trailingComma: true,
  tags: 'hint',
  duplicates: 'last-counts',
  dotted: false,
}

/** How comments are written, and settings switched off by them. */
export interface CommentStyle {
  /** What starts a comment. */
  readonly mark: string
  /** What closes one on its line, where something must. */
  readonly end?: string
  /** What stands in front of a setting that is switched off, with one blank; null where that cannot be told from prose. */
  readonly off: RegExp | null
  /** The name a line gives a value, in the way of the format; null where it gives none. */
  settingIn(line: string): string | null
  /** Edits that put an entry, which ends at `to` with all that belongs to it, into a comment. @throws OperationError */
  switchOff(document: Document, entry: Entry, to: number): Edit[]
}

/** What makes it possible to read a part of a file alone. */
export interface Parts {
  /** `lines`: entries of blocks, with the lines they own; `values`: what stands inside brackets. */
  readonly units: 'lines' | 'values'
  /** What is put in front of a value so that it reads as a file of its own. */
  readonly before: string
  /** Whether assignments to one section may lie apart in the file. */
  readonly scattered: boolean
  /** What reaches beyond the lines it stands on, so that they cannot be read alone. */
  readonly reaches?: RegExp
}

export interface Parsed {
  readonly root: Node
  readonly findings: readonly Finding[]
}

/** A format of settings files. docs/extending.md shows the shortest one. */
export interface Format<Id extends string = string> {
  readonly id: Id
  /** Endings of file names, in small letters, without the point. */
  readonly endings: readonly string[]
  readonly traits: Traits
  /** Null for formats without comments. */
  readonly comments: CommentStyle | null
  /** Reads a text. Bad input gives findings and what could be read; it never throws, and nothing of it is run. */
  readonly parse: (text: string, reading: Reading) => Parsed
  readonly writer: Writer
  readonly parts?: Parts
  /** What an ending says about the reader. */
  readonly readingOf?: (ending: string) => Partial<Reading>
}

type FormatSpec<Id extends string> = Omit<Format<Id>, 'traits'> & { readonly traits?: Partial<Traits> }

/** A format whose traits are the usual ones but for those named. */
export function defineFormat<Id extends string>(spec: FormatSpec<Id>): Format<Id> {
  return { ...spec, traits: { ...USUAL, ...spec.traits } }
}
