import { formatOf, layer, parse, readingFor } from '@pasticcio/core'
import type { PlaceFile } from '../places'
import type { Context, Server } from './context'
import { decode } from './text'

/** Settings files as they stood before a server was started. */
export interface BeforeStart {
  readonly files: ReadonlyMap<string, { readonly file: PlaceFile; readonly plugin: string; readonly text: string }>
}

/** So much is held for comparing; larger files, and those after it, are left out. */
const MOST_OF_ONE = 1024 * 1024
const MOST = 32 * 1024 * 1024
const MOST_SETTINGS = 20

/** What settings files say before a start, so that what plugins write into them as they start can be told. */
export async function beforeStart({ inventory, place }: Server): Promise<BeforeStart> {
  const files = new Map<string, { file: PlaceFile; plugin: string; text: string }>()
  let held = 0
  inventory.forget()
  for (const plugin of await inventory.plugins())
    for (const file of plugin.files) {
      if (file.size > MOST_OF_ONE || held + file.size > MOST || formatOf(file.path) === null) continue
      const bytes = await place.read(file.path, MOST_OF_ONE)
      if (!bytes) continue
      held += bytes.length
      files.set(file.path, { file, plugin: plugin.name, text: decode(file.path, bytes) })
    }
  return { files }
}

/** Remembers which of the files plugins wrote anew as the server started, and what is another in them. */
export async function rememberRewrites(context: Context, server: Server, { files }: BeforeStart): Promise<void> {
  for (const [path, { file, plugin, text }] of files) {
    const now = await server.place.stat(path)
    if (!now || (now.size === file.size && now.changed === file.changed)) continue
    const bytes = await server.place.read(path, MOST_OF_ONE)
    if (!bytes || decode(path, bytes) === text) continue
    const settings = differing(server, path, text, decode(path, bytes))
    await context.rewrites.save(server.row.id, { path, plugin, settings, at: context.now().toISOString() })
  }
}

/** Settings that two texts of a file have differently. */
function differing(server: Server, path: string, before: string, after: string): string[] {
  const reading = readingFor(path, server.family)
  const format = formatOf(path)!
  return layer(parse(before, format, reading), parse(after, format, reading))
    .slice(0, MOST_SETTINGS)
    .map((change) => change.path)
}
