/*
 * A reader of YAML 1.2 as settings files use it, one pass over the text, with the exact place of everything and
 * recovery past errors. Longer than our usual file because the cursor is shared by all productions.
 */
import {
  NO_COMMENTS,
  emptyScalar,
  type Comment,
  type Entry,
  type Finding,
  type FindingCode,
  type ListNode,
  type MapNode,
  type Node,
  type ScalarNode,
  type ScalarStyle,
} from '../../tree/nodes'
import { LineIndex } from '../../text/lines'
import { Seen } from '../seen'
import { Directives } from './directives'
import { doubtAnchor, doubtComment, doubtGlued, doubtPlain } from './doubts'
import { withoutConsequences } from '../recover'
import { yamlRepairs } from './recover'
import { blockValue, foldLines, resolvePlain, unescapeDouble, unescapeSingle } from './scalars'
import type { Parsed } from '../format'
import type { Reading } from '../reading'

const NL = 10,
  CR = 13,
  SPACE = 32,
  TAB = 9,
  HASH = 35,
  DASH = 45,
  COLON = 58,
  QUESTION = 63,
  DOUBLE = 34,
  SINGLE = 39
const OPEN_LIST = 91,
  CLOSE_LIST = 93,
  OPEN_MAP = 123,
  CLOSE_MAP = 125,
  COMMA = 44,
  AMP = 38,
  STAR = 42,
  BANG = 33
const PIPE = 124,
  LESS = 60,
  GREATER = 62,
  PERCENT = 37,
  DOT = 46,
  BOM = 0xfeff
const DEEPEST = 400

interface Props {
  outer: number
  anchor: string | null
  tag: string | null
}
interface Key {
  from: number
  to: number
  colon: number
  text: string
}
interface Pending extends Comment {
  readonly line: number
  readonly column: number
}

/** Reads YAML. Bad input gives findings and what could be read; it never throws. */
export function parseYaml(text: string, reading: Reading): Parsed {
  const { root, findings } = readOnce(text, reading)
  return { root, findings: withoutConsequences(text, findings, (other) => readOnce(other, reading).findings, yamlRepairs) }
}

function readOnce(text: string, reading: Reading): Parsed {
  const parser = new YamlParser(text, reading)
  const root = parser.stream()
  return { root, findings: parser.findings }
}

class YamlParser {
  readonly findings: Finding[] = []
  private pos = 0
  private lineStart = 0
  private line = 1
  private depth = 0
  private pending: Pending[] = []
  private lineIndex: LineIndex | null = null
  /** Handles of tags that the document at hand declares. */
  private handles: ReadonlySet<string> = new Set()
  /** How many brackets are open. */
  private brackets = 0
  private readonly anchors = new Set<string>()
  /** What single values and keys with an anchor say, for aliases that stand as keys. */
  private readonly keysOf = new Map<string, string>()
  /** Anchors in front of single values, which nothing has referred to so far. */
  private readonly unused = new Map<string, { from: number; to: number }>()
  private readonly end: number

  constructor(
    private readonly text: string,
    private readonly reading: Reading,
  ) {
    this.end = text.length
    if (text.charCodeAt(0) === BOM) this.pos = this.lineStart = 1
  }

  /** All documents of the text; a single one stands for itself. */
  stream(): Node {
    const documents: Entry[] = []
    let empty: Entry | null = null
    for (;;) {
      const marked = this.documentStart()
      const from = this.pos
      const node = this.documentBody()
      this.skipTrivia()
      const content = node.type !== 'scalar' || node.style !== 'empty' || node.tag !== null
      // an empty document in front counts when others follow it
      if (!content && marked && documents.length === 0 && !empty) {
        empty = this.newEntry('0', from, from)
        empty.value = node
      } else if (content || (marked && documents.length > 0) || (marked && empty)) {
        if (empty && documents.length === 0) documents.push(empty)
        const entry = this.newEntry(String(documents.length), from, from)
        entry.value = node
        entry.from = node.from
        entry.to = node.to
        documents.push(entry)
      }
      if (this.pos >= this.end) break
      if (!this.atMarker()) {
        // nothing in the grammar starts here: name it once and go on with the next line
        this.report(
          'syntax',
          this.pos,
          this.lineEndAt(this.pos),
          'This line fits nothing around it, so it was left unread. Check its indentation and what precedes it.',
        )
        this.toLineEnd()
      }
    }
    this.doubtAnchors()
    if (documents.length === 1) return this.withTail(documents[0]!.value)
    if (documents.length === 0) return this.withTail(this.emptyRoot())
    const last = documents[documents.length - 1]!
    return {
      type: 'list',
      documents: true,
      flow: false,
      indent: 0,
      entries: documents,
      tail: this.takePending(),
      from: documents[0]!.from,
      to: last.to,
      outer: documents[0]!.from,
      anchor: null,
      tag: null,
    }
  }

  private doubtAnchors(): void {
    for (const [name, { from, to }] of this.unused) {
      const lineTo = this.lineEndAt(from)
      const line = this.text.slice(from, lineTo).trimEnd()
      this.doubt(doubtAnchor(name, from, to, from + line.length, line))
    }
  }

  private doubt(doubt: ReturnType<typeof doubtPlain>): void {
    if (doubt) this.report(doubt.code, doubt.from, doubt.to, doubt.message, doubt.severity, doubt.fix)
  }

  private emptyRoot(): MapNode {
    return {
      type: 'map',
      flow: false,
      indent: 0,
      entries: [],
      tail: NO_COMMENTS,
      from: this.end,
      to: this.end,
      outer: this.end,
      anchor: null,
      tag: null,
    }
  }

  private withTail(node: Node): Node {
    if ((node.type === 'map' || node.type === 'list') && this.pending.length > 0) node.tail = [...node.tail, ...this.takePending()]
    return node
  }

  private documentStart(): boolean {
    const directives = new Directives()
    for (;;) {
      this.skipTrivia()
      if (this.pos === this.lineStart && this.text.charCodeAt(this.pos) === PERCENT) {
        const from = this.pos
        this.toLineEnd()
        const fault = directives.add(this.text.slice(from, this.pos), from)
        if (fault) this.report('syntax', from, this.pos, fault)
      } else if (this.atMarker()) {
        const start = this.text.charCodeAt(this.pos) === DASH
        this.pos += 3
        this.skipInline()
        if (start) {
          this.startDocument(directives)
          return true
        }
        this.endDocument()
        this.lonely(directives)
      } else {
        this.lonely(directives)
        this.handles = directives.handles
        return false
      }
    }
  }

  /** Behind `---`: a value may start on its line, but neither a section nor a list. */
  private startDocument(directives: Directives): void {
    this.handles = directives.handles
    const code = this.text.charCodeAt(this.pos)
    if (isBreak(code) || code === HASH) return this.skipTrivia()
    if (this.keyAhead() || this.atDash())
      this.report(
        'bad-indent',
        this.pos,
        this.lineEndAt(this.pos),
        'Behind “---” neither a setting nor a list item may start on the same line. Start it on the next one.',
      )
  }

  /** Behind `...` only a comment may stand. */
  private endDocument(): void {
    const code = this.text.charCodeAt(this.pos)
    if (isBreak(code) || code === HASH) return
    this.report(
      'text-after-value',
      this.pos,
      this.lineEndAt(this.pos),
      'Behind “...”, which ends a document, only a comment may stand. Start the text on a new line.',
    )
    this.toLineEnd()
  }

