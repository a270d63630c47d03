import { eolOf, lineEnd, lineIndent, lineStart, skipBreak } from '../text/lines'
import type { Edit } from '../text/edits'
import type { Container, Document, Entry } from '../tree/nodes'
import { indentText, type Insertion, type NewEntry } from './writer'

/**
 * Edits that take entries out of a section or list and put others in, with their comments; all else stays byte for byte.
 * `owner` is the entry whose value the container is, null for the root of the file. For formats made of lines and brackets.
 */
export function spliceEntries(
  document: Document,
  container: Container,
  owner: Entry | null,
  removals: ReadonlySet<number>,
  insertions: readonly Insertion[],
): Edit[] {
  if (removals.size === 0 && insertions.length === 0) return []
  const placed = settle(container, removals, insertions)
  return container.flow ? spliceFlow(document, container, removals, placed) : spliceBlock(document, container, owner, removals, placed)
}

/** What was to follow an entry that goes follows the nearest one that stays. */
export function settle(container: Container, removals: ReadonlySet<number>, insertions: readonly Insertion[]): Insertion[] {
  return insertions
    .map((item, order) => ({ item, order }))
    .sort((a, b) => a.item.after - b.item.after || a.order - b.order)
    .map(({ item }) => {
      let after = Math.min(item.after, container.entries.length - 1)
      while (after >= 0 && removals.has(after)) after--
      return { after, entry: item.entry }
    })
}

/** Start of the comments that belong to an entry, or of the entry itself without any. */
export function ownStart(entry: Entry): number {
  return entry.lead.find((comment) => comment.attached)?.from ?? entry.from
}

/** End of an entry with the comma and comment behind it; of a block, with what belongs to its last lines. */
export function ownEnd(entry: Entry): number {
  let end = Math.max(entry.to, entry.comma + 1, entry.trail?.to ?? 0)
  for (let node = entry.value; (node.type === 'map' || node.type === 'list') && !node.flow;) {
    const last: Entry | undefined = node.entries[node.entries.length - 1]
    end = Math.max(end, node.tail[node.tail.length - 1]?.to ?? 0, last?.trail?.to ?? 0)
    if (!last) break
    node = last.value
  }
  return end
}

// ---- blocks: an entry owns whole lines --------------------------------------------------------------------------

export function startsLine(text: string, at: number): boolean {
  return /^[ \t\ufeff]*$/.test(text.slice(lineStart(text, at), at))
}

export function blockExtent(text: string, entry: Entry): { from: number; to: number } {
  const start = ownStart(entry)
  const from = startsLine(text, start) ? Math.max(lineStart(text, start), text.charCodeAt(0) === 0xfeff ? 1 : 0) : start
  return { from, to: skipBreak(text, lineEnd(text, ownEnd(entry))) }
}

function spliceBlock(
  document: Document,
  container: Container,
  owner: Entry | null,
  removals: ReadonlySet<number>,
  insertions: readonly Insertion[],
): Edit[] {
  const { text } = document
  const { entries } = container
  if (entries.length > 0 && removals.size === entries.length && insertions.length === 0 && owner)
    return emptyBlock(document, container, owner)
  const edits: Edit[] = []
  for (const index of removals) edits.push(...removeBlockEntry(text, entries, index, removals))
  const compact = entries.length > 0 && !startsLine(text, entries[0]!.from)
  const indent = ' '.repeat(Math.max(0, container.indent))
  for (const insertion of insertions) {
    const lines = entryBlock(insertion.entry).map((line) => (line === '' ? '' : indent + line))
    edits.push(insertLines(document, container, insertion.after, lines, compact))
  }
  return edits
}

/** The lines of a new entry with its comments. */
export function entryBlock(entry: NewEntry): string[] {
  const body = [...entry.body]
  if (entry.trail) body[0] = `${body[0]} ${entry.trail}`
  return [...(entry.blankBefore ? [''] : []), ...entry.lead, ...body]
}

function removeBlockEntry(text: string, entries: readonly Entry[], index: number, removals: ReadonlySet<number>): Edit[] {
  const entry = entries[index]!
  const { from, to } = blockExtent(text, entry)
  const next = entries[index + 1]
  if (!startsLine(text, entry.from) && index === 0) {
    // the first key behind a dash: the next one takes its place on the line
    const joins = next && !removals.has(1) && text.slice(to, next.from).trim() === ''
    return [{ from: entry.from, to: joins ? next.from : lineEnd(text, ownEnd(entry)), insert: '' }]
  }
  // an entry set off by blank lines on both sides leaves one of them behind, not two
  const blankAfter = to < text.length && lineEnd(text, to) === to
  const blankBefore = from === 0 || (from >= 2 && lineStart(text, from - 1) === lineEnd(text, lineStart(text, from - 1)))
  const edit = { from, to: blankAfter && blankBefore && !removals.has(index + 1) ? skipBreak(text, to) : to, insert: '' }
  // without a final line end, the one in front goes with the last entry
  if (edit.to === text.length && from > 0 && !/[\r\n]$/.test(text) && index > 0 && !removals.has(index - 1))
    return [{ from: from - (text.slice(from - 2, from) === '\r\n' ? 2 : 1), to: from, insert: '', soft: true }, edit]
  return [edit]
}

