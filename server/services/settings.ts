import { LENIENT, formatOf, layer, parse, readingFor, type Document, type Reading } from '@pasticcio/core'
import type { ApplyRow } from '../db/repositories/applies'
import { hashOf } from '../db/repositories/blobs'
import type { DraftRow } from '../db/repositories/drafts'
import { applyChange, pluginOf, type Write } from './apply'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { listInstalled, type Installed } from './installed'

export interface FileView {
  readonly path: string
  readonly plugin: string
  readonly version: string
  readonly text: string
  readonly sha: string
  /** The factory copy of the installed version; null where it is not known. */
  readonly factory: string | null
  readonly draft: { readonly text: string; readonly baseSha: string; readonly changedBy: string } | null
  /** What a newer version in the pantry would ship. */
  readonly update: { readonly version: string; readonly text: string } | null
  readonly record: boolean
  /** How the server reads it. */
  readonly reading: Reading
}

/** @throws ServiceError `not-utf8` */
export function decode(path: string, bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes)
  } catch (error) {
    throw new ServiceError('not-utf8', 422, `${path} is not UTF-8 text. Save it as UTF-8 with another program first.`, { cause: error })
  }
}

/** The plugin a file belongs to. @throws ServiceError `not-found` for other files: those are none of ours. */
export async function requireOwner(context: Context, server: Server, path: string): Promise<Installed> {
  const owner = (await listInstalled(context, server)).find((item) => item.files.includes(path) || item.records.includes(path))
  if (!owner) throw notFound(`settings file ${path} on this server`)
  return owner
}

export async function viewFile(
  context: Context,
  server: Server,
  path: string,
  newer: (name: string, version: string) => Promise<{ version: string; defaults: Readonly<Record<string, string>> } | null>,
): Promise<FileView> {
  const owner = await requireOwner(context, server, path)
  const bytes = await server.files.read(path)
  if (!bytes) throw notFound(`file ${path}`)
  const text = decode(path, bytes)
  const factorySha = await context.factory.get(server.row.id, owner.name, owner.version, path)
  const draft = await context.drafts.get(server.row.id, path)
  const next = await newer(owner.name, owner.version)
  const shipped = next?.defaults[path.split('/').pop()!]
  return {
    path,
    plugin: owner.name,
    version: owner.version,
    text,
    sha: hashOf(bytes),
    record: owner.records.includes(path),
    reading: readingFor(path, server.family),
    factory: factorySha ? await context.blobs.requireText(factorySha) : null,
    draft: draft ? { text: await context.blobs.requireText(draft.sha), baseSha: draft.baseSha, changedBy: draft.changedBy } : null,
    update: next && shipped !== undefined ? { version: next.version, text: shipped } : null,
  }
}

/** Keeps a draft of a file; one that reads like the file itself is no draft. */
export async function saveDraft(
  context: Context,
  server: Server,
  path: string,
  text: string,
  baseSha: string,
  account: string,
): Promise<void> {
  const owner = await requireOwner(context, server, path)
  if (owner.records.includes(path))
    throw new ServiceError('not-allowed', 409, `${path} is written by the running server, so changes here would be lost.`)
  const bytes = await server.files.read(path)
  const sha = await context.blobs.put(Buffer.from(text, 'utf8'))
  if (bytes && sha === hashOf(bytes)) return context.drafts.remove(server.row.id, [path])
  const known = await context.drafts.get(server.row.id, path)
  if (!known && (!bytes || hashOf(bytes) !== baseSha))
    throw new ServiceError(
      'drift',
      409,
      `${path} was changed on the server since you opened it. Load the page again; your text is still here to copy.`,
    )
  if (bytes) await context.blobs.put(bytes)
  await context.drafts.save(server.row.id, {
    path,
    baseSha: known?.baseSha ?? baseSha,
    sha,
    changedBy: account,
    changedAt: context.now().toISOString(),
  })
}

export interface TrayFile {
  readonly path: string
  readonly plugin: string
  readonly base: string
  readonly draft: string
  readonly changedBy: string
  /** The file on the server is no longer what the draft was made from. */
  readonly drifted: string | null
  /** How the server reads it. */
  readonly reading: Reading
}

/** Everything staged for this server. */
export async function listTray(context: Context, server: Server): Promise<TrayFile[]> {
  const drafts = await context.drafts.list(server.row.id)
  return Promise.all(
    drafts.map(async (draft) => {
      const bytes = await server.files.read(draft.path)
      const drifted = !bytes || hashOf(bytes) !== draft.baseSha
      return {
        path: draft.path,
        plugin: pluginOf(server, draft.path) ?? '',
        base: await context.blobs.requireText(draft.baseSha),
        draft: await context.blobs.requireText(draft.sha),
        changedBy: draft.changedBy,
        drifted: drifted ? (bytes ? bytes.toString('utf8') : '') : null,
        reading: readingFor(draft.path, server.family),
      }
    }),
  )
}

/** Writes the staged drafts to the server. What was applied leaves the tray. */
export async function applyTray(context: Context, server: Server, account: string): Promise<ApplyRow> {
  const drafts = await context.drafts.list(server.row.id)
  if (drafts.length === 0) throw new ServiceError('nothing-to-do', 409, 'Nothing is staged.')
  const writes: Write[] = []
  for (const draft of drafts) writes.push({ path: draft.path, bytes: await context.blobs.requireBytes(draft.sha), expected: draft.baseSha })
  const plugins = [...new Set(drafts.map((draft) => pluginOf(server, draft.path)).filter((name) => name !== null))]
  const title = await titleOf(context, drafts, plugins)
  const row = await applyChange(context, server, { kind: 'settings', title, writes, plugins, restart: false }, account)
  await context.drafts.remove(
    server.row.id,
    drafts.map((draft) => draft.path),
  )
  return row
}

async function titleOf(context: Context, drafts: readonly DraftRow[], plugins: readonly string[]): Promise<string> {
  let changes = 0
  for (const draft of drafts) changes += (await layerCount(context, draft)) || 1
  return `${changes} change${changes === 1 ? '' : 's'} in ${plugins.join(', ')}`
}

async function layerCount(context: Context, draft: DraftRow): Promise<number> {
  const format = formatOf(draft.path)
  if (!format) return 0
  const read = async (sha: string): Promise<Document> => parse(await context.blobs.requireText(sha), format, LENIENT)
  return layer(await read(draft.baseSha), await read(draft.sha)).length
}
