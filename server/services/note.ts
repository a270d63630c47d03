import type { Context, Server } from './context'

/** Adds to the record of who did what; to a server, where it was done to one. */
export async function note(context: Context, account: string, action: string, detail: string, server?: Server): Promise<void> {
  await context.record.add({ at: context.now().toISOString(), account, serverId: server?.row.id ?? null, action, detail })
}
