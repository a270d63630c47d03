import { OperationError, readingFor, resolveAction, type Content, type FileAction } from '@pasticcio/core'
import type { ApplyFile } from '../db/repositories/applies'
import { hashOf } from '../db/repositories/blobs'
import type { Staged } from '../places'
import { memberOf } from './archives'
import type { Context, Server } from './context'
import { ServiceError } from './errors'
import { SIZES } from './sizes'
import { decode } from './text'

/** An action with the hash of what must stand there now, null for nothing; left out where that does not matter. */
export type PlannedAction = FileAction & { readonly expected?: string | null }

/** One file to write; `bytes` null takes it away. */
export interface Write {
  readonly path: string
  readonly before: Uint8Array | null
  readonly bytes: Uint8Array | null
}

export type Step = (name: string, detail?: string) => Promise<void>

const sameBytes = (a: Uint8Array | null, b: Uint8Array | null): boolean => (a && b ? Buffer.compare(a, b) === 0 : a === b)

/**
 * What actions come to on the files as they are now; several of one file follow each other. Files that stay as they are
 * are left out. @throws ServiceError `drift` where something else stands than the change was made from
 */
export async function resolveWrites(context: Context, server: Server, actions: readonly PlannedAction[]): Promise<Write[]> {
  const writes = new Map<string, Write>()
  for (const action of actions) {
    const known = writes.get(action.path)
    const before = known ? known.before : await server.place.read(action.path, SIZES.package)
    const now = known ? known.bytes : before
    const expected = action.kind === 'remove' ? (action.ifSha ?? action.expected) : action.expected
    if (expected !== undefined && (now ? hashOf(now) : null) !== expected)
      throw new ServiceError(
        'drift',
        409,
        `${action.path} was changed on the server since you began. Open it to see both, and decide; nothing was written.`,
      )
    writes.set(action.path, { path: action.path, before, bytes: await resultOf(context, server, action, now) })
  }
  return [...writes.values()].filter((write) => !sameBytes(write.before, write.bytes))
}

async function resultOf(context: Context, server: Server, action: FileAction, now: Uint8Array | null): Promise<Uint8Array | null> {
  if (action.kind === 'remove') return null
  if (action.kind === 'put') return contentOf(context, action.content)
  try {
    const text = resolveAction(action, now ? decode(action.path, now) : null, readingFor(action.path, server.family))
    return text === null ? null : Buffer.from(text, 'utf8')
  } catch (error) {
    if (!(error instanceof OperationError)) throw error
    throw new ServiceError('has-errors', 422, `${action.path} cannot be changed: ${error.message}. Nothing was written.`, { cause: error })
  }
}

async function contentOf(context: Context, content: Content): Promise<Uint8Array> {
  if ('sha' in content) return context.blobs.requireBytes(content.sha)
  return memberOf(await context.blobs.requireBytes(content.package), content.member, 'The package')
}

/** Keeps what stands there and what shall, so that both can be had again. */
export async function keepContents(context: Context, writes: readonly Write[]): Promise<ApplyFile[]> {
  const files: ApplyFile[] = []
  for (const { path, before, bytes } of writes)
    files.push({
      path,
      beforeSha: before ? await context.blobs.put(before) : null,
      afterSha: bytes ? await context.blobs.put(bytes) : null,
    })
  return files
}

/** All files are staged before the first takes its place. */
export async function writeAll(server: Server, writes: readonly Write[], step: Step): Promise<void> {
  const staged = new Map<string, Staged>()
  try {
    for (const { path, bytes } of writes) {
      if (!bytes) continue
      await step('stage', path)
      staged.set(path, await server.place.stage(path, bytes))
    }
    for (const { path, bytes } of writes) {
      await step(bytes ? 'rename' : 'remove', path)
      if (bytes) await server.place.commit(staged.get(path)!)
      else await server.place.remove(path)
      staged.delete(path)
    }
  } finally {
    for (const left of staged.values()) await server.place.discard(left)
  }
}

/** Gives files what they had before, where they have something else now. */
export async function putBack(context: Context, server: Server, files: readonly ApplyFile[]): Promise<void> {
  for (const file of files) {
    if ((await hashAt(server, file.path)) === file.beforeSha) continue
    if (file.beforeSha === null) await server.place.remove(file.path)
    else await server.place.commit(await server.place.stage(file.path, await context.blobs.requireBytes(file.beforeSha)))
  }
}

/** The hash of what stands at a path; null for nothing. */
export async function hashAt(server: Server, path: string): Promise<string | null> {
  const bytes = await server.place.read(path, SIZES.package)
  return bytes ? hashOf(bytes) : null
}