function emptyBlock(document: Document, container: Container, owner: Entry): Edit[] {
  const { text } = document
  const edits = container.entries.map((entry) => ({ ...blockExtent(text, entry), insert: '' }))
  const behind = valueStart(document, owner)
  const empty = container.type === 'list' ? ' []' : ' {}'
  if (container.from <= lineEnd(text, behind)) return [{ from: behind, to: container.to, insert: empty }]
  return [{ from: behind, to: behind, insert: empty }, ...edits]
}

/** The offset behind the colon of an entry's key, its dash, or its anchor: where the value on the same line would start. */
export function valueStart(document: Document, owner: Entry): number {
  if (owner.value.outer !== owner.value.from) {
    let at = owner.value.outer
    while (at < document.text.length && !/[\s]/.test(document.text[at]!)) at++
    return at
  }
  if (owner.keyTo === owner.from && document.text[owner.from] === '-') return owner.from + 1
  const colon = document.text.indexOf(':', owner.keyTo)
  return colon < 0 ? owner.keyTo : colon + 1
}

function insertLines(document: Document, container: Container, after: number, lines: readonly string[], compact: boolean): Edit {
  const { text } = document
  const { entries } = container
  const eol = eolOf(text)
  if (entries.length === 0) {
    const bare = text.length > 0 && !/[\r\n]$/.test(text)
    return { from: text.length, to: text.length, insert: (bare ? eol : '') + lines.join(eol) + eol }
  }
  if (after < 0) {
    const first = entries[0]!
    if (compact)
      return {
        from: first.from,
        to: first.from,
        insert: lines.map((line, i) => (i === 0 ? line.trimStart() : line)).join(eol) + eol + ' '.repeat(container.indent),
      }
    const { from } = blockExtent(text, first)
    return { from, to: from, insert: lines.join(eol) + eol }
  }
  const previous = entries[Math.min(after, entries.length - 1)]!
  const at = lineEnd(text, ownEnd(previous))
  const next = skipBreak(text, at)
  if (next === at) return { from: at, to: at, insert: eol + lines.join(eol) }
  return { from: next, to: next, insert: lines.join(eol) + eol }
}

// ---- brackets: entries are parted by commas ---------------------------------------------------------------------

function spliceFlow(document: Document, container: Container, removals: ReadonlySet<number>, insertions: readonly Insertion[]): Edit[] {
  const { text } = document
  const { entries } = container
  const spread = entries.length > 0 ? /[\r\n]/.test(text.slice(container.from, entries[0]!.from)) : document.traits.brackets
  const indent = spread ? flowIndent(document, container) : ''
  if (entries.length === 0) return [fillEmptyFlow(document, container, insertions, spread, indent)]
  return [
    ...removeFlow(text, container, removals, spread),
    ...fixCommas(container, removals, insertions),
    ...insertFlow(document, container, removals, insertions, spread, indent),
  ]
}

function flowIndent(document: Document, container: Container): string {
  const { text } = document
  const first = container.entries.find((entry) => startsLine(text, entry.from))
  if (first) return text.slice(lineStart(text, first.from), first.from)
  return lineIndent(text, container.from) + indentText(document)
}

function fillEmptyFlow(document: Document, container: Container, insertions: readonly Insertion[], spread: boolean, indent: string): Edit {
  const { text } = document
  const eol = eolOf(text)
  const hasComments = container.tail.length > 0
  const at = hasComments ? container.tail[container.tail.length - 1]!.to : container.from + 1
  if (!spread) {
    const body = insertions.map((item) => flowLine(item.entry)).join(', ')
    return { from: container.from + 1, to: container.to - 1, insert: container.type === 'map' ? ` ${body} ` : body }
  }
  const lines = insertions
    .flatMap((item, i) => flowLines(item.entry, i < insertions.length - 1))
    .map((line) => (line === '' ? '' : indent + line))
  const insert = eol + lines.join(eol) + eol + lineIndent(text, container.from)
  return hasComments ? { from: at, to: at, insert: eol + lines.join(eol) } : { from: at, to: container.to - 1, insert }
}

