import { formatOf, layer, parse, readingFor } from '@pasticcio/core'
import type { PlaceFile } from '../places'
import type { Context, Server } from './context'
import { decode } from './text'

/** Settings files as they stood before a server was started, by path. */
export type BeforeStart = ReadonlyMap<string, { readonly file: PlaceFile; readonly text: string }>

/** So much is held for comparing; larger files, and those after it, are left out. */
const MOST_OF_ONE = 1024 * 1024
const MOST = 32 * 1024 * 1024
const MOST_SETTINGS = 20

/** What settings files say before a start, so that what plugins write into them as they start can be told. */
export async function beforeStart({ inventory, place }: Server): Promise<BeforeStart> {
  let held = 0
  inventory.forget()
  const wanted = (await inventory.plugins())
    .flatMap(({ files }) => files)
    .filter(({ path, size }) => size <= MOST_OF_ONE && formatOf(path) !== null && (held += size) <= MOST)
  const read = await Promise.all(wanted.map(async (file) => ({ file, bytes: await place.read(file.path, MOST_OF_ONE) })))
  return new Map(read.flatMap(({ file, bytes }) => (bytes ? [[file.path, { file, text: decode(file.path, bytes) }] as const] : [])))
}

/** Remembers which of the files plugins wrote anew as the server started, and what is another in them. */
export async function rememberRewrites(context: Context, server: Server, before: BeforeStart): Promise<void> {
  for (const plugin of await server.inventory.plugins())
    for (const { path, size, changed } of plugin.files) {
      const known = before.get(path)
      if (!known || (size === known.file.size && changed === known.file.changed)) continue
      const bytes = await server.place.read(path, MOST_OF_ONE)
      const text = bytes && decode(path, bytes)
      if (text === null || text === known.text) continue
      const settings = settingsBetween(server, path, known.text, text)
      await context.rewrites.save(server.row.id, { path, plugin: plugin.name, settings, at: context.now().toISOString() })
    }
}

/** Settings that two texts of a file have differently, as JSON Pointers; the first of them. */
function settingsBetween({ family }: Server, path: string, before: string, after: string): string[] {
  const read = (text: string) => parse(text, formatOf(path)!, readingFor(path, family))
  return layer(read(before), read(after))
    .slice(0, MOST_SETTINGS)
    .map((change) => change.path)
}
