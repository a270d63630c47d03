import { nameInFolder, readingFor, type Reading } from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import type { DraftRow } from '../db/repositories/drafts'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import type { Installed } from './inventory'
import { SIZES } from './sizes'
import { decode } from './text'
import { newestOf } from './updates'

export interface DraftView {
  readonly text: string
  readonly sha: string
  readonly baseSha: string
  readonly changedBy: string
}

export interface FileView {
  readonly path: string
  readonly plugin: string
  readonly version: string
  readonly text: string
  readonly sha: string
  /** The factory copy of the installed version; null where it is not known. */
  readonly factory: string | null
  readonly draft: DraftView | null
  /** What a newer version in the pantry would ship. */
  readonly update: { readonly version: string; readonly text: string } | null
  readonly record: boolean
  /** How the server reads it. */
  readonly reading: Reading
}

/** The plugin a file belongs to. @throws ServiceError `not-found` for other files: those are none of ours. */
export async function requireOwner(server: Server, path: string): Promise<Installed> {
  const owner = await server.inventory.ownerOf(path)
  if (!owner) throw notFound(`settings file ${path} on this server`)
  return owner
}

const isRecordOf = (owner: Installed, path: string): boolean => owner.records.some((file) => file.path === path)

/** One settings file: what is on the server, its factory copy, the draft, and what an update would ship. */
export async function viewFile(context: Context, server: Server, path: string): Promise<FileView> {
  const owner = await requireOwner(server, path)
  return viewOf(context, server, owner, path, await context.packages.list(server.family.id))
}

/** All settings files of a server that can be shown, in one pass. */
export async function viewFiles(context: Context, server: Server): Promise<FileView[]> {
  const views: FileView[] = []
  const pantry = await context.packages.list(server.family.id)
  for (const owner of await server.inventory.plugins())
    for (const { path } of owner.files) {
      // a file that cannot be shown is named in the overview, and does not keep the others back
      const view = await viewOf(context, server, owner, path, pantry).catch((error: unknown) => {
        context.log.warn({ path, error }, 'file not shown')
        return null
      })
      if (view) views.push(view)
    }
  return views
}

async function viewOf(
  context: Context,
  server: Server,
  owner: Installed,
  path: string,
  pantry: Awaited<ReturnType<Context['packages']['list']>>,
): Promise<FileView> {
  const bytes = await server.place.read(path, SIZES.settings)
  if (!bytes) throw notFound(`file ${path}`)
  const draft = await context.drafts.get(server.row.id, path)
  const next = newestOf(pantry, owner.name, owner.version)
  const name = nameInFolder(server.family, owner.name, path)
  const shipped = next && name !== null && Object.hasOwn(next.info.defaults, name) ? next.info.defaults[name] : undefined
  return {
    path,
    plugin: owner.name,
    version: owner.version,
    text: decode(path, bytes),
    sha: hashOf(bytes),
    record: isRecordOf(owner, path),
    reading: readingFor(path, server.family),
    factory: await server.inventory.factoryText(owner, path),
    draft: draft ? await draftView(context, draft) : null,
    update: next && shipped !== undefined ? { version: next.info.version, text: shipped } : null,
  }
}

async function draftView(context: Context, draft: DraftRow): Promise<DraftView> {
  return { text: await context.blobs.requireText(draft.sha), sha: draft.sha, baseSha: draft.baseSha, changedBy: draft.changedBy }
}

export interface DraftInput {
  readonly path: string
  readonly text: string
  /** The hash of the file it was made from. */
  readonly baseSha: string
  /** The hash of the draft it was made from; null for none. */
  readonly draftSha: string | null
}

/**
 * Keeps a draft of a file; one that reads like the file itself is no draft. A draft is replaced only by what was made
 * from it: somebody else's comes back with the error, and nothing is lost.
 * @returns the hash of the draft, null where there is none now
 * @throws ServiceError `draft-changed`, `drift`, `not-allowed`, `not-found`
 */
export async function saveDraft(context: Context, server: Server, input: DraftInput, account: string): Promise<string | null> {
  const { path, text } = input
  const owner = await requireOwner(server, path)
  if (isRecordOf(owner, path))
    throw new ServiceError('not-allowed', 409, `${path} is written by the running server, so changes here would be lost.`)
  const bytes = await server.place.read(path, SIZES.settings)
  const known = await context.drafts.get(server.row.id, path)
  if ((known?.sha ?? null) !== input.draftSha && known) throw await draftChanged(context, known)
  const baseSha = known?.baseSha ?? (bytes ? hashOf(bytes) : null)
  if (baseSha !== input.baseSha || baseSha === null)
    throw new ServiceError(
      'drift',
      409,
      `${path} was changed on the server since you opened it. Load the page again; your text is still here to copy.`,
    )
  const content = Buffer.from(text, 'utf8')
  if (bytes && content.equals(bytes)) {
    if (known && !(await context.drafts.removeIf(server.row.id, path, known.sha))) throw await draftChanged(context, known)
    return null
  }
  if (bytes && !known) await context.blobs.put(bytes)
  const sha = await context.blobs.put(content)
  const draft = { path, baseSha, sha, changedBy: account, changedAt: context.now().toISOString() }
  if (await context.drafts.replace(server.row.id, draft, known?.sha ?? null)) return sha
  throw await draftChanged(context, (await context.drafts.get(server.row.id, path)) ?? draft)
}

async function draftChanged(context: Context, theirs: DraftRow): Promise<ServiceError> {
  return new ServiceError(
    'draft-changed',
    409,
    `${theirs.changedBy} changed the draft of ${theirs.path} meanwhile. Both are kept: yours here, theirs in the tray.`,
    { data: { draft: await draftView(context, theirs) } },
  )
}
