import { arrangementOf } from '@pasticcio/core'
import type { ApplyRow } from '../db/repositories/applies'
import { NO_FILE } from '../db/repositories/drafts'
import { applyChange, type PlannedAction } from './apply'
import type { Context, Server } from './context'
import { ownersOf } from './inventory'
import { ServiceError } from './errors'
import { requireApply } from './history'
import { takingBack } from './player-changes'

/** Takes an apply back: the files as they were before it, made to count the same way. */
export async function undoApply(context: Context, server: Server, id: number, account: string): Promise<ApplyRow> {
  const row = await requireApply(context, server, id)
  if (row.status === 'undone' || row.status === 'failed' || row.status === 'running')
    throw new ServiceError('nothing-to-do', 409, 'This change is not in force, so there is nothing to take back.')
  const actions = (await context.applies.files(id)).map(({ path, beforeSha, afterSha }): PlannedAction =>
    beforeSha ? { kind: 'put', path, content: { sha: beforeSha }, expected: afterSha } : { kind: 'remove', path, expected: afterSha },
  )
  const paths = actions.map((action) => action.path)
  const plugins = await ownersOf(server, paths)
  const { commands, untold } = await takingBack(context, server, id)
  const { family } = server
  const restart = paths.some((path) => arrangementOf(family).isPackage(family, path) || family.register.some(({ file }) => file === path))
  const title = `Back to before: ${row.title}`
  const undone = await applyChange(
    context,
    server,
    { kind: 'undo', title, actions, plugins, restart, undoes: id, commands, untold },
    account,
  )
  if (row.kind === 'settings' && row.status === 'complained') await stageAgain(context, server, id, account)
  return undone
}

/** What a plugin complained about goes back into the tray, so that it can be mended instead of typed again. */
async function stageAgain(context: Context, server: Server, id: number, account: string): Promise<void> {
  const changedAt = context.now().toISOString()
  for (const { path, beforeSha, afterSha } of await context.applies.files(id))
    if (afterSha) {
      // a picture that was not there before is one of nothing
      const baseSha = beforeSha ?? NO_FILE
      const contents = beforeSha ? [] : [Buffer.alloc(0)]
      // where somebody began a draft meanwhile, that one stays
      await context.drafts.replace(server.row.id, { path, baseSha, sha: afterSha, changedBy: account, changedAt }, contents, null)
    }
}
