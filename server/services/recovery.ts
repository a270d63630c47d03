import type { ApplyRow } from '../db/repositories/applies'
import { said } from './apply-outcome'
import { hashAt, putBack } from './apply-writes'
import type { Context, Server } from './context'

/**
 * Settles what was interrupted on one server, once since Pasticcio started: a change is finished if all its files are
 * in place, and undone if not. A server that cannot be reached is tried again before the next change to it.
 */
export function settle(context: Context, server: Server): Promise<void> {
  if (!server.settled) {
    const settled = settleNow(context, server)
    server.settled = settled
    settled.catch(() => {
      if (server.settled === settled) server.settled = null
    })
  }
  return server.settled
}

async function settleNow(context: Context, server: Server): Promise<void> {
  for (const row of await context.applies.unfinished(server.row.id)) await settleOne(context, server, row)
}

async function settleOne(context: Context, server: Server, row: ApplyRow): Promise<void> {
  const files = await context.applies.files(row.id)
  await server.place.sweep(files.map((file) => file.path))
  const now = await Promise.all(files.map((file) => hashAt(server, file.path)))
  const written = files.filter((file, i) => now[i] === file.afterSha)
  const complete = written.length === files.length
  if (!complete) await putBack(context, server, written)
  server.inventory.forget()
  await context.applies.end(
    row.id,
    complete ? 'written' : 'failed',
    said(
      complete
        ? 'Pasticcio was stopped in the middle; all files had been written. Restart the server to make sure they count.'
        : 'Pasticcio was stopped in the middle; the files are as they were before.',
    ),
  )
  context.log.warn({ apply: row.id, complete }, 'an interrupted change was settled')
}
