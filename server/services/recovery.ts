import type { ApplyFile, ApplyRow } from '../db/repositories/applies'
import type { AppliedCommand } from '../db/repositories/commands'
import { said } from './apply-outcome'
import { hashAt, putBack } from './apply-writes'
import type { Context, Server } from './context'

/**
 * Settles what was interrupted on one server, once since Pasticcio started: a change is finished if all its files are
 * in place, and undone if not. A server that cannot be reached is tried again before the next change to it. To be called
 * while nothing else is done to the server.
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
  const rows = await context.applies.unfinished(server.row.id)
  if (rows.length === 0) return
  const release = await server.place.claim()
  try {
    for (const row of rows) await settleOne(context, server, row)
  } finally {
    release()
  }
}

async function settleOne(context: Context, server: Server, row: ApplyRow): Promise<void> {
  const files = await context.applies.files(row.id)
  await server.place.sweep(files.map((file) => file.path))
  const now = await Promise.all(files.map((file) => hashAt(server, file.path)))
  // what is neither old nor new was written by others since, and is left to them
  const others = files.filter((file, i) => now[i] !== file.afterSha && now[i] !== file.beforeSha)
  const isWritten = (file: ApplyFile, i: number): boolean => now[i] === file.afterSha && file.afterSha !== file.beforeSha
  const commands = await context.playerCommands.applied(row.id)
  const isOnlySaid = files.length === 0 && commands.some(({ state }) => state !== 'waiting')
  const complete = isOnlySaid || (files.every((file, i) => isWritten(file, i) || others.includes(file)) && others.length < files.length)
  if (!complete) await putBack(context, server, files.filter(isWritten))
  server.inventory.forget()
  const left =
    others.length === 0 ? '' : `${others.map(({ path }) => path).join(', ')} was written by others since, and is as they left it.`
  await context.applies.end(
    row.id,
    complete ? 'written' : 'failed',
    said([settledWords(complete, files.length, commands), left, ...unsaid(commands)].filter(Boolean).join(' ')),
  )
  context.log.warn({ apply: row.id, complete }, 'an interrupted change was settled')
}

function settledWords(complete: boolean, files: number, commands: readonly AppliedCommand[]): string {
  if (files === 0 && commands.length > 0) return 'Pasticcio was stopped before all of it was said to the console.'
  return complete
    ? 'Pasticcio was stopped in the middle; all files had been written. Restart the server to make sure they count.'
    : 'Pasticcio was stopped in the middle; the files are as they were before.'
}

/** Words on commands of which nobody knows whether they were taken. */
function unsaid(commands: readonly AppliedCommand[]): string[] {
  const open = commands.filter(({ state }) => state === 'sent' || state === 'waiting')
  const list = (some: readonly AppliedCommand[]): string => some.map(({ command }) => command).join(', ')
  const sent = open.filter(({ state }) => state === 'sent')
  const kept = open.filter(({ stagedId }) => stagedId !== null)
  const others = open.filter(({ stagedId }) => stagedId === null)
  return [
    kept.length === 0 ? '' : `Still in the tray: ${list(kept)}.`,
    others.length === 0 ? '' : `Say it on the console yourself: ${list(others)}.`,
    sent.length === 0 ? '' : `${list(sent)} may have been taken; said again, it does the same.`,
  ]
}
