import { asServiceError } from './errors'
import { openServer, type Context } from './context'
import { overviewOf, type Overview } from './overview'
import { listServers, type ServerSummary } from './servers'
import { listTray } from './tray'

/** A server as it stands on the page of all: how it runs, and what waits to be done on it. */
export interface HouseServer extends ServerSummary {
  /** Null for a server that cannot be looked into; `problem` says why. */
  readonly about: HouseAbout | null
}

export interface HouseAbout {
  readonly game: string
  readonly plugins: number
  /** Plugins that are not loaded though the server runs, and those nothing was heard of. */
  readonly failed: readonly string[]
  readonly silent: readonly string[]
  /** Settings that are set differently here than they were shipped. */
  readonly yours: number
  readonly updates: readonly { readonly plugin: string; readonly to: string }[]
  readonly errors: number
  readonly warnings: number
  readonly staged: { readonly changes: number; readonly files: number; readonly errors: number }
  /** What makes a change count. */
  readonly after: 'reload' | 'restart' | 'stopped'
  readonly last: { readonly at: string; readonly by: string; readonly title: string } | null
}

/** All servers with what is known of each. One that cannot be looked into keeps no other back. */
export async function houseOf(context: Context): Promise<HouseServer[]> {
  return Promise.all(
    (await listServers(context)).map(async (summary): Promise<HouseServer> => {
      if (summary.problem !== '') return { ...summary, about: null }
      try {
        return { ...summary, about: await aboutOf(context, summary.slug) }
      } catch (error) {
        context.log.warn({ error, server: summary.slug }, 'a server could not be looked into')
        return { ...summary, problem: (asServiceError(error) as Error).message, about: null }
      }
    }),
  )
}

async function aboutOf(context: Context, slug: string): Promise<HouseAbout | null> {
  const row = await context.servers.get(slug)
  if (!row) return null
  const server = await openServer(context, row)
  const { game, plugins } = await overviewOf(context, server)
  const tray = await listTray(context, server)
  const last = (await context.applies.list(row.id)).find(({ status }) => status !== 'failed')
  return {
    game,
    plugins: plugins.length,
    failed: inState(plugins, 'failed'),
    silent: inState(plugins, 'silent'),
    yours: plugins.reduce((sum, { mine }) => sum + mine, 0),
    updates: plugins.flatMap(({ name, update }) => (update ? [{ plugin: name, to: update.to }] : [])),
    errors: countIn(plugins, 'errors'),
    warnings: countIn(plugins, 'warnings'),
    staged: {
      changes: tray.reduce((sum, { count }) => sum + (count || 1), 0),
      files: tray.length,
      errors: tray.reduce((sum, { blocking }) => sum + blocking, 0),
    },
    after: server.family['after-change'],
    last: last ? { at: last.startedAt, by: last.startedBy, title: last.title } : null,
  }
}

const inState = (plugins: Overview['plugins'], state: 'failed' | 'silent'): string[] =>
  plugins.filter(({ run }) => run?.state === state).map(({ name }) => name)

const countIn = (plugins: Overview['plugins'], what: 'errors' | 'warnings'): number =>
  plugins.reduce((sum, { files }) => sum + files.reduce((count, file) => count + file[what], 0), 0)
