/*
 * The only code that writes to a game server. Every step is recorded before it is taken, so that a process killed
 * anywhere leaves either the old files or the new ones, and recovery finishes or undoes the rest.
 */
import { LineIndex, blocksWriting, checkWorkspace, readingFor, workspaceFile, workspaceOf } from '@pasticcio/core'
import type { ApplyRow } from '../db/repositories/applies'
import { makeItCount, needsRestart, said, type Counted, type Counting } from './apply-outcome'
import { keepContents, putBack, resolveWrites, writeAll, type PlannedAction, type Step, type Write } from './apply-writes'
import type { Context, Server } from './context'
import { startServer, stopServer } from './control'
import { ServiceError } from './errors'
import { settle } from './recovery'
import { decode } from './text'

export type { PlannedAction } from './apply-writes'

export interface Change extends Counting {
  readonly title: string
  readonly actions: readonly PlannedAction[]
  readonly undoes?: number
}

/** Carries a change out. @throws ServiceError `busy`, `drift` or `has-errors`; then nothing was written. */
export async function applyChange(context: Context, server: Server, change: Change, account: string): Promise<ApplyRow> {
  if (context.locks.has(server.row.id))
    throw new ServiceError('busy', 409, 'Something else is being written to this server right now. Try again in a moment.')
  if (change.actions.length === 0) throw new ServiceError('nothing-to-do', 409, 'There is nothing to write.')
  context.locks.add(server.row.id)
  try {
    await settle(context, server)
    return await run(context, server, change, account)
  } finally {
    context.locks.delete(server.row.id)
  }
}

async function run(context: Context, server: Server, change: Change, account: string): Promise<ApplyRow> {
  const writes = await resolveWrites(context, server, change.actions)
  if (change.kind !== 'undo') refuseBroken(server, writes)
  const files = await keepContents(context, writes)
  const at = (): string => context.now().toISOString()
  const id = await context.applies.begin(
    { serverId: server.row.id, kind: change.kind, title: change.title, undoes: change.undoes ?? null, startedBy: account, startedAt: at() },
    files,
  )
  const step: Step = (name, detail = '') => context.applies.step(id, name, detail, at())
  await context.record.add({ at: at(), account, serverId: server.row.id, action: change.kind, detail: change.title })
  const wasRunning = server.console.state.status === 'running'
  const stopFirst = wasRunning && needsRestart(server, change) && server.console.lifecycle !== null
  try {
    if (stopFirst) {
      await step('stop')
      await stopServer(server)
    }
    await writeAll(server, writes, step)
  } catch (error) {
    await takeBack(context, server, id, files, error)
    if (stopFirst)
      await startServer(context, server).catch((later: unknown) => context.log.error({ error: later }, 'no start after a failure'))
    throw error
  } finally {
    server.inventory.forget()
  }
  const { status, outcome } = await makeItCount(context, server, change, wasRunning, step).catch((error: unknown): Counted => {
    // the files are written: what went wrong is told with the change, and never leaves it unfinished
    context.log.error({ error, apply: id }, 'a change could not be made to count')
    return { status: 'complained', outcome: said(`The files are written, but they do not count yet: ${(error as Error).message}`) }
  })
  await context.applies.end(id, status, outcome)
  if (change.undoes !== undefined) await context.applies.setStatus(change.undoes, 'undone')
  await server.inventory.remember().catch((error: unknown) => context.log.error({ error }, 'packages were not remembered'))
  return (await context.applies.get(id))!
}

/** Writing failed in the middle. What cannot be taken back now either is settled before the next change. */
async function takeBack(context: Context, server: Server, id: number, files: Parameters<typeof putBack>[2], error: unknown): Promise<void> {
  try {
    await putBack(context, server, files)
    await context.applies.end(id, 'failed', said(`Writing failed, and everything is as it was: ${(error as Error).message}`))
  } catch (later) {
    server.settled = null
    context.log.error({ error: later, apply: id }, 'a failed change could not be taken back yet')
  }
}

/** A settings file that does not read is never written. */
function refuseBroken(server: Server, writes: readonly Write[]): void {
  for (const { path, bytes } of writes) {
    const file =
      bytes && isText(server, path)
        ? workspaceFile({ path, plugin: null, text: decode(path, bytes), factory: null, reading: readingFor(path, server.family) })
        : null
    const blocking = file && checkWorkspace(workspaceOf([file], server.family)).find(blocksWriting)
    if (file && blocking)
      throw new ServiceError(
        'has-errors',
        422,
        `Line ${new LineIndex(file.document.text).position(blocking.from).line} of ${path}: ${blocking.message} Nothing was written.`,
      )
  }
}

function isText(server: Server, path: string): boolean {
  return server.family.settings.endings.some((ending) => path.endsWith('.' + ending))
}
