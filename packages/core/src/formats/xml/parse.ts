/*
 * A reader of XML settings files (XML 1.0, fifth edition, without external entities). An element with elements or
 * attributes in it is a section, one with text alone a value; attributes are entries `@name`, the text of an element
 * that also has attributes is `#text`, and elements of one name that stand several times in one are a list.
 */
import {
  NO_COMMENTS,
  emptyScalar,
  type Comment,
  type Container,
  type Entry,
  type Finding,
  type FindingCode,
  type ListNode,
  type MapNode,
  type Node,
  type ScalarNode,
} from '../../tree/nodes'
import { LineIndex } from '../../text/lines'
import { CommentStream } from '../comment-stream'
import { decodeXml } from './entities'
import type { Parsed } from '../format'
import type { Reading } from '../reading'

const DEEPEST = 400
const NAME = /[\p{L}_:][\p{L}\p{N}_:.\-\u00b7]*/uy

/** Reads XML. Bad input gives findings and what could be read; it never throws, and nothing outside of it is fetched. */
export function parseXml(text: string, reading: Reading): Parsed {
  const parser = new XmlParser(text, reading.lists ?? null)
  const root = parser.file()
  return { root, findings: parser.findings }
}

class XmlParser {
  readonly findings: Finding[] = []
  private pos = 0
  private depth = 0
  private stopped = false
  private readonly comments: CommentStream
  private lines: LineIndex | null = null
  /** Where in a section the element of a name stands. */
  private readonly names = new Map<Container, Map<string, number>>()
  /** Names of the elements that are open. */
  private readonly open: string[] = []

  constructor(
    private readonly text: string,
    private readonly lists: ReadonlySet<string> | null,
  ) {
    this.comments = new CommentStream(text)
    if (text.charCodeAt(0) === 0xfeff) this.pos = 1
  }

  file(): MapNode {
    const root: MapNode = {
      type: 'map',
      flow: false,
      indent: 0,
      entries: [],
      tail: NO_COMMENTS,
      from: this.pos,
      to: this.text.length,
      outer: this.pos,
      anchor: null,
      tag: null,
    }
    this.content(root, '')
    if (root.entries.length === 0)
      this.report('syntax', 0, Math.min(1, this.text.length), 'The file has no element. An XML file needs one around everything.')
    root.tail = this.comments.takeLead(this.text.length + 1)
    const [first] = root.entries
    if (first) root.from = root.outer = first.from
    return root
  }

  private report(
    code: FindingCode,
    from: number,
    to: number,
    message: string,
    fix?: Finding['fix'],
    severity: Finding['severity'] = 'error',
  ): void {
    if (this.findings.length < 500)
      this.findings.push(fix ? { code, severity, from, to, message, fix } : { code, severity, from, to, message })
  }

  private lineOf(offset: number): number {
    this.lines ??= new LineIndex(this.text)
    return this.lines.position(offset).line
  }

  private nameAt(at: number): string {
    NAME.lastIndex = at
    return NAME.exec(this.text)?.[0] ?? ''
  }

  private space(): void {
    while (this.pos < this.text.length && /\s/.test(this.text[this.pos]!)) this.pos++
  }

  /** What stands between two tags of an element, or in the file; gives the text parts that are not blank. */
  private content(container: MapNode, path: string): { from: number; to: number }[] {
    const texts: { from: number; to: number }[] = []
    const { text } = this
    while (this.pos < text.length && !this.stopped) {
      const next = text.indexOf('<', this.pos)
      const to = next < 0 ? text.length : next
      if (text.slice(this.pos, to).trim() !== '') texts.push({ from: this.pos, to })
      this.pos = to
      if (next < 0) break
      if (text.startsWith('</', next)) {
        if (path !== '') break
        this.strayClose()
      } else if (text.startsWith('<!--', next)) this.comment()
      else if (text.startsWith('<![CDATA[', next)) {
        const from = this.pos
        this.passTo(']]>', 'The section opened here is never closed. Close it with ]]>.')
        texts.push({ from, to: this.pos })
      } else if (text.startsWith('<?', next)) this.passTo('?>', 'The instruction opened here is never closed. Close it with ?>.')
      else if (text.startsWith('<!', next)) this.doctype()
      else if (this.nameAt(next + 1) !== '') this.element(container, path)
      else {
        this.report('syntax', next, next + 1, 'A “<” stands here that opens no element. In text write &lt; for it.', {
          label: 'Write &lt;',
          edits: [{ from: next, to: next + 1, insert: '&lt;' }],
        })
        texts.push({ from: next, to: next + 1 })
        this.pos = next + 1
      }
    }
    if (path === '' && texts.length > 0)
      this.report(
        'text-after-value',
        texts[0]!.from,
        texts[0]!.to,
        'Text stands outside of the element that holds everything. Move it into one.',
      )
    return joinParts(texts)
  }

