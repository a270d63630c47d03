import type { Traits } from '../formats/format'
import type { Reading } from '../formats/reading'
import type { FormatId } from '../formats/registry'

export type { FormatId }

/**
 * The tree all formats are read into. Offsets are UTF-16 units into the text of the document, half-open `[from, to)`.
 * A node's span is that of its value alone; what surrounds it (key, dash, comma, comments) belongs to its entry.
 */
export interface Comment {
  from: number
  to: number
  /** Whether no blank line stands between this comment and the entry below it. */
  attached: boolean
}

export interface Entry {
  /** The name in its section; in a list the position, as text. */
  key: string
  keyFrom: number
  keyTo: number
  value: Node
  /** The whole entry without comments: from key, dash or value to the end of the value. */
  from: number
  to: number
  /** Comments on lines of their own above the entry, and the one behind it on its line. */
  lead: readonly Comment[]
  trail: Comment | null
  /** Offset of the comma behind the entry, -1 where there is none. */
  comma: number
  /** Lua and scripts: an assignment of its own, with the place of each name in `A.b.c`; left out inside brackets. */
  names?: readonly Span[]
}

/** A stretch of text, half-open. */
export interface Span {
  readonly from: number
  readonly to: number
}

interface Placed {
  from: number
  to: number
  /** Where an anchor or a tag in front of the value starts; equal to `from` without one. */
  outer: number
  anchor: string | null
  tag: string | null
}

export interface MapNode extends Placed {
  readonly type: 'map'
  readonly flow: boolean
  /** Column of the entries of a block; -1 inside brackets. */
  indent: number
  entries: Entry[]
  /** Comments after the last entry that still belong to this section. */
  tail: readonly Comment[]
  /** Lua and scripts: what stands in front of the name in assignments to this section, as in `Config.`. INI: that of the root, empty. */
  prefix?: string
}

export interface ListNode extends Placed {
  readonly type: 'list'
  readonly flow: boolean
  indent: number
  entries: Entry[]
  tail: readonly Comment[]
  /** Several documents in one file stand as a list of them. */
  documents: boolean
}

/** `code` is what is neither a value nor made of values: it is shown and kept, never changed or run. */
export type ScalarKind = 'null' | 'bool' | 'number' | 'text' | 'code'
/** `literal` and `folded` are YAML's; `long` stands for Lua's long brackets, JavaScript's backticks and XML's CDATA. */
export type ScalarStyle = 'plain' | 'single' | 'double' | 'literal' | 'folded' | 'long' | 'empty'

export interface ScalarNode extends Placed {
  readonly type: 'scalar'
  kind: ScalarKind
  style: ScalarStyle
  /** The number nearest to what is written; compare numbers with `sameNode`, which looks at the source too. */
  value: null | boolean | number | string
}

export interface AliasNode extends Placed {
  readonly type: 'alias'
  name: string
}

export type Container = MapNode | ListNode
export type Node = Container | ScalarNode | AliasNode

export type Severity = 'error' | 'warning' | 'note'

export interface Finding {
  readonly code: FindingCode
  readonly severity: Severity
  readonly from: number
  readonly to: number
  /** What is wrong, and the next step, in plain words, without the position. */
  readonly message: string
  /** What is alike in all findings that one mistake makes, as a misspelt id; those of one are mended together. */
  readonly cause?: string
  readonly fix?: { readonly label: string; readonly edits: readonly { from: number; to: number; insert: string }[] }
}

export type FindingCode =
  | 'syntax'
  | 'tab-indent'
  | 'bad-indent'
  | 'missing-colon'
  | 'missing-comma'
  | 'extra-comma'
  | 'unclosed-quote'
  | 'unclosed-bracket'
  | 'unclosed-block'
  | 'unclosed-tag'
  | 'wrong-quote'
  | 'missing-equals'
  | 'missing-space'
  | 'swallowed'
  | 'older-reading'
  | 'text-after-value'
  | 'duplicate-key'
  | 'bad-escape'
  | 'unknown-alias'
  | 'too-deep'
  | 'comment-not-allowed'
  | 'control-character'
  | 'kind-changed'
  | 'number-expected'
  | 'unknown-choice'
  | 'out-of-range'
  | 'too-long'
  | 'too-many-items'
  | 'wrong-form'
  | 'is-missing'
  | 'unknown-id'
  | 'unknown-group'
  | 'unknown-entry'
  | 'unknown-command'
  | 'slot-taken'
  | 'slot-outside'
  | 'more-than-slots'
  | 'no-such-file'
  | 'picture-size'
  | 'unknown-node'
  | 'node-of-no-group'
  | 'staff-node-for-all'
  | 'groups-in-a-circle'
  | 'unknown-code'
  | 'unclosed-code'
  | 'unknown-placeholder'
  | 'unclosed-placeholder'
  | 'lost-placeholder'
  | 'translation-missing'
  | 'translation-stale'
  | 'translation-extra'
  | 'translation-placeholder'
  | 'language-not-there'
  | 'money-from-nothing'
  | 'claim-too-cheap'
  | 'reward-over-price'
  | 'odd-amount'
  | 'odd-duration'
  | 'port-twice'
  | 'port-differs'
  | 'unsafe-number'
  | 'odd-id'
  | 'unknown-setting'
  | 'missing-setting'
  | 'without-effect'
  | 'closed-place'
  | 'needs-plugin'
  | 'conflicting-plugin'
  | 'plugin-failed'
  | 'bad-package'
  | 'no-money'
  | 'other-game'
  | 'plugins-off'
  | 'misplaced-package'
  | 'file-of-nobody'
  | 'piece-missing'
  | 'not-registered'
  | 'registered-nobody'
  | 'registered-early'
  | 'not-utf8'

export interface Document {
  readonly format: FormatId
  /** How it was read, and is read again. */
  readonly reading: Reading
  /** What is true of its format. */
  readonly traits: Traits
  readonly text: string
  readonly root: Node
  readonly findings: readonly Finding[]
  /** The file's path, where several are at hand. */
  readonly file?: string
}

export const NO_COMMENTS: readonly Comment[] = []

/** A scalar of no characters: what stands where a value was left out. */
export function emptyScalar(at: number): ScalarNode {
  return { type: 'scalar', from: at, to: at, outer: at, anchor: null, tag: null, kind: 'null', style: 'empty', value: null }
}

/** Whether an entry is a statement without a name: a call, a loop, a branch. Its key is made up from its first line. */
export function isNameless(entry: Entry): boolean {
  return entry.names !== undefined && entry.names.length === 0
}

export function isContainer(node: Node): node is Container {
  return node.type === 'map' || node.type === 'list'
}
