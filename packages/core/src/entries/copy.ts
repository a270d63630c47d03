import { convertedValue } from '../formats/convert'
import { OperationError } from '../formats/error'
import { addEntry, copyEntry, editDocument, insertEntries, landingOf } from '../formats/operations'
import { parseLike } from '../formats/registry'
import { readTable, type Column } from '../ledger/read'
import { tableKind } from '../ledger/tables'
import { RuleBook } from '../rules/book'
import { isContainer, type Container, type Document, type Entry, type Node } from '../tree/nodes'
import { formatPointer, getNode, locate } from '../tree/pointer'
import { CodeText, type Value } from '../tree/values'
import { nameOfEntry } from './duplicate'
import { rewriteOwn, type Renamed } from './own'

/**
 * What of an entry does not fit where it is copied to. `unknown`: entries there have no such setting. `missing`: all of
 * them have it, and this one has not. `kind`: it is of another kind there. `left-out`: the format there cannot hold it.
 */
export interface Misfit {
  readonly what: 'unknown' | 'missing' | 'kind' | 'left-out'
  /** JSON Pointer below the entry. */
  readonly setting: string
  readonly says: string
}

export interface CopiedEntry {
  readonly text: string
  readonly pointer: string
  readonly renamed: readonly Renamed[]
  readonly misfits: readonly Misfit[]
}

/** An entry of some file. */
export interface EntrySource {
  readonly document: Document
  readonly keys: readonly string[]
}

/**
 * Copies an entry into a section or list of another file, of whatever format, after what is there: with its comments where
 * that format has some. What the format cannot hold is left out and named, and so is what entries there are not made of.
 * @param group the keys of the section or list it goes into @param name null for lists, and for the name it has
 * @throws OperationError `key-exists` where the name is taken there, `not-a-section`, `no-such-setting`
 */
export function copyInto(
  source: EntrySource,
  target: Document,
  group: readonly string[],
  name: string | null,
  book = new RuleBook([]),
): CopiedEntry {
  const found = locate(source.document, source.keys)
  const into = getNode(target, group)
  if (!found) throw new OperationError('no-such-setting', `there is no ${formatPointer(source.keys)}`)
  if (!into || !isContainer(into))
    throw new OperationError('not-a-section', `${formatPointer(group) || 'the file'} is not a section or list`)
  const old = nameOfEntry(source.document, source.keys)
  const key = into.type === 'map' ? (name ?? old) : null
  if (into.type === 'map' && key === null) throw new OperationError('cannot-hold', 'an entry of a section needs a name')
  if (into.type === 'map' && into.entries.some((entry) => entry.key === key))
    throw new OperationError('key-exists', `${key} is there already`)
  const columns = columnsThere(target, group)
  const { document, leftOut } = placed(source, found.entry, found.parent, target, into, group, key)
  const keys = [...group, key ?? String(into.entries.length)]
  const { text, renamed } = old !== null && key !== null ? rewriteOwn(document, keys, old, key, book) : { text: document.text, renamed: [] }
  const misfits = [...leftOut, ...(columns ? compared(parseLike(target, text), keys, columns) : [])]
  return { text, pointer: formatPointer(keys), renamed, misfits }
}

function columnsThere(target: Document, group: readonly string[]): { readonly columns: readonly Column[]; readonly rows: number } | null {
  const node = getNode(target, group)
  if (!node || !tableKind(node)) return null
  const { columns, rows } = readTable(target, group)
  return { columns, rows: rows.length }
}

