import { applyEdits } from '../text/edits'
import type { Document, ListNode } from '../tree/nodes'
import { getNode, parsePointer } from '../tree/pointer'
import { OperationError } from '../formats/error'
import { reorderEntries } from '../formats/operations'
import { identityOf } from './groups'

/** A list of sections whose order is mine. */
export interface Reordered {
  /** JSON Pointer of the list in the result. */
  readonly pointer: string
  readonly identity: string
  /** What names its items, in my order. */
  readonly names: readonly string[]
}

/** What names the items of a list, in order. */
export function namesOf(list: ListNode, identity: string): string[] {
  return list.entries.map((entry) => identityOf(entry.value, identity) ?? '')
}

/** Puts lists into my order; items of the update that I do not have stay behind the one they follow there. */
export function reorderLists(document: Document, lists: readonly Reordered[], read: (text: string) => Document): { document: Document; pointer: (old: string) => string } {
  let now = document
  const moves: { prefix: string; order: readonly number[] }[] = []
  for (const item of lists) {
    const keys = parsePointer(item.pointer)!
    const list = getNode(now, keys)
    if (list?.type !== 'list') continue
    const order = orderOf(namesOf(list, item.identity), item.names)
    try {
      now = read(applyEdits(now.text, reorderEntries(now, keys, order)))
      moves.push({ prefix: item.pointer + '/', order })
    } catch (error) {
      if (!(error instanceof OperationError)) throw error
    }
  }
  return { document: now, pointer: (old) => moves.reduce(moved, old) }
}

function orderOf(there: readonly string[], mine: readonly string[]): number[] {
  const rank = new Map(mine.map((name, i) => [name, i]))
  const groups: { rank: number; items: number[] }[] = [{ rank: -1, items: [] }]
  there.forEach((name, i) => {
    const known = rank.get(name)
    if (known !== undefined) groups.push({ rank: known, items: [i] })
    else groups[groups.length - 1]!.items.push(i)
  })
  return groups.sort((a, b) => a.rank - b.rank).flatMap((group) => group.items)
}

function moved(pointer: string, { prefix, order }: { prefix: string; order: readonly number[] }): string {
  if (!pointer.startsWith(prefix)) return pointer
  const [position, ...rest] = pointer.slice(prefix.length).split('/')
  const place = order.indexOf(Number(position))
  return place < 0 ? pointer : [prefix + String(place), ...rest].join('/')
}
