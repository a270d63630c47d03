import { NO_COMMENTS, emptyScalar, type Comment, type Entry, type Finding, type MapNode, type ScalarNode } from '../../tree/nodes'
import { lineEnd, skipBreak } from '../../text/lines'
import { CommentStream } from '../comment-stream'
import type { Parsed } from '../format'

/**
 * Reads INI and `.cfg`: `[section]`, `name = value` or `name: value` a line, comments from `;` or `#` at the start of a
 * line, or behind a value after a blank (`#` also needs one behind it, so that colours stay values). Files that never
 * use `=` may part name and value by blanks. The family of formats has no standard; docs/formats.md has our reading.
 */
export function parseIni(text: string): Parsed {
  const reader = new IniReader(text)
  const root = reader.file()
  return { root, findings: reader.findings }
}

/** Whether name and value are parted by blanks: no line outside of comments and headings has an equals sign or colon. */
function isBlankParted(text: string): boolean {
  return !/^[ \t]*[^\s;#[][^=:\r\n]*[=:]/m.test(text) && /^[ \t]*[\w.-]+[ \t]+\S/m.test(text)
}

class IniReader {
  readonly findings: Finding[] = []
  private readonly comments: CommentStream
  private readonly blankParted: boolean
  private readonly root: MapNode
  private section: MapNode
  private readonly seen = new Map<MapNode, Map<string, { line: number; entry: Entry }>>()
  private line = 0

  constructor(private readonly text: string) {
    this.comments = new CommentStream(text)
    this.blankParted = isBlankParted(text)
    // only the root takes sections
    this.root = this.section = { ...block(0), prefix: '' }
    this.seen.set(this.root, new Map())
  }

  file(): MapNode {
    const { text } = this
    let at = text.charCodeAt(0) === 0xfeff ? 1 : 0
    while (at < text.length) {
      const end = lineEnd(text, at)
      this.line++
      let first = at
      while (first < end && (text.charCodeAt(first) === 32 || text.charCodeAt(first) === 9)) first++
      const mark = text[first]
      if (first < end) {
        if (mark === ';' || mark === '#') this.comments.add(first, end)
        else if (mark === '[') this.heading(first, end)
        else this.setting(first, end)
      }
      at = skipBreak(text, end)
    }
    const { root } = this
    const inner = this.section
    const tail = this.comments.takeLead(text.length + 1)
    if (inner === root) root.tail = tail
    else inner.tail = tail
    root.from = root.outer = root.entries[0]?.from ?? text.length
    root.to = root.entries[root.entries.length - 1]?.to ?? root.from
    return root
  }

  private report(
    code: Finding['code'],
    severity: Finding['severity'],
    from: number,
    to: number,
    message: string,
    fix?: Finding['fix'],
  ): void {
    if (this.findings.length < 500)
      this.findings.push(fix ? { code, severity, from, to, message, fix } : { code, severity, from, to, message })
  }

  private heading(from: number, end: number): void {
    const { text } = this
    const close = text.indexOf(']', from)
    const closed = close >= 0 && close < end
    const keyTo = closed ? close : trimEnd(text, from, end)
    if (!closed)
      this.report('unclosed-bracket', 'error', from, end, 'The heading opened here is never closed. Close it with “]”.', {
        label: 'Close it',
        edits: [{ from: keyTo, to: keyTo, insert: ']' }],
      })
    const to = closed ? close + 1 : keyTo
    const value = { ...block(to), to }
    const entry = entryAt(text.slice(from + 1, keyTo).trim(), from + 1, keyTo, value, from, to, this.comments.takeLead(from))
    this.trailing(entry, to, end)
    const twice = this.remember(this.root, entry)
    if (twice)
      this.report(
        'duplicate-key',
        'warning',
        from,
        to,
        `The heading “${entry.key}” stands twice, first on line ${twice.line}. Many readers only take one of the two; join them.`,
      )
    this.root.entries.push(entry)
    this.section = value
    this.seen.set(value, new Map())
  }

  private setting(from: number, end: number): void {
    const { text } = this
    const valueEnd = trimEnd(text, from, this.commentIn(from, end) ?? end)
    const line = text.slice(from, valueEnd)
    const parted = this.blankParted ? /^[^ \t]*/.exec(line)![0].length : line.search(/[=:]/)
    let valueFrom = parted < 0 ? valueEnd : from + parted + (this.blankParted ? 0 : 1)
    const keyTo = trimEnd(text, from, parted < 0 ? valueEnd : from + parted)
    while (valueFrom < valueEnd && (text.charCodeAt(valueFrom) === 32 || text.charCodeAt(valueFrom) === 9)) valueFrom++
    const value: ScalarNode = valueFrom >= valueEnd && parted < 0 ? emptyScalar(keyTo) : this.value(valueFrom, valueEnd)
    const entry = entryAt(
      text.slice(from, keyTo),
      from,
      keyTo,
      value,
      from,
      Math.max(keyTo, parted < 0 ? keyTo : from + parted + 1, value.to),
      this.comments.takeLead(from),
    )
    if (keyTo === from) this.report('syntax', 'error', from, end, 'This line has no name before its equals sign. Write it as name = value.')
    if (parted < 0 && /[ \t]/.test(line)) {
      const name = /^[^ \t]*/.exec(line)![0]
      this.report(
        'missing-equals',
        'error',
        from,
        valueEnd,
        `This line has no equals sign after its name “${name}”. Write it as name = value.`,
        { label: 'Insert the equals sign', edits: [{ from: from + name.length, to: from + name.length, insert: ' =' }] },
      )
    }
    this.trailing(entry, valueEnd, end)
    const twice = this.remember(this.section, entry)
    if (twice && !this.mayContinue(from))
      this.report(
        'duplicate-key',
        'warning',
        entry.keyFrom,
        entry.keyTo,
        `“${entry.key}” stands twice in this section, first on line ${twice.line}. Most readers take only the last; remove the other if it is no list.`,
      )
    this.section.entries.push(entry)
    this.section.to = entry.to
    const owner = this.root.entries[this.root.entries.length - 1]
    if (this.section !== this.root && owner) owner.to = entry.to
    if (this.section.entries.length === 1) {
      this.section.from = this.section.outer = from
      this.section.indent = from - lineStartOf(text, from)
    }
  }

  /** A line right below a setting and indented deeper goes on with that setting's value, to many readers. */
  private mayContinue(from: number): boolean {
    const { text } = this
    const above = this.section.entries[this.section.entries.length - 1]
    if (!above || /\r|\n/.test(text.slice(above.to, from).replace(/[^\r\n]*(\r\n|\r|\n)[ \t]*$/, ''))) return false
    return from - lineStartOf(text, from) > above.from - lineStartOf(text, above.from)
  }

  private value(from: number, to: number): ScalarNode {
    const { text } = this
    const quote = text[from]
    const base = { type: 'scalar', from, to, outer: from, anchor: null, tag: null, kind: 'text' } as const
    if ((quote === '"' || quote === "'") && to - from > 1 && text[to - 1] === quote)
      return { ...base, style: quote === '"' ? 'double' : 'single', value: text.slice(from + 1, to - 1) }
    if (quote === '"' && !text.slice(from + 1, to).includes('"'))
      this.report('unclosed-quote', 'error', from, to, 'The quote opened here is not closed on this line. Close it, or take it away.', {
        label: 'Close it',
        edits: [{ from: to, to, insert: '"' }],
      })
    return { ...base, style: 'plain', value: text.slice(from, to) }
  }

  /** Where a comment starts behind a value. */
  private commentIn(from: number, end: number): number | null {
    const { text } = this
    let quote = ''
    for (let at = from + 1; at < end; at++) {
      const char = text[at]!
      if (quote !== '') {
        if (char === quote) quote = ''
      } else if (
        (char === '"' || char === "'") &&
        /[=:\s]/.test(text[at - 1]!) &&
        text.indexOf(char, at + 1) >= 0 &&
        text.indexOf(char, at + 1) < end
      )
        quote = char
      else if ((char === ';' || (char === '#' && /\s/.test(text[at + 1] ?? ' '))) && /[ \t]/.test(text[at - 1]!)) return at
    }
    return null
  }

  private trailing(entry: Entry, from: number, end: number): void {
    const { text } = this
    let at = from
    while (at < end && (text.charCodeAt(at) === 32 || text.charCodeAt(at) === 9)) at++
    if (at < end && (text[at] === ';' || text[at] === '#')) entry.trail = { from: at, to: end, attached: true } satisfies Comment
    else if (at < end)
      this.report(
        'text-after-value',
        'error',
        at,
        end,
        'After the heading the line should end, but more text follows. Move it to a line of its own.',
      )
  }

  private remember(section: MapNode, entry: Entry): { line: number } | null {
    const seen = this.seen.get(section)!
    const before = seen.get(entry.key) ?? null
    seen.set(entry.key, { line: this.line, entry })
    return before
  }
}

function block(at: number): MapNode {
  return { type: 'map', flow: false, indent: 0, entries: [], tail: NO_COMMENTS, from: at, to: at, outer: at, anchor: null, tag: null }
}

function entryAt(
  key: string,
  keyFrom: number,
  keyTo: number,
  value: Entry['value'],
  from: number,
  to: number,
  lead: readonly Comment[],
): Entry {
  return { key, keyFrom, keyTo, value, from, to, lead, trail: null, comma: -1 }
}

function trimEnd(text: string, from: number, to: number): number {
  let at = to
  while (at > from && (text.charCodeAt(at - 1) === 32 || text.charCodeAt(at - 1) === 9)) at--
  return at
}

function lineStartOf(text: string, at: number): number {
  let start = at
  while (start > 0 && text.charCodeAt(start - 1) !== 10 && text.charCodeAt(start - 1) !== 13) start--
  return start
}
