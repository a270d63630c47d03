import { eolOf, lineEnd, lineStart, skipBreak } from '../text/lines'
import { isContainer, type Comment, type Container, type Document, type Entry } from '../tree/nodes'
import { ownEnd, valueStart } from '../formats/splice'
import { bareComment, type TreeIndex } from './index-tree'
import type { Patch } from './patch'
import { commentAbove, commentBehind } from './place'

/** Comments that are known from factory copies: as they stand, and, worked out when first asked, line by line without markers. */
export class KnownComments {
  private raw: Set<string> | null = null
  private lines: Set<string> | null = null

  constructor(private readonly indexes: readonly TreeIndex[]) {}

  private asTheyStand(): Set<string> {
    const raw = new Set<string>()
    for (const index of this.indexes) eachComment(index, (document, comment) => raw.add(document.text.slice(comment.from, comment.to)))
    return raw
  }

  /** Whether a comment, or each line of it, is known. */
  has(document: Document, comment: Comment): boolean {
    this.raw ??= this.asTheyStand()
    return this.raw.has(document.text.slice(comment.from, comment.to)) || linesOf(document, comment).every((line) => this.hasLine(line))
  }

  hasLine(line: string): boolean {
    this.lines ??= new Set(this.indexes.flatMap((index) => [...commentTexts(index)]))
    return this.lines.has(bareComment(line))
  }
}

/** Whether two entries have their comments written alike. */
export function hasSameComments(aDoc: Document, a: Entry, bDoc: Document, b: Entry): boolean {
  if (a.lead.length !== b.lead.length || (a.trail === null) !== (b.trail === null)) return false
  if (a.lead.length > 0 && aDoc.text.slice(a.lead[0]!.from, a.from) !== bDoc.text.slice(b.lead[0]!.from, b.from)) return false
  return !a.trail || aDoc.text.slice(a.trail.from, a.trail.to) === bDoc.text.slice(b.trail!.from, b.trail!.to)
}

function eachComment(index: TreeIndex, see: (document: Document, comment: Comment) => void): void {
  for (const document of index.documents) {
    const waiting: Container[] = isContainer(document.root) ? [document.root] : []
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      for (const entry of next.entries) {
        for (const comment of entry.lead) see(document, comment)
        if (entry.trail) see(document, entry.trail)
        if (entry.value.type === 'map' || entry.value.type === 'list') waiting.push(entry.value)
      }
      for (const comment of next.tail) see(document, comment)
    }
  }
}

/** All comment texts of a document, without markers: what is not in the factory copy's is mine. */
export function commentTexts(index: TreeIndex): Set<string> {
  const texts = new Set<string>([''])
  eachComment(index, (document, comment) => {
    for (const line of linesOf(document, comment)) texts.add(bareComment(line))
  })
  return texts
}

function linesOf(document: Document, comment: Comment): string[] {
  return document.text
    .slice(comment.from, comment.to)
    .split(/\r\n|\r|\n/)
    .map((line) => line.trim())
}

export interface MyComments {
  readonly attached: readonly string[]
  readonly loose: readonly string[]
  readonly trail: string | null
  /** The blanks in front of `trail`, so that a column of comments stays one. */
  readonly gap: string
}

const NONE: MyComments = { attached: [], loose: [], trail: null, gap: ' ' }

/** The comments at an entry of mine that are not known from elsewhere. */
export function myComments(mine: TreeIndex, entry: Entry, known: KnownComments): MyComments {
  if (entry.lead.length === 0 && !entry.trail) return NONE
  const document = mine.documentOf(entry)
  const fresh = (comment: Comment): string[] => (known.has(document, comment) ? [] : linesOf(document, comment))
  return {
    attached: entry.lead.filter((comment) => comment.attached).flatMap(fresh),
    loose: entry.lead.filter((comment) => !comment.attached).flatMap(fresh),
    trail: entry.trail && fresh(entry.trail).length > 0 ? document.text.slice(entry.trail.from, entry.trail.to) : null,
    gap: entry.trail ? (/[ \t]+$/.exec(document.text.slice(entry.from, entry.trail.from))?.[0] ?? ' ') : ' ',
  }
}

/** Puts my comments at the update's entry; gives those that found no place. */
export function placeComments(mine: MyComments, target: TreeIndex, at: Entry, patch: Patch): string[] {
  if (mine === NONE) return []
  const eol = eolOf(target.documentOf(at).text)
  const lost: string[] = []
  for (const [lines, loose] of [
    [mine.loose, true],
    [mine.attached, false],
  ] as const) {
    if (lines.length === 0) continue
    const edits = commentAbove(target, at, lines, loose, eol)
    if (edits) patch.edit(at, edits)
    else lost.push(...lines)
  }
  if (mine.trail !== null) patch.edit(at, commentBehind(target, at, mine.trail, mine.gap, trailPosition(target, at)))
  return lost
}

function trailPosition(target: TreeIndex, at: Entry): number {
  const document = target.documentOf(at)
  if (isContainer(at.value) && !at.value.flow) return valueStart(document, at)
  if (at.value.type === 'scalar' && (at.value.style === 'literal' || at.value.style === 'folded'))
    return lineEnd(document.text, at.value.from)
  return ownEnd(at)
}

/** My comments after the last entry of a section go after the last entry of the update's. */
export function placeTail(
  mine: TreeIndex,
  from: Container,
  target: TreeIndex,
  to: Container,
  owner: Entry | null,
  known: KnownComments,
  patch: Patch,
): string[] {
  if (from.tail.length === 0) return []
  const source = mine.documentAround(from)
  const lines = from.tail.flatMap((comment) =>
    known.has(source, comment) ? [] : linesOf(source, comment).filter((line) => !known.hasLine(line)),
  )
  if (lines.length === 0) return []
  const { text } = target.documentAround(to)
  const eol = eolOf(text)
  const last = to.tail[to.tail.length - 1] ?? null
  const end = last ? last.to : to.entries.length > 0 ? Math.max(ownEnd(to.entries[to.entries.length - 1]!)) : -1
  if (end < 0) return lines
  const start = last ? last.from : to.entries[to.entries.length - 1]!.from
  const indent = /^[ \t]*/.exec(text.slice(lineStart(text, start)))![0]
  if (to.flow && text.slice(lineStart(text, start), start).trim() !== '') return lines
  const at = lineEnd(text, end)
  const next = skipBreak(text, at)
  const body = lines.map((line) => indent + line)
  patch.append(to, owner, [
    next > at
      ? { from: next, to: next, insert: body.map((line) => line + eol).join('') }
      : { from: at, to: at, insert: body.map((line) => eol + line).join('') },
  ])
  return []
}
