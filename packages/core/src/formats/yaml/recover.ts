/*
 * One mistake gives one finding: when a slip makes the lines after it read wrongly, too, the likeliest repairs of the
 * first finding are tried, and what reads well after one of them is no finding of its own.
 */
import { applyEdits, type Edit } from '../../text/edits'
import { lineEnd, lineStart, skipBreak } from '../../text/lines'
import type { Finding } from '../../tree/nodes'

const MOST_ROUNDS = 6
/** Beyond this length of text, trying repairs would cost more than it tells. */
const LONGEST = 400_000

interface Repair {
  readonly edits: readonly Edit[]
  /** The finding it stands for, where that is not the one it was made for. */
  readonly finding?: Finding
}

/** Leaves out findings that are only consequences of earlier ones. `read` gives the findings of a text. */
export function withoutConsequences(text: string, findings: readonly Finding[], read: (text: string) => readonly Finding[]): readonly Finding[] {
  if (text.length > LONGEST) return findings
  const kept: Finding[] = []
  let now = text
  let rest = inOrder(findings)
  let shift: (offset: number) => number = (offset) => offset
  for (let round = 0; round < MOST_ROUNDS && rest.filter(counts).length > 1; round++) {
    const first = rest.find(counts)!
    const best = bestRepair(now, first, rest, read)
    if (!best) break
    kept.push(moved(best.repair.finding ?? { ...first, ...(first.fix ? {} : { fix: { label: 'Mend it', edits: best.repair.edits } }) }, shift))
    const back = shift
    const { edits } = best.repair
    shift = (offset) => back(unshift(offset, edits))
    now = applyEdits(now, edits)
    rest = inOrder(best.rest)
  }
  return inOrder([...kept, ...rest.map((finding) => moved(finding, shift))])
}

function counts(finding: Finding): boolean {
  return finding.severity !== 'note'
}

function inOrder(findings: readonly Finding[]): Finding[] {
  return [...findings].sort((a, b) => a.from - b.from)
}

/** A finding in a repaired text, at its place in the one before; its own fix refers to the repaired one and goes. */
function moved(finding: Finding, back: (offset: number) => number): Finding {
  const from = back(finding.from)
  if (from === finding.from && back(finding.to) === finding.to) return finding
  const { fix, ...rest } = finding
  const edits = fix?.edits.map((edit) => ({ from: back(edit.from), to: back(edit.to), insert: edit.insert }))
  return { ...rest, from, to: Math.max(from, back(finding.to)), ...(fix && edits ? { fix: { ...fix, edits } } : {}) }
}

function unshift(offset: number, edits: readonly Edit[]): number {
  let at = offset
  for (const edit of edits) {
    const delta = edit.insert.length - (edit.to - edit.from)
    if (at >= edit.from + edit.insert.length) at -= delta
    else if (at > edit.from) at = Math.min(at, edit.to)
  }
  return at
}

function bestRepair(text: string, first: Finding, all: readonly Finding[], read: (text: string) => readonly Finding[]): { repair: Repair; rest: readonly Finding[] } | null {
  let best: { repair: Repair; rest: readonly Finding[] } | null = null
  let least = all.filter(counts).length - 1
  for (const repair of repairs(text, first)) {
    const rest = read(applyEdits(text, repair.edits))
    const count = rest.filter(counts).length
    if (count > least || (best && count === least)) continue
    best = { repair, rest }
    least = count
    if (count === 0) break
  }
  return best
}

function repairs(text: string, first: Finding): Repair[] {
  const start = lineStart(text, first.from)
  const line = text.slice(start, lineEnd(text, start))
  const indent = /^[ \t]*/.exec(line)![0]
  const found: Repair[] = first.fix ? [{ edits: first.fix.edits }] : []
  const above = lineAbove(text, start)
  const below = lineBelow(text, start)
  // glued together on this line, or on the one above, which then is the one to name
  for (const at of [start, ...(above === null ? [] : [above])]) {
    const glued = gluedIn(text, at)
    if (glued) found.push(at === start && glued.from >= first.from - indent.length - 1 ? { edits: glued.fix!.edits, finding: glued } : { edits: glued.fix!.edits, finding: glued })
  }
  for (const other of [above, below]) {
    if (other === null) continue
    const like = /^ */.exec(text.slice(other, lineEnd(text, other)))![0]
    for (const blanks of [like, `${like}  `, like.slice(2)]) if (blanks !== indent) found.push({ edits: [{ from: start, to: start + indent.length, insert: blanks }] })
  }
  return found
}

/** `name:value` or `-item` on a line, as a finding with its fix. */
function gluedIn(text: string, start: number): Finding | null {
  const line = text.slice(start, lineEnd(text, start))
  const key = /^( *(?:- +)?)([^\s:#"'[\]{}-][^\s:#"'[\]{}]*):(?=[^\s:/])/.exec(line)
  const dash = /^( *)-(?=[^\s-])/.exec(line)
  const match = key ?? dash
  if (!match) return null
  const at = start + match[0].length
  const from = start + match[1]!.length
  return {
    code: 'missing-space', severity: 'error', from, to: start + line.length,
    message: key ? `After “${key[2]}:” a space is missing, so this is not read as a setting.` : 'After the dash a space is missing, so this is not read as an item of a list.',
    fix: { label: 'Insert the space', edits: [{ from: at, to: at, insert: ' ' }] },
  }
}

function lineAbove(text: string, start: number): number | null {
  for (let at = start; at > 0; ) {
    at = lineStart(text, text[at - 1] === '\n' && text[at - 2] === '\r' ? at - 2 : at - 1)
    if (!/^\s*(#|$)/.test(text.slice(at, lineEnd(text, at)))) return at
  }
  return null
}

function lineBelow(text: string, start: number): number | null {
  for (let at = skipBreak(text, lineEnd(text, start)); at < text.length; at = skipBreak(text, lineEnd(text, at))) {
    if (!/^\s*(#|$)/.test(text.slice(at, lineEnd(text, at)))) return at
  }
  return null
}