  private strayClose(): void {
    const from = this.pos
    const end = this.text.indexOf('>', from)
    this.pos = end < 0 ? this.text.length : end + 1
    this.report('unclosed-tag', from, this.pos, `“${this.text.slice(from, this.pos)}” closes nothing: no such element is open. Remove it.`)
  }

  private passTo(close: string, message: string): void {
    const from = this.pos
    const at = this.text.indexOf(close, from + 2)
    if (at < 0) this.report('unclosed-bracket', from, from + 2, message)
    this.pos = at < 0 ? this.text.length : at + close.length
  }

  private comment(): void {
    const from = this.pos
    const at = this.text.indexOf('-->', from + 4)
    if (at < 0) this.report('unclosed-bracket', from, from + 4, 'The comment opened here is never closed. Close it with -->.')
    this.pos = at < 0 ? this.text.length : at + 3
    this.comments.add(from, this.pos)
  }

  /** A document type is passed over, with what its brackets declare. */
  private doctype(): void {
    const from = this.pos
    const end = this.text.indexOf('>', from)
    const bracket = this.text.indexOf('[', from)
    if (bracket >= 0 && bracket < end) {
      const close = this.text.indexOf(']', bracket)
      this.pos = close < 0 ? this.text.length : close
      this.passTo('>', 'The document type opened here is never closed.')
    } else this.pos = end < 0 ? this.text.length : end + 1
  }

  private element(container: MapNode, path: string): void {
    const from = this.pos
    const name = this.nameAt(from + 1)
    const lead = this.comments.takeLead(from)
    if (this.depth >= DEEPEST) {
      this.report('too-deep', from, from + 1, `Elements are nested more than ${DEEPEST} deep here; the rest was not read.`)
      this.stopped = true
      this.pos = this.text.length
      return
    }
    this.pos = from + 1 + name.length
    const entry: Entry = {
      key: name,
      keyFrom: from + 1,
      keyTo: this.pos,
      value: emptyScalar(this.pos),
      from,
      to: this.pos,
      lead,
      trail: null,
      comma: -1,
    }
    const value: MapNode = {
      type: 'map',
      flow: false,
      indent: 0,
      entries: [],
      tail: NO_COMMENTS,
      from,
      to: from,
      outer: from,
      anchor: null,
      tag: null,
    }
    const below = `${path}/${name}`
    const closedItself = this.attributes(value, name)
    const start = this.pos
    if (closedItself) entry.value = value.entries.length > 0 ? value : this.textNode(start - 2, start, [])
    else {
      this.depth++
      this.open.push(name)
      const parts = this.content(value, below)
      this.open.pop()
      this.depth--
      const end = this.pos
      value.tail = this.comments.takeLead(end)
      this.close(name, entry)
      entry.value = this.elementValue(value, start, end, parts)
    }
    entry.to = this.pos
    value.to = this.pos
    if (entry.value.type === 'map') {
      entry.value.from = entry.value.outer = from
      entry.value.to = this.pos
    }
    entry.trail = this.trailing(entry)
    this.place(container, entry, below)
  }

  private trailing(entry: Entry): Comment | null {
    const rest = /^[ \t]*(<!--[^\r\n]*?-->)[ \t]*(?=[\r\n]|$)/.exec(this.text.slice(this.pos, this.pos + 2000))
    if (!rest) return null
    const from = entry.to + rest[0].indexOf('<!--')
    this.pos = from + rest[1]!.length
    return { from, to: this.pos, attached: true }
  }

  /** An element with text and nothing else is that text; with attributes, too, its text is an entry of its own. */
  private elementValue(value: MapNode, start: number, end: number, parts: { from: number; to: number }[]): Node {
    const elements = value.entries.some((item) => !item.key.startsWith('@'))
    if (elements || (value.entries.length > 0 && parts.length === 0)) {
      if (parts.length > 0)
        this.report(
          'text-after-value',
          parts[0]!.from,
          parts[0]!.to,
          'Text stands between elements here. It is kept, but it is no setting.',
          undefined,
          'note',
        )
      return value
    }
    const node = this.textNode(start, end, parts)
    if (value.entries.length === 0) return node
    value.entries.push({
      key: '#text',
      keyFrom: node.from,
      keyTo: node.from,
      value: node,
      from: node.from,
      to: node.to,
      lead: NO_COMMENTS,
      trail: null,
      comma: -1,
    })
    return value
  }

