import { mergeEdits, readingFor } from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import { NO_FILE, basedOn, type DraftRow } from '../db/repositories/drafts'
import { hashAt } from './apply-writes'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { draftView, isText, requireOwner } from './settings'
import { SIZES } from './sizes'
import { decode } from './text'

export interface DraftInput {
  readonly path: string
  readonly text: string
  /** The hash of the file it was made from. */
  readonly baseSha: string
  /** The hash of the draft it was made from; null for none. */
  readonly draftSha: string | null
}

export interface SavedDraft {
  /** The hash of the draft; null where it reads like the file, so that there is none. */
  readonly draftSha: string | null
  /** The hash of the file it is a draft of. */
  readonly baseSha: string
  /** Where somebody else changed other settings meanwhile: the text with what both did. */
  readonly merged: { readonly text: string; readonly with: string; readonly sentSha: string } | null
}

/** So often somebody else may be quicker, one after the other, before it is given up. */
const TRIES = 8

/**
 * Keeps a draft of a file; one that reads like the file itself is no draft. A draft is replaced only by what was made
 * from it. Where somebody else was quicker, changes of different settings are brought together, and those of the same
 * come back with the error as both: nothing is lost.
 * @throws ServiceError `draft-changed`, `drift`, `not-allowed`, `not-found`
 */
export async function saveDraft(context: Context, server: Server, input: DraftInput, account: string): Promise<SavedDraft> {
  const { path } = input
  await requireOwner(server, path)
  for (let tries = 0; tries < TRIES; tries++) {
    const bytes = await server.place.read(path, SIZES.settings)
    const known = await context.drafts.get(server.row.id, path)
    const saved = await saveOver(context, server, input, { bytes, known, account })
    if (saved) return saved
  }
  const theirs = await context.drafts.get(server.row.id, path)
  throw theirs ? await draftChanged(context, theirs, input) : driftOf(path)
}

interface Standing {
  /** What stands on the server. */
  readonly bytes: Buffer | null
  readonly known: DraftRow | null
  readonly account: string
}

/** @returns null where somebody was quicker just now */
async function saveOver(context: Context, server: Server, input: DraftInput, standing: Standing): Promise<SavedDraft | null> {
  const { known, bytes } = standing
  const fileSha = bytes && hashOf(bytes)
  if (known) {
    // whoever has the page open may name the file it was a draft of until others applied theirs
    if (known.baseSha !== input.baseSha && !known.cameFrom.includes(basedOn(input.baseSha))) throw driftOf(input.path)
    const baseSha = baseOf(server, known, fileSha)
    if (known.sha === input.draftSha) return put(context, server, input.path, input.text, baseSha, standing)
    const theirs = await context.blobs.requireText(known.sha)
    const text = await merge(context, server, input, theirs)
    if (text === null) throw await draftChanged(context, known, input)
    const saved = await put(context, server, input.path, text, baseSha, standing)
    return saved && (await withMerged(context, saved, input, text, known.changedBy))
  }
  if (fileSha === null) throw driftOf(input.path)
  // what was made from a draft that was applied since goes on from the file that came of it
  if (fileSha === input.baseSha || fileSha === input.draftSha) return put(context, server, input.path, input.text, fileSha, standing)
  const text = await merge(context, server, input, decode(input.path, bytes!))
  if (text === null) throw driftOf(input.path)
  const saved = await put(context, server, input.path, text, fileSha, standing)
  return saved && (await withMerged(context, saved, input, text, 'the server'))
}

/**
 * The file a draft is one of. One that came from the very text that stands there now has all of it in it, and is one of
 * that, whether or not it was made to follow. What is being written now may be taken back, and does not count yet.
 */
function baseOf(server: Server, { baseSha, cameFrom }: DraftRow, fileSha: string | null): string {
  return fileSha !== null && cameFrom.includes(fileSha) && server.work.kind !== 'write' ? fileSha : baseSha
}

async function put(
  context: Context,
  server: Server,
  path: string,
  text: string,
  baseSha: string,
  standing: Standing,
): Promise<SavedDraft | null> {
  const { bytes, known, account } = standing
  const content = Buffer.from(text, 'utf8')
  if (bytes && content.equals(bytes)) {
    const isGone = known === null || (await context.drafts.removeIf(server.row.id, path, known.sha))
    return isGone ? { draftSha: null, baseSha: hashOf(bytes), merged: null } : null
  }
  const draft = { path, baseSha, sha: hashOf(content), changedBy: account, changedAt: context.now().toISOString() }
  // what it is a draft of is kept with it
  const contents = bytes && hashOf(bytes) === baseSha ? [bytes, content] : [content]
  return (await context.drafts.replace(server.row.id, draft, contents, known?.sha ?? null))
    ? { draftSha: draft.sha, baseSha, merged: null }
    : null
}

