import type { Edit } from '../../text/edits'
import { eolOf, lineEnd, lineIndent, lineStart, skipBreak } from '../../text/lines'
import { isContainer, type Container, type Document, type Entry, type Node } from '../../tree/nodes'
import { CodeText, NumberText, type Value } from '../../tree/values'
import { dedent } from '../dedent'
import { OperationError } from '../error'
import { ownEnd, ownStart, settle, startsLine } from '../splice'
import { ANY_SECTION, indentText, type Insertion, type NewEntry, type Place, type ScalarValue, type Writer } from '../writer'
import { encodeAttribute, encodeText } from './entities'

const NAME = /^[\p{L}_:][\p{L}\p{N}_:.\-\u00b7]*$/u

function textOf(value: Value): string {
  if (value === null) return ''
  return value instanceof NumberText || value instanceof CodeText ? value.text : String(value)
}

function nameOf(key: string): string {
  const name = key.replace(/^@/, '')
  if (!NAME.test(name))
    throw new OperationError('cannot-hold', `“${name}” cannot name an element: use letters, digits, - _ and . only, a letter first`)
  return name
}

function scalar(place: Place, value: ScalarValue): string {
  const text = textOf(value)
  const { old, entry } = place
  if (entry?.key.startsWith('@')) return quoted(text, old?.style === 'single' ? "'" : '"')
  if (old?.style === 'long' && !text.includes(']]>')) return `<![CDATA[${text}]]>`
  const closedItself = old?.style === 'empty' && place.document.text.startsWith('/>', old.from)
  return closedItself && text !== '' ? `>${encodeText(text)}</${tagAt(place.document, entry!)}>` : closedItself ? '/>' : encodeText(text)
}

function quoted(text: string, quote: '"' | "'"): string {
  return quote + encodeAttribute(text, quote) + quote
}

function tagAt(document: Document, entry: Entry): string {
  return document.text.slice(entry.keyFrom, entry.keyTo)
}

