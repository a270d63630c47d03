import { stat } from 'node:fs/promises'
import type { Context } from './context'
import { foldLoad } from './load'

/** What Pasticcio's data take on the disk, in bytes. */
export interface StorageSizes {
  /** The database's file with what was not written into it yet. */
  readonly database: number
  /** Room in it that is free for what comes next. */
  readonly free: number
  readonly packages: number
  readonly factory: number
  readonly drafts: number
  readonly history: number
  /** Contents nobody refers to any more, which the next clearing takes. */
  readonly unused: number
  /** Changes in the history of all servers, and how many of one server are kept. */
  readonly changes: number
  readonly keptChanges: number
}

export interface Cleared {
  readonly changes: number
  readonly contents: number
  /** Bytes given back to the disk. */
  readonly bytes: number
}

/** Contents that were put less than so long ago stay, since what refers to them may be on its way. */
const GRACE_MS = 10 * 60_000
/** One step takes so much, so that nobody waits for the database long. */
const AT_ONCE = 100
const PAGES_AT_ONCE = 500

export async function storageSizes(context: Context): Promise<StorageSizes> {
  const contents = await context.blobs.sizes()
  const [{ changes }] = (await context.db('applies').count({ changes: '*' })) as unknown as [{ changes: number }]
  const free = (await pragma(context, 'freelist_count')) * (await pragma(context, 'page_size'))
  return { database: await onDisk(context), free, ...contents, changes, keptChanges: context.keptChanges }
}

/**
 * Takes away what is of no use any more: changes beyond those that are kept, contents nobody refers to, sessions that
 * ended. What is pinned, under way or the last change of a file stays. In short steps.
 */
export async function clearStorage(context: Context): Promise<Cleared> {
  const before = await onDisk(context)
  const changes = await clearHistory(context)
  const contents = await clearContents(context)
  const now = context.now().toISOString()
  await context.accounts.endExpired(now)
  await context.invitations.removeExpired(now)
  await foldLoad(context)
  await giveBack(context)
  return { changes, contents, bytes: Math.max(0, before - (await onDisk(context))) }
}

async function clearHistory(context: Context): Promise<number> {
  let count = 0
  for (const { id } of await context.servers.list())
    for (const change of await context.applies.outdated(id, context.keptChanges)) {
      await context.applies.remove(change)
      count++
    }
  return count
}

async function clearContents(context: Context): Promise<number> {
  const before = new Date(context.now().getTime() - GRACE_MS).toISOString()
  let count = 0
  for (;;) {
    const unused = await context.blobs.unused(before, AT_ONCE)
    let taken = 0
    for (const sha of unused) if (await context.blobs.discard(sha, before)) taken++
    count += taken
    if (taken === 0) return count
  }
}

/** Room that came free goes back to the disk. */
async function giveBack(context: Context): Promise<void> {
  for (let left = await pragma(context, 'freelist_count'); left > 0;) {
    await context.db.raw(`PRAGMA incremental_vacuum(${PAGES_AT_ONCE})`)
    const now = await pragma(context, 'freelist_count')
    if (now >= left) break
    left = now
  }
  await context.db.raw('PRAGMA wal_checkpoint(TRUNCATE)')
}

async function pragma(context: Context, name: 'freelist_count' | 'page_size'): Promise<number> {
  const [row] = (await context.db.raw(`PRAGMA ${name}`)) as Record<string, number>[]
  return row?.[name] ?? 0
}

async function onDisk({ databaseFile }: Context): Promise<number> {
  const sizes = await Promise.all(
    [databaseFile, `${databaseFile}-wal`].map((file) =>
      stat(file).then(
        ({ size }) => size,
        () => 0,
      ),
    ),
  )
  return sizes.reduce((sum, size) => sum + size, 0)
}