  private lonely({ first }: Directives): void {
    if (first >= 0)
      this.report(
        'syntax',
        first,
        this.lineEndAt(first),
        'A line that starts with “%” tells how to read the document behind “---”, but none follows. Add “---” below it, or take it away.',
      )
  }

  private documentBody(): Node {
    if (this.pos >= this.end || this.atMarker()) return emptyScalar(this.pos)
    const holder = this.newEntry('', this.pos, this.pos)
    let props = this.properties()
    for (let more = props; more && this.atLineRest();) {
      this.skipTrivia()
      const outer = this.pos
      more = this.keyAhead() ? null : this.properties()
      props = this.both(props, more, outer)
    }
    if (this.pos >= this.end || this.atMarker()) return applyProps(emptyScalar(this.pos), props)
    if (props && this.lineHasContentBefore() && this.atDash())
      this.report(
        'syntax',
        props.outer,
        this.pos,
        'An anchor or a tag cannot stand in front of a list item on its line. Put it on the line above.',
      )
    const onKey = props !== null && this.lineHasContentBefore() && this.keyAhead() !== null
    // an anchor before the first key of the file belongs to that key, not to the whole
    if (onKey) this.pos = props!.outer
    const node = this.startsBroken() ? this.blockMap(this.column(), null) : this.block(this.column(), -1, onKey ? null : props)
    this.finishLine(node, holder)
    return node
  }

