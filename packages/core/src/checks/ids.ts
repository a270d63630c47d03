import type { Finding, Severity } from '../tree/nodes'
import { isContainer } from '../tree/nodes'
import type { CheckResult } from './check'
import { defineCheck } from './check'
import { levelOf, looksOf, sourceFor, sourceOf, type FileLooks, type PartLook, type ValueLook } from './looks'
import { nearest } from './near'
import type { Workspace } from './workspace'

const WITH_COUNT = /^(\S+?)([\s:x*]+\d+)$/i

/** Ids that none of the server's lists has: items, sounds, effects, places, groups. */
export const knownIds = defineCheck({
  id: 'known-ids',
  scope: 'file',
  codes: ['unknown-id', 'unknown-group'],
  *run({ knowledge }, file) {
    const looks = looksOf(file)
    for (const value of looks.values) yield* checkValue(knowledge.lists, looks, value)
    for (const part of looks.parts) yield* checkKeys(knowledge.lists, looks, part)
  },
})

type Lists = Workspace['knowledge']['lists']

/** Where a text holds an id, and of which list. */
interface Named {
  readonly id: string
  readonly registry: string
  readonly at: number
}

function* checkValue(lists: Lists, { book }: FileLooks, value: ValueLook): Iterable<CheckResult> {
  const named = namedBy(lists, value)
  const list = named && lists[named.registry]
  if (!named || !list || list.size === 0 || list.has(named.id) || value.isShipped || value.text.includes('{')) return
  yield unknown(named, list, levelOf(sourceFor(book, value, 'registry')), { ...within(value, named) })
}

function namedBy(lists: Lists, { rule, text, shipped, node }: ValueLook): Named | null {
  if (text === '' || node.kind !== 'text') return null
  if (rule?.means === 'id' && rule.registry) return { id: text, registry: rule.registry, at: 0 }
  if (rule?.means === 'amount' && rule.registry) return { id: WITH_COUNT.exec(text)?.[1] ?? text, registry: rule.registry, at: 0 }
  if (!shipped) return null
  // a place before its numbers, where that of the author is one
  const [place, theirs] = [text, shipped].map((one) => /^([\p{L}_][\p{L}\p{N}_-]*)[\s,:]+-?\d/u.exec(one)?.[1])
  return place !== undefined && theirs !== undefined && lists['places']?.has(theirs) ? { id: place, registry: 'places', at: 0 } : null
}

/** The letters of the id within a value, past its quote; all of the value where they are written another way. */
function within({ node, text }: ValueLook, { id }: Named): { from: number; to: number; isWhole: boolean } {
  const length = node.to - node.from
  const quote = length === text.length ? 0 : length === text.length + 2 ? 1 : -1
  return quote < 0
    ? { from: node.from, to: node.to, isWhole: false }
    : { from: node.from + quote, to: node.from + quote + id.length, isWhole: true }
}

function* checkKeys(lists: Lists, { book }: FileLooks, { rule, node, keys, shipped }: PartLook): Iterable<CheckResult> {
  const list = rule?.keys === undefined ? undefined : lists[rule.keys]
  if (!list || list.size === 0 || node.type !== 'map') return
  const theirs = new Set(shipped && isContainer(shipped) ? shipped.entries.map(({ key }) => key) : [])
  for (const { key, keyFrom, keyTo } of node.entries) {
    if (list.has(key) || theirs.has(key)) continue
    const quoted = keyTo - keyFrom - key.length
    const place = quoted === 0 ? { from: keyFrom, to: keyTo } : { from: keyFrom + 1, to: keyTo - 1 }
    const isWhole = quoted === 0 || quoted === 2
    yield unknown({ id: key, registry: rule!.keys!, at: 0 }, list, levelOf(sourceOf(book, keys, 'keys')), { ...place, isWhole })
  }
}

/** Words for one of a list: `items` holds an item. */
export const oneOf = (registry: string): string => registry.replace(/ies$/, 'y').replace(/s$/, '')

function unknown(
  { id, registry }: Named,
  list: ReadonlySet<string>,
  severity: Severity,
  { from, to, isWhole }: { from: number; to: number; isWhole: boolean },
): Finding {
  const near = nearest(id, list)
  const what = oneOf(registry)
  const next = near ? `Did you mean ${near.id}?` : `Pick one of the ${list.size} there are.`
  return {
    code: registry === 'groups' ? 'unknown-group' : 'unknown-id',
    severity: registry === 'groups' ? 'error' : severity,
    from,
    to,
    message: `There is no ${what} ${id}. ${next}`,
    cause: `${registry} ${id}`,
    ...(near && isWhole ? { fix: { label: near.id, edits: [{ from, to, insert: near.id }] } } : {}),
  }
}