  private textNode(start: number, end: number, parts: readonly { from: number; to: number }[]): ScalarNode {
    const base = { type: 'scalar', anchor: null, tag: null } as const
    // an element without text: what is between its tags, or the end of the tag that closes itself
    if (parts.length === 0) return { ...base, from: start, to: end, outer: start, kind: 'text', style: 'empty', value: '' }
    const [first] = parts
    const last = parts[parts.length - 1]!
    const cdata = parts.length === 1 && this.text.startsWith('<![CDATA[', first!.from)
    let from = first!.from
    let to = last.to
    if (!cdata) {
      while (/\s/.test(this.text[from] ?? '')) from++
      while (to > from && /\s/.test(this.text[to - 1]!)) to--
    }
    const source = this.text.slice(from, to)
    const value = source
      .split(/(<!\[CDATA\[[^]*?\]\]>)/)
      .map((part) => (part.startsWith('<![CDATA[') ? part.slice(9, -3) : this.decode(part, from, source)))
      .join('')
    return { ...base, from, to, outer: from, kind: 'text', style: cdata ? 'long' : 'plain', value }
  }

  private decode(part: string, from: number, whole: string): string {
    const { value, bad, length } = decodeXml(part)
    if (bad >= 0) {
      const at = from + whole.indexOf(part) + bad
      this.report('bad-escape', at, at + length, `“${part.slice(bad, bad + length)}” means nothing in XML. For an ampersand write &amp;.`, {
        label: 'Write &amp;',
        edits: [{ from: at, to: at + 1, insert: '&amp;' }],
      })
    }
    return value
  }

  /** The attributes of a start tag; says whether the tag closes itself. */
  private attributes(value: MapNode, name: string): boolean {
    const { text } = this
    for (;;) {
      const before = this.pos
      this.space()
      if (text.startsWith('/>', this.pos)) {
        this.pos += 2
        return true
      }
      if (text[this.pos] === '>') {
        this.pos++
        return false
      }
      if (this.pos >= text.length || text[this.pos] === '<') {
        this.report('unclosed-tag', value.from, before, `The tag “<${name}” is not closed. Put “>” at its end.`, {
          label: 'Close the tag',
          edits: [{ from: before, to: before, insert: '>' }],
        })
        return false
      }
      this.attribute(value, before)
    }
  }