  /** A file of settings whose first line lacks its colon is still a file of settings: the next line tells. */
  private startsBroken(): boolean {
    if (this.atDash() || this.atExplicitKey() || this.keyAhead() || /["'[{|>&*!]/.test(this.text[this.pos]!)) return false
    const save = { pos: this.pos, lineStart: this.lineStart, line: this.line, pending: this.pending, findings: this.findings.length }
    const column = this.column()
    this.toLineEnd()
    this.pending = []
    this.skipTrivia()
    const broken = !this.stop() && this.column() === column && this.keyAhead() !== null
    this.findings.length = save.findings
    this.pos = save.pos
    this.lineStart = save.lineStart
    this.line = save.line
    this.pending = save.pending
    return broken
  }

  // ---- cursor -------------------------------------------------------------------------------------------------

  private column(): number {
    return this.pos - this.lineStart
  }

  private newLine(): void {
    if (this.text.charCodeAt(this.pos) === CR && this.text.charCodeAt(this.pos + 1) === NL) this.pos++
    this.pos++
    this.lineStart = this.pos
    this.line++
  }

  /** Goes to the next token; comments on the way wait for the entry they stand above. */
  private skipTrivia(): void {
    const text = this.text
    let tab = -1
    for (;;) {
      const code = text.charCodeAt(this.pos)
      if (code === SPACE) this.pos++
      else if (code === NL || code === CR) {
        this.newLine()
        tab = -1
      } else if (code === TAB) {
        if (tab < 0) tab = this.pos
        this.pos++
      } else if (code === HASH && (this.pos === this.lineStart || isBlank(text.charCodeAt(this.pos - 1)) || this.pos === 0)) {
        const from = this.pos
        this.pos = this.lineEndAt(from)
        this.pending.push({ from, to: this.pos, attached: false, line: this.line, column: from - this.lineStart })
        tab = -1
      } else break
    }
    if (tab >= 0 && this.pos < this.end && this.isFirst(tab) && !this.isTabSeparation(tab))
      this.report('tab-indent', tab, tab + 1, 'A tab stands in the indentation, which YAML does not allow. Use spaces.', 'error', {
        label: 'Replace by two spaces',
        edits: [{ from: tab, to: tab + 1, insert: '  ' }],
      })
  }

  /** Behind enough spaces a tab may stand in front of brackets, of what is in them, and of a text: it indents nothing then. */
  private isTabSeparation(tab: number): boolean {
    const code = this.text.charCodeAt(this.pos)
    const spaces = tab - this.lineStart
    if (this.depth > this.brackets && spaces === 0) return false
    if (this.brackets > 0) return true
    return (
      !this.atDash() &&
      !this.atExplicitKey() &&
      code !== COLON &&
      (code === OPEN_LIST || code === OPEN_MAP || code === CLOSE_LIST || code === CLOSE_MAP || !this.keyAhead())
    )
  }

  private skipInline(): void {
    for (;;) {
      const code = this.text.charCodeAt(this.pos)
      if (code !== SPACE && code !== TAB) return
      this.pos++
    }
  }

  private lineEndAt(from: number): number {
    let at = from
    while (at < this.end) {
      const code = this.text.charCodeAt(at)
      if (code === NL || code === CR) break
      at++
    }
    return at
  }

  private toLineEnd(): void {
    this.pos = this.lineEndAt(this.pos)
  }

  private atMarker(): boolean {
    return this.pos === this.lineStart && this.isMarkerAt(this.pos)
  }

  /** Whether `---` or `...` stands at the start of a line. */
  private isMarkerAt(at: number): boolean {
    const code = this.text.charCodeAt(at)
    if (code !== DASH && code !== DOT) return false
    if (this.text.charCodeAt(at + 1) !== code || this.text.charCodeAt(at + 2) !== code) return false
    return isSpaceOrBreak(this.text.charCodeAt(at + 3))
  }

  private stop(): boolean {
    return this.pos >= this.end || this.atMarker()
  }

  private atDash(): boolean {
    return this.text.charCodeAt(this.pos) === DASH && isSpaceOrBreak(this.text.charCodeAt(this.pos + 1))
  }

  private report(
    code: FindingCode,
    from: number,
    to: number,
    message: string,
    severity: Finding['severity'] = 'error',
    fix?: Finding['fix'],
  ): void {
    if (this.findings.length < 500)
      this.findings.push(fix ? { code, severity, from, to, message, fix } : { code, severity, from, to, message })
  }

  /** The number of the line an offset is on; the index over all lines is made when it is first asked for. */
  private lineOf(offset: number): number {
    this.lineIndex ??= new LineIndex(this.text)
    return this.lineIndex.position(offset).line
  }

  // ---- comments -----------------------------------------------------------------------------------------------

  private takePending(): readonly Comment[] {
    if (this.pending.length === 0) return NO_COMMENTS
    const taken = this.pending
    this.pending = []
    return taken
  }

  /** The waiting comments for an entry on the current line; those right above it are marked as attached. */
  private takeLead(): readonly Comment[] {
    if (this.pending.length === 0) return NO_COMMENTS
    const taken = this.pending
    this.pending = []
    let line = this.line
    for (let i = taken.length - 1; i >= 0 && taken[i]!.line === line - 1; i--) {
      taken[i]!.attached = true
      line--
    }
    return taken
  }

  /** When a block ends before a line of less indentation, comments still indented like the block belong to it. */
  private takeTail(indent: number): readonly Comment[] {
    if (this.pending.length === 0) return NO_COMMENTS
    const column = this.stop() ? -1 : this.column()
    let count = 0
    while (count < this.pending.length && this.pending[count]!.column >= indent && indent > column) count++
    if (count === 0 || (indent === 0 && column < 0)) return count === 0 ? NO_COMMENTS : this.takePending()
    return this.pending.splice(0, count)
  }

  private trailComment(): Comment | null {
    const before = this.text.charCodeAt(this.pos - 1)
    if (this.text.charCodeAt(this.pos) !== HASH || !(before === SPACE || before === TAB || this.pos === this.lineStart)) return null
    const from = this.pos
    this.toLineEnd()
    return { from, to: this.pos, attached: true }
  }

  /** After a value that ends within a line: its comment, and nothing else, may follow. */
  private finishLine(node: Node, entry: Entry): void {
    if ((node.type === 'map' || node.type === 'list') && !node.flow) return
    if (node.type === 'scalar' && (node.style === 'literal' || node.style === 'folded' || node.style === 'empty')) return
    // brackets left open end before a line that is not theirs
    if (
      node.type !== 'scalar' &&
      node.from < this.lineStart &&
      this.isFirst(this.pos) &&
      node.to <= this.pos &&
      this.text.charCodeAt(this.pos - 1) !== CLOSE_LIST &&
      this.text.charCodeAt(this.pos - 1) !== CLOSE_MAP
    )
      return
    this.skipInline()
    const code = this.text.charCodeAt(this.pos)
    if (this.pos >= this.end || code === NL || code === CR) return
    const trail = this.trailComment()
    if (trail) {
      entry.trail = trail
      return
    }
    const from = this.pos
    this.toLineEnd()
    this.report(
      'text-after-value',
      from,
      this.pos,
      'After the value the line should end, but more text follows. Put the whole value in quotes, or start a new line.',
    )
  }

  // ---- blocks -------------------------------------------------------------------------------------------------

  private newEntry(key: string, keyFrom: number, keyTo: number): Entry {
    return { key, keyFrom, keyTo, value: emptyScalar(keyTo), from: keyFrom, to: keyTo, lead: NO_COMMENTS, trail: null, comma: -1 }
  }

  /** A node that starts at the current token, alone on its line at `column`. */
  private block(column: number, parentIndent: number, props: Props | null): Node {
    if (this.depth > DEEPEST) return this.tooDeep()
    if (this.atDash()) return this.blockList(column, props)
    if (this.atExplicitKey() || this.keyAhead()) return this.blockMap(column, props)
    return this.inline(parentIndent, false, props)
  }

  private tooDeep(): Node {
    this.report('too-deep', this.pos, this.pos + 1, `Sections are nested more than ${DEEPEST} deep here; the rest was not read.`)
    const node = emptyScalar(this.pos)
    this.pos = this.end
    return node
  }

  private atExplicitKey(): boolean {
    return this.text.charCodeAt(this.pos) === QUESTION && isSpaceOrBreak(this.text.charCodeAt(this.pos + 1))
  }

  private blockMap(indent: number, props: Props | null): MapNode {
    this.depth++
    const from = this.pos
    const entries: Entry[] = []
    const seen = new Seen(entries)
    let to = from
    let misplaced = false
    for (;;) {
      const entry = this.mapEntry(indent)
      if (entry) {
        this.checkDuplicate(seen, entry)
        entries.push(entry)
        to = entry.to
      }
      this.skipTrivia()
      if (this.stop()) break
      const column = this.column()
      if (column < indent) break
      if (column > indent && !misplaced) {
        misplaced = true
        this.report(
          'bad-indent',
          this.pos,
          this.lineEndAt(this.pos),
          `This line starts at column ${column + 1}, but its neighbours start at column ${indent + 1}. Give it the same indentation.`,
          'error',
          { label: `Indent by ${indent} spaces`, edits: [{ from: this.lineStart, to: this.pos, insert: ' '.repeat(indent) }] },
        )
      } else if (column === indent) misplaced = false
    }
    this.depth--
    if (props?.anchor) this.unused.delete(props.anchor)
    const tail = this.takeTail(indent)
    return {
      type: 'map',
      flow: false,
      indent,
      entries,
      tail,
      from,
      to,
      outer: props?.outer ?? from,
      anchor: props?.anchor ?? null,
      tag: props?.tag ?? null,
    }
  }

  private checkDuplicate(seen: Seen, entry: Entry): void {
    const first = seen.before(entry)
    if (first && entry.key !== '<<' && entry.key !== '') {
      const line = this.lineOf(first.keyFrom)
      this.report(
        'duplicate-key',
        entry.keyFrom,
        entry.keyTo,
        `“${entry.key}” stands twice in this section, first on line ${line}. Only one of them counts; remove the other.`,
      )
    }
  }

  private mapEntry(indent: number): Entry | null {
    const lead = this.takeLead()
    if (this.atExplicitKey()) return this.explicitEntry(indent, lead)
    const key = this.keyAhead()
    if (!key) {
      this.pending = [...lead] as Pending[]
      this.badMapLine()
      return null
    }
    const entry = this.newEntry(key.text, key.from, key.to)
    entry.lead = lead
    entry.from = this.pos
    if (key.from > this.pos) {
      for (const [, name] of this.text.slice(this.pos, key.from).matchAll(/&([^\s]+)/g)) {
        this.anchors.add(name!)
        this.keysOf.set(name!, key.text)
        this.unused.delete(name!)
        if (this.text.charCodeAt(key.from) === STAR)
          this.report('syntax', this.pos, key.to, 'An alias cannot have an anchor of its own. Take the anchor away.')
      }
    }
    if (this.text.charCodeAt(key.from) === STAR) this.useAlias(key.from, key.to)
    this.pos = key.colon + 1
    entry.value = this.value(indent, true, false, entry)
    entry.to = Math.max(key.colon + 1, entry.value.to)
    return entry
  }

  private badMapLine(): void {
    const to = this.lineEndAt(this.pos)
    const line = this.text.slice(this.pos, to)
    if (this.atDash())
      this.report(
        'bad-indent',
        this.pos,
        to,
        'A list item stands among the settings of a section. Indent it under the setting it belongs to.',
      )
    else {
      const name = /^[^\s:#]+(?= |$)/.exec(line)?.[0]
      const glued = /^([^\s:#]+):(\S.*)$/.exec(line)
      if (glued)
        this.report(
          'missing-colon',
          this.pos,
          to,
          `After “${glued[1]}:” a space is missing, so the line is not read as a setting.`,
          'error',
          {
            label: 'Insert the space',
            edits: [{ from: this.pos + glued[1]!.length + 1, to: this.pos + glued[1]!.length + 1, insert: ' ' }],
          },
        )
      else
        this.report(
          'missing-colon',
          this.pos,
          to,
          `This line has no colon after its name${name ? ` “${name}”` : ''}. Write it as name: value.`,
          'error',
          name && line.includes(' ')
            ? { label: `Insert a colon after ${name}`, edits: [{ from: this.pos + name.length, to: this.pos + name.length, insert: ':' }] }
            : undefined,
        )
    }
    this.pos = to
  }

  private explicitEntry(indent: number, lead: readonly Comment[]): Entry {
    const from = this.pos
    const entry = this.newEntry('', from, from)
    entry.lead = lead
    this.pos++
    const key = this.value(indent, true, true, entry)
    entry.key = key.type === 'scalar' ? String(key.value ?? '') : this.text.slice(key.from, key.to)
    entry.keyFrom = key.from
    entry.keyTo = entry.to = key.to
    entry.from = from
    this.skipTrivia()
    if (!this.stop() && this.column() === indent && this.text.charCodeAt(this.pos) === COLON) {
      this.pos++
      entry.value = this.value(indent, true, true, entry)
      entry.to = Math.max(this.pos, entry.value.to)
    } else entry.value = emptyScalar(key.to)
    return entry
  }

  private blockList(indent: number, props: Props | null): ListNode {
    this.depth++
    const from = this.pos
    const entries: Entry[] = []
    let to = from
    for (;;) {
      const entry = this.newEntry(String(entries.length), this.pos, this.pos)
      entry.lead = this.takeLead()
      this.pos++
      entry.value = this.value(indent, false, true, entry)
      entry.to = Math.max(entry.from + 1, entry.value.to)
      entries.push(entry)
      to = entry.to
      this.skipTrivia()
      if (this.stop() || this.column() < indent) break
      if (this.column() === indent && this.atDash()) continue
      if (this.column() === indent) break
      if (!this.atDash()) {
        this.report(
          'bad-indent',
          this.pos,
          this.lineEndAt(this.pos),
          `This line is indented under the list item on line ${this.lineOf(entry.from)}, but that item has its value already. Start it with a dash, or mend its indentation.`,
        )
        this.toLineEnd()
        this.skipTrivia()
        if (this.stop() || this.column() < indent || !this.atDash()) break
      } else {
        this.report(
          'bad-indent',
          this.pos,
          this.pos + 1,
          `This item starts at column ${this.column() + 1}, the list at column ${indent + 1}. Give all items the same indentation.`,
          'error',
          { label: `Indent by ${indent} spaces`, edits: [{ from: this.lineStart, to: this.pos, insert: ' '.repeat(indent) }] },
        )
      }
    }
    this.depth--
    if (props?.anchor) this.unused.delete(props.anchor)
    this.doubtItems(entries)
    const tail = this.takeTail(indent)
    return {
      type: 'list',
      documents: false,
      flow: false,
      indent,
      entries,
      tail,
      from,
      to,
      outer: props?.outer ?? from,
      anchor: props?.anchor ?? null,
      tag: props?.tag ?? null,
    }
  }

  /** Among items that are sections, a text such as `name:value` lacks its space. */
  private doubtItems(entries: readonly Entry[]): void {
    if (!entries.some((entry) => entry.value.type === 'map')) return
    for (const { value } of entries)
      if (value.type === 'scalar' && value.style === 'plain') this.doubt(doubtGlued(this.text.slice(value.from, value.to), value.from))
  }

  /**
   * The value behind a colon or a dash. `parentIndent` is the column of the entries of the section or list it is in;
   * a list may stand at the column of its own key (`sameColumn`), and behind a dash a block may start at once (`compact`).
   */
  private value(parentIndent: number, sameColumn: boolean, compact: boolean, entry: Entry): Node {
    const behind = this.pos
    this.skipInline()
    if (compact && this.text.slice(behind, this.pos).includes('\t') && (this.atDash() || this.atExplicitKey() || this.keyAhead()))
      this.report(
        'tab-indent',
        behind,
        this.pos,
        'A tab stands where the indentation of what follows begins, which YAML does not allow. Use a space.',
        'error',
        { label: 'Replace by a space', edits: [{ from: behind, to: this.pos, insert: ' ' }] },
      )
    const props = this.properties()
    const code = this.text.charCodeAt(this.pos)
    const at = props ? this.pos : behind
    if (this.pos >= this.end || code === NL || code === CR || code === HASH) {
      const trail = this.trailComment()
      if (trail) {
        entry.trail = trail
        const value = this.valueBelow(parentIndent, sameColumn, at, props, entry)
        if (value.type === 'scalar' && value.style === 'empty') this.doubt(doubtComment(this.text.slice(trail.from, trail.to), trail.from))
        return value
      }
      if (code === HASH) return this.finished(this.inline(parentIndent, false, props), entry)
      return this.valueBelow(parentIndent, sameColumn, at, props, entry)
    }
    const node = this.inline(parentIndent, compact, props)
    return this.finished(node, entry)
  }

  private finished(node: Node, entry: Entry): Node {
    this.finishLine(node, entry)
    return node
  }

  private valueBelow(parentIndent: number, sameColumn: boolean, at: number, props: Props | null, entry: Entry): Node {
    this.skipTrivia()
    if (!this.stop()) {
      const column = this.column()
      if (column > parentIndent || (sameColumn && column === parentIndent && this.atDash())) {
        const own = this.properties()
        if (own && this.lineHasContentBefore() && this.atDash())
          this.report(
            'syntax',
            own.outer,
            this.pos,
            'An anchor or a tag cannot stand in front of a list item on its line. Put it on the line above.',
          )
        const key_ = own && this.lineHasContentBefore() ? this.keyAhead() : null
        const both = key_ ? props : this.both(props, own, own?.outer ?? this.pos)
        if (own && this.atLineRest()) this.skipTrivia()
        if (!own || !this.stop()) {
          const key = key_
          if (key) {
            // the anchor stands before the first key of the section, so it belongs to that key, not to the section
            this.pos = own!.outer
            return this.blockMap(column, props)
          }
          return this.finished(this.block(this.column(), parentIndent, both), entry)
        }
      }
    }
    return this.propped(emptyScalar(at), props)
  }

  private lineHasContentBefore(): boolean {
    return !this.isFirst(this.pos)
  }

  /** Whether only blanks stand before an offset on its line; looks back no further than it must. */
  private isFirst(offset: number): boolean {
    let at = offset
    while (at > this.lineStart && isBlank(this.text.charCodeAt(at - 1))) at--
    return at === this.lineStart
  }

  /** Whether nothing but a comment is left on the line. */
  private atLineRest(): boolean {
    const code = this.text.charCodeAt(this.pos)
    return this.pos < this.end && (isBreak(code) || code === HASH)
  }

  /** Anchor and tag of two lines together; a value has one of each at most. */
  private both(outer: Props | null, inner: Props | null, at: number): Props | null {
    if (!outer || !inner) return outer ?? inner
    if ((outer.anchor && inner.anchor) || (outer.tag && inner.tag))
      this.report('syntax', at, this.pos, 'A value can have one anchor and one tag only. Take one of the two away.')
    return { outer: outer.outer, anchor: inner.anchor ?? outer.anchor, tag: inner.tag ?? outer.tag }
  }

  /** Anchor and tag in front of a value, in either order. */
  private properties(): Props | null {
    let props: Props | null = null
    for (;;) {
      const code = this.text.charCodeAt(this.pos)
      if (code !== AMP && code !== BANG) return props
      const from = this.pos
      const at = this.propertyEnd(from)
      props ??= { outer: from, anchor: null, tag: null }
      if (code === AMP ? props.anchor !== null : props.tag !== null)
        this.report('syntax', from, at, 'A value can have one anchor and one tag only. Take one of the two away.')
      this.checkProperty(code, from, at)
      if (code === AMP) {
        props.anchor = this.text.slice(from + 1, at)
        this.anchors.add(props.anchor)
        this.unused.set(props.anchor, { from, to: at })
      } else props.tag = this.text.slice(from, at)
      this.pos = at
      this.skipInline()
    }
  }

  /** Where an anchor or a tag ends; a tag in angle brackets may hold anything up to the closing one. */
  private propertyEnd(from: number): number {
    const text = this.text
    if (text.charCodeAt(from) === BANG && text.charCodeAt(from + 1) === LESS) {
      const close = text.indexOf('>', from)
      if (close > 0 && close < this.lineEndAt(from)) return close + 1
    }
    let at = from + 1
    while (at < this.end && !isSpaceOrBreak(text.charCodeAt(at)) && !isFlowEnd(text.charCodeAt(at))) at++
    return at
  }

  private checkProperty(code: number, from: number, to: number): void {
    const next = this.text.charCodeAt(to)
    if (!isSpaceOrBreak(next) && !(this.brackets > 0 && isFlowEnd(next)))
      this.report(
        'syntax',
        from,
        to + 1,
        `“${String.fromCharCode(next)}” cannot stand in ${code === AMP ? 'an anchor' : 'a tag'}. Put a blank behind it, or put the whole text in quotes.`,
      )
    const handle = code === BANG ? /^![\w-]+!/.exec(this.text.slice(from, to))?.[0] : undefined
    if (handle && !this.handles.has(handle))
      this.report(
        'syntax',
        from,
        to,
        `The tag “${handle}…” is not declared for this document. Declare it by a %TAG line above “---”, or take it away.`,
      )
  }

  /** A value that starts on the current line. */
  private inline(parentIndent: number, compact: boolean, props: Props | null): Node {
    const code = this.text.charCodeAt(this.pos)
    if (compact && this.depth <= DEEPEST) {
      if (this.atDash()) return this.blockList(this.column(), props)
      if (this.atExplicitKey() || this.keyAhead()) {
        if (!props) return this.blockMap(this.column(), null)
        this.pos = props.outer
        return this.blockMap(this.column(), null)
      }
    } else if (compact) return this.tooDeep()
    let node: Node
    if (code === PIPE || code === GREATER) node = this.blockScalar(parentIndent)
    else if (code === OPEN_LIST || code === OPEN_MAP) {
      if (props?.anchor) this.unused.delete(props.anchor)
      node = this.flow(parentIndent)
    } else if (code === DOUBLE || code === SINGLE) node = this.quoted(false, parentIndent)
    else if (code === STAR) node = this.alias()
    else node = this.plain(parentIndent, false)
    return this.propped(node, props)
  }

  // ---- keys ---------------------------------------------------------------------------------------------------

  /** The key the current line starts with, if it is one: looks ahead, does not move. */
  private keyAhead(): Key | null {
    const text = this.text
    let at = this.pos
    let code = text.charCodeAt(at)
    while (code === AMP || code === BANG) {
      at = this.propertyEnd(at)
      while (isBlank(text.charCodeAt(at))) at++
      code = text.charCodeAt(at)
    }
    if (code === DOUBLE || code === SINGLE) return this.quotedKey(at, code)
    if (code === STAR) return this.aliasKey(at)
    if (code === OPEN_LIST || code === OPEN_MAP) return this.bracketKey(at)
    if (code === HASH || code === PIPE || code === GREATER || code === COMMA || code === CLOSE_LIST || code === CLOSE_MAP) return null
    const from = at
    for (; at < this.end; at++) {
      code = text.charCodeAt(at)
      if (code === NL || code === CR) return null
      if (code === HASH && isBlank(text.charCodeAt(at - 1))) return null
      if (code === COLON && isSpaceOrBreak(text.charCodeAt(at + 1))) {
        let to = at
        while (to > from && isBlank(text.charCodeAt(to - 1))) to--
        return { from, to, colon: at, text: text.slice(from, to) }
      }
    }
    return null
  }

  /** An alias as a key: its name goes on to the next blank, colons and all. */
  private aliasKey(from: number): Key | null {
    const text = this.text
    let to = from + 1
    while (to < this.end && !isSpaceOrBreak(text.charCodeAt(to)) && !isFlowEnd(text.charCodeAt(to))) to++
    let colon = to
    while (isBlank(text.charCodeAt(colon))) colon++
    if (text.charCodeAt(colon) !== COLON || !isSpaceOrBreak(text.charCodeAt(colon + 1)) || colon === to) return null
    return { from, to, colon, text: this.keysOf.get(text.slice(from + 1, to)) ?? text.slice(from, to) }
  }

  /** A list or section in brackets as a key: on one line, and not longer than keys may be (chapter 7.4.2). */
  private bracketKey(from: number): Key | null {
    const text = this.text
    let depth = 0
    for (let at = from; at < this.end && at - from < 1024; at++) {
      const code = text.charCodeAt(at)
      if (code === NL || code === CR) return null
      if (code === OPEN_LIST || code === OPEN_MAP) depth++
      else if ((code === DOUBLE || code === SINGLE) && (isFlowEnd(text.charCodeAt(at - 1)) || isBlank(text.charCodeAt(at - 1)))) {
        const close = text.indexOf(String.fromCharCode(code), at + 1)
        if (close < 0) return null
        at = close
      } else if ((code === CLOSE_LIST || code === CLOSE_MAP) && --depth === 0) {
        let colon = at + 1
        while (isBlank(text.charCodeAt(colon))) colon++
        if (text.charCodeAt(colon) !== COLON || !isSpaceOrBreak(text.charCodeAt(colon + 1))) return null
        return { from, to: at + 1, colon, text: text.slice(from, at + 1) }
      }
    }
    return null
  }

  private quotedKey(from: number, quote: number): Key | null {
    const text = this.text
    let at = from + 1
    for (; ; at++) {
      const code = text.charCodeAt(at)
      if (at >= this.end || code === NL || code === CR) return null
      if (quote === DOUBLE && code === 92) at++
      else if (code === quote) {
        if (quote === SINGLE && text.charCodeAt(at + 1) === SINGLE) at++
        else break
      }
    }
    const to = at + 1
    let colon = to
    while (isBlank(text.charCodeAt(colon))) colon++
    if (text.charCodeAt(colon) !== COLON || !isSpaceOrBreak(text.charCodeAt(colon + 1))) return null
    const source = text.slice(from + 1, at)
    return { from, to, colon, text: quote === DOUBLE ? unescapeDouble(source).value : unescapeSingle(source) }
  }

  // ---- scalars ------------------------------------------------------------------------------------------------

  private scalar(from: number, to: number, style: ScalarStyle, value: string): ScalarNode {
    return { type: 'scalar', from, to, outer: from, anchor: null, tag: null, kind: 'text', style, value }
  }

  private alias(): Node {
    const from = this.pos
    this.pos++
    while (this.pos < this.end && !isSpaceOrBreak(this.text.charCodeAt(this.pos)) && !isFlowEnd(this.text.charCodeAt(this.pos))) this.pos++
    const name = this.useAlias(from, this.pos)
    return { type: 'alias', name, from, to: this.pos, outer: from, anchor: null, tag: null }
  }

  private useAlias(from: number, to: number): string {
    const name = this.text.slice(from + 1, to)
    this.unused.delete(name)
    if (!this.anchors.has(name))
      this.report(
        'unknown-alias',
        from,
        to,
        `“*${name}” refers to “&${name}”, which does not stand above it. Add the anchor, or put quotes around it if it is meant as text.`,
      )
    return name
  }

  /** A value with its anchor and tag; an alias has none of its own. */
  private propped(node: Node, props: Props | null): Node {
    if (props && node.type === 'alias')
      this.report('syntax', props.outer, node.to, 'An alias cannot have an anchor or a tag of its own. Take it away.')
    const done = applyProps(node, props)
    if (props?.anchor && done.type === 'scalar') this.keysOf.set(props.anchor, String(done.value ?? ''))
    return done
  }

  private plain(parentIndent: number, inFlow: boolean, asKey = false): ScalarNode {
    this.checkPlainStart(inFlow)
    const from = this.pos
    let to = this.plainLine(inFlow)
    let lines: string[] | null = null
    while (this.continues(parentIndent, inFlow, asKey)) {
      lines ??= [this.text.slice(from, to)]
      const breaks = this.skipBreaks()
      for (let i = 1; i < breaks; i++) lines.push('')
      const start = this.pos
      to = this.plainLine(inFlow)
      lines.push(this.text.slice(start, to))
    }
    if (lines) {
      this.doubtLines(from, lines, inFlow)
      if (!inFlow) this.checkNested(from, lines)
      return this.scalar(from, to, 'plain', foldLines(lines))
    }
    const source = this.text.slice(from, to)
    if (!inFlow) this.checkNested(from, [source])
    const resolved = resolvePlain(source, this.reading.yaml)
    // most values start with a letter and are neither switches nor glued to anything
    this.doubt(doubtPlain(source, from, !inFlow && this.isAlone(from), this.reading.yaml))
    return { type: 'scalar', from, to, outer: from, anchor: null, tag: null, kind: resolved.kind, style: 'plain', value: resolved.value }
  }

  /** A text without quotes cannot start with what means something else in YAML (chapter 7.3.3). */
  private checkPlainStart(inFlow: boolean): void {
    const code = this.text.charCodeAt(this.pos)
    const next = this.text.charCodeAt(this.pos + 1)
    const indicator = code === DASH || code === QUESTION || code === COLON
    if (indicator && !inFlow && isSpaceOrBreak(next)) {
      this.report(
        'bad-indent',
        this.pos,
        this.pos + 1,
        `“${String.fromCharCode(code)}” starts ${code === DASH ? 'a list item' : 'a setting'}, which cannot stand on the line of its name. Start a new line.`,
      )
      return
    }
    const alone = inFlow && (code === DASH || code === QUESTION) && isFlowEnd(next)
    if (code !== COMMA && code !== CLOSE_LIST && code !== CLOSE_MAP && code !== HASH && !alone) return
    this.report(
      'syntax',
      this.pos,
      this.pos + 1,
      `A text cannot start with “${String.fromCharCode(code)}” here. Put it in quotes, or take it away.`,
    )
  }

  /** `a: b: c`: what looks like a setting inside a text is refused by readers. */
  private checkNested(from: number, lines: readonly string[]): void {
    let at = from
    for (const line of lines) {
      at = this.text.indexOf(line, at)
      const inner = /:(?=\s|$)/.exec(line)
      if (inner)
        return this.report(
          'text-after-value',
          at + inner.index,
          at + inner.index + 1,
          'A colon with a blank behind it starts a setting, and none may start inside a value. Put the whole value in quotes.',
          'error',
          {
            label: 'Put it in quotes',
            edits: [{ from: at, to: at + line.length, insert: `'${line.replaceAll("'", "''")}'` }],
          },
        )
      at += line.length
    }
  }

  /** Whether a value stands on a line of its own, below its name. */
  private isAlone(from: number): boolean {
    return from > this.lineStart ? this.isFirst(from) : from === this.lineStart
  }

  /** A text over several lines in which a line looks like a setting or an item of its own. */
  private doubtLines(from: number, lines: readonly string[], inFlow: boolean): void {
    // where other lines of the text hold such words, too, it is made of them
    if (inFlow || lines.filter((line) => /\w:[^\s/:]/.test(line)).length > 1) return
    let at = from
    for (const line of lines) {
      at = this.text.indexOf(line, at)
      const doubt = line === '' || (line === lines[0] && !this.startsLineAt(from)) ? null : doubtGlued(line, at)
      if (doubt) return this.doubt(doubt)
      at += line.length
    }
  }

  private startsLineAt(offset: number): boolean {
    let at = offset
    while (at > 0 && isBlank(this.text.charCodeAt(at - 1))) at--
    return at === 0 || this.text.charCodeAt(at - 1) === NL || this.text.charCodeAt(at - 1) === CR
  }

  /** Reads plain text to where it ends on this line; leaves the cursor there and gives the end without trailing blanks. */
  private plainLine(inFlow: boolean): number {
    const text = this.text
    let at = this.pos
    let to = at
    for (; at < this.end; at++) {
      const code = text.charCodeAt(at)
      if (code === SPACE || code === TAB) continue
      if (code === NL || code === CR) break
      if (code === HASH && at > this.pos && isBlank(text.charCodeAt(at - 1))) break
      if (inFlow) {
        if (isFlowEnd(code)) break
        if (code === COLON) {
          const next = text.charCodeAt(at + 1)
          if (isSpaceOrBreak(next) || isFlowEnd(next)) break
        }
      }
      to = at + 1
    }
    if (to === this.pos && at < this.end && !isBreak(text.charCodeAt(at)) && !inFlow) to = at = at + 1
    this.pos = to
    return to
  }

  /** Whether the text after a plain line goes on with it: looks ahead, does not move. */
  private continues(parentIndent: number, inFlow: boolean, asKey: boolean): boolean {
    const save = { pos: this.pos, lineStart: this.lineStart, line: this.line }
    let result = false
    this.skipInline()
    if (isBreak(this.text.charCodeAt(this.pos)) && this.pos < this.end) {
      this.skipBreaks()
      const code = this.text.charCodeAt(this.pos)
      result = this.pos < this.end && code !== HASH && !this.atMarker()
      if (result && inFlow)
        result =
          !isFlowEnd(code) &&
          !(code === COLON && !asKey && isSpaceOrBreak(this.text.charCodeAt(this.pos + 1))) &&
          code !== COLON &&
          (asKey || !this.keyAheadInFlow())
      else if (result) result = this.column() > parentIndent && !this.keyAhead()
    }
    this.pos = save.pos
    this.lineStart = save.lineStart
    this.line = save.line
    return result
  }

  private keyAheadInFlow(): boolean {
    const key = this.keyAhead()
    return key !== null && !/[,\[\]{}]/.test(key.text) && key.from === this.pos
  }

  /** Passes line ends and indentation; gives the number of line ends. */
  private skipBreaks(): number {
    let breaks = 0
    for (;;) {
      this.skipInline()
      if (this.pos >= this.end || !isBreak(this.text.charCodeAt(this.pos))) return breaks
      this.newLine()
      breaks++
    }
  }

  private quoted(inFlow: boolean, parentIndent: number): ScalarNode {
    const from = this.pos
    const quote = this.text.charCodeAt(from)
    const save = { lineStart: this.lineStart, line: this.line }
    const close = this.findClose(quote, parentIndent)
    if (close < 0 || (this.lineStart > from && !this.plausibleAfter(close + 1, inFlow))) {
      this.lineStart = save.lineStart
      this.line = save.line
      this.pos = this.lineEndAt(from)
      this.report('unclosed-quote', from, this.pos, `The quote opened here is not closed on this line. Close it, or take it away.`)
      const node = this.scalar(from, this.pos, quote === DOUBLE ? 'double' : 'single', this.text.slice(from + 1, this.pos))
      return node
    }
    this.pos = close + 1
    const source = this.text.slice(from + 1, close)
    if (quote === SINGLE) return this.scalar(from, close + 1, 'single', unescapeSingle(source))
    const { value, bad } = unescapeDouble(source)
    if (bad >= 0)
      this.report(
        'bad-escape',
        from + 1 + bad,
        from + 3 + bad,
        `“${source.slice(bad, bad + 2)}” means nothing inside double quotes. Write two backslashes, or use single quotes.`,
        'error',
        { label: 'Double the backslash', edits: [{ from: from + 1 + bad, to: from + 1 + bad, insert: '\\' }] },
      )
    return this.scalar(from, close + 1, 'double', value)
  }

  /** Offset of the closing quote, -1 without one; moves the line count along. */
  private findClose(quote: number, parentIndent: number): number {
    const text = this.text
    let at = this.pos + 1
    for (; at < this.end; at++) {
      const code = text.charCodeAt(at)
      if (code === 92 && quote === DOUBLE) at++
      else if (code === quote) {
        if (quote === SINGLE && text.charCodeAt(at + 1) === SINGLE) at++
        else return at
      } else if (code === NL || code === CR) {
        if (code === CR && text.charCodeAt(at + 1) === NL) at++
        this.lineStart = at + 1
        this.line++
        let first = at + 1
        while (text.charCodeAt(first) === SPACE) first++
        if (this.isMarkerAt(at + 1)) return -1
        // a line indented no deeper than the setting cannot be inside its value
        if (first < this.end && !isBreak(text.charCodeAt(first)) && first - this.lineStart <= parentIndent) return -1
      }
    }
    return -1
  }

  private plausibleAfter(at: number, inFlow: boolean): boolean {
    let i = at
    while (isBlank(this.text.charCodeAt(i))) i++
    const code = this.text.charCodeAt(i)
    return i >= this.end || isBreak(code) || (code === HASH && i > at) || (inFlow && (isFlowEnd(code) || code === COLON))
  }

  private blockScalar(parentIndent: number): ScalarNode {
    const text = this.text
    const from = this.pos
    const folded = text.charCodeAt(from) === GREATER
    let chomp: 'clip' | 'strip' | 'keep' = 'clip'
    let explicit = 0
    let at = from + 1
    for (; ; at++) {
      const code = text.charCodeAt(at)
      if (code === DASH) chomp = 'strip'
      else if (code === 43) chomp = 'keep'
      else if (code >= 49 && code <= 57) explicit = code - 48
      else break
    }
    this.pos = at
    this.skipInline()
    if (this.text.charCodeAt(this.pos) === HASH && this.pos > at) this.toLineEnd()
    else if (!isBreak(this.text.charCodeAt(this.pos)) && this.pos < this.end) {
      this.report(
        'text-after-value',
        this.pos,
        this.lineEndAt(this.pos),
        `After “${text[from]}” the text starts on the next line. Move it there, or put it in quotes.`,
      )
      this.toLineEnd()
    }
    const to = this.pos
    return this.blockLines(from, to, parentIndent, explicit, folded, chomp)
  }

  private blockLines(
    from: number,
    headEnd: number,
    parentIndent: number,
    explicit: number,
    folded: boolean,
    chomp: 'clip' | 'strip' | 'keep',
  ): ScalarNode {
    const text = this.text
    const lines: string[] = []
    const base = Math.max(parentIndent, 0)
    let indent = explicit > 0 ? base + explicit : -1
    if (parentIndent < 0 && explicit > 0) indent = explicit
    let to = headEnd
    let last = headEnd
    let lastLine = 0
    let widest = 0
    while (this.pos < this.end) {
      const start = this.pos
      const before = { lineStart: this.lineStart, line: this.line }
      this.newLine()
      const begin = this.pos
      let first = begin
      while (text.charCodeAt(first) === SPACE && (indent < 0 || first - begin < indent)) first++
      const lineTo = this.lineEndAt(first)
      const blank = lineTo === first
      if (!blank) {
        if (indent < 0) {
          indent = Math.max(first - begin, parentIndent + 1)
          if (first - begin < widest)
            this.report(
              'bad-indent',
              begin,
              lineTo,
              `A line above, of blanks only, is indented deeper than this one, where the text begins. Give the text the deeper indentation, or take the blanks away.`,
            )
        }
        if (first - begin < indent && text.charCodeAt(first) === TAB)
          this.report(
            'tab-indent',
            first,
            first + 1,
            'A tab stands in the indentation of this text, which YAML does not allow. Use spaces.',
          )
        if (first - begin < indent || this.atMarker()) {
          this.pos = start
          this.lineStart = before.lineStart
          this.line = before.line
          break
        }
        lines.push(text.slice(begin + indent, lineTo))
        last = lineTo
        lastLine = lines.length
      } else {
        if (begin >= this.end) break
        if (indent < 0) widest = Math.max(widest, first - begin)
        lines.push('')
      }
      this.pos = lineTo
      to = lineTo
    }
    const kept = chomp === 'keep' ? lines : lines.slice(0, lastLine)
    const node = this.scalar(from, chomp === 'keep' ? to : last, folded ? 'folded' : 'literal', blockValue(kept, folded, chomp))
    return node
  }

  // ---- flow ---------------------------------------------------------------------------------------------------

  private flow(parentIndent: number): Node {
    this.depth++
    const from = this.pos
    const isList = this.text.charCodeAt(from) === OPEN_LIST
    const close = isList ? CLOSE_LIST : CLOSE_MAP
    const entries: Entry[] = []
    const seen = new Seen(entries)
    const outside = this.takePending()
    this.pos++
    this.brackets++
    let closed = false
    let outdented = false
    while (!closed) {
      this.skipTrivia()
      if (this.pos >= this.end || this.depth > DEEPEST || this.leftFlow(parentIndent)) break
      const code = this.text.charCodeAt(this.pos)
      if (this.atMarker()) {
        this.report(
          'syntax',
          this.pos,
          this.pos + 3,
          'A line of “---” or “...” ends the document, but a bracket is still open. Close it, or put the text in quotes.',
        )
        this.pos += 3
        continue
      }
      if (!outdented && parentIndent >= 0 && code !== close && this.isFirst(this.pos) && this.column() <= parentIndent) {
        outdented = true
        this.report(
          'bad-indent',
          this.pos,
          this.lineEndAt(this.pos),
          `Inside these brackets a line must be indented deeper than the setting it belongs to: by ${parentIndent + 1} at least.`,
          'error',
          { label: 'Indent the line', edits: [{ from: this.lineStart, to: this.pos, insert: ' '.repeat(parentIndent + 2) }] },
        )
      }
      if (code === close) {
        this.pos++
        closed = true
      } else if (code === CLOSE_LIST || code === CLOSE_MAP) {
        break
      } else if (code === COMMA) {
        this.report('extra-comma', this.pos, this.pos + 1, 'A comma stands where a value should. Remove it.', 'error', {
          label: 'Remove the comma',
          edits: [{ from: this.pos, to: this.pos + 1, insert: '' }],
        })
        this.pos++
      } else this.flowItem(isList, entries, seen, parentIndent)
    }
    this.brackets--
    if (!closed) this.unclosed(from, isList)
    const tail = this.takePending()
    this.pending = [...outside] as Pending[]
    this.depth--
    return isList
      ? { type: 'list', documents: false, flow: true, indent: -1, entries, tail, from, to: this.pos, outer: from, anchor: null, tag: null }
      : { type: 'map', flow: true, indent: -1, entries, tail, from, to: this.pos, outer: from, anchor: null, tag: null }
  }

  private unclosed(from: number, isList: boolean): void {
    if (this.depth > DEEPEST) {
      if (this.pos < this.end)
        this.report('too-deep', from, from + 1, `Brackets are nested more than ${DEEPEST} deep here; the rest was not read.`)
      this.pos = this.end
      return
    }
    this.report(
      'unclosed-bracket',
      from,
      from + 1,
      `The “${isList ? '[' : '{'}” opened here is never closed. Close it with “${isList ? ']' : '}'}” after its last value.`,
    )
  }

  /** Inside brackets, a line that starts like a setting at the outer level shows that a bracket was left open. */
  private leftFlow(parentIndent: number): boolean {
    if (!this.isFirst(this.pos)) return false
    const code = this.text.charCodeAt(this.pos)
    if (code === CLOSE_LIST || code === CLOSE_MAP) return false
    return this.column() <= parentIndent && (this.keyAhead() !== null || this.atDash())
  }

  private flowItem(isList: boolean, entries: Entry[], seen: Seen, parentIndent: number): void {
    const start = this.pos
    const entry = this.newEntry(String(entries.length), start, start)
    entry.lead = this.takeLead()
    const explicit = this.atExplicitKey()
    if (explicit) this.pos++
    this.skipTrivia()
    const props = this.properties()
    if (props) this.skipTrivia()
    const line = this.line
    const first =
      endsFlowValue(this.text.charCodeAt(this.pos)) || this.atFlowColon()
        ? this.propped(emptyScalar(this.pos), props)
        : this.flowValue(props, parentIndent, !isList || explicit)
    this.skipTrivia()
    const json = first.type !== 'scalar' || first.style === 'double' || first.style === 'single'
    const next = this.text.charCodeAt(this.pos + 1)
    const colon = this.text.charCodeAt(this.pos) === COLON && (json || isSpaceOrBreak(next) || isFlowEnd(next))
    if (colon && isList && !explicit && this.line !== line)
      this.report('syntax', first.from, this.pos + 1, 'In a list the name of a setting and its colon must stand on one line.')
    if (colon) this.flowPair(entry, first, isList, parentIndent)
    else if (isList) entry.value = first
    else {
      entry.key = keyText(first, this.text)
      entry.keyFrom = first.from
      entry.keyTo = first.to
      entry.value = emptyScalar(first.to)
    }
    entry.to = Math.max(
      first.to,
      entry.value.to,
      colon && entry.value.type === 'scalar' && entry.value.style === 'empty' ? entry.value.from : 0,
    )
    if (!isList) this.checkDuplicate(seen, entry)
    entries.push(entry)
    this.flowComma(entry, start, parentIndent)
  }

  private atFlowColon(): boolean {
    const next = this.text.charCodeAt(this.pos + 1)
    return this.text.charCodeAt(this.pos) === COLON && (isSpaceOrBreak(next) || isFlowEnd(next))
  }

  private flowPair(entry: Entry, key: Node, isList: boolean, parentIndent: number): void {
    const at = ++this.pos
    this.skipTrivia()
    const props = this.properties()
    if (props) this.skipTrivia()
    const value = endsFlowValue(this.text.charCodeAt(this.pos)) ? this.propped(emptyScalar(at), props) : this.flowValue(props, parentIndent)
    const name = keyText(key, this.text)
    if (!isList) {
      entry.key = name
      entry.keyFrom = key.from
      entry.keyTo = key.to
      entry.value = value
      return
    }
    const inner: Entry = {
      key: name,
      keyFrom: key.from,
      keyTo: key.to,
      value,
      from: key.from,
      to: Math.max(key.to, value.to),
      lead: NO_COMMENTS,
      trail: null,
      comma: -1,
    }
    entry.value = {
      type: 'map',
      flow: true,
      indent: -1,
      entries: [inner],
      tail: NO_COMMENTS,
      from: key.from,
      to: inner.to,
      outer: key.from,
      anchor: null,
      tag: null,
    }
  }

  private flowValue(props: Props | null, parentIndent: number, asKey = false): Node {
    const code = this.text.charCodeAt(this.pos)
    let node: Node
    if (code === OPEN_LIST || code === OPEN_MAP) node = this.depth > DEEPEST ? this.tooDeep() : this.flow(parentIndent)
    else if (code === DOUBLE || code === SINGLE) node = this.quoted(true, parentIndent)
    else if (code === STAR) node = this.alias()
    else node = this.plain(parentIndent, true, asKey)
    return this.propped(node, props)
  }

  private flowComma(entry: Entry, start: number, parentIndent: number): void {
    this.skipTrivia()
    const code = this.text.charCodeAt(this.pos)
    if (code === COMMA) {
      entry.comma = this.pos
      this.pos++
      this.skipInline()
      if (this.text.charCodeAt(this.pos) === HASH) entry.trail = this.trailComment()
      return
    }
    if (this.pos >= this.end || code === CLOSE_LIST || code === CLOSE_MAP || this.leftFlow(parentIndent)) return
    if (this.pos === start) this.pos++
    this.report('missing-comma', entry.to, entry.to, 'A comma is missing after this value.', 'error', {
      label: 'Insert the comma',
      edits: [{ from: entry.to, to: entry.to, insert: ',' }],
    })
  }
}

function applyProps(node: Node, props: Props | null): Node {
  if (!props) return node
  node.outer = props.outer
  node.anchor = props.anchor
  node.tag = props.tag
  // a tag such as !!str overrules what a plain value looks like
  if (node.type === 'scalar' && (props.tag === '!!str' || props.tag === '!') && (node.style === 'plain' || node.style === 'empty')) {
    node.kind = 'text'
    node.value = node.style === 'empty' ? '' : node.value === null ? 'null' : String(node.value)
  }
  return node
}

function keyText(node: Node, text: string): string {
  const source = text.slice(node.from, node.to)
  return node.type === 'scalar' && (node.style !== 'plain' || /[\r\n]/.test(source)) ? String(node.value ?? '') : source
}

function isBlank(code: number): boolean {
  return code === SPACE || code === TAB
}

/** Line ends, and the end of the text (where `charCodeAt` gives NaN). */
function isBreak(code: number): boolean {
  return code === NL || code === CR || code !== code
}

function isSpaceOrBreak(code: number): boolean {
  return code === SPACE || code === TAB || code === NL || code === CR || code !== code
}

function endsFlowValue(code: number): boolean {
  return code === COMMA || code === CLOSE_LIST || code === CLOSE_MAP || code !== code
}

function isFlowEnd(code: number): boolean {
  return code === COMMA || code === CLOSE_LIST || code === CLOSE_MAP || code === OPEN_LIST || code === OPEN_MAP
}