function flowLine(entry: NewEntry): string {
  return entry.body.map((line) => line.trim()).join(' ')
}

function flowLines(entry: NewEntry, comma: boolean): string[] {
  const body = [...entry.body]
  if (comma) body[body.length - 1] += ','
  if (entry.trail) body[body.length - 1] += ' ' + entry.trail
  return [...(entry.blankBefore ? [''] : []), ...entry.lead, ...body]
}

function removeFlow(text: string, container: Container, removals: ReadonlySet<number>, spread: boolean): Edit[] {
  const { entries } = container
  return [...removals]
    .sort((a, b) => a - b)
    .map((index) => {
      const entry = entries[index]!
      const end = ownEnd(entry)
      const start = ownStart(entry)
      const ownLines = spread && startsLine(text, start) && /^[ \t]*([\r\n]|$)/.test(text.slice(end, lineEnd(text, end) + 1))
      if (ownLines) return { from: lineStart(text, start), to: skipBreak(text, lineEnd(text, end)), insert: '' }
      const next = entries[index + 1]
      const keptAfter = entries.some((_entry, i) => i > index && !removals.has(i))
      if (next && keptAfter && !/[\r\n]/.test(text.slice(end, next.from))) return { from: entry.from, to: next.from, insert: '' }
      const previous = entries[index - 1]
      const from = previous && !keptAfter ? ownEnd(previous) : entry.from
      return { from, to: Math.max(end, from), insert: '' }
    })
}

/** The last value has a comma only where the old last one had; all others have one. */
function fixCommas(container: Container, removals: ReadonlySet<number>, insertions: readonly Insertion[]): Edit[] {
  const { entries } = container
  const last = entries[entries.length - 1]!
  const trailing = last.comma >= 0
  let keptLast = -1
  entries.forEach((_entry, i) => {
    if (!removals.has(i)) keptLast = i
  })
  if (keptLast < 0) return []
  const kept = entries[keptLast]!
  const followed = insertions.some((item) => item.after >= keptLast)
  if (kept.comma < 0 && (followed || trailing)) return [{ from: kept.to, to: kept.to, insert: ',' }]
  if (kept.comma >= 0 && !followed && !trailing) return [{ from: kept.comma, to: kept.comma + 1, insert: '' }]
  return []
}

function insertFlow(
  document: Document,
  container: Container,
  removals: ReadonlySet<number>,
  insertions: readonly Insertion[],
  spread: boolean,
  indent: string,
): Edit[] {
  const { text } = document
  const { entries } = container
  const eol = eolOf(text)
  const trailing = entries[entries.length - 1]!.comma >= 0
  let keptLast = -1
  entries.forEach((_entry, i) => {
    if (!removals.has(i)) keptLast = i
  })
  const ends = insertions.filter((item) => item.after >= keptLast)
  const veryLast = ends.reduce<Insertion | null>((best, item) => (best === null || item.after >= best.after ? item : best), null)
  return insertions.map((item) => {
    const comma = item !== veryLast || (trailing && spread)
    const previous = item.after >= 0 ? entries[Math.min(item.after, entries.length - 1)]! : null
    if (!spread) return inlineInsertion(container, item, previous, comma, keptLast)
    const lines = flowLines(item.entry, comma)
      .map((line) => (line === '' ? '' : indent + line))
      .join(eol)
    if (!previous) {
      const at = skipBreak(text, lineEnd(text, container.from + 1))
      const first = entries[0]!
      const from = startsLine(text, ownStart(first)) ? lineStart(text, ownStart(first)) : at
      return { from, to: from, insert: lines + eol }
    }
    return afterFlowEntry(text, container, previous, lines, eol)
  })
}

function afterFlowEntry(text: string, container: Container, previous: Entry, lines: string, eol: string): Edit {
  const end = lineEnd(text, ownEnd(previous))
  const rest = text.slice(ownEnd(previous), end).trim()
  if (rest === '') {
    const next = skipBreak(text, end)
    if (next > end && next <= container.to) return { from: next, to: next, insert: lines + eol }
  }
  return { from: ownEnd(previous), to: ownEnd(previous), insert: eol + lines }
}

function inlineInsertion(container: Container, item: Insertion, previous: Entry | null, comma: boolean, keptLast: number): Edit {
  const body = flowLine(item.entry)
  if (!previous) {
    const at = container.entries[0]!.from
    return { from: at, to: at, insert: body + (comma ? ', ' : '') }
  }
  const at = previous.comma >= 0 && keptLast >= 0 ? previous.comma + 1 : previous.to
  return { from: at, to: at, insert: ' ' + body + (comma ? ',' : '') }
}