/** @returns the text with the changes of both; null where somebody has to choose */
async function merge(context: Context, server: Server, input: DraftInput, theirs: string): Promise<string | null> {
  const base = await context.blobs.get(input.draftSha ?? input.baseSha)
  if (!base) return null
  const reading = readingFor(input.path, server.family)
  return mergeEdits({ path: input.path, reading, base: base.toString('utf8'), mine: input.text, theirs })
}

/** What was sent is kept for a while, since what is typed meanwhile is made from it. */
async function withMerged(context: Context, saved: SavedDraft, input: DraftInput, text: string, by: string): Promise<SavedDraft> {
  if (text === input.text) return saved
  return { ...saved, merged: { text, with: by, sentSha: await context.blobs.put(Buffer.from(input.text, 'utf8')) } }
}

const driftOf = (path: string): ServiceError =>
  new ServiceError(
    'drift',
    409,
    `${path} was changed on the server since you opened it. Load the page again; your text is still here to copy.`,
  )

/** A draft of what is no text, as a picture: it takes the place of what stands there, or does not. */
async function rebaseWhole(context: Context, server: Server, standing: Standing, choice: 'merge' | 'mine'): Promise<Rebased> {
  const { bytes, account } = standing
  const known = standing.known!
  const { path, sha } = known
  const baseSha = bytes ? hashOf(bytes) : NO_FILE
  if (sha !== baseSha && choice === 'merge')
    throw new ServiceError(
      'drift',
      409,
      `${path} was changed on the server too, and two such files cannot be brought together. Choose one.`,
    )
  const draft = { path, baseSha, sha, changedBy: account, changedAt: context.now().toISOString() }
  const isDone =
    sha === baseSha
      ? await context.drafts.removeIf(server.row.id, path, sha)
      : await context.drafts.replace(server.row.id, draft, [bytes ?? Buffer.alloc(0)], sha)
  if (!isDone) throw new ServiceError('draft-changed', 409, `Somebody else changed the draft of ${path} meanwhile. Look at theirs first.`)
  return { draftSha: sha === baseSha ? null : sha, baseSha }
}

async function draftChanged(context: Context, theirs: DraftRow, { path }: DraftInput): Promise<ServiceError> {
  return new ServiceError(
    'draft-changed',
    409,
    `${theirs.changedBy} changed the same in the draft of ${path} meanwhile. Both are kept: yours here, theirs in the tray.`,
    { data: { draft: await draftView(context, theirs) } },
  )
}

/**
 * Drafts that were made from what was applied just now become drafts of the file as it is, also while they are typed on;
 * one that cannot be brought together with it stays as it is, and is shown as such.
 */
export async function followFiles(context: Context, server: Server, paths: readonly string[]): Promise<void> {
  for (const { path, changedBy } of await context.drafts.list(server.row.id))
    for (let tries = paths.includes(path) ? TRIES : 0; tries > 0; tries--) {
      const known = await context.drafts.get(server.row.id, path)
      if (!known || known.baseSha === (await hashAt(server, path))) break
      const isDone = await rebaseDraft(context, server, path, 'merge', changedBy).catch((error: unknown) => {
        if (!(error instanceof ServiceError)) throw error
        return error.code !== 'draft-changed'
      })
      if (isDone) break
    }
}

/** What becomes of a draft whose file was changed on the server since. */
export interface Rebased {
  readonly draftSha: string | null
  readonly baseSha: string
}

/**
 * Makes a draft one of the file as it now stands: the changes of both where they are of different settings, or the draft
 * as it is where somebody chose `mine`. @throws ServiceError `drift` with both texts where somebody has to choose
 */
export async function rebaseDraft(
  context: Context,
  server: Server,
  path: string,
  choice: 'merge' | 'mine',
  account: string,
): Promise<Rebased> {
  const known = await context.drafts.get(server.row.id, path)
  if (!known) throw notFound(`draft of ${path} in the tray`)
  const bytes = await server.place.read(path, SIZES.settings)
  if (!(await isText(server, path))) return rebaseWhole(context, server, { bytes, known, account }, choice)
  if (!bytes) throw new ServiceError('drift', 409, `${path} is not on the server any more. Discard the draft, or put the file back.`)
  const [base, mine] = [await context.blobs.requireText(known.baseSha), await context.blobs.requireText(known.sha)]
  const theirs = decode(path, bytes)
  // what came from the very text that stands there now has all of it in it
  const hasAll = choice === 'mine' || known.cameFrom.includes(hashOf(bytes))
  const text = hasAll ? mine : mergeEdits({ path, reading: readingFor(path, server.family), base, mine, theirs })
  if (text === null)
    throw new ServiceError('drift', 409, `${path} has the same settings changed here and on the server. Look at both, and choose.`, {
      data: { draft: mine, now: theirs, base },
    })
  const saved = await put(context, server, path, text, hashOf(bytes), { bytes, known, account })
  if (!saved)
    throw await draftChanged(context, (await context.drafts.get(server.row.id, path)) ?? known, { path, text, baseSha: '', draftSha: null })
  return saved
}
