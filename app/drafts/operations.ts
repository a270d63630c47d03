import {
  addEntry,
  copyInto,
  duplicateAs,
  getNode,
  isContainer,
  locate,
  nameOfEntry,
  parseLike,
  parsePointer,
  removeEntry,
  renameAs,
  reorderEntries,
  setValue,
  trimEdit,
  turnOff,
  turnOn,
  valueOf,
  writeCells,
  writeReferences,
  type CellChange,
  type ChosenValue,
  type Document,
  type Edit,
  type Reference,
  type Renamed,
  type RuleBook,
  type ScalarStyle,
  type Value,
} from '@pasticcio/core'
import { fromWire, type WireValue } from './wire'

type Places = readonly Pick<Reference, 'pointer' | 'what'>[]

/** One thing done to the settings. */
export type Operation =
  | { readonly kind: 'set'; readonly pointer: string; readonly value: WireValue }
  /** Sets a value that may not be there yet: then it comes after the setting named beside it, in sections that are made for it. */
  | { readonly kind: 'put'; readonly pointer: string; readonly value: WireValue; readonly after?: string }
  | { readonly kind: 'remove'; readonly pointer: string }
  /** Puts a copy after an entry, under a name of its own wherever it repeats its name. */
  | { readonly kind: 'duplicate'; readonly pointer: string; readonly name: string | null }
  /** Gives an entry another name, and along with it what refers to it in the same file. */
  | { readonly kind: 'rename'; readonly pointer: string; readonly name: string; readonly places?: Places }
  /** Gives what refers to an entry of another file its new name. */
  | {
      readonly kind: 'references'
      readonly pointer: string
      readonly places: Places
      readonly from: string
      readonly to: string
    }
  /** Changes places with the entry before or after it. */
  | { readonly kind: 'move'; readonly pointer: string; readonly by: 1 | -1 }
  /** Adds an entry to the section or list at the pointer, like one the plugin ships. */
  | { readonly kind: 'add'; readonly pointer: string; readonly like: string; readonly name: string | null }
  | { readonly kind: 'to-factory'; readonly pointer: string }
  /** Sets what stands in a comment, or puts a setting into one. */
  | { readonly kind: 'turn-on'; readonly pointer: string }
  | { readonly kind: 'turn-off'; readonly pointer: string }
  /** Writes what a finding says is meant. */
  | { readonly kind: 'mend'; readonly pointer: string; readonly edits: readonly Edit[] }
  /** Sets cells of the table at the pointer, in one step. */
  | { readonly kind: 'cells'; readonly pointer: string; readonly changes: readonly CellChange[] }

/** A file with what stands on the server and what was shipped; null where that is not known. */
export interface Sides {
  readonly document: Document
  readonly base: Document | null
  readonly factory: Document | null
  readonly rules: RuleBook
}

/** What came of an entry that was copied, added or renamed. */
export interface EntryTold {
  /** Where it stands now. */
  readonly pointer: string
  /** What it was called, or is like. */
  readonly from: string
  readonly renamed: readonly Renamed[]
  readonly chosen: readonly ChosenValue[]
  /** JSON Pointers of settings that are as in the other entry, and should differ. */
  readonly differ: readonly string[]
}

export interface Done {
  readonly edits: readonly Edit[]
  readonly entry?: EntryTold
}

/** What an operation comes to. @throws OperationError where it cannot be done */
export function doneBy(sides: Sides, operation: Operation): Done {
  if (!isOfEntry(operation)) return { edits: editsOf(sides, operation) }
  const { text, ...entry } = entryBy(sides, operation)
  return { edits: wholeEdit(sides.document.text, text), entry }
}

/** Operations that make or name a whole entry. */
type OfEntry = Extract<Operation, { readonly kind: 'duplicate' | 'rename' | 'add' }>
const isOfEntry = (operation: Operation): operation is OfEntry => ['duplicate', 'rename', 'add'].includes(operation.kind)

