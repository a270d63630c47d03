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

/** A point of a picture; null where nothing was measured. */
interface Place {
  readonly at: number
  readonly ticks: number | null
  readonly players: number | null
}

/** Whether nothing was measured between one point and the one before it. */
const isAfterHole = ({ points, step }: Load, i: number): boolean => i > 0 && points[i]!.at - points[i - 1]!.at > 1.5 * step

/** The points in order, with nothing between those that are too far apart. */
export function withGaps(load: Load): Place[] {
  const { points, step } = load
  return points.flatMap((point, i): Place[] =>
    isAfterHole(load, i) ? [{ at: points[i - 1]!.at + step, ticks: null, players: null }, point] : [point],
  )
}

/** Stretches in which nothing was measured since the first measure, as pairs of seconds; the last goes on up to now. */
export function gapsOf(load: Load, isRunning: boolean): [from: number, until: number][] {
  const { points, step, until } = load
  const gaps = points.flatMap(({ at }, i): [number, number][] => (isAfterHole(load, i) ? [[points[i - 1]!.at + step, at]] : []))
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
  const top = 1 - TOP / height
  const shape = (x: [number, number], y: [number, number], more: object): object => ({
    ...{ x0: x[0], x1: x[1], y0: y[0], y1: y[1], xref: 'x', yref: 'paper', layer: 'below' },
    ...more,
  })
  const rule = (color: string, dash: string): object => ({ type: 'line', line: { color, width: 1, dash } })
  const whole: [number, number] = [load.from, load.until]
  const shapes = [
    ...gapsOf(load, isRunning).map((gap) => shape(gap, [0, top], { type: 'rect', fillcolor: paints.stopped, line: { width: 0 } })),
    ...lines.map(({ at }) => shape([at, at], [0, 1 - (TOP - 6) / height], rule(paints.hour, 'solid'))),
    shape(whole, [top, top], rule(paints.rule, 'dot')),
    shape(whole, [0, 0], rule(paints.rule, 'solid')),
  ]
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
      shapes,
    },
  }
}

/** The line where it is slow, up to the points beside it, so that one slow point is to be seen as well. */
function slowOf(points: readonly { readonly ticks: number | null }[], best: number): (number | null)[] {
  const isSlow = (i: number): boolean => (points[i]?.ticks ?? best) < best * SLOW
  return points.map(({ ticks }, i) => (isSlow(i) || (isSlow(i + 1) && ticks !== null) ? ticks : null))
}
