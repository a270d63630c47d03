import type { Edit } from '../text/edits'
import { eolOf, lineEnd, lineIndent, lineStart, skipBreak } from '../text/lines'
import { isContainer, isNameless, type Container, type Document, type Entry, type Node } from '../tree/nodes'
import { OperationError } from './error'
import { dedent } from './dedent'
import { blockExtent, entryBlock, ownStart, spliceEntries, startsLine } from './splice'
import type { Insertion, NewEntry } from './writer'

/** Whether an entry is an assignment of its own, or a section that only assignments make up. */
function isStatement(entry: Entry): boolean {
  return entry.names !== undefined || isScattered(entry)
}

/** A section without a table of its own, made up by assignments to its names. */
function isScattered(entry: Entry): boolean {
  return entry.value.type === 'map' && !entry.value.flow
}

/** Whether a new entry of a section becomes an assignment: where there are some, and it is not the table a file returns. */
export function standsAlone(container: Container, key: string | null): boolean {
  if (key === null) return false
  if (!container.flow) return true
  return container.type === 'map' && container.prefix !== undefined && container.prefix !== ''
}

/** The assignments below an entry that stand outside of its own statement, in the order of the file. */
function scatteredBelow(entry: Entry): Entry[] {
  const result: Entry[] = []
  const visit = (container: Container): void => {
    for (const inner of container.entries) {
      if (inner.names) result.push(inner)
      if (isContainer(inner.value)) visit(inner.value)
    }
  }
  if (isContainer(entry.value)) visit(entry.value)
  return result.sort((a, b) => a.from - b.from)
}

/** Changes a section whose entries are fields inside brackets, assignments, or both. */
export function assignmentSplice(
  document: Document,
  container: Container,
  owner: Entry | null,
  removals: ReadonlySet<number>,
  insertions: readonly Insertion[],
): Edit[] {
  const isField = container.entries.map((entry) => container.flow && !isStatement(entry))
  const fieldsUpTo = (after: number): number => isField.slice(0, after + 1).filter(Boolean).length - 1
  const fields = container.entries.filter((_entry, i) => isField[i])
  const edits: Edit[] = []
  const alone = (item: Insertion): boolean => item.entry.standsAlone ?? !container.flow
  const fieldRemovals = new Set([...removals].filter((i) => isField[i]).map((i) => fieldsUpTo(i)))
  const fieldInsertions = insertions.filter((item) => !alone(item)).map((item) => ({ ...item, after: fieldsUpTo(item.after) }))
  if (fieldRemovals.size + fieldInsertions.length > 0)
    edits.push(...spliceEntries(document, { ...container, entries: fields }, null, fieldRemovals, fieldInsertions))
  const leaving = container.entries.filter((_entry, i) => removals.has(i) && !isField[i])
  // a section that only its assignments make up stays, empty
  if (owner && isScattered(owner) && leaving.length === container.entries.length && insertions.length === 0)
    return becomes(document, owner, '{}')
  edits.push(...removeStatements(document, leaving))
  for (const item of insertions) if (alone(item)) edits.push(insertStatement(document, container, item, removals))
  return edits
}

function removeStatements(document: Document, entries: readonly Entry[]): Edit[] {
  const { text } = document
  const all = entries.flatMap((entry) => [...(isScattered(entry) ? [] : [entry]), ...scatteredBelow(entry)]).sort((a, b) => a.from - b.from)
  const edits: Edit[] = []
  let end = -1
  for (const entry of all) {
    if (entry.from < end) continue
    const { from, to } = statementExtent(text, entry)
    const start = Math.max(from, end)
    const blankAfter = to < text.length && lineEnd(text, to) === to
    const blankBefore = start === 0 || (start >= 2 && lineStart(text, start - 1) === lineEnd(text, lineStart(text, start - 1)))
    end = blankAfter && blankBefore ? skipBreak(text, to) : to
    edits.push({ from: start, to: end, insert: '' })
  }
  return edits
}

/** A section of assignments gives way to one assignment of a value; null where its table is all there is of it. */
export function assignmentReplace(document: Document, entry: Entry, source: string): Edit[] | null {
  if (scatteredBelow(entry).length === 0) return null
  if (isScattered(entry)) return becomes(document, entry, source)
  return [{ from: entry.value.outer, to: entry.value.to, insert: source }, ...removeStatements(document, scatteredBelow(entry))]
}

function becomes(document: Document, entry: Entry, source: string): Edit[] {
  const [first, ...rest] = scatteredBelow(entry)
  const prefix = entry.value.type === 'map' ? (entry.value.prefix ?? '') : ''
  return [{ from: first!.from, to: first!.to, insert: `${prefix} = ${source}` }, ...removeStatements(document, rest)]
}

/** The lines of a statement with its comments; where others share its line, only itself. */
function statementExtent(text: string, entry: Entry): { from: number; to: number } {
  const end = statementEnd(text, entry)
  const lines = startsLine(text, ownStart(entry)) && /^[ \t;]*$/.test(text.slice(end, lineEnd(text, end)))
  if (lines) return { from: blockExtent(text, entry).from, to: skipBreak(text, lineEnd(text, end)) }
  return { from: entry.from, to: end }
}

function statementEnd(text: string, entry: Entry): number {
  let end = Math.max(entry.to, entry.trail?.to ?? 0)
  while (
    !entry.trail &&
    (text[end] === ';' || text[end] === ' ') &&
    lineEnd(text, end) !== end &&
    /^[ \t]*;/.test(text.slice(end, lineEnd(text, end)))
  )
    end++
  return end
}

