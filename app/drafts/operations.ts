import {
  addEntry,
  duplicateEntry,
  getNode,
  parsePointer,
  removeEntry,
  setValue,
  trimEdit,
  turnOff,
  turnOn,
  valueOf,
  writeCells,
  type CellChange,
  type Document,
  type Edit,
  type ScalarStyle,
} from '@pasticcio/core'
import { fromWire, type WireValue } from './wire'

/** One thing done to the settings. */
export type Operation =
  | { readonly kind: 'set'; readonly pointer: string; readonly value: WireValue }
  | { readonly kind: 'remove'; readonly pointer: string }
  | { readonly kind: 'duplicate'; readonly pointer: string; readonly name: string | null }
  | { readonly kind: 'to-factory'; readonly pointer: string }
  /** Sets what stands in a comment, or puts a setting into one. */
  | { readonly kind: 'turn-on'; readonly pointer: string }
  | { readonly kind: 'turn-off'; readonly pointer: string }
  /** Sets cells of the table at the pointer, in one step. */
  | { readonly kind: 'cells'; readonly pointer: string; readonly changes: readonly CellChange[] }

/** A file with what stands on the server and what was shipped; null where that is not known. */
export interface Sides {
  readonly document: Document
  readonly base: Document | null
  readonly factory: Document | null
}

/** The edits that an operation comes to. @throws OperationError where it cannot be done */
export function editsOf(sides: Sides, operation: Operation): readonly Edit[] {
  const { document } = sides
  const keys = parsePointer(operation.pointer) ?? []
  switch (operation.kind) {
    case 'set':
      return setValue(document, keys, fromWire(operation.value), styleOf(sides, keys))
    case 'remove':
      return removeEntry(document, keys)
    case 'duplicate':
      return duplicateEntry(document, keys, operation.name)
    case 'cells':
      return wholeEdit(document.text, writeCells(document, operation.changes))
    case 'turn-on':
      return turnOn(document, keys.slice(0, -1), keys.at(-1)!)
    case 'turn-off':
      return turnOff(document, keys)
    case 'to-factory':
      return toFactory(sides, keys)
  }
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
