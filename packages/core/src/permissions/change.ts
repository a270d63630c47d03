import { formatPointer } from '../tree/pointer'
import type { Grant, GrantPlace, PermissionPlayer } from './model'

/** One step of a change, as operations on settings have it. */
export type GrantStep =
  | { readonly kind: 'set'; readonly pointer: string; readonly value: string | boolean }
  | { readonly kind: 'put'; readonly pointer: string; readonly value: string | boolean | readonly string[] }
  | { readonly kind: 'remove'; readonly pointer: string }

/** Who is given something: a group, or a player. */
export interface Holder {
  readonly grants: readonly Grant[]
  readonly grantsAt: GrantPlace
}

type Word = 'granted' | 'denied' | null

/**
 * What gives nodes to a group or a player, denies them, or says nothing of them any more, in the way the file has it: of each node one
 * entry is written over, others of the same node go, what stands beside them stays as it is. Done one after the other, the steps find
 * what they are about where they say.
 */
export function changeGrants({ grants, grantsAt }: Holder, nodes: readonly string[], to: Word): readonly GrantStep[] {
  const wanted = [...new Set(nodes)]
  if (grantsAt.shape === 'map') return wanted.flatMap((node) => keySteps(grants, grantsAt, node, to))
  const spelt = (node: string): string => (to === 'denied' ? `-${node}` : node)
  if (grantsAt.shape === 'missing')
    return to === null || wanted.length === 0 ? [] : [{ kind: 'put', pointer: grantsAt.pointer, value: wanted.map(spelt) }]
  const there = new Map(wanted.map((node) => [node, grants.filter((grant) => grant.node === node)] as const))
  const kept = new Set(to === null ? [] : [...there.values()].flatMap(([first]) => first ?? []))
  const gone = grants.filter((grant) => there.has(grant.node) && !kept.has(grant))
  const written = [...kept].filter(({ isDenied, until }) => isDenied !== (to === 'denied') || until !== null)
  const added = to === null ? [] : wanted.filter((node) => there.get(node)!.length === 0)
  return [
    ...written.map(({ isPlain, pointer, node }): GrantStep => ({ kind: isPlain ? 'set' : 'put', pointer, value: spelt(node) })),
    // from the last to the first, so that what is before keeps its place
    ...gone.reverse().map(({ pointer }): GrantStep => ({ kind: 'remove', pointer })),
    ...added.map((node, i): GrantStep => ({
      kind: 'put',
      pointer: `${grantsAt.pointer}/${grantsAt.count - gone.length + i}`,
      value: spelt(node),
    })),
  ]
}

function keySteps(grants: readonly Grant[], { pointer }: GrantPlace, node: string, to: Word): GrantStep[] {
  const there = grants.filter((grant) => grant.node === node)
  if (to === null) return there.map((grant) => ({ kind: 'remove', pointer: grant.pointer }))
  const isSo = there.length > 0 && there.every(({ isDenied, until }) => isDenied === (to === 'denied') && until === null)
  return isSo ? [] : [{ kind: 'put', pointer: pointer + formatPointer([node]), value: to === 'granted' }]
}

/** What puts a player into a group, or takes him out of it, in the way the file has it; null where that is not known. */
export function changeGroups({ groups, groupsAt }: PermissionPlayer, group: string, isIn: boolean): readonly GrantStep[] | null {
  if (groups.includes(group) === isIn) return []
  if (groupsAt.shape === 'missing') return [{ kind: 'put', pointer: groupsAt.pointer, value: [group] }]
  if (groupsAt.shape === 'one')
    return isIn ? [{ kind: 'set', pointer: groupsAt.pointer, value: group }] : [{ kind: 'remove', pointer: groupsAt.pointer }]
  if (groupsAt.shape === 'other') return null
  if (isIn) return [{ kind: 'put', pointer: `${groupsAt.pointer}/${groups.length}`, value: group }]
  return groups.flatMap((name, i) => (name === group ? [{ kind: 'remove', pointer: `${groupsAt.pointer}/${i}` } as const] : [])).reverse()
}
