import { levelOf } from '../rules/rule'
import { getEntry } from '../tree/pointer'
import { amountOf } from '../tree/compare'
import type { Document, Entry, ListNode, MapNode, Node } from '../tree/nodes'
import type { CheckResult } from './check'
import { defineCheck } from './check'
import { looksOf, sourceOf, type FileLooks } from './looks'
import type { WorkspaceFile } from './workspace'

const ROW = 9

/** Slots that are used twice, that are not there, and goods that have none. */
export const fitsSlots = defineCheck({
  id: 'fits-slots',
  scope: 'file',
  codes: ['slot-taken', 'slot-outside', 'more-than-slots'],
  *run(_workspace, file) {
    const looks = looksOf(file)
    for (const part of looks.parts) {
      if (part.node.type !== 'map') continue
      for (const entry of part.node.entries) {
        const rule = looks.book.find([...part.keys, entry.key])
        if (rule?.means !== 'slot' || entry.value.type !== 'list') continue
        const first = rule.first ?? 0
        yield* checkSlots(file, looks, part.node, entry, { first, keys: [...part.keys, entry.key] })
        yield* checkGoods(file, looks, part.node, entry, { keys: part.keys, shipped: part.shipped })
      }
    }
  },
})

function* checkSlots(
  { document }: WorkspaceFile,
  { book }: FileLooks,
  section: MapNode,
  { value }: Entry,
  { first, keys }: { readonly first: number; readonly keys: readonly string[] },
): Iterable<CheckResult> {
  const rows = getEntry(section, 'rows')?.value
  const size = rows ? (amountOf(document, rows) ?? 0) * ROW : 0
  const seen = new Set<number>()
  const taken = new Set((value as ListNode).entries.map((item) => amountOf(document, item.value)))
  const severity = levelOf(sourceOf(book, keys, 'means'))
  for (const item of (value as ListNode).entries) {
    const number = amountOf(document, item.value)
    if (number === null) continue
    const { from, to } = item.value
    if (number < first || (size > 0 && number >= first + size)) {
      const last = size > 0 ? ` to ${first + size - 1}` : ' on'
      const message = `There is no slot ${number}: they are counted from ${first}${last}. Take another, or add a row.`
      yield { code: 'slot-outside', severity, from, to, message }
    } else if (seen.has(number)) {
      let free = first
      while (taken.has(free)) free++
      const isThere = size === 0 || free < first + size
      const fix = { label: String(free), edits: [{ from, to, insert: String(free) }] }
      const message = `Slot ${number} is used twice, so that one of the two is not seen. ${isThere ? `Slot ${free} is free.` : 'Add a row.'}`
      yield { code: 'slot-taken', severity, from, to, message, ...(isThere ? { fix } : {}) }
    }
    seen.add(number)
  }
}

/** Goods beside the slots, where the author's own have a slot each. */
function* checkGoods(
  { document }: WorkspaceFile,
  { book }: FileLooks,
  section: MapNode,
  slots: Entry,
  { keys, shipped }: { readonly keys: readonly string[]; readonly shipped: Node | null },
): Iterable<CheckResult> {
  const count = (slots.value as ListNode).entries.length
  for (const { key, value } of section.entries) {
    const rule = value.type === 'list' ? book.find([...keys, key]) : null
    if (value.type !== 'list' || rule?.registry !== 'items' || value.entries.length <= count || count === 0) continue
    if (shipped && isShippedSo(shipped, key, slots.key)) continue
    const { from, to } = value.entries[count]!.value
    const what = textIn(document, from, to)
    const severity = levelOf(sourceOf(book, [...keys, key], 'registry'))
    const message = `There are ${value.entries.length} ${key} and ${count} ${slots.key}: ${what} has none. Give it one, or take it out.`
    yield { code: 'more-than-slots', severity, from, to, message }
  }
}

/** Whether the author's own has more goods than slots, so that these are not one for one. */
function isShippedSo(shipped: Node, goods: string, slots: string): boolean {
  const [theirs, places] = [getEntry(shipped, goods)?.value, getEntry(shipped, slots)?.value]
  return theirs?.type === 'list' && places?.type === 'list' && theirs.entries.length > places.entries.length
}

const textIn = ({ text }: Document, from: number, to: number): string => text.slice(from, to)
