import { posix } from 'node:path'
import { LineIndex, arrangementOf, nameOf, pathOf, type Moment, type NamedFact, type Turn } from '@pasticcio/core'
import type { Context, Server } from './context'
import { asServiceError, ServiceError } from './errors'
import type { Installed } from './inventory'
import { SIZES } from './sizes'
import { decode } from './text'
import type { ServerWorkspace } from './workspace'

/** Where a picture or a file is named. */
interface Named {
  readonly plugin: string
  readonly file: string
  readonly pointer: string
  readonly line: number
  /** As it is written. */
  readonly name: string
  /** Where it lies, or waits in the tray; null where it is not there. */
  readonly path: string | null
  readonly staged: boolean
}

/** A picture that players see, as the setting names it. */
export interface ShownPicture extends Named {
  /** What it is, by its ending. */
  readonly kind: string
  /** In pixels; null where it cannot be read. */
  readonly size: { readonly width: number; readonly height: number } | null
  /** What the setting takes; null for any. */
  readonly width: number | null
  readonly height: number | null
  /** How it takes turns with others of its list. */
  readonly turn: Turn | null
}

/** A text file that players read as a book. */
export interface ShownBook extends Named {
  readonly text: string
  /** What its plugin ships in its place; null where that is not known. */
  readonly shipped: string | null
  readonly moment: Moment
}

export interface Papers {
  readonly pictures: readonly ShownPicture[]
  readonly books: readonly ShownBook[]
}

const BOOK = /\.(?:txt|md)$/i

/** Pictures and books that settings name, drafts in their places. */
export async function papersOf(context: Context, server: Server, all: ServerWorkspace): Promise<Papers> {
  const pictures: ShownPicture[] = []
  const books: ShownBook[] = []
  const { paths, pictures: sizes } = all.knowledge
  for (const [file, { facts, text }] of all.files) {
    const lines = new LineIndex(facts?.named.length ? (text ?? '') : '')
    for (const fact of facts?.named ?? []) {
      if (fact.name === '') continue
      const path = placesOf(server, all, file, fact).find((place) => paths?.has(place)) ?? null
      const named = {
        plugin: facts!.plugin ?? '',
        file,
        pointer: fact.pointer,
        line: lines.position(fact.from).line,
        name: fact.name,
        path,
        staged: path !== null && all.drafts.has(path),
      }
      const { width, height, turn } = fact
      if (fact.means === 'picture')
        pictures.push({
          ...named,
          kind: posix.extname(fact.name).slice(1).toLowerCase(),
          size: (path !== null && sizes.get(path)) || null,
          width,
          height,
          turn,
        })
      else if (path !== null && BOOK.test(path)) {
        const text = await readBook(context, server, path, all.drafts.get(path))
        const owner = all.plugins.find(({ name }) => name === facts!.plugin)
        const shipped = owner ? await shippedText(context, server, owner, path) : null
        if (text !== null) books.push({ ...named, text, shipped, moment: fact.moment })
      }
    }
  }
  return { pictures, books }
}

/** Where a file may lie that a setting names: below the settings file, below the plugin’s folder, below the server’s. */
function placesOf(server: Server, { plugins }: ServerWorkspace, file: string, { name, folder }: NamedFact): string[] {
  const owner = plugins.find(({ files }) => files.some(({ path }) => path === file))
  const home = owner ? posix.dirname(pathOf(server.family, owner, 'x')) : '.'
  return [posix.dirname(file), home, '.'].map((base) => posix.join(base, folder, name))
}

/** A text file as it lies in its plugin’s package, where that is in the pantry; read once. */
async function shippedText(context: Context, server: Server, owner: Installed, path: string): Promise<string | null> {
  const row = owner.packageId === null ? null : await context.packages.get(owner.packageId)
  if (!row || arrangementOf(server.family).arrives === 'text') return null
  const member = row.root + (server.family.descriptor.defaults ?? '') + nameOf(server.family, owner, path)
  return server.knowledge.text(`${owner.name} ${path}`, `shipped ${row.sha}`, async () => {
    const isIn = (await context.listings.get(context, row.sha)).some(({ name }) => name === member)
    const found = isIn ? await context.unpacker.members(await context.blobs.requireBytes(row.sha), [member], 'The package') : null
    const bytes = found?.get(member)
    return bytes ? Buffer.from(bytes).toString('utf8') : null
  })
}

/** A text file as it is staged or stands; null for what is no text or too large for a book. */
async function readBook(context: Context, server: Server, path: string, draft: string | undefined): Promise<string | null> {
  try {
    const bytes = draft ? await context.blobs.requireBytes(draft) : await server.place.read(path, SIZES.settings)
    return bytes && decode(path, bytes)
  } catch (error) {
    const told = asServiceError(error)
    if (!(told instanceof ServiceError)) throw error
    context.log.warn({ path, error }, 'book not shown')
    return null
  }
}
