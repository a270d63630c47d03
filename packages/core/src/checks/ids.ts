import { levelOf } from '../rules/rule'
import { isContainer, type Finding, type Severity } from '../tree/nodes'
import { defineCheck, type CheckResult } from './check'
import { fixTo, lettersOf, type Letters } from './letters'
import { looksOf, sourceFor, sourceOf, type FileLooks, type PartLook, type ValueLook } from './looks'
import { shareIn } from './deal-facts'
import { nearest } from './near'
import type { Workspace } from './workspace'

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

/** An id that a text begins with, and of which list it is. */
interface Named {
  readonly id: string
  readonly registry: string
}

function* checkValue(lists: Lists, { book }: FileLooks, value: ValueLook): Iterable<CheckResult> {
  const named = namedBy(lists, value)
  const list = named && lists[named.registry]
  if (!named || !list || list.size === 0 || list.has(named.id) || value.isShipped || value.text.includes('{')) return
  yield unknown(named, list, levelOf(sourceFor(book, value, 'registry')), lettersOf(value.node, value.text, 0, named.id.length))
}

function namedBy(lists: Lists, { rule, text, shipped, node }: ValueLook): Named | null {
  if (text === '' || node.kind !== 'text') return null
  if (rule?.means === 'id' && rule.registry) return { id: text, registry: rule.registry }
  if (rule?.means === 'amount' && rule.registry) return { id: shareIn(text)?.item ?? text, registry: rule.registry }
  if (!shipped) return null
  // a place before its numbers, where that of the author is one
  const [place, theirs] = [text, shipped].map((one) => /^([\p{L}_][\p{L}\p{N}_-]*)[\s,:]+-?\d/u.exec(one)?.[1])
  return place !== undefined && theirs !== undefined && lists['places']?.has(theirs) ? { id: place, registry: 'places' } : null
}

function* checkKeys(lists: Lists, { book }: FileLooks, { rule, node, keys, shipped }: PartLook): Iterable<CheckResult> {
  const list = rule?.keys === undefined ? undefined : lists[rule.keys]
  if (!list || list.size === 0 || node.type !== 'map') return
  const theirs = new Set(shipped && isContainer(shipped) ? shipped.entries.map(({ key }) => key) : [])
  for (const { key, keyFrom, keyTo } of node.entries) {
    if (list.has(key) || theirs.has(key)) continue
    yield unknown(
      { id: key, registry: rule!.keys! },
      list,
      levelOf(sourceOf(book, keys, 'keys')),
      lettersOf({ from: keyFrom, to: keyTo }, key),
    )
  }
}

/** Words for one of a list: `items` holds an item. */
const oneOf = (registry: string): string => registry.replace(/ies$/, 'y').replace(/s$/, '')

function unknown({ id, registry }: Named, list: ReadonlySet<string>, severity: Severity, letters: Letters): Finding {
  const near = nearest(id, list)
  const what = oneOf(registry)
  const next = near ? `Did you mean ${near.id}?` : `Pick one of the ${list.size} there are.`
  return {
    code: registry === 'groups' ? 'unknown-group' : 'unknown-id',
    severity: registry === 'groups' ? 'error' : severity,
    from: letters.from,
    to: letters.to,
    message: `There is no ${what} ${id}. ${next}`,
    cause: `${registry} ${id}`,
    ...fixTo(letters, near?.id),
  }
}
