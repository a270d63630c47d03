import type { PermissionGroup } from '@pasticcio/core'

/** A group as a point: its column, and the lane its branch keeps to. */
export interface GraphPoint {
  readonly name: string
  readonly column: number
  readonly lane: number
}
/** From a group to one that inherits from it. */
export interface GraphEdge {
  readonly from: GraphPoint
  readonly to: GraphPoint
}
export interface GroupGraph {
  readonly points: readonly GraphPoint[]
  readonly edges: readonly GraphEdge[]
}

/** More lanes than these are drawn on the last of them. */
export const MOST_LANES = 4

/**
 * Who inherits from whom, one lane a branch: the first group of those that inherit from one keeps its lane where nothing stands in
 * between, each other gets one of its own.
 * @param groups in the order of their columns
 */
export function graphOf(groups: readonly PermissionGroup[]): GroupGraph {
  const points = new Map<string, GraphPoint>()
  /** The last column that something is drawn in, by lane. */
  const reach: number[] = []
  const parentsOf = (group: PermissionGroup): GraphPoint[] => group.inherits.flatMap(({ name }) => points.get(name) ?? [])
  groups.forEach((group, column) => {
    const nearest = parentsOf(group).sort((a, b) => b.column - a.column)[0]
    const keeps = nearest !== undefined && reach[nearest.lane] === nearest.column
    let lane = keeps ? nearest.lane : reach.findIndex((last) => last < (nearest?.column ?? column))
    if (lane < 0) lane = Math.min(reach.length, MOST_LANES - 1)
    reach[lane] = Math.max(reach[lane] ?? 0, column)
    points.set(group.name, { name: group.name, column, lane })
  })
  const edges = groups.flatMap((group) =>
    group.inherits.flatMap(({ name }): GraphEdge[] => {
      const [from, to] = [points.get(name), points.get(group.name)]
      return from && to && from !== to ? [{ from, to }] : []
    }),
  )
  return { points: [...points.values()], edges }
}
