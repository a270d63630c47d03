/*
 * One mistake gives one finding: when a slip makes what follows it read wrongly, too, the likeliest repairs of the first
 * finding are tried, and what reads well after one of them is no finding of its own.
 */
import { applyEdits, type Edit } from '../text/edits'
import type { Finding } from '../tree/nodes'

const MOST_ROUNDS = 6
/** Beyond this length of text, trying repairs would cost more than it tells. */
const LONGEST = 400_000

/** A change that may mend a slip. */
export interface Repair {
  readonly edits: readonly Edit[]
  /** The finding it stands for, where that is not the one it was made for. */
  readonly finding?: Finding
}

/** The likeliest repairs of a text for its first finding, as a format knows them. */
export type Repairs = (text: string, first: Finding) => Repair[]

/** Leaves out findings that are only consequences of earlier ones. `read` gives the findings of a text. */
export function withoutConsequences(
  text: string,
  findings: readonly Finding[],
  read: (text: string) => readonly Finding[],
  repairs: Repairs,
): readonly Finding[] {
  const counted = findings.filter(counts)
  if (text.length > LONGEST || counted.length === 0) return findings
  if (counted.length === 1) return fromAbove(text, findings, counted[0]!, read, repairs)
  const kept: Finding[] = []
  let now = text
  let rest = inOrder(findings)
  let shift: (offset: number) => number = (offset) => offset
  for (let round = 0; round < MOST_ROUNDS && rest.filter(counts).length > 1; round++) {
    const first = rest.find(counts)!
    const best = bestRepair(now, first, rest, read, repairs)
    if (!best) break
    kept.push(
      moved(best.repair.finding ?? { ...first, ...(first.fix ? {} : { fix: { label: 'Mend it', edits: best.repair.edits } }) }, shift),
    )
    const back = shift
    const { edits } = best.repair
    shift = (offset) => back(unshift(offset, edits))
    now = applyEdits(now, edits)
    rest = inOrder(best.rest)
  }
  return inOrder([...kept, ...rest.map((finding) => moved(finding, shift))])
}

/** A line that only seems indented wrongly, since the one above lacks a blank: that one is named instead. */
function fromAbove(
  text: string,
  findings: readonly Finding[],
  only: Finding,
  read: (text: string) => readonly Finding[],
  repairs: Repairs,
): readonly Finding[] {
  if (only.code !== 'bad-indent') return findings
  const better = repairs(text, only).find(
    ({ finding, edits }) => finding && finding.from < only.from && !read(applyEdits(text, edits)).some(counts),
  )
  return better?.finding ? inOrder([...findings.filter((finding) => finding !== only), better.finding]) : findings
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

function bestRepair(
  text: string,
  first: Finding,
  all: readonly Finding[],
  read: (text: string) => readonly Finding[],
  repairs: Repairs,
): { repair: Repair; rest: readonly Finding[] } | null {
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
