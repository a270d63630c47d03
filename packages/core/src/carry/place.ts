import { trimEdit, type Edit } from '../text/edits'
import { lineIndent, lineStart } from '../text/lines'
import type { Container, Entry } from '../tree/nodes'
import { valueOf, type Value } from '../tree/values'
import { assignmentReplace, pieceLines } from '../formats/assignments'
import { convertedValue } from '../formats/convert'
import { turnOnAs, type OffSetting } from '../formats/commented'
import { blankAbove, copyEntry, landingOf, replaceByLines, replaceSource, replaceSourceLines, replaceValue } from '../formats/operations'
import { writerOf } from '../formats/registry'
import type { NewEntry } from '../formats/writer'
import type { TreeIndex } from './index-tree'

/** Edits that put the value of an entry of one document in the place of a value of another, in its own spelling. */
export function placeValue(target: TreeIndex, at: Entry, source: TreeIndex, from: Entry): Edit[] {
  const to = target.seat(at).parent
  const parent = source.seat(from).parent
  const document = source.documentOf(from)
  const into = target.documentOf(at)
  const node = from.value
  if (document.format !== into.format) return replaceValue(into, to, at, convertedValue(document, node, into, at.value))
  const alike = document.format === into.format && to.flow === parent.flow
  if (writerOf(into.format).portable && document.format === into.format) return placePortable(target, at, source, from)
  if (writerOf(into.format).onlyValues) return replaceValue(into, to, at, valueOf(document, node))
  if (node.type === 'scalar' && at.value.type === 'scalar') {
    const text = document.text.slice(node.from, node.to)
    if (
      alike &&
      !/[\r\n]/.test(text) &&
      !/[\r\n]/.test(into.text.slice(at.value.from, at.value.to)) &&
      text !== '' &&
      (writerOf(document.format).readsAnywhere?.(text) ?? true) &&
      (writerOf(into.format).swappable?.(at, from) ?? true)
    )
      return replaceSource(into, at.value, text)
    if (!/[\r\n]/.test(text) && node.style !== 'literal' && node.style !== 'folded')
      return replaceValue(into, to, at, valueOf(document, node))
  }
  if (node.type === 'scalar' && !alike) return replaceValue(into, to, at, valueOf(document, node))
  if (at.value.type === 'list' && node.type === 'list' && at.value.flow && node.flow === false)
    return replaceValue(into, to, at, valueOf(document, node))
  if (at.value.outer !== at.value.from) return replaceValue(into, to, at, valueOf(document, node))
  const copied = copyEntry(document, from, parent, into, to, to.type === 'map' ? at.key : null, false)
  const writer = writerOf(into.format)
  if (writer.replaceWith) return writer.replaceWith(into, to, at, copied.body)
  const own = into.text.slice(at.keyFrom, at.keyTo)
  const body =
    to.type === 'map' && !to.flow
      ? [
          own +
            copied.body[0]!.slice(
              from.keyTo - from.keyFrom === 0 || from.key !== at.key || !alike ? keyLength(copied.body[0]!) : from.keyTo - from.keyFrom,
            ),
          ...copied.body.slice(1),
        ]
      : copied.body
  return replaceByLines(into, to, at, body)
}

/** In these formats a value's source means the same anywhere; it only has to be indented anew. */
function placePortable(target: TreeIndex, at: Entry, source: TreeIndex, from: Entry): Edit[] {
  const into = target.documentOf(at)
  const { text } = source.documentOf(from)
  const node = from.value
  // a function statement is the whole line: it takes the place of another one only
  if (node.type === 'scalar' && node.kind === 'code' && (node.from === from.from) !== (at.value.from === at.from)) return []
  if (assignmentReplace(into, at, '') || assignmentReplace(source.documentOf(from), from, ''))
    return replaceValue(into, target.seat(at).parent, at, valueOf(source.documentOf(from), node))
  const indent = lineIndent(text, node.outer).length
  return replaceSourceLines(into, at.value, pieceLines(text.slice(node.outer, node.to), indent, node))
}

/** The length of the key a line starts with. */
function keyLength(line: string): number {
  return /^("(?:[^"\\]|\\.)*"|'(?:[^']|'')*'|[^]*?)(?=\s*:(\s|$))/.exec(line)?.[0].length ?? 0
}

/** An entry made ready to be inserted in another document, with comments and the blank line that sets it off. */
export function carryEntry(source: TreeIndex, entry: Entry, target: TreeIndex, to: Container, owner: Entry | null): NewEntry {
  const document = source.documentOf(entry)
  const into = target.documentAround(to)
  const landing = landingOf(into, to, owner ? target.seat(owner).parent : null)
  const copied = copyEntry(document, entry, source.seat(entry).parent, into, landing, null)
  return { ...copied, blankBefore: blankAbove(document, entry) && to.entries.length > 0 }
}

/** Edits that put an entry of mine in the place of the comment that holds it, switched off, in the update. */
export function placeTurnedOn(
  source: TreeIndex,
  entry: Entry,
  target: TreeIndex,
  to: Container,
  owner: Entry | null,
  off: OffSetting,
  comments: readonly string[],
): Edit[] {
  const into = target.documentAround(to)
  const copied = copyEntry(source.documentOf(entry), entry, source.seat(entry).parent, into, to, null)
  const body = copied.trail === '' ? copied.body : copied.body.map((line, i) => (i === 0 ? `${line} ${copied.trail}` : line))
  return turnOnAs(into, to, owner, off, [...comments, ...body])
}

/** Edits that give an entry a value which is not in any document. */
export function placeData(target: TreeIndex, at: Entry, value: Value): Edit[] {
  return replaceValue(target.documentOf(at), target.seat(at).parent, at, value)
}

/** Edits that put lines of comment above an entry; null where it does not start its line. */
export function commentAbove(target: TreeIndex, at: Entry, lines: readonly string[], loose: boolean, eol: string): Edit[] | null {
  const { text } = target.documentOf(at)
  const anchor = loose ? (at.lead.find((comment) => comment.attached)?.from ?? at.from) : at.from
  const start = lineStart(text, anchor)
  const indent = text.slice(start, anchor)
  if (indent.trim() !== '') return null
  const insert = lines.map((line) => indent + line + eol).join('') + (loose ? eol : '')
  return [{ from: start, to: start, insert }]
}

/** An edit of the comment behind an entry, or a new one there. */
export function commentBehind(target: TreeIndex, at: Entry, comment: string, gap: string, position: number): Edit[] {
  if (at.trail) {
    const edit = trimEdit(target.documentOf(at).text, { from: at.trail.from, to: at.trail.to, insert: comment })
    return edit ? [edit] : []
  }
  return [{ from: position, to: position, insert: gap + comment }]
}
