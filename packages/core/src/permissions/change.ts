import { formatPointer } from '../tree/pointer'
import type { Grant, GrantPlace } from './model'

/** One step of a change, as operations on settings have it. */
export type GrantStep =
  | { readonly kind: 'set'; readonly pointer: string; readonly value: string | boolean }
  | { readonly kind: 'put'; readonly pointer: string; readonly value: string | boolean | readonly string[] }
  | { readonly kind: 'remove'; readonly pointer: string }

/**
 * What gives a node to a group or a player, denies it, or says nothing of it any more, in the way the file has it: one entry is written
 * over, others of the same node go, what stands beside them stays as it is.
 */
export function changeGrant(
  { grants, grantsAt }: { readonly grants: readonly Grant[]; readonly grantsAt: GrantPlace },
  node: string,
  to: 'granted' | 'denied' | null,
): readonly GrantStep[] {
  const there = grants.filter((grant) => grant.node === node)
  if (grantsAt.shape === 'map') {
    if (to === null) return there.map(({ pointer }) => ({ kind: 'remove', pointer }))
    return [{ kind: 'put', pointer: grantsAt.pointer + formatPointer([node]), value: to === 'granted' }]
  }
  const text = to === 'denied' ? `-${node}` : node
  if (grantsAt.shape === 'missing') return to === null ? [] : [{ kind: 'put', pointer: grantsAt.pointer, value: [text] }]
  // from the last to the first, so that what is before keeps its place
  const kept = to === null ? undefined : there[0]
  const gone = there
    .filter((grant) => grant !== kept)
    .reverse()
    .map(({ pointer }): GrantStep => ({ kind: 'remove', pointer }))
  if (to === null) return gone
  if (!kept) return [{ kind: 'put', pointer: `${grantsAt.pointer}/${grants.length}`, value: text }]
  return kept.isDenied === (to === 'denied') ? gone : [...gone, { kind: 'set', pointer: kept.pointer, value: text }]
}
