import { eolOf, lineEnd, lineStart, skipBreak } from '../text/lines'
import { NO_COMMENTS, isContainer, type Comment, type Container, type Document, type Entry } from '../tree/nodes'
import { ownEnd, valueStart } from '../formats/splice'
import { bareComment, type TreeIndex } from './index-tree'
import type { Patch } from './patch'
import { commentAbove, commentBehind } from './place'

/** All comment texts of a document, without markers: what is not in the factory copy's is mine. */
export function commentTexts(index: TreeIndex): Set<string> {
  const texts = new Set<string>()
  const add = (document: Document, comments: readonly Comment[]): void => {
    for (const comment of comments) for (const line of linesOf(document, comment)) texts.add(bareComment(line))
  }
  for (const document of index.documents) if (isContainer(document.root)) add(document, document.root.tail)
  for (const entry of index.entries) {
    const tail = isContainer(entry.value) ? entry.value.tail : NO_COMMENTS
    if (entry.lead.length === 0 && !entry.trail && tail.length === 0) continue
    const document = index.documentOf(entry)
    add(document, entry.lead)
    if (entry.trail) add(document, [entry.trail])
    add(document, tail)
  }
  texts.add('')
  return texts
}

function linesOf(document: Document, comment: Comment): string[] {
  return document.text.slice(comment.from, comment.to).split(/\r\n|\r|\n/).map((line) => line.trim())
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
export function myComments(mine: TreeIndex, entry: Entry, known: ReadonlySet<string>): MyComments {
  if (entry.lead.length === 0 && !entry.trail) return NONE
  const document = mine.documentOf(entry)
  const fresh = (comment: Comment): string[] => {
    const lines = linesOf(document, comment)
    return lines.some((line) => !known.has(bareComment(line))) ? lines : []
  }
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
  for (const [lines, loose] of [[mine.loose, true], [mine.attached, false]] as const) {
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
  if (at.value.type === 'scalar' && (at.value.style === 'literal' || at.value.style === 'folded')) return lineEnd(document.text, at.value.from)
  return ownEnd(at)
}

/** My comments after the last entry of a section go after the last entry of the update's. */
export function placeTail(mine: TreeIndex, from: Container, target: TreeIndex, to: Container, known: ReadonlySet<string>, patch: Patch): string[] {
  if (from.tail.length === 0) return []
  const source = mine.documentAround(from)
  const lines = from.tail.flatMap((comment) => linesOf(source, comment).filter((line) => !known.has(bareComment(line))))
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
  patch.editIn(to, [next > at ? { from: next, to: next, insert: body.map((line) => line + eol).join('') } : { from: at, to: at, insert: body.map((line) => eol + line).join('') }])
  return []
}
