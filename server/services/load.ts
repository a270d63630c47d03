import { SETTLES_WITHIN, WINDOW, costOf, type Cost, type NoCost } from '@pasticcio/core'
import type { PluginMean, SampleStep } from '../db/repositories/samples'
import type { Context, Server } from './context'
import { pluginSaid } from './said'

const MINUTE = 60
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR

/** What can be looked back on, each with the seconds that are one point of its picture. */
export const SPANS = {
  day: { seconds: DAY, step: 5 * MINUTE },
  week: { seconds: 7 * DAY, step: 30 * MINUTE },
  month: { seconds: 30 * DAY, step: 2 * HOUR },
} as const
export type Span = keyof typeof SPANS

/** Marks have letters, of which there are so many. */
const MOST_MARKS = 26
/** Up to so long ago is now. */
const NOW = 15 * MINUTE
const KEPT_FINE = 2 * DAY
const KEPT = 62 * DAY
const COARSE = 15 * MINUTE

/** Something that was done to a server, and what it cost. */
export interface LoadMark {
  /** Seconds since 1970. */
  readonly at: number
  /** The change in its history; null for starts and stops. */
  readonly apply: number | null
  readonly title: string
  readonly by: string
  /** Null for a stop, after which nothing is measured. */
  readonly cost: Cost | NoCost | null
}

export interface Load {
  /** Seconds since 1970, as all times here. */
  readonly from: number
  readonly until: number
  readonly step: number
  readonly points: readonly SampleStep[]
  readonly marks: readonly LoadMark[]
}

const secondsOf = (iso: string): number => Math.floor(Date.parse(iso) / 1000)
const nowOf = (context: Context): number => Math.floor(context.now().getTime() / 1000)

/** How a server ran over a span up to now, with what was done to it meanwhile. */
export async function loadOf(context: Context, server: Server, span: Span): Promise<Load> {
  const { seconds, step } = SPANS[span]
  const until = nowOf(context) + 1
  const from = until - seconds
  const { id } = server.row
  const points = await context.samples.steps(id, { from, until }, step)
  const marks = await marksOf(context, server, from, until)
  const first = marks[0]?.at
  const samples = first === undefined ? [] : await context.samples.list(id, { from: first - WINDOW, until })
  const priced = marks.map((mark, i): LoadMark => {
    const [previous, next] = [marks[i - 1]?.at, marks[i + 1]?.at]
    const window = { at: mark.at, now: until, ...(previous === undefined ? {} : { previous }), ...(next === undefined ? {} : { next }) }
    return { ...mark, cost: mark.apply === null && STOPS.has(mark.title) ? null : costOf(samples, window) }
  })
  return { from, until, step, points, marks: priced }
}

const CONTROLS = ['start', 'stop', 'restart', 'kill']
const STOPS = new Set(['stop', 'kill'])

/** What was done to a server, in order; the last of it where it is much. */
async function marksOf(context: Context, { row }: Server, from: number, until: number): Promise<Omit<LoadMark, 'cost'>[]> {
  const changes = (await context.applies.list(row.id))
    .filter(({ status }) => status !== 'failed' && status !== 'running')
    .map(({ id, title, startedBy, startedAt }) => ({ at: secondsOf(startedAt), apply: id, title, by: startedBy }))
  const controlled = (await context.record.ofServer(row.id, CONTROLS, new Date(from * 1000).toISOString())).map(
    ({ action, account, at }) => ({
      at: secondsOf(at),
      apply: null,
      title: action,
      by: account,
    }),
  )
  return [...changes, ...controlled]
    .filter(({ at }) => at >= from && at < until)
    .sort((a, b) => a.at - b.at)
    .slice(-MOST_MARKS)
}

/** What a plugin takes of each tick, in milliseconds: by now, and before something was done. */
export interface PluginLoad {
  readonly plugin: string
  /** Null where it was not measured of late. */
  readonly now: number | null
  readonly before: number | null
}

/** What plugins take of each tick, the most first. @param before seconds since 1970 of what was done; null for nothing */
export async function pluginLoads(context: Context, server: Server, before: number | null): Promise<PluginLoad[]> {
  const plugins = await server.inventory.plugins()
  const named = (means: readonly PluginMean[]): Map<string, number> =>
    new Map(means.map(({ plugin, ms }) => [pluginSaid(plugins, plugin)?.name ?? plugin, ms]))
  const until = nowOf(context) + 1
  const { id } = server.row
  // after a change its own measures count, and those of before it do not
  const since = before === null ? until - NOW : Math.max(until - NOW, before + SETTLES_WITHIN)
  const now = named(await context.samples.timesOf(id, { from: since, until }))
  const then =
    before === null ? new Map<string, number>() : named(await context.samples.timesOf(id, { from: before - WINDOW, until: before }))
  return [...new Set([...now.keys(), ...then.keys()])]
    .map((plugin) => ({ plugin, now: now.get(plugin) ?? null, before: then.get(plugin) ?? null }))
    .sort((a, b) => (b.now ?? b.before ?? 0) - (a.now ?? a.before ?? 0))
}

/** Makes what was measured long ago coarser, and takes away what is too old. */
export async function foldLoad(context: Context): Promise<void> {
  const now = nowOf(context)
  await context.samples.fold(now - KEPT_FINE, COARSE, now - KEPT)
}
