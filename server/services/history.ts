import { formatOf } from '@pasticcio/core'
import type { ApplyRow, ListedApply } from '../db/repositories/applies'
import type { AppliedCommand } from '../db/repositories/commands'
import type { Context, Server } from './context'
import { notFound } from './errors'
import { maskPair } from './masking'

export type HistoryRow = ListedApply

/** What was done to a server, newest first. */
export async function historyOf(context: Context, server: Server): Promise<readonly HistoryRow[]> {
  return context.applies.list(server.row.id)
}

/** One change of a server. @throws ServiceError `not-found` */
export async function requireApply(context: Context, server: Server, id: number): Promise<ApplyRow> {
  const row = await context.applies.get(id)
  if (!row || row.serverId !== server.row.id) throw notFound('change with this number')
  return row
}

export interface ChangedFile {
  readonly path: string
  /** Null for files that are not text, and for those that were not there. */
  readonly before: string | null
  readonly after: string | null
  readonly text: boolean
  /** Whether there was a file before, and whether there is one after. */
  readonly stood: boolean
  readonly stands: boolean
}

/** A command of a change, and what became of it. */
export type ShownCommand = Pick<AppliedCommand, 'command' | 'state' | 'reason'>

/** One change with its files as they were and became, with dots for secrets, and the steps it took. */
export async function applyDetail(
  context: Context,
  server: Server,
  id: number,
): Promise<ApplyRow & { files: ChangedFile[]; steps: { step: string; detail: string; at: string }[]; commands: ShownCommand[] }> {
  const row = await requireApply(context, server, id)
  const files = await Promise.all(
    (await context.applies.files(id)).map(async (file): Promise<ChangedFile> => {
      const text = formatOf(file.path) !== null
      const read = async (sha: string | null): Promise<string | null> => (sha && text ? context.blobs.requireText(sha) : null)
      const [stood, stands] = [file.beforeSha !== null, file.afterSha !== null]
      const changed = { path: file.path, text, stood, stands, before: await read(file.beforeSha), after: await read(file.afterSha) }
      return text ? maskPair(context, server, changed) : changed
    }),
  )
  const commands = (await context.playerCommands.applied(id)).map(({ command, state, reason }) => ({ command, state, reason }))
  return { ...row, files, commands, steps: await context.applies.steps(id) }
}

/** Keeps a change however old it gets, or no longer. @throws ServiceError `not-found` */
export async function pinApply(context: Context, server: Server, id: number, pinned: boolean): Promise<void> {
  await requireApply(context, server, id)
  await context.applies.setPinned(id, pinned)
}
