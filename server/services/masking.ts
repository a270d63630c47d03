import { SecretMask, formatOrText, readingFor } from '@pasticcio/core'
import type { Context, Server } from './context'
import { rulesOf } from './file-rules'
import { note } from './note'
import { requireOwner } from './settings'

/**
 * Hides the secrets of a file in whatever is shown of it to look at: differences, history, plans. Who edits the file
 * itself gets it as it is. @param texts all texts that anything is shown of
 */
export async function maskFor(context: Context, server: Server, path: string, texts: readonly (string | null)[]): Promise<SecretMask> {
  const given = await context.rules.of(server.row.id)
  const owner = await server.inventory.ownerOf(path)
  const rules = owner ? rulesOf(given, server.family, owner, path) : (given.get(path) ?? [])
  return new SecretMask({ format: formatOrText(path), reading: readingFor(path, server.family), rules }, texts)
}

/** Keeps who had a secret shown to them, and which. @throws ServiceError `not-found` for a file of no plugin */
export async function noteShown(context: Context, server: Server, path: string, pointer: string, by: string): Promise<void> {
  await requireOwner(server, path)
  await note(context, by, 'secret-shown', `${path} ${pointer}`, server)
}

/** A file as it was and as it is, to be looked at. */
export async function maskPair<T extends { readonly path: string; readonly before: string | null; readonly after: string | null }>(
  context: Context,
  server: Server,
  file: T,
): Promise<T> {
  const mask = await maskFor(context, server, file.path, [file.before, file.after])
  return { ...file, before: mask.text(file.before), after: mask.text(file.after, file.before) }
}