/** Lines of an element. */
function elementLines(document: Document, name: string, value: Value): string[] {
  if (Array.isArray(value)) return (value as readonly Value[]).flatMap((item) => elementLines(document, name, item))
  if (!(value instanceof Map)) {
    const text = textOf(value as ScalarValue)
    return [text === '' ? `<${name}/>` : `<${name}>${encodeText(text)}</${name}>`]
  }
  const parts = [...(value as ReadonlyMap<string, Value>)]
  const head = `<${name}${parts
    .filter(([key]) => key.startsWith('@'))
    .map(([key, item]) => ` ${nameOf(key)}=${quoted(textOf(item), '"')}`)
    .join('')}`
  const text = parts
    .filter(([key]) => key === '#text')
    .map(([, item]) => encodeText(textOf(item)))
    .join('')
  const below = parts.filter(([key]) => !/^[@#]/.test(key)).flatMap(([key, item]) => elementLines(document, nameOf(key), item))
  if (below.length === 0) return [text === '' ? `${head}/>` : `${head}>${text}</${name}>`]
  const step = indentText(document)
  return [`${head}>${text}`, ...below.map((line) => step + line), `</${name}>`]
}

function entryLines(document: Document, container: Container, name: string | null, value: Value): string[] {
  if (name?.startsWith('@')) return [`${nameOf(name)}=${quoted(textOf(value), '"')}`]
  if (name === '#text') return [encodeText(textOf(value))]
  return elementLines(document, name === null ? (container.type === 'list' ? (container.tag ?? 'item') : 'item') : nameOf(name), value)
}

/** XML has no empty lists, no lists of lists, and no control characters. */
function refuses(container: Container, value: Value): string | null {
  if (Array.isArray(value)) {
    if (container.type === 'list') return 'is a list in a list, which XML cannot hold'
    if (value.length === 0) return 'is an empty list, and a list without elements is nothing in XML'
    if ((value as readonly Value[]).some((item) => Array.isArray(item))) return 'is a list of lists, which XML cannot hold'
    return (value as readonly Value[]).map((item) => refuses(container, item)).find((word) => word !== null) ?? null
  }
  if (value instanceof Map)
    return (
      [...(value as ReadonlyMap<string, Value>).values()].map((item) => refuses(ANY_SECTION, item)).find((word) => word !== null) ?? null
    )
  return /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/.test(textOf(value)) ? 'has control characters, which XML cannot hold' : null
}

function splice(
  document: Document,
  container: Container,
  owner: Entry | null,
  removals: ReadonlySet<number>,
  insertions: readonly Insertion[],
): Edit[] {
  const { text } = document
  const { entries } = container
  const edits = [...removals].flatMap((index) => removeEntry(text, entries[index]!))
  for (const item of settle(container, removals, insertions)) edits.push(...insertEntry(document, container, owner, item))
  return edits
}

/** The elements an entry stands for: itself, or all of a list. */
function elementsOf(entry: Entry): readonly Entry[] {
  return entry.value.type === 'list' && entry.keyFrom === entry.keyTo ? entry.value.entries : [entry]
}

function removeEntry(text: string, entry: Entry): Edit[] {
  if (entry.key.startsWith('@')) {
    let from = entry.from
    while (/\s/.test(text[from - 1] ?? 'x')) from--
    return [{ from, to: entry.to, insert: '' }]
  }
  if (entry.key === '#text') return [{ from: entry.value.from, to: entry.value.to, insert: '' }]
  return elementsOf(entry).map((element) => {
    const start = ownStart(element)
    const end = ownEnd(element)
    const alone = startsLine(text, start) && text.slice(end, lineEnd(text, end)).trim() === ''
    return alone
      ? { from: lineStart(text, start), to: skipBreak(text, lineEnd(text, end)), insert: '' }
      : { from: element.from, to: Math.max(element.to, element.trail?.to ?? 0), insert: '' }
  })
}

function insertEntry(document: Document, container: Container, owner: Entry | null, { after, entry }: Insertion): Edit[] {
  const { text } = document
  const { entries } = container
  const [first] = entry.body
  const previous =
    entries
      .slice(0, after + 1)
      .filter((item) => item.key.startsWith('@') === !first!.startsWith('<'))
      .pop() ?? null
  if (!first!.startsWith('<')) {
    const at = previous ? previous.to : owner!.keyTo
    if (/^[^\s<>"'=]+=["']/.test(first!)) return [{ from: at, to: at, insert: ' ' + first! }]
    const inside = startTagEnd(text, owner!.from)
    return [{ from: inside, to: inside, insert: first! }]
  }
  const eol = eolOf(text)
  const lines = [
    ...(entry.blankBefore ? [''] : []),
    ...entry.lead,
    ...entry.body.map((line, i) => (i === entry.body.length - 1 && entry.trail ? `${line} ${entry.trail}` : line)),
  ]
  const like = previous ? elementsOf(previous)[elementsOf(previous).length - 1]! : null
  if (like) {
    const indent = text.slice(lineStart(text, like.from), like.from)
    const end = ownEnd(like)
    if (indent.trim() !== '') return [{ from: end, to: end, insert: entry.body.join(eol) }]
    return [{ from: end, to: end, insert: lines.map((line) => eol + (line === '' ? '' : indent + line)).join('') }]
  }
  const next = entries.find((item) => !/^[@#]/.test(item.key))
  if (next) {
    const start = ownStart(elementsOf(next)[0]!)
    const indent = text.slice(lineStart(text, start), start)
    if (indent.trim() !== '') return [{ from: start, to: start, insert: entry.body.join(eol) }]
    return [
      {
        from: lineStart(text, start),
        to: lineStart(text, start),
        insert: lines.map((line) => (line === '' ? '' : indent + line) + eol).join(''),
      },
    ]
  }
  return owner ? fillElement(document, owner, lines) : [{ from: text.length, to: text.length, insert: lines.join(eol) + eol }]
}

/** The first elements of one that has none. */
function fillElement(document: Document, owner: Entry, lines: readonly string[]): Edit[] {
  const { text } = document
  const eol = eolOf(text)
  const outer = lineIndent(text, owner.from)
  const body = lines.map((line) => eol + (line === '' ? '' : outer + indentText(document) + line)).join('') + eol + outer
  const inside = startTagEnd(text, owner.from)
  if (text.startsWith('/>', inside - 2)) return [{ from: inside - 2, to: inside, insert: `>${body}</${tagAt(document, owner)}>` }]
  return [{ from: inside, to: inside, insert: body }]
}

/** The offset behind the start tag of the element at `from`. */
function startTagEnd(text: string, from: number): number {
  let quote = ''
  for (let at = from; at < text.length; at++) {
    const char = text[at]!
    if (quote !== '') quote = char === quote ? '' : quote
    else if (char === '"' || char === "'") quote = char
    else if (char === '>') return at + 1
  }
  return text.length
}

function replaceWith(document: Document, container: Container, entry: Entry, lines: readonly string[]): Edit[] {
  const index = container.entries.indexOf(entry)
  if (/^[@#]/.test(entry.key)) return [{ from: entry.from, to: entry.to, insert: lines.join(' ') }]
  const [only] = elementsOf(entry)
  if (elementsOf(entry).length === 1) {
    const indent = lineIndent(document.text, only!.from)
    return [{ from: only!.from, to: only!.to, insert: lines.map((line, i) => (i === 0 ? line : indent + line)).join(eolOf(document.text)) }]
  }
  return splice(document, container, null, new Set([index]), [
    { after: index, entry: { lead: [], body: lines, trail: '', blankBefore: false } },
  ])
}

function holdsLines(node: Node): boolean {
  if (node.type === 'scalar') return String(node.value).includes('\n')
  return isContainer(node) && node.entries.some((entry) => holdsLines(entry.value))
}

function copy(
  source: Document,
  entry: Entry,
  _from: Container,
  target: Document,
  to: Container,
  name: string | null,
): Pick<NewEntry, 'body'> {
  const { text } = source
  if (/^[@#]/.test(entry.key)) return { body: entryLines(target, to, name ?? entry.key, (entry.value as { value: string }).value) }
  const tag = to.type === 'list' ? (to.tag ?? tagAt(source, entry)) : nameOf(name ?? entry.key)
  return {
    body: elementsOf(entry).flatMap((element) => {
      const piece = renamedPiece(text.slice(element.from, element.to), tagAt(source, element), tag)
      return holdsLines(element.value) ? [piece] : dedent(piece, element.from - lineStart(text, element.from))
    }),
  }
}

function renamedPiece(piece: string, from: string, to: string): string {
  if (from === to) return piece
  const close = `</${from}`
  const at = piece.lastIndexOf(close)
  const opened = '<' + to + piece.slice(from.length + 1, at > 0 ? at : undefined)
  return at > 0 ? `${opened}</${to}${piece.slice(at + close.length)}` : opened
}

function rename(document: Document, _container: Container, entry: Entry, name: string): Edit[] {
  const to = nameOf(name)
  return elementsOf(entry).flatMap((element) => {
    const edits: Edit[] = [{ from: element.keyFrom, to: element.keyTo, insert: to }]
    const close = element.key.startsWith('@') ? -1 : document.text.lastIndexOf('</', element.to)
    if (close >= element.keyTo) edits.push({ from: close + 2, to: close + 2 + (element.keyTo - element.keyFrom), insert: to })
    return edits
  })
}

/** Attributes and elements are written differently, and so is an element without text. */
function swappable(at: Entry, from: Entry): boolean {
  const empty = [at, from].some((entry) => entry.value.type === 'scalar' && entry.value.style === 'empty')
  return !empty && at.key.startsWith('@') === from.key.startsWith('@')
}

export const xmlWriter: Writer = {
  swappable,
  scalar,
  key: (_document, _container, name) => nameOf(name),
  entryLines,
  inline: (_document, value) => encodeText(textOf(value)),
  refuses,
  splice,
  replaceWith,
  copy,
  rename,
}
