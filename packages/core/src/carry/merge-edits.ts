import { formatOrText, parse } from '../formats/registry'
import type { Reading } from '../formats/reading'
import type { Document } from '../tree/nodes'
import { matchSequences } from '../tree/sequence'
import { carryFiles } from './carry-files'
import { commentTexts } from './comments'
import { TreeIndex } from './index-tree'
import { layer } from './layer'
import type { Customisation } from './types'

/** Two texts that were made from one. */
export interface Edited {
  readonly path: string
  readonly reading: Reading
  readonly base: string
  readonly mine: string
  readonly theirs: string
}

/**
 * Brings together what two people changed in one file: settings changed by one of them are as that one has them.
 * @returns null where both changed the same setting or the same lines, so that somebody has to choose
 */
export function mergeEdits(edited: Edited): string | null {
  const { path, reading, base, mine, theirs } = edited
  if (mine === theirs || theirs === base) return mine
  if (mine === base) return theirs
  const [document, own, other] = [base, mine, theirs].map((text) => parse(text, formatOrText(path), reading)) as [
    Document,
    Document,
    Document,
  ]
  const read = [document, own, other].every((one) => !isBroken(one))
  const [ours, others] = read ? [layer(document, own), layer(document, other)] : [[], []]
  if (ours.some((change) => others.some((theirs) => contradict(change, theirs)))) return null
  const fits = (text: string): boolean => !read || !isBroken(parse(text, formatOrText(path), reading))
  const byLines = mergeLines(base, mine, theirs)
  if (byLines !== null && fits(byLines)) return byLines
  const bySettings = read ? mergeSettings(edited, document, [...ours, ...others]) : null
  return bySettings !== null && keepsComments(edited, bySettings) ? bySettings : null
}

/** Whether no comment is missing that one of them wrote. */
function keepsComments({ path, reading, base, mine, theirs }: Edited, merged: string): boolean {
  const comments = (text: string) => commentTexts(new TreeIndex(parse(text, formatOrText(path), reading)))
  const [before, after] = [comments(base), comments(merged)]
  return [...comments(mine), ...comments(theirs)].every((comment) => before.has(comment) || after.has(comment))
}

const isBroken = (document: Document): boolean => document.findings.some((finding) => finding.severity === 'error')

/** Whether two changes are of the same setting, or of one and what lies in it, and not the same. */
function contradict(a: Customisation, b: Customisation): boolean {
  // a comment and the setting it belongs to are two things; where they share a line, the lines tell
  if ((a.kind === 'comment') !== (b.kind === 'comment')) return false
  const isWithin = (one: string, other: string): boolean => one === other || one.startsWith(other + '/')
  if (!isWithin(a.path, b.path) && !isWithin(b.path, a.path)) return false
  return a.path !== b.path || a.kind !== b.kind || !sameJson(a.mine, b.mine)
}

/** Settings on one line, as the core carries them. Only what it can do without leaving anything aside is taken. */
function mergeSettings({ path, reading, base, mine, theirs }: Edited, document: Document, wanted: readonly Customisation[]): string | null {
  const file = (text: string) => ({ path, text, format: formatOrText(path), reading })
  const { files } = carryFiles({ factory: [file(base)], mine: [file(mine)], update: [file(theirs)] })
  const [result] = files
  if (files.length !== 1 || !result || result.text === null || result.decisions.some(({ weight }) => weight !== undefined)) return null
  const got = layer(document, parse(result.text, formatOrText(path), reading))
  const has = (all: readonly Customisation[], one: Customisation): boolean =>
    all.some((other) => other.path === one.path && other.kind === one.kind && sameJson(other.mine, one.mine))
  return got.every((change) => has(wanted, change)) && wanted.every((change) => has(got, change)) ? result.text : null
}

/** Lines `from` to `to` of the base that became others. */
interface Hunk {
  readonly from: number
  readonly to: number
  readonly lines: readonly string[]
}

/** The changes of both, where they are of different lines; null where they are not. */
function mergeLines(base: string, mine: string, theirs: string): string | null {
  const lines = linesOf(base)
  const ours = hunksOf(lines, linesOf(mine))
  const others = hunksOf(lines, linesOf(theirs)).filter((hunk) => !ours.some((own) => sameHunk(own, hunk)))
  if (ours.some((own) => others.some((other) => meet(own, other)))) return null
  const merged: string[] = []
  let at = 0
  for (const { from, to, lines: added } of [...ours, ...others].sort((a, b) => a.from - b.from || a.to - b.to)) {
    merged.push(...lines.slice(at, from), ...added)
    at = to
  }
  return [...merged, ...lines.slice(at)].join('')
}

const linesOf = (text: string): string[] => text.split(/(?<=\n)/)

const sameHunk = (a: Hunk, b: Hunk): boolean => a.from === b.from && a.to === b.to && a.lines.join('') === b.lines.join('')

/** Changes of the same lines; of insertions, also those that touch, since which comes first is not known. */
function meet(a: Hunk, b: Hunk): boolean {
  const isInsertion = a.from === a.to && b.from === b.to
  if (isInsertion) return a.from === b.from
  if (a.from === a.to) return b.from < a.from && a.from < b.to
  if (b.from === b.to) return a.from < b.from && b.from < a.to
  return a.from < b.to && b.from < a.to
}

function hunksOf(before: readonly string[], after: readonly string[]): Hunk[] {
  const hunks: Hunk[] = []
  let [left, right] = [0, 0]
  for (const [i, j] of [...matchSequences(before, after), [before.length, after.length] as const]) {
    hunks.push(...split({ from: left, to: i, lines: after.slice(right, j) }))
    ;[left, right] = [i + 1, j + 1]
  }
  return hunks
}

/** As many lines as there were are taken to have changed one by one. */
function split(hunk: Hunk): Hunk[] {
  const { from, to, lines } = hunk
  if (from === to && lines.length === 0) return []
  return to - from === lines.length ? lines.map((line, i) => ({ from: from + i, to: from + i + 1, lines: [line] })) : [hunk]
}

const sameJson = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
