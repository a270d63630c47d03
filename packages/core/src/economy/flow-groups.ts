import type { Moving } from './derive'
import { movedByAll } from './flow'
import type { Kind } from './model'

/** Streams that belong together, as today and as the drafts have them, in money an hour. */
export interface FlowGroup {
  readonly id: string
  readonly way: 'in' | 'out'
  /** As the drafts have them, and those that are only today's. */
  readonly streams: readonly Moving[]
  readonly now: number
  readonly draft: number
  /** Today's, by kind of player. */
  readonly by: readonly { readonly kind: string; readonly amount: number }[]
}

export interface Sums {
  readonly comesIn: number
  readonly goesOut: number
  /** What stays in purses. */
  readonly stays: number
}

export interface GroupedFlow {
  /** What moves nothing is left out; the most first. */
  readonly groups: readonly FlowGroup[]
  readonly now: Sums
  readonly draft: Sums
}

/** Money an hour by groups of streams, as it stands and as the drafts have it. */
export function groupedFlow(standing: readonly Moving[], draft: readonly Moving[], kinds: readonly Kind[]): GroupedFlow {
  const groups = new Map<string, { way: 'in' | 'out'; standing: Moving[]; draft: Moving[] }>()
  const add = (which: 'standing' | 'draft', stream: Moving): void => {
    const group = groups.get(stream.group) ?? { way: stream.way, standing: [], draft: [] }
    group[which].push(stream)
    groups.set(stream.group, group)
  }
  standing.forEach((stream) => add('standing', stream))
  draft.forEach((stream) => add('draft', stream))
  const sum = (streams: readonly Moving[], of: readonly Kind[]): number => streams.reduce((all, stream) => all + movedByAll(stream, of), 0)
  const all = [...groups].map(([id, group]): FlowGroup => {
    const ids = new Set(group.draft.map((stream) => stream.id))
    return {
      id,
      way: group.way,
      streams: [...group.draft, ...group.standing.filter((stream) => !ids.has(stream.id))],
      now: sum(group.standing, kinds),
      draft: sum(group.draft, kinds),
      by: kinds.map((kind) => ({ kind: kind.name, amount: sum(group.standing, [kind]) })),
    }
  })
  return {
    groups: all.filter(({ now, draft: then }) => now > 0 || then > 0).sort((a, b) => Math.max(b.now, b.draft) - Math.max(a.now, a.draft)),
    now: sumsOf(all, ({ now }) => now),
    draft: sumsOf(all, ({ draft: then }) => then),
  }
}

function sumsOf(groups: readonly FlowGroup[], of: (group: FlowGroup) => number): Sums {
  const sum = (way: 'in' | 'out'): number => groups.reduce((all, group) => all + (group.way === way ? of(group) : 0), 0)
  const [comesIn, goesOut] = [sum('in'), sum('out')]
  return { comesIn, goesOut, stays: comesIn - goesOut }
}
