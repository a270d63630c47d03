import type { Context, Server } from './context'
import { keepGenerated } from './installed'
import type { NumberedLine } from '../adapters/server-process'

/** Starts the server, and keeps the factory copies of what its plugins write at their first start. @returns the lines of the start */
export async function startServer(context: Context, server: Server): Promise<NumberedLine[]> {
  const from = server.process.lastSeq
  await server.process.start()
  const lines = server.process.since(from)
  const generated = lines.flatMap((line) =>
    line.event?.type === 'generated' ? [{ plugin: line.event.plugin, file: line.event.file }] : [],
  )
  await keepGenerated(context, server, generated)
  return lines
}

export async function restartServer(context: Context, server: Server): Promise<NumberedLine[]> {
  await server.process.stop()
  return startServer(context, server)
}
