import type { Edit } from '../../text/edits'
import { eolOf, lineEnd, skipBreak } from '../../text/lines'
import type { Container, Document, Entry } from '../../tree/nodes'
import { CodeText, NumberText, type Value } from '../../tree/values'
import { blockExtent, entryBlock, ownEnd, settle } from '../splice'
import type { Insertion, Place, ScalarValue, Writer } from '../writer'

function textOf(value: Value): string {
  if (value === null) return ''
  if (value instanceof NumberText || value instanceof CodeText) return value.text
  if (Array.isArray(value)) return (value as readonly Value[]).map(textOf).join(', ')
  return String(value)
}

/** A value's source: quoted where blanks, quotes or a comment's mark would be lost without. */
function source(text: string, quoted: '"' | "'" | ''): string {
  const needs = text !== text.trim() || /^["']|\s;|\s#(\s|$)|^;|^#(\s|$)/.test(text)
  if (quoted === '' && !needs) return text
  const quote = quoted !== '' && !text.includes(quoted) ? quoted : text.includes('"') ? "'" : '"'
  return quote + text + quote
}

function scalar(place: Place, value: ScalarValue): string {
  const style = place.old?.style
  return source(textOf(value), style === 'double' ? '"' : style === 'single' ? "'" : '')
}

/** INI has sections of single values and nothing deeper, no text over several lines, and no escapes. */
function refuses(container: Container, value: Value): string | null {
  if (value instanceof Map)
    return container.type === 'map' && container.prefix !== undefined
      ? refusesIn(value)
      : 'is a section, and sections do not nest in INI files'
  if (/[\r\n]/.test(textOf(value))) return 'has several lines, which INI files cannot hold'
  return /"/.test(textOf(value)) && /'/.test(textOf(value)) && source(textOf(value), '') !== textOf(value)
    ? 'has both kinds of quotes, which INI files cannot hold'
    : null
}

function refusesIn(value: ReadonlyMap<string, Value>): string | null {
  for (const item of value.values()) if (item instanceof Map || /[\r\n]/.test(textOf(item))) return 'is deeper than INI files go'
  return null
}

function mark(document: Document, container: Container): string {
  const like = container.entries.find((entry) => entry.value.type === 'scalar') ?? null
  if (like) return document.text.slice(like.keyTo, like.value.from) || ' = '
  return /^[ \t]*[\w.-]+=/m.test(document.text) ? '=' : ' = '
}

function key(_document: Document, _container: Container, name: string, _old: Entry | null): string {
  return name
}

function entryLines(document: Document, container: Container, name: string | null, value: Value): string[] {
  if (value instanceof Map)
    return [
      `[${name ?? ''}]`,
      ...[...(value as ReadonlyMap<string, Value>)].map(([inner, item]) => inner + mark(document, container) + source(textOf(item), '')),
    ]
  return [(name ?? '') + mark(document, container) + source(textOf(value), '')]
}

/** Single values of the root stand above its first section; a section's values right below its heading. */
function splice(
  document: Document,
  container: Container,
  owner: Entry | null,
  removals: ReadonlySet<number>,
  insertions: readonly Insertion[],
): Edit[] {
  const { text } = document
  const { entries } = container
  const edits: Edit[] = [...removals].map((index) => removal(text, entries, index, removals))
  const firstSection = entries.findIndex((entry) => entry.value.type === 'map')
  const lastSingle = entries.findLastIndex((entry, i) => entry.value.type !== 'map' && !removals.has(i))
  for (const { after, entry } of settle(container, removals, insertions)) {
    const section = entry.body[0]!.startsWith('[')
    const place = section ? Math.max(after, lastSingle) : firstSection >= 0 ? Math.min(after, firstSection - 1) : after
    const lines = entryBlock({ ...entry, blankBefore: entry.blankBefore || (section && entries.length > 0) })
    const indent = section ? '' : ' '.repeat(Math.max(0, container.indent))
    edits.push(
      insertion(
        text,
        entries,
        place,
        owner,
        lines.map((line) => (line === '' ? '' : indent + line)),
      ),
    )
  }
  return edits
}

function removal(text: string, entries: readonly Entry[], index: number, removals: ReadonlySet<number>): Edit {
  const { from, to } = blockExtent(text, entries[index]!)
  const blank = to < text.length && lineEnd(text, to) === to && !removals.has(index + 1)
  const first = from === 0 || /(\r\n|\r|\n)(\r\n|\r|\n)$/.test(text.slice(Math.max(0, from - 4), from))
  return { from, to: blank && first ? skipBreak(text, to) : to, insert: '' }
}

function insertion(text: string, entries: readonly Entry[], after: number, owner: Entry | null, lines: readonly string[]): Edit {
  const eol = eolOf(text)
  const previous = after >= 0 ? entries[after]! : null
  if (!previous && !owner && entries[0]) {
    const { from } = blockExtent(text, entries[0])
    return { from, to: from, insert: lines.join(eol) + eol }
  }
  if (!previous && !owner)
    return { from: text.length, to: text.length, insert: (text.length > 0 && !/[\r\n]$/.test(text) ? eol : '') + lines.join(eol) + eol }
  const end = previous
    ? previous.value.type === 'map'
      ? sectionEnd(previous)
      : ownEnd(previous)
    : Math.max(owner!.trail?.to ?? 0, owner!.keyTo + 1)
  const at = lineEnd(text, end)
  const next = skipBreak(text, at)
  return next === at ? { from: at, to: at, insert: eol + lines.join(eol) } : { from: next, to: next, insert: lines.join(eol) + eol }
}

function sectionEnd(section: Entry): number {
  return Math.max(ownEnd(section), section.keyTo + 1, section.trail?.to ?? 0)
}

/** A single value that becomes a section moves below the others; its comments move along. */
function replaceWith(document: Document, container: Container, entry: Entry, body: readonly string[]): Edit[] {
  const index = container.entries.indexOf(entry)
  const lead = entry.lead.filter((comment) => comment.attached).map((comment) => document.text.slice(comment.from, comment.to))
  const trail = entry.trail ? document.text.slice(entry.trail.from, entry.trail.to) : ''
  const after = body[0]!.startsWith('[') && entry.value.type !== 'map' ? container.entries.length - 1 : index
  return splice(document, container, null, new Set([index]), [{ after, entry: { lead, body, trail, blankBefore: false } }])
}

export const iniWriter: Writer = {
  scalar,
  key,
  entryLines,
  inline: (_document, value) => source(textOf(value), ''),
  refuses,
  splice,
  replaceWith,
}
