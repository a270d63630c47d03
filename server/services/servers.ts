import type { Account } from '../db/repositories/accounts'
import { NOT_RUNNING, type ServerState } from '../consoles'
import { placeInWords } from '../db/repositories/servers'
import { requireAllowed } from './commands'
import { openServer, requireServer, type Context, type Server } from './context'
import { ServiceError, asServiceError } from './errors'
import { note } from './note'
import { commandIn, familyIn } from './profiles'
import { refuseTaken } from './survey'
import type { ServerSetup } from './tries'

/** A server as it stands in the list of all. */
export interface ServerSummary extends ServerState {
  readonly slug: string
  readonly family: string
  /** Where its files are, in words. */
  readonly folder: string
  /** Why it cannot be opened; empty for nothing. */
  readonly problem: string
}

/** The servers, with how they are right now. One that cannot be opened is listed as failed. */
export async function listServers(context: Context): Promise<ServerSummary[]> {
  const titles = new Map((await context.families.all()).map(({ id, title }) => [id, title]))
  return Promise.all(
    (await context.servers.list()).map(async (row) => {
      const about = { slug: row.slug, family: titles.get(row.familyId) ?? row.familyId, folder: placeInWords(row.connection) }
      try {
        const { console, place } = await openServer(context, row)
        await place.stat('.')
        return { ...about, ...console.state, problem: '' }
      } catch (error) {
        const { message } = asServiceError(error) as Error
        return { ...about, ...NOT_RUNNING, status: 'failed' as const, problem: message }
      }
    }),
  )
}

/** A server to be added, with what says that it was tried. */
export interface NewServer extends ServerSetup {
  readonly slug: string
  /** The try that worked; null only where somebody chose to do without. */
  readonly tried: string | null
  readonly untried: boolean
}

/** Adds a server that was tried, and remembers what lies there. Its files are not touched. */
export async function addServer(context: Context, setup: NewServer, by: Account): Promise<Server> {
  const { slug, familyId, folder, command, tried, untried } = setup
  if (!untried && !(tried !== null && context.tries.passed(tried, setup)))
    throw new ServiceError('not-tried', 409, 'Try it first, exactly so as it is to be added.')
  requireAllowed(context, command)
  await refuseTaken(context, folder)
  if (await context.servers.get(slug)) throw new ServiceError('name-taken', 409, `There is a server ${slug} already. Choose another name.`)
  if (!(await context.families.all()).some(({ id }) => id === familyId))
    throw new ServiceError('bad-input', 400, `There is no family ${familyId}.`)
  await context.servers.add({
    slug,
    familyId,
    connection: { place: { type: 'local', folder }, console: { type: 'process', folder, command } },
  })
  const server = await requireServer(context, slug)
  await note(context, by.name, 'add-server', folder, server)
  // also keeps the factory copies of what plugins wrote while it was tried
  await server.inventory
    .keepGenerated(tried === null ? [] : context.tries.generated(tried))
    .catch((error: unknown) => context.log.error({ error, server: slug }, 'factory copies were not kept'))
  return server
}

/** How a server is started: the program and its arguments; null where others start it. */
export function commandOf(server: Server): readonly string[] | null {
  return commandIn(server.row.connection)
}

/** Changes how a server is started, which counts from its next start on. */
export async function changeCommand(context: Context, server: Server, command: readonly string[], by: Account): Promise<void> {
  await server.work.run('change', by.name, () => change(context, server, command, by))
}

async function change(context: Context, server: Server, command: readonly string[], by: Account): Promise<void> {
  requireAllowed(context, command)
  requireStopped(server, 'change how it is started')
  if (commandOf(server) === null) throw new ServiceError('bad-input', 409, `${server.row.slug} is started by others, not from here.`)
  const { place, console } = server.row.connection
  await context.servers.setConnection(server.row.id, { place, console: { ...console, command } })
  await note(context, by.name, 'change-command', command.join(' '), server)
  await letGo(context, server)
}

/** Forgets a server: its drafts, its history and its place here. Its files stay as they are. */
export async function forgetServer(context: Context, server: Server, by: Account): Promise<void> {
  await server.work.run('change', by.name, async () => {
    requireStopped(server, 'forget it; its files stay as they are')
    await note(context, by.name, 'forget-server', server.row.slug, server)
    await letGo(context, server)
    await context.servers.remove(server.row.id)
  })
}

function requireStopped({ row, console }: Server, what: string): void {
  if (['stopped', 'failed'].includes(console.state.status)) return
  throw new ServiceError('server-running', 409, `${row.slug} is running. Stop it first, to ${what}.`)
}

/** A server as its start command and its scripts are by now: one that works in another folder since is opened anew, unless it runs. */
export async function asStartedNow(context: Context, server: Server): Promise<Server> {
  const { family, place, row, console } = server
  if (!family.profile || !['stopped', 'failed'].includes(console.state.status)) return server
  const now = await familyIn(await context.families.require(row.familyId), place, commandOf(server) ?? [])
  if (now.profile!.folder === family.profile.folder) return server
  await letGo(context, server)
  return requireServer(context, row.slug)
}

/** Closes a server; what is asked next opens it anew. */
export async function letGo(context: Context, server: Server): Promise<void> {
  context.opened.delete(server.row.id)
  context.streams.endServer(server.row.id)
  server.sampler.close()
  await server.console.close()
  await server.place.close()
}