function insertStatement(document: Document, container: Container, item: Insertion, removals: ReadonlySet<number>): Edit {
  const { text } = document
  const eol = eolOf(text)
  const body = entryBlock(item.entry).join(eol)
  let after = Math.min(item.after, container.entries.length - 1)
  // what goes takes blank lines with it, so nothing is put in behind it
  while (after >= 0 && (!isStatement(container.entries[after]!) || removals.has(after))) after--
  const previous = after >= 0 ? lastStatement(container.entries[after]!) : null
  if (previous) {
    const at = lineEnd(text, statementEnd(text, previous))
    const next = skipBreak(text, at)
    return next === at ? { from: at, to: at, insert: eol + body } : { from: next, to: next, insert: body + eol }
  }
  const first = container.entries.find(isStatement)
  if (first) {
    const { from } = blockExtent(text, first)
    return { from, to: from, insert: body + eol }
  }
  if (container.flow && container.to > 0) {
    const at = skipBreak(text, lineEnd(text, container.to))
    return { from: at, to: at, insert: (at === text.length && !/[\r\n]$/.test(text) ? eol : '') + body + eol }
  }
  return { from: text.length, to: text.length, insert: (text.length > 0 && !/[\r\n]$/.test(text) ? eol : '') + body + eol }
}

function lastStatement(entry: Entry): Entry {
  const below = scatteredBelow(entry)
  const last = below[below.length - 1]
  return last && (isScattered(entry) || last.from > entry.from) ? last : entry
}

/** Gives an entry another name, in every assignment that passes through it. */
export function assignmentRename(
  document: Document,
  container: Container,
  entry: Entry,
  name: string,
  key: (document: Document, container: Container, name: string, old: Entry | null) => string,
): Edit[] {
  if (isNameless(entry)) throw new OperationError('cannot-hold', 'a line of code has no name')
  if (!isStatement(entry)) return [{ from: entry.keyFrom, to: entry.keyTo, insert: key(document, container, name, null) }]
  const own = entry.names ? entry.names.length - 1 : null
  const below = scatteredBelow(entry)
  const depth = own ?? (below.length > 0 ? depthOf(entry, below[0]!) : 0)
  const bare = /^[A-Za-z_$][\w$]*$/.test(name)
  if (!bare && depth === 0)
    throw new OperationError('cannot-hold', `“${name}” cannot name a variable: use letters, digits and _ only, a letter first`)
  const statements = own === null ? below : [entry, ...below]
  return statements.flatMap((statement) => {
    const span = statement.names![depth]
    return span ? [{ ...withDot(document.text, span, bare), insert: key(document, container, name, bare ? statement : null) }] : []
  })
}

/** How deep in the path of an assignment the name of a section stands. */
function depthOf(entry: Entry, statement: Entry): number {
  return Math.max(
    0,
    statement.names!.findIndex((span) => span.from === entry.keyFrom),
  )
}

/** A name in brackets takes the place of the dot, too. */
function withDot(text: string, span: { from: number; to: number }, bare: boolean): { from: number; to: number } {
  return { from: !bare && text[span.from - 1] === '.' ? span.from - 1 : span.from, to: span.to }
}

/** An entry of one file of assignments made ready to stand in another, as an assignment or a field, as the place takes it. */
export function assignmentCopy(
  source: Document,
  entry: Entry,
  _from: Container,
  target: Document,
  to: Container,
  name: string | null,
  head: (document: Document, container: Container, name: string | null, alone: boolean) => string,
  key: (document: Document, container: Container, name: string, old: Entry | null) => string,
): Pick<NewEntry, 'body' | 'standsAlone'> {
  const alone = to.type === 'map' && (isStatement(entry) ? !to.flow || to.prefix !== undefined : standsAlone(to, name ?? entry.key))
  if (isStatement(entry) && alone) {
    const rename = name !== null && name !== entry.key ? assignmentRename(source, to, entry, name, key) : []
    const below = scatteredBelow(entry)
    const statements = isScattered(entry) ? below : [entry, ...below]
    const body = statements.flatMap((statement, i) => [
      ...(i === 0 && statement === entry
        ? []
        : statement.lead.filter((comment) => comment.attached).map((comment) => source.text.slice(comment.from, comment.to))),
      ...pieceLines(
        edited(source.text, statement.from, i === 0 ? statement.to : Math.max(statement.to, statement.trail?.to ?? 0), rename),
        statement.from - lineStart(source.text, statement.from),
        statement.value,
      ),
    ])
    return { body, standsAlone: true }
  }
  const { value } = entry
  const first = value.outer
  const written = pieceLines(source.text.slice(first, value.to), lineIndent(source.text, first).length, value)
  return {
    body: [head(target, to, to.type === 'map' ? (name ?? entry.key) : null, alone) + written[0]!, ...written.slice(1)],
    standsAlone: alone,
  }
}

/** The lines of a value's source; one that holds a text over several lines is kept in one piece, blanks and all. */
export function pieceLines(piece: string, column: number, value: Node): string[] {
  return holdsLongText(value) ? [piece] : dedent(piece, column)
}

function holdsLongText(node: Node): boolean {
  if (node.type === 'scalar') return node.style === 'long' || node.kind === 'code'
  return isContainer(node) && node.entries.some((entry) => holdsLongText(entry.value))
}

/** A piece of a text with those edits made that lie in it. */
function edited(text: string, from: number, to: number, edits: readonly Edit[]): string {
  let result = text.slice(from, to)
  for (const edit of [...edits].sort((a, b) => b.from - a.from))
    if (edit.from >= from && edit.to <= to) result = result.slice(0, edit.from - from) + edit.insert + result.slice(edit.to - from)
  return result
}