/** The target with the entry in it: as it is written where that reads there, else without comments, else from its values. */
function placed(
  source: EntrySource,
  entry: Entry,
  from: Container,
  target: Document,
  into: Container,
  group: readonly string[],
  key: string | null,
): { readonly document: Document; readonly leftOut: readonly Misfit[] } {
  const landing = landingOf(target, into, locate(target, group)?.parent ?? null)
  const withIt = (comments: boolean): Document | null => {
    try {
      const copied = copyEntry(source.document, entry, from, target, landing, key, comments)
      return editDocument(target, insertEntries(target, group, [{ after: into.entries.length - 1, entry: copied }]))
    } catch (error) {
      if (error instanceof OperationError) return null
      throw error
    }
  }
  const hasCode = source.document.format !== target.format && [...codeIn(entry.value)].length > 0
  const whole = hasCode ? null : withIt(true)
  if (whole) return { document: whole, leftOut: [] }
  const leftOut: Misfit[] = hasComments(entry) ? [{ what: 'left-out', setting: '', says: 'comments, which cannot stand there' }] : []
  const bare = hasCode ? null : withIt(false)
  if (bare) return { document: bare, leftOut }
  const value = fitting(convertedValue(source.document, entry.value, target, null), target, group, [], leftOut)
  if (value === undefined) throw new OperationError('cannot-hold', `nothing of ${entry.key} can stand there: ${leftOut.at(-1)!.says}`)
  return { document: editDocument(target, addEntry(target, group, key, value)), leftOut }
}

/** What of a value is code, which another language would take for a text. */
function* codeIn(node: Node): Generator<Node> {
  if (isContainer(node)) for (const entry of node.entries) yield* codeIn(entry.value)
  else if (node.type === 'scalar' && node.kind === 'code') yield node
}

const hasComments = ({ lead, trail }: Entry): boolean => trail !== null || lead.some(({ attached }) => attached)

/** A value with what its new file cannot hold left out; undefined where nothing is left. */
function fitting(value: Value, target: Document, group: readonly string[], at: readonly string[], leftOut: Misfit[]): Value | undefined {
  if (value instanceof Map && value.size > 0) {
    const parts = [...(value as ReadonlyMap<string, Value>)].flatMap(([key, part]) => {
      const kept = fitting(part, target, group, [...at, key], leftOut)
      return kept === undefined ? [] : [[key, kept] as const]
    })
    return parts.length > 0 ? new Map(parts) : undefined
  }
  if (value instanceof CodeText && value.format !== target.format) {
    leftOut.push({ what: 'left-out', setting: formatPointer(at), says: 'left out: it is code of another language' })
    return undefined
  }
  const alone = at.reduceRight<Value>((inner, key) => new Map([[key, inner]]), value)
  try {
    const isMap = getNode(target, group)?.type === 'map'
    editDocument(target, addEntry(target, group, isMap ? FREE : null, alone))
    return value
  } catch (error) {
    if (!(error instanceof OperationError)) throw error
    leftOut.push({ what: 'left-out', setting: formatPointer(at), says: `left out: ${error.message}` })
    return undefined
  }
}
/** A name that no entry has. */
const FREE = 'pasticcio-tries-this'

function compared(
  target: Document,
  keys: readonly string[],
  { columns, rows }: { readonly columns: readonly Column[]; readonly rows: number },
): Misfit[] {
  const now = readTable(target, keys.slice(0, -1)).rows.find(({ pointer }) => pointer === formatPointer(keys))
  if (!now) return []
  const known = new Map(columns.map((column) => [column.id, column]))
  const [unknown, kinds]: [Misfit[], Misfit[]] = [[], []]
  for (const [setting, cell] of now.cells) {
    const column = known.get(setting)
    if (!column) unknown.push({ what: 'unknown', setting, says: 'no entry there has it' })
    else if (column.kind !== cell.kind && cell.kind !== 'null')
      kinds.push({ what: 'kind', setting, says: `a ${WORDS[column.kind]} there, and not a ${WORDS[cell.kind]}` })
  }
  const isInside = (id: string): boolean =>
    [...now.cells.keys()].some((cell) => cell.startsWith(`${id}/`) || (id.startsWith(`${cell}/`) && cell !== ''))
  const missing = columns.filter(({ id, count }) => count === rows && !now.cells.has(id) && !isInside(id))
  return [
    ...unknown,
    ...kinds,
    ...missing.map(({ id }): Misfit => ({ what: 'missing', setting: id, says: `all ${rows} entries there have it` })),
  ]
}
const WORDS = {
  number: 'number',
  text: 'text',
  bool: 'switch',
  null: 'value left out',
  code: 'piece of code',
  list: 'list',
  parts: 'section',
}
