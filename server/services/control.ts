import type { Lifecycle, NumberedLine } from '../consoles'
import type { Context, Server } from './context'
import { ServiceError } from './errors'

/** How a server is started and stopped. @throws ServiceError where others do that */
export function requireLifecycle(server: Server): Lifecycle {
  const { lifecycle } = server.console
  if (!lifecycle) throw new ServiceError('server-failed', 409, 'This server is started and stopped by others, not from here.')
  return lifecycle
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
