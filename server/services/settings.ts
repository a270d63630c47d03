import { asksMore, formatOf, nameOf, readingFor, type Applies, type OtherVersions, type Reading, type Rule } from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import type { DraftRow } from '../db/repositories/drafts'
import type { Rewrite } from '../db/repositories/rewrites'
import type { Context, Server } from './context'
import { notFound } from './errors'
import type { Installed } from './inventory'
import { rulesOf } from './file-rules'
import { otherPackages, othersOf } from './other-versions'
import { flushRecords } from './records'
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
  /** What other versions in the pantry ship in its place, older ones too. */
  readonly others: OtherVersions | null
  /** What a newer version in the pantry would ship. */
  readonly update: { readonly version: string; readonly text: string } | null
  readonly record: boolean
  /** When the plugin wrote it anew as the server started, and what was another after it; null for never. */
  readonly rewritten: Pick<Rewrite, 'settings' | 'at'> | null
  /** What makes a change of it count. */
  readonly after: Applies
  /** What people say its settings are, and what the plugin's author declares. */
  readonly rules: readonly Rule[]
  /** How the server reads it. */
  readonly reading: Reading
}

/** The plugin a file belongs to. @throws ServiceError `not-found` for other files: those are none of ours. */
export async function requireOwner(server: Server, path: string): Promise<Installed> {
  const owner = await server.inventory.ownerOf(path)
  if (!owner) throw notFound(`settings file ${path} on this server`)
  return owner
}

/** Whether a staged file is a text with settings; else it is taken whole, as a picture. */
export const isText = async ({ inventory }: Server, path: string): Promise<boolean> =>
  formatOf(path) !== null || (await inventory.ownerOf(path)) !== null

export const isRecordOf = (owner: Installed, path: string): boolean => owner.records.some((file) => file.path === path)

/** What makes a change of a file count. @param asked what is said of the settings that were changed */
export function countsBy({ family }: Server, owner: Installed, path: string, asked: Applies | null = null): Applies {
  const usual = isRecordOf(owner, path) && family['after-change'] === 'reload' ? family['after-record'] : family['after-change']
  return asked && asksMore(asked, usual) ? asked : usual
}

/** One settings file: what is on the server, its factory copy, the draft, and what an update would ship. */
export async function viewFile(context: Context, server: Server, path: string): Promise<FileView> {
  const owner = await requireOwner(server, path)
  if (isRecordOf(owner, path)) await flushRecords(server, owner)
  return viewOf(context, server, owner, path, await context.packages.list(server.family.id))
}

/** All settings files of a server that can be shown, in one pass. */
export async function viewFiles(context: Context, server: Server): Promise<FileView[]> {
  const views = new Map<string, FileView>()
  const pantry = await context.packages.list(server.family.id)
  for (const owner of await server.inventory.plugins())
    for (const { path } of owner.files.filter((file) => !views.has(file.path))) {
      // a file that cannot be shown is named in the overview, and does not keep the others back
      const view = await viewOf(context, server, owner, path, pantry).catch((error: unknown) => {
        context.log.warn({ path, error }, 'file not shown')
        return null
      })
      if (view) views.set(path, view)
    }
  return [...views.values()]
}

async function viewOf(
  context: Context,
  server: Server,
  owner: Installed,
  path: string,
  pantry: Awaited<ReturnType<Context['packages']['list']>>,
): Promise<FileView> {
  const draft = await context.drafts.get(server.row.id, path)
  // one that is staged and not there yet is a draft of nothing
  const bytes = (await server.place.read(path, SIZES.settings)) ?? (draft ? Buffer.alloc(0) : null)
  if (!bytes) throw notFound(`file ${path}`)
  const next = newestOf(pantry, owner.name, owner.version)
  const shipped = next ? await context.packages.defaultText(next.id, nameOf(server.family, owner, path)) : null
  return {
    path,
    plugin: owner.name,
    version: owner.version,
    text: decode(path, bytes),
    sha: hashOf(bytes),
    record: isRecordOf(owner, path),
    after: countsBy(server, owner, path),
    rewritten: (await context.rewrites.of(server.row.id)).get(path) ?? null,
    rules: rulesOf(await context.rules.of(server.row.id), server.family, owner, path),
    reading: readingFor(path, server.family),
    factory: await server.inventory.factoryText(owner, path),
    draft: draft ? await draftView(context, draft) : null,
    others: await othersOf(context, server, owner, path, otherPackages(pantry, owner)),
    update: next && shipped !== null ? { version: next.info.version, text: shipped } : null,
  }
}

export async function draftView(context: Context, draft: DraftRow): Promise<DraftView> {
  return { text: await context.blobs.requireText(draft.sha), sha: draft.sha, baseSha: draft.baseSha, changedBy: draft.changedBy }
}