function entryBy({ document, factory, rules }: Sides, operation: OfEntry): EntryTold & { readonly text: string } {
  const keys = parsePointer(operation.pointer) ?? []
  const from = keys.at(-1) ?? ''
  if (operation.kind === 'duplicate') return { ...duplicateAs(document, keys, operation.name, rules), from }
  if (operation.kind === 'rename') {
    const named = renameAs(document, keys, operation.name, rules)
    const old = nameOfEntry(document, keys) ?? from
    const text = writeReferences(parseLike(document, named.text), operation.places ?? [], old, operation.name)
    return { ...named, text, from: old, chosen: [], differ: [] }
  }
  const like = parsePointer(operation.like) ?? []
  const { text, pointer, renamed } = copyInto({ document: factory ?? document, keys: like }, document, keys, operation.name, rules)
  return { text, pointer, renamed, from: like.at(-1) ?? '', chosen: [], differ: [] }
}

/** Edits of operations that change an entry or settings as they stand. */
function editsOf(sides: Sides, operation: Exclude<Operation, OfEntry>): readonly Edit[] {
  const { document } = sides
  const keys = parsePointer(operation.pointer) ?? []
  switch (operation.kind) {
    case 'set':
      return setValue(document, keys, fromWire(operation.value), styleOf(sides, keys))
    case 'put':
      return put(sides, keys, fromWire(operation.value), operation.after)
    case 'remove':
      return removeEntry(document, keys)
    case 'references':
      return wholeEdit(document.text, writeReferences(document, operation.places, operation.from, operation.to))
    case 'move':
      return moved(document, keys, operation.by)
    case 'cells':
      return wholeEdit(document.text, writeCells(document, operation.changes))
    case 'mend':
      return operation.edits
    case 'turn-on':
      return turnOn(document, keys.slice(0, -1), keys.at(-1)!)
    case 'turn-off':
      return turnOff(document, keys)
    case 'to-factory':
      return toFactory(sides, keys)
  }
}

function put(sides: Sides, keys: readonly string[], value: Value, after: string | undefined): readonly Edit[] {
  const { document } = sides
  if (getNode(document, keys)) return setValue(document, keys, value, styleOf(sides, keys))
  let depth = keys.length - 1
  while (depth > 0 && !getNode(document, keys.slice(0, depth))) depth--
  const whole = keys.slice(depth + 1).reduceRight((inner: Value, key) => new Map([[key, inner]]), value)
  const around = getNode(document, keys.slice(0, depth))
  const isThere = after !== undefined && around && isContainer(around) && around.entries.some(({ key }) => key === after)
  return addEntry(document, keys.slice(0, depth), keys[depth]!, whole, isThere ? after : undefined)
}

function moved(document: Document, keys: readonly string[], by: 1 | -1): readonly Edit[] {
  const group = keys.slice(0, -1)
  const around = getNode(document, group)
  const index = locate(document, keys)?.index ?? -1
  const other = index + by
  if (!around || !isContainer(around) || index < 0 || other < 0 || other >= around.entries.length) return []
  const order = around.entries.map((_entry, at) => (at === index ? other : at === other ? index : at))
  return reorderEntries(document, group, order)
}

function wholeEdit(before: string, after: string): Edit[] {
  const edit = trimEdit(before, { from: 0, to: before.length, insert: after })
  return edit ? [edit] : []
}

/** How a text is quoted on the server, or was shipped. */
function styleOf({ base, factory }: Sides, keys: readonly string[]): ScalarStyle | undefined {
  for (const document of [base, factory]) {
    const node = document && getNode(document, keys)
    if (node?.type === 'scalar') return node.kind === 'text' && ['plain', 'single', 'double'].includes(node.style) ? node.style : undefined
  }
  return undefined
}

/** Gives a setting the value the plugin shipped; one that was removed comes back. */
function toFactory({ document, factory }: Sides, keys: readonly string[]): readonly Edit[] {
  const node = factory && getNode(factory, keys)
  if (!factory || !node) return []
  const value = valueOf(factory, node)
  return getNode(document, keys) ? setValue(document, keys, value) : addEntry(document, keys.slice(0, -1), keys[keys.length - 1]!, value)
}
