import { OperationError } from '../formats/error'
import { duplicateEntry, editDocument, renameEntry, setValue } from '../formats/operations'
import { parseLike } from '../formats/registry'
import { writeCells } from '../ledger/cells'
import { readTable } from '../ledger/read'
import { tableKind } from '../ledger/tables'
import { RuleBook } from '../rules/book'
import { isContainer, type Document } from '../tree/nodes'
import { formatPointer, getNode, locate, parsePointer } from '../tree/pointer'
import { freeName } from './names'
import { freshValues, type ChosenValue, type Fresh } from './fresh'
import { rewriteOwn, type Renamed } from './own'

/** A file with an entry under a new name. */
export interface NamedEntry {
  readonly text: string
  /** Where the entry stands now. */
  readonly pointer: string
  /** Where it repeated its name. */
  readonly renamed: readonly Renamed[]
}

export interface EntryCopy extends NamedEntry {
  readonly chosen: readonly ChosenValue[]
  /** JSON Pointers of settings that are still as in the other entry, and should differ. */
  readonly differ: readonly string[]
}

/** Where the name of an entry stands: it is its key, or in a list what tells its items apart; null where nothing does. */
interface NamePlace {
  readonly name: string
  /** Keys below the entry; none where the key is the name. */
  readonly column: readonly string[] | null
}

/** What people call an entry; null for items of a list that nothing tells apart. */
export function nameOfEntry(document: Document, keys: readonly string[]): string | null {
  return placeOfName(document, keys)?.name ?? null
}

function placeOfName(document: Document, keys: readonly string[]): NamePlace | null {
  const found = locate(document, keys)
  if (!found) throw new OperationError('no-such-setting', `there is no setting ${formatPointer(keys) || '(the whole file)'}`)
  if (found.parent.type === 'map') return { name: found.entry.key, column: null }
  const id = tableKind(found.parent) ? readTable(document, keys.slice(0, -1)).idColumn : null
  const column = id === null ? null : parsePointer(id)
  const node = column && getNode(document, [...keys, ...column])
  return node?.type === 'scalar' ? { name: String(node.value), column } : null
}

/** Names of the entries beside one, and its own. */
export function namesBeside(document: Document, keys: readonly string[]): ReadonlySet<string> {
  const group = keys.slice(0, -1)
  const node = getNode(document, group)
  if (!node || !isContainer(node)) return new Set()
  return new Set(
    node.type === 'list' && tableKind(node) ? readTable(document, group).rows.map(({ id }) => id) : node.entries.map(({ key }) => key),
  )
}

/** A name for a copy of an entry; null where it needs none. */
export function suggestName(document: Document, keys: readonly string[]): string | null {
  const name = nameOfEntry(document, keys)
  return name === null ? null : freeName(name, namesBeside(document, keys))
}

/**
 * Puts a copy of an entry right after it, with its comments: under a new name, which is put wherever it repeats its own,
 * with numbers of its own where every entry has one.
 * @param name null for items of a list that have none
 * @throws OperationError `key-exists` where the name is taken, `no-such-setting`
 */
export function duplicateAs(document: Document, keys: readonly string[], name: string | null, book = new RuleBook([])): EntryCopy {
  const place = placeOfName(document, keys)
  if (name !== null && namesBeside(document, keys).has(name)) throw new OperationError('key-exists', `${name} is there already`)
  const { parent, index } = locate(document, keys)!
  const group = keys.slice(0, -1)
  const fresh = freshValues(document, group, keys.at(-1)!, book)
  const copy = [...group, parent.type === 'map' ? name! : String(index + 1)]
  const copied = editDocument(document, duplicateEntry(document, keys, name))
  const named = name !== null && place ? putName(copied, copy, place, name, book) : { text: copied.text, renamed: [] }
  return {
    ...withFresh(parseLike(document, named.text), document, keys, copy, fresh),
    pointer: formatPointer(copy),
    renamed: named.renamed,
  }
}

/** Sets the numbers a copy has for itself; texts that should differ and do not are named. */
function withFresh(
  copied: Document,
  original: Document,
  keys: readonly string[],
  copy: readonly string[],
  { chosen, differ }: Fresh,
): Pick<EntryCopy, 'text' | 'chosen' | 'differ'> {
  const row = formatPointer(copy)
  const says = (document: Document, at: readonly string[], column: string): string | null => {
    const node = getNode(document, [...at, ...(parsePointer(column) ?? [])])
    return node?.type === 'scalar' ? String(node.value) : null
  }
  const text = writeCells(
    copied,
    chosen.map(({ column, to }) => ({ row, column, value: to })),
  )
  const same = differ.filter((column) => says(copied, copy, column) === says(original, keys, column))
  return { text, chosen, differ: same.map((column) => row + column) }
}

/** The name where it stands by itself, and wherever else the entry repeats it. */
function putName(
  document: Document,
  keys: readonly string[],
  { name: old, column }: NamePlace,
  name: string,
  book: RuleBook,
): Omit<NamedEntry, 'pointer'> {
  const named = column ? editDocument(document, setValue(document, [...keys, ...column], name)) : document
  const { text, renamed } = rewriteOwn(named, keys, old, name, book)
  return { text: editDocument(named, [{ from: 0, to: named.text.length, insert: text }]).text, renamed }
}

/**
 * Gives an entry another name, which is put wherever it repeats its own. What refers to it is not looked at here
 * (references.ts). @throws OperationError `key-exists`, `no-such-setting`, `cannot-hold` for an item without a name
 */
export function renameAs(document: Document, keys: readonly string[], name: string, book = new RuleBook([])): NamedEntry {
  const place = placeOfName(document, keys)
  if (!place) throw new OperationError('cannot-hold', 'nothing of this item is a name')
  if (place.name === name) return { text: document.text, pointer: formatPointer(keys), renamed: [] }
  if (namesBeside(document, keys).has(name)) throw new OperationError('key-exists', `${name} is there already`)
  const at = place.column ? keys : [...keys.slice(0, -1), name]
  const renamed = place.column ? document : editDocument(document, renameEntry(document, keys, name))
  return { ...putName(renamed, at, place, name, book), pointer: formatPointer(at) }
}
