import { applyEdits } from '../text/edits'
import type { Document } from '../tree/nodes'
import { getNode, parsePointer } from '../tree/pointer'
import { OperationError } from '../formats/error'
import { moveEntry, reorderEntries } from '../formats/operations'
import { reordered, type Standing } from './list-order'

/** A list that shall stand in my order. */
export interface Reordered {
  /** The decision about it. */
  readonly id: string
  /** JSON Pointer of the list in the result. */
  readonly pointer: string
  /** The items of mine, in my order, by their positions in the result. */
  readonly items: readonly Standing[]
}

export interface ReorderedDocument {
  readonly document: Document
  /** Where a pointer leads after the lists changed their order. */
  readonly pointer: (old: string) => string
  /** Lists that could not be put into my order, by the ids of their decisions. */
  readonly failed: ReadonlySet<string>
}

/** Puts lists into my order; items of the update that I do not have stay behind the one they follow there. */
export function reorderLists(document: Document, lists: readonly Reordered[], read: (text: string) => Document): ReorderedDocument {
  let now = document
  const moves: { prefix: string; order: readonly number[] }[] = []
  const failed = new Set<string>()
  const depth = (item: Reordered): number => item.pointer.split('/').length
  // inner lists first, so that the way to them is still the old one
  for (const item of [...lists].sort((a, b) => depth(b) - depth(a))) {
    const keys = parsePointer(item.pointer)!
    const list = getNode(now, keys)
    if (list?.type !== 'list') {
      failed.add(item.id)
      continue
    }
    const order = reordered(list.entries.length, item.items)
    try {
      now = inOrder(now, keys, order, read)
      moves.push({ prefix: item.pointer + '/', order })
    } catch (error) {
      if (!(error instanceof OperationError)) throw error
      failed.add(item.id)
    }
  }
  return { document: now, pointer: (old) => moves.reduce(moved, old), failed }
}

function inOrder(document: Document, keys: readonly string[], order: readonly number[], read: (text: string) => Document): Document {
  try {
    return read(applyEdits(document.text, reorderEntries(document, keys, order)))
  } catch (error) {
    if (!(error instanceof OperationError)) throw error
    return oneByOne(document, keys, order, read)
  }
}

/** Where the entries cannot simply change places: each is taken out and put in again. */
function oneByOne(document: Document, keys: readonly string[], order: readonly number[], read: (text: string) => Document): Document {
  let now = document
  const there = [...order.keys()]
  order.forEach((wanted, at) => {
    const from = there.indexOf(wanted)
    if (from === at) return
    now = read(applyEdits(now.text, moveEntry(now, [...keys, String(from)], keys, at === 0 ? null : String(at - 1))))
    there.splice(from, 1)
    there.splice(at, 0, wanted)
  })
  return now
}

function moved(pointer: string, { prefix, order }: { prefix: string; order: readonly number[] }): string {
  if (!pointer.startsWith(prefix)) return pointer
  const [position, ...rest] = pointer.slice(prefix.length).split('/')
  const place = order.indexOf(Number(position))
  return place < 0 ? pointer : [prefix + String(place), ...rest].join('/')
}
