import type { Lifecycle, NumberedLine } from '../consoles'
import type { Context, Server } from './context'
import { ServiceError } from './errors'
import { note } from './note'

/** How a server is started and stopped. @throws ServiceError where others do that */
export function requireLifecycle(server: Server): Lifecycle {
  const { lifecycle } = server.console
  if (!lifecycle) throw new ServiceError('server-failed', 409, 'This server is started and stopped by others, not from here.')
  return lifecycle
}

export type ControlAction = 'start' | 'stop' | 'restart'

/** Starts, stops or restarts a server for somebody. @throws ServiceError `busy` while something else is done to it */
export async function control(context: Context, server: Server, action: ControlAction, by: string): Promise<void> {
  requireLifecycle(server)
  if (action === 'stop' && (server.work.kind === 'start' || server.work.kind === 'restart')) return interrupt(server)
  await server.work.run(action, by, async () => {
    await note(context, by, action, '', server)
    if (action === 'start') await startServer(context, server)
    else if (action === 'stop') await stopServer(server)
    else await restartServer(context, server)
  })
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
  await requireLifecycle(server).start()
  const lines = server.console.since(from)
  const generated = lines.flatMap(({ event }) => (event?.type === 'generated' ? [{ plugin: event.plugin, file: event.file }] : []))
  // the server runs, whatever becomes of the copies; the next look sees what is there
  await server.inventory.keepGenerated(generated).catch((error: unknown) => context.log.error({ error }, 'factory copies were not kept'))
  return lines
}

export async function stopServer(server: Server): Promise<void> {
  await requireLifecycle(server).stop()
}

export async function restartServer(context: Context, server: Server): Promise<NumberedLine[]> {
  await stopServer(server)
  return startServer(context, server)
}