  private attribute(value: MapNode, before: number): void {
    const { text } = this
    const from = this.pos
    const name = this.nameAt(from)
    if (name === '') {
      this.report('syntax', from, from + 1, `“${text[from]}” cannot stand in a tag here.`)
      this.pos++
      return
    }
    this.pos += name.length
    const keyTo = this.pos
    this.space()
    if (text[this.pos] !== '=') {
      this.report('missing-equals', from, keyTo, `The attribute “${name}” has no value. Write it as ${name}="…".`)
      this.pos = keyTo
      return
    }
    this.pos++
    this.space()
    const quote = text[this.pos]
    const open = this.pos
    let node: ScalarNode
    if (quote === '"' || quote === "'") {
      const close = this.closing(quote, open)
      const source = text.slice(open + 1, close.at)
      node = {
        type: 'scalar',
        from: open,
        to: close.to,
        outer: open,
        anchor: null,
        tag: null,
        kind: 'text',
        style: quote === '"' ? 'double' : 'single',
        value: this.decode(source, open + 1, source).replace(/[\t\r\n]/g, ' '),
      }
      this.pos = node.to
    } else {
      const bare = /^[^\s>"'<]*/.exec(text.slice(open, open + 5000))![0].replace(/\/$/, '')
      const curly = /^[\u2018-\u201f]/.test(bare)
      const body = bare.replace(/^[\u2018-\u201f]|[\u2018-\u201f]$/g, '')
      this.report(
        curly ? 'wrong-quote' : 'unclosed-quote',
        open,
        open + bare.length,
        curly ? 'A curly quote, as web pages write it, stands here. Use straight ones.' : `The value of “${name}” needs quotes.`,
        { label: 'Put it in quotes', edits: [{ from: open, to: open + bare.length, insert: `"${body}"` }] },
      )
      this.pos = open + bare.length
      node = { type: 'scalar', from: open, to: this.pos, outer: open, anchor: null, tag: null, kind: 'text', style: 'double', value: body }
    }
    const twice = value.entries.find((item) => item.key === '@' + name)
    if (twice)
      this.report(
        'duplicate-key',
        from,
        keyTo,
        `The attribute “${name}” stands twice in this tag, first on line ${this.lineOf(twice.keyFrom)}. Remove one.`,
      )
    else if (before === from)
      this.report('missing-space', from, from, 'Between two attributes a space is missing.', {
        label: 'Insert the space',
        edits: [{ from, to: from, insert: ' ' }],
      })
    value.entries.push({ key: '@' + name, keyFrom: from, keyTo, value: node, from, to: node.to, lead: NO_COMMENTS, trail: null, comma: -1 })
  }

  /** Where the value of an attribute ends; one that is not closed ends before what looks like the end of its tag. */
  private closing(quote: string, open: number): { at: number; to: number } {
    const { text } = this
    const close = text.indexOf(quote, open + 1)
    const stop = text.slice(open + 1, open + 5000).search(/[<]|>[ \t]*[\r\n]/)
    if (close >= 0 && (stop < 0 || close < open + 1 + stop)) return { at: close, to: close + 1 }
    const line = /^[^\r\n<>]*/.exec(text.slice(open + 1, open + 5000))![0].replace(/[\s/]*$/, '')
    const end = open + 1 + line.length
    this.report('unclosed-quote', open, end, 'The quote opened here is not closed. Close it at the end of the value.', {
      label: 'Close it',
      edits: [{ from: end, to: end, insert: quote }],
    })
    return { at: end, to: end }
  }

  private close(name: string, entry: Entry): void {
    const { text } = this
    if (this.stopped) return
    const from = this.pos
    const closing = text.startsWith('</', from) ? this.nameAt(from + 2) : ''
    if (closing === name) {
      this.pos = from + 2 + name.length
      this.space()
      if (text[this.pos] === '>') this.pos++
      else
        this.report('unclosed-tag', from, this.pos, `The tag “</${name}” is not closed. Put “>” at its end.`, {
          label: 'Close the tag',
          edits: [{ from: this.pos, to: this.pos, insert: '>' }],
        })
      return
    }
    // the name of an element further out closes that one; so this one was left open
    const outer = closing !== '' && this.open.includes(closing)
    if (closing !== '' && !outer) {
      const end = text.indexOf('>', from)
      this.pos = end < 0 ? text.length : end + 1
      this.report(
        'unclosed-tag',
        from,
        this.pos,
        `“</${closing}>” does not close “<${name}>” from line ${this.lineOf(entry.from)}. Write “</${name}>”.`,
        { label: 'Use the right name', edits: [{ from: from + 2, to: from + 2 + closing.length, insert: name }] },
      )
      return
    }
    this.report('unclosed-tag', entry.from, entry.keyTo, `The element “<${name}>” opened here is never closed. Close it with “</${name}>”.`)
  }

  /** Elements of one name in one section are a list under that name. */
  private place(container: MapNode, entry: Entry, path: string): void {
    let names = this.names.get(container)
    if (!names) this.names.set(container, (names = new Map()))
    const at = names.get(entry.key)
    const known = at === undefined ? undefined : container.entries[at]!
    if (known?.value.type === 'list') this.append(known, known.value, entry)
    else if (known) container.entries[at!] = this.listOf([known, entry])
    else {
      names.set(entry.key, container.entries.length)
      container.entries.push(this.lists?.has(path) ? this.listOf([entry]) : entry)
    }
  }

  private append(holder: Entry, list: ListNode, entry: Entry): void {
    entry.key = String(list.entries.length)
    list.entries.push(entry)
    list.to = holder.to = entry.to
  }

  private listOf(entries: Entry[]): Entry {
    const [first] = entries
    const name = first!.key
    const list: ListNode = {
      type: 'list',
      documents: false,
      flow: false,
      indent: 0,
      entries: [],
      tail: NO_COMMENTS,
      from: first!.from,
      to: first!.to,
      outer: first!.from,
      anchor: null,
      tag: name,
    }
    const holder: Entry = {
      key: name,
      keyFrom: first!.from,
      keyTo: first!.from,
      value: list,
      from: first!.from,
      to: first!.to,
      lead: NO_COMMENTS,
      trail: null,
      comma: -1,
    }
    for (const entry of entries) this.append(holder, list, entry)
    return holder
  }
}

/** Text parts that touch, or have only comments between them, are one text. */
function joinParts(parts: { from: number; to: number }[]): { from: number; to: number }[] {
  return parts.length > 1 && parts.every((part, i) => i === 0 || part.from === parts[i - 1]!.to)
    ? [{ from: parts[0]!.from, to: parts[parts.length - 1]!.to }]
    : parts
}
