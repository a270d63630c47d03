import type { Load } from '~/utils/types'
import type { TimeLine } from '~/utils/time-line'

export interface Trace {
  readonly type: 'scatter'
  readonly mode: 'lines'
  readonly x: readonly number[]
  readonly y: readonly (number | null)[]
  readonly yaxis: 'y' | 'y2'
  readonly line: { readonly color: string; readonly width: number; readonly shape: 'linear' | 'hv' }
  readonly fill?: 'tozeroy'
  readonly fillcolor?: string
  readonly connectgaps: false
}

export type Layout = Readonly<Record<string, unknown>>

/** What the picture is painted with. */
export interface Paints {
  readonly line: string
  readonly slow: string
  readonly players: string
  readonly playersEdge: string
  readonly hour: string
  readonly rule: string
  readonly stopped: string
}

export interface Stave {
  readonly width: number
  readonly height: number
  /** Whether the server runs right now; one that does not has stopped where its last measure is. */
  readonly isRunning: boolean
}

/** Below this share of the best rate a server is slow. */
export const SLOW = 0.875
/** The line of the best rate lies so many pixels below the upper edge, under the letters of the marks. */
const TOP = 20
const TICK_SHARE = 108
const PLAYERS_HEIGHT = 44

/** The best rate that was measured, as a whole number: where the upper line lies. */
export const bestOf = ({ points }: Load): number => Math.max(1, Math.ceil(Math.max(0, ...points.map(({ ticks }) => ticks)) - 0.2))

/** The points in order, with nothing between those that are too far apart: nothing was measured there. */
export function withGaps({
  points,
  step,
}: Load): { readonly at: number; readonly ticks: number | null; readonly players: number | null }[] {
  return points.flatMap((point, i) => {
    const before = points[i - 1]
    const hole = before && point.at - before.at > 1.5 * step ? [{ at: before.at + step, ticks: null, players: null }] : []
    return [...hole, point]
  })
}

/** Stretches in which nothing was measured since the first measure, as pairs of seconds; the last goes on up to now. */
export function gapsOf({ points, step, until }: Load, isRunning: boolean): [from: number, until: number][] {
  const gaps = points.flatMap((point, i): [number, number][] => {
    const next = points[i + 1]
    return next && next.at - point.at > 1.5 * step ? [[point.at + step, next.at]] : []
  })
  const last = points.at(-1)
  return last && !isRunning && until - last.at > step ? [...gaps, [last.at + step, until]] : gaps
}

/** A server's picture: the rate as a line under its best, players as steps from the base, and where it stood still. */
export function staveOf(load: Load, lines: readonly TimeLine[], paints: Paints, stave: Stave): { traces: Trace[]; layout: Layout } {
  const { width, height, isRunning } = stave
  const points = withGaps(load)
  const x = points.map(({ at }) => at)
  const best = bestOf(load)
  const most = Math.max(1, ...load.points.map(({ players }) => players))
  const line = (y: (number | null)[], color: string, thick: number): Trace => ({
    type: 'scatter',
    mode: 'lines',
    x,
    y,
    yaxis: 'y',
    line: { color, width: thick, shape: 'linear' },
    connectgaps: false,
  })
  const perTick = TICK_SHARE / best
  const straight = (at: number, color: string, dash = 'solid'): object => ({
    type: 'line',
    x0: at,
    x1: at,
    y0: 0,
    y1: 1 - (TOP - 6) / height,
    xref: 'x',
    yref: 'paper',
    line: { color, width: 1, dash },
    layer: 'below',
  })
  const level = (y: number, dash: string): object => ({
    type: 'line',
    x0: 0,
    x1: 1,
    y0: y,
    y1: y,
    xref: 'paper',
    yref: 'paper',
    line: { color: paints.rule, width: 1, dash },
    layer: 'below',
  })
  const still = gapsOf(load, isRunning).map(([from, until]): object => ({
    type: 'rect',
    x0: from,
    x1: until,
    y0: 0,
    y1: 1 - TOP / height,
    xref: 'x',
    yref: 'paper',
    fillcolor: paints.stopped,
    line: { width: 0 },
    layer: 'below',
  }))
  const axis = { visible: false, fixedrange: true }
  return {
    traces: [
      {
        ...line(
          points.map(({ players }) => players),
          paints.playersEdge,
          0.75,
        ),
        yaxis: 'y2',
        fill: 'tozeroy',
        fillcolor: paints.players,
        line: { color: paints.playersEdge, width: 0.75, shape: 'hv' },
      },
      line(
        points.map(({ ticks }) => ticks),
        paints.line,
        1.3,
      ),
      line(slowOf(points, best), paints.slow, 2.2),
    ],
    layout: {
      width,
      height,
      margin: { l: 0, r: 0, t: 0, b: 0, pad: 0 },
      paper_bgcolor: 'transparent',
      plot_bgcolor: 'transparent',
      showlegend: false,
      xaxis: { ...axis, range: [load.from, load.until] },
      yaxis: { ...axis, range: [best - (height - TOP) / perTick, best + TOP / perTick] },
      yaxis2: { ...axis, overlaying: 'y', range: [0, (most * (height - 1)) / PLAYERS_HEIGHT] },
      shapes: [...still, ...lines.map(({ at }) => straight(at, paints.hour)), level(1 - TOP / height, 'dot'), level(0, 'solid')],
    },
  }
}

/** The line where it is slow, up to the points beside it, so that one slow point is to be seen as well. */
function slowOf(points: readonly { readonly ticks: number | null }[], best: number): (number | null)[] {
  const isSlow = (i: number): boolean => (points[i]?.ticks ?? best) < best * SLOW
  return points.map(({ ticks }, i) => (isSlow(i) || (isSlow(i + 1) && ticks !== null) ? ticks : null))
}
