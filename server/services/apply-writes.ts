import { OperationError, readingFor, resolveAction, type Content, type FileAction } from '@pasticcio/core'
import type { ApplyFile } from '../db/repositories/applies'
import { hashOf } from '../db/repositories/blobs'
import { PlaceError, type Replaced, type Staged } from '../places'
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

/** A file that was written, with what it replaced. */
export interface Written extends Write {
  readonly replaced: Replaced | null
}

export type Step = (name: string, detail?: string) => Promise<void>

const sameBytes = (a: Uint8Array | null, b: Uint8Array | null): boolean => (a && b ? Buffer.compare(a, b) === 0 : a === b)

/**
 * What actions come to on the files as they are now; several of one file follow each other. Files that stay as they are
 * are left out. @throws ServiceError `drift` where something else stands than the change was made from
 */
export async function resolveWrites(context: Context, server: Server, actions: readonly PlannedAction[]): Promise<Write[]> {
  const writes = new Map<string, Write>()
  const contents = await membersFor(context, actions)
  for (const action of actions) {
    const known = writes.get(action.path)
    const before = known ? known.before : await server.place.read(action.path, SIZES.package)
    const now = known ? known.bytes : before
    const expected = action.kind === 'remove' ? (action.ifSha ?? action.expected) : action.expected
    if (expected !== undefined && (now ? hashOf(now) : null) !== expected) throw drift(action.path, 'since you began')
    writes.set(action.path, { path: action.path, before, bytes: await resultOf(context, server, action, now, contents) })
  }
  return [...writes.values()].filter((write) => !sameBytes(write.before, write.bytes))
}

export function drift(path: string, when: string): ServiceError {
  return new ServiceError('drift', 409, `${path} was changed on the server ${when}. Open it to see both, and decide; nothing was written.`)
}

/** Files of packages by package and name: each package is opened once. */
type Contents = ReadonlyMap<string, ReadonlyMap<string, Uint8Array>>

async function membersFor(context: Context, actions: readonly PlannedAction[]): Promise<Contents> {
  const wanted = new Map<string, string[]>()
  for (const action of actions)
    if (action.kind === 'put' && 'package' in action.content) {
      const { package: sha, member } = action.content
      wanted.set(sha, [...(wanted.get(sha) ?? []), member])
    }
  const contents = new Map<string, ReadonlyMap<string, Uint8Array>>()
  for (const [sha, names] of wanted)
    contents.set(sha, await context.unpacker.members(await context.blobs.requireBytes(sha), names, 'The package'))
  return contents
}

async function resultOf(
  context: Context,
  server: Server,
  action: FileAction,
  now: Uint8Array | null,
  contents: Contents,
): Promise<Uint8Array | null> {
  if (action.kind === 'remove') return null
  if (action.kind === 'put') return action.ifAbsent && now ? now : contentOf(context, action.content, contents)
  try {
    const text = resolveAction(action, now ? decode(action.path, now) : null, readingFor(action.path, server.family))
    return text === null ? null : Buffer.from(text, 'utf8')
  } catch (error) {
    if (!(error instanceof OperationError)) throw error
    throw new ServiceError('has-errors', 422, `${action.path} cannot be changed: ${error.message}. Nothing was written.`, { cause: error })
  }
}

async function contentOf(context: Context, content: Content, contents: Contents): Promise<Uint8Array> {
  return 'sha' in content ? context.blobs.requireBytes(content.sha) : contents.get(content.package)!.get(content.member)!
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

/**
 * Writes files: all are staged before the first takes its place, and each is looked at once more right before it does.
 * @param written is added to as files are written, so that it is right also where this fails
 * @throws ServiceError `drift` where one was changed meanwhile
 */
export async function writeAll(server: Server, writes: readonly Write[], step: Step, written: Written[]): Promise<void> {
  const staged = new Map<string, Staged>()
  let at = ''
  try {
    for (const { path, bytes } of writes) {
      if (!bytes) continue
      await step('stage', path)
      staged.set(path, await server.place.stage(path, bytes))
    }
    for (const write of writes) {
      const { path, before, bytes } = write
      at = path
      await step(bytes ? 'rename' : 'remove', path)
      const still = (now: Buffer | null): boolean => sameBytes(now, before)
      const replaced = bytes ? await server.place.commit(staged.get(path)!, still) : await server.place.remove(path, still)
      written.push({ ...write, replaced })
      staged.delete(path)
    }
  } catch (error) {
    throw error instanceof PlaceError && error.code === 'changed' ? drift(at, 'at this very moment') : error
  } finally {
    for (const left of staged.values()) await server.place.discard(left)
  }
}

/** A file whose earlier content was written to by others in the moment it was replaced. */
export interface LateWrite {
  readonly path: string
  readonly bytes: Uint8Array
}

/** What others wrote into files in the moment these were replaced: it went into what was replaced. */
export async function lateWrites(server: Server, written: readonly Written[]): Promise<LateWrite[]> {
  const late: LateWrite[] = []
  for (const { path, before, replaced } of written) {
    const bytes = replaced && (await server.place.before(replaced))
    if (bytes && !sameBytes(bytes, before)) late.push({ path, bytes })
  }
  return late
}

export async function releaseAll(server: Server, written: readonly Written[]): Promise<void> {
  for (const { replaced } of written) if (replaced) await server.place.release(replaced)
}

/**
 * Gives files what they had before, where they have what the change gave them. What others wrote there since stays.
 * @returns the paths of those
 */
export async function putBack(context: Context, server: Server, files: readonly ApplyFile[]): Promise<string[]> {
  const others: string[] = []
  for (const file of files) {
    const now = await hashAt(server, file.path)
    if (now === file.beforeSha) continue
    if (now !== file.afterSha || !(await putBackOne(context, server, file))) others.push(file.path)
  }
  return others
}

async function putBackOne(context: Context, server: Server, { path, beforeSha, afterSha }: ApplyFile): Promise<boolean> {
  const still = (now: Buffer | null): boolean => (now ? hashOf(now) : null) === afterSha
  const staged = beforeSha === null ? null : await server.place.stage(path, await context.blobs.requireBytes(beforeSha))
  try {
    const replaced = staged ? await server.place.commit(staged, still) : await server.place.remove(path, still)
    if (replaced) await server.place.release(replaced)
    return true
  } catch (error) {
    if (staged) await server.place.discard(staged)
    if (error instanceof PlaceError && error.code === 'changed') return false
    throw error
  }
}

/** The hash of what stands at a path; null for nothing. */
export async function hashAt(server: Server, path: string): Promise<string | null> {
  const bytes = await server.place.read(path, SIZES.package)
  return bytes ? hashOf(bytes) : null
}
