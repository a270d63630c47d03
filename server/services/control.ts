import type { Lifecycle, NumberedLine } from '../consoles'
import type { Context, Server } from './context'
import { ServiceError } from './errors'
import { note } from './note'
import { beforeStart, rememberRewrites } from './rewrites'

/** How a server is started and stopped. @throws ServiceError where others do that */
export function requireLifecycle(server: Server): Lifecycle {
  const { lifecycle } = server.console
  if (!lifecycle) throw new ServiceError('server-failed', 409, 'This server is started and stopped by others, not from here.')
  return lifecycle
}

export const CONTROL_ACTIONS = ['start', 'stop', 'restart', 'kill'] as const
export type ControlAction = (typeof CONTROL_ACTIONS)[number]

/** Starts, stops or restarts a server for somebody. @throws ServiceError `busy` while something else is done to it */
export async function control(context: Context, server: Server, action: ControlAction, by: string): Promise<void> {
  requireLifecycle(server)
  if (action === 'kill') return kill(context, server, by)
  if (action === 'stop' && (server.work.kind === 'start' || server.work.kind === 'restart')) return interrupt(server)
  await server.work.run(action, by, async () => {
    await note(context, by, action, '', server)
    if (action === 'start') await startServer(context, server)
    else if (action === 'stop') await stopServer(server)
    else await restartServer(context, server)
  })
}

/** Ends a server that does not stop, also while somebody waits for it. @throws ServiceError `busy` while it is written to */
async function kill(context: Context, server: Server, by: string): Promise<void> {
  const { work } = server
  work.requireFree(['start', 'stop', 'restart'])
  await note(context, by, 'kill', '', server)
  await requireLifecycle(server).kill()
  await work.whenFree()
}

/** A server that does not get ready need not be waited for. */
async function interrupt(server: Server): Promise<void> {
  await stopServer(server)
  await server.work.whenFree()
  await stopServer(server)
}

/** Starts the server, and keeps the factory copies of what its plugins write at their first start. @returns the lines of the start */
export async function startServer(context: Context, server: Server): Promise<NumberedLine[]> {
  const from = server.console.lastSeq
  const lifecycle = requireLifecycle(server)
  const failed = (error: unknown): null => (context.log.error({ error }, 'it is not known what plugins write as they start'), null)
  const before = await beforeStart(server).catch(failed)
  await lifecycle.start()
  const lines = server.console.since(from)
  const generated = lines.flatMap(({ event }) => (event?.type === 'generated' ? [{ plugin: event.plugin, file: event.file }] : []))
  // the server runs, whatever becomes of the copies; the next look sees what is there
  await server.inventory.keepGenerated(generated).catch((error: unknown) => context.log.error({ error }, 'factory copies were not kept'))
  if (before) await rememberRewrites(context, server, before).catch(failed)
  return lines
}

/** Asks a server to stop, and waits. @throws ServiceError `did-not-stop` where it runs on: what it has not saved is not thrown away unasked */
export async function stopServer(server: Server): Promise<void> {
  if (await requireLifecycle(server).stop()) return
  throw new ServiceError(
    'did-not-stop',
    409,
    `${server.row.slug} was asked to stop and still runs. Wait until it has stopped, or end it on its page Server: what it has not saved is lost then.`,
  )
}

export async function restartServer(context: Context, server: Server): Promise<NumberedLine[]> {
  await stopServer(server)
  return startServer(context, server)
}
