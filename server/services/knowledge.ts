import pLimit from 'p-limit'
import {
  asKnown,
  groupsPlace,
  idsByList,
  markupOf,
  ownPorts,
  patternsFor,
  placeholdersIn,
  serverFacts,
  textsAsked,
  type Knowledge,
  type LyingPlugin,
  type PictureFacts,
  type ServerFact,
} from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import type { PlaceFile } from '../places'
import type { Context, Server } from './context'
import type { Installed } from './inventory'
import { pictureIn } from './pictures'
import { listedIn, type Listed, type RegistryName } from './registries'
import { SIZES } from './sizes'
import { decode } from './text'
import { inRange } from './versions'

export const REGISTRIES: readonly RegistryName[] = ['items', 'blocks', 'sounds', 'effects', 'places', 'groups', 'players']
/** How deep below the plugins' folder is looked for what lies in the wrong place. */
const DEEPEST = 5
const READ_AT_ONCE = 8
const PICTURE = /\.(?:png|jpe?g|gif|webp)$/i

/** What is known of a server beside its settings, and what tells it from what was known before. */
export interface ServerKnowledge {
  readonly knowledge: Knowledge
  readonly version: string
  readonly lists: Readonly<Record<string, readonly Listed[]>>
}

/** What was read of a server's own files, kept as long as they do not change. */
export class KnowledgeCache {
  private readonly texts = new Map<string, { readonly key: string; readonly text: string | null }>()
  private readonly pictures = new Map<string, { readonly key: string; readonly size: PictureFacts | null }>()
  private readonly filled = new Map<string, ReadonlySet<string>>()
  private last: ServerKnowledge | null = null

  async text(path: string, key: string, read: () => Promise<string | null>): Promise<string | null> {
    const there = this.texts.get(path)
    if (there?.key === key) return there.text
    const text = await read()
    this.texts.set(path, { key, text })
    return text
  }

  async picture(path: string, key: string, look: () => Promise<PictureFacts | null>): Promise<PictureFacts | null> {
    const there = this.pictures.get(path)
    if (there?.key === key) return there.size
    const size = await look()
    this.pictures.set(path, { key, size })
    return size
  }

  async filledIn(key: string, read: () => Promise<ReadonlySet<string>>): Promise<ReadonlySet<string>> {
    let known = this.filled.get(key)
    if (!known) this.filled.set(key, (known = await read()))
    return known
  }

  /** The same object as before where nothing is another, so that threads that were told need not be told again. */
  same(found: ServerKnowledge): ServerKnowledge {
    if (this.last?.version !== found.version) this.last = found
    return this.last
  }
}

/** What is known of a server beside its settings, drafts in their places. @param drafts hashes by path */
export async function knowledgeFor(
  context: Context,
  server: Server,
  plugins: readonly Installed[],
  drafts: ReadonlyMap<string, string>,
): Promise<ServerKnowledge> {
  const { family } = server
  const read = readerFor(context, server, drafts)
  const files = await filesAround(server, plugins)
  const paths = new Set([...files.map(({ path }) => path), ...drafts.keys()])
  const lying = plugins.map(lyingOf)
  const texts = new Map<string, string>()
  for (const path of textsAsked(family, lying, paths)) {
    const text = await read(path)
    if (text !== null) texts.set(path, text)
  }
  const lists: Record<string, readonly Listed[]> = {}
  for (const name of REGISTRIES)
    lists[name] = await listedIn(server, name, read).catch((error: unknown) => {
      context.log.warn({ registry: name, error }, 'list not read')
      return []
    })
  const owned = new Set(plugins.flatMap((plugin) => [...plugin.files, ...plugin.records].map(({ path }) => path)))
  const facts = serverFacts({ family, plugins: lying, paths, owned, texts, strangers: server.inventory.toldStrangers, satisfies: inRange })
  const { commands } = family.console
  const knowledge: Knowledge = {
    lists: idsByList(lists),
    plugins: lying.map(asKnown),
    commands: commands.length > 0 ? new Set(commands) : null,
    texts: markupOf(family),
    ports: await ownPorts(family, read),
    groups: groupsPlace(family),
    paths,
    pictures: await picturesOf(context, server, files, drafts),
    filledIn: await filledIn(server, plugins),
    facts: [...facts, ...failures(server, plugins)],
  }
  return server.knowledge.same({ knowledge, version: versionOf(knowledge), lists })
}

/** Reads the text of a file as its draft has it, or as it is; null for what is not there or is no text. */
function readerFor(
  context: Context,
  { place, knowledge }: Server,
  drafts: ReadonlyMap<string, string>,
): (path: string) => Promise<string | null> {
  return async (path) => {
    const sha = drafts.get(path)
    const stat = sha === undefined ? await place.stat(path) : null
    if (sha === undefined && stat === null) return null
    return knowledge.text(path, sha ?? `${stat!.size} ${stat!.changed}`, async () => {
      const bytes = sha === undefined ? await place.read(path, SIZES.settings) : await context.blobs.requireBytes(sha)
      try {
        return bytes ? decode(path, bytes) : null
      } catch {
        // a file in another encoding is told of where its plugin's files are
        return null
      }
    })
  }
}

const lyingOf = (plugin: Installed): LyingPlugin => ({
  name: plugin.name,
  folder: plugin.folder,
  home: plugin.home,
  version: plugin.version,
  path: plugin.packagePath,
  isOff: plugin.isOff,
  info: plugin.info,
})

/** Files where plugins, their settings and their pieces are. */
async function filesAround({ family, place }: Server, plugins: readonly Installed[]): Promise<PlaceFile[]> {
  const pieces = [...family.pieces, ...plugins.flatMap(({ info }) => info.pieces)]
  const targets = pieces.map(({ to }) => to.split('/')[0]!).filter((folder) => folder !== '' && !folder.includes('{'))
  const roots = new Map([[family.plugins.folder, DEEPEST], ...targets.map((folder) => [folder, 2] as const)])
  for (const { folder, depth } of patternsFor(family, null).roots) roots.set(folder, Math.max(depth, roots.get(folder) ?? 0))
  const listed = await Promise.all([...roots].map(([folder, depth]) => place.list(folder, depth, () => undefined).catch(() => [])))
  return [...new Map(listed.flat().map((file) => [file.path, file])).values()]
}

/** Sizes of pictures, of those that are staged too. */
async function picturesOf(
  { blobs }: Context,
  { place, knowledge }: Server,
  files: readonly PlaceFile[],
  drafts: ReadonlyMap<string, string>,
): Promise<Map<string, PictureFacts>> {
  const turns = pLimit(READ_AT_ONCE)
  const keys = new Map(
    files
      .filter(({ path, size }) => PICTURE.test(path) && size <= SIZES.picture)
      .map((file) => [file.path, `${file.size} ${file.changed}`]),
  )
  for (const [path, sha] of drafts) if (PICTURE.test(path)) keys.set(path, sha)
  const found = await Promise.all(
    [...keys].map(([path, key]) =>
      turns(async () => {
        const bytes = (): Promise<Uint8Array | null> => (drafts.has(path) ? blobs.requireBytes(key) : place.read(path, SIZES.picture))
        return [path, await knowledge.picture(path, key, async () => sizeIn(await bytes()))] as const
      }),
    ),
  )
  return new Map(found.flatMap(([path, size]) => (size ? [[path, size]] : [])))
}

function sizeIn(bytes: Uint8Array | null): PictureFacts | null {
  const picture = bytes && pictureIn(bytes)
  return picture && { width: picture.width, height: picture.height }
}

async function filledIn(
  { family, inventory, knowledge }: Server,
  plugins: readonly Installed[],
): Promise<Map<string, ReadonlySet<string>>> {
  const markup = markupOf(family)
  const found = await Promise.all(
    plugins.map(async (plugin) => {
      const paths = plugin.files.map(({ path }) => path)
      const key = JSON.stringify([plugin.name, plugin.version, paths])
      const names = await knowledge.filledIn(key, async () => {
        const texts = await Promise.all(paths.map((path) => inventory.factoryText(plugin, path)))
        return placeholdersIn(
          markup,
          texts.filter((text) => text !== null),
        )
      })
      return [plugin.name, names] as const
    }),
  )
  return new Map(found)
}

/** Plugins that the console said were not loaded at the last start. */
function failures(server: Server, plugins: readonly Installed[]): ServerFact[] {
  const runs = server.runs.of(server, plugins)
  return plugins.flatMap((plugin): ServerFact[] => {
    const run = runs.get(plugin.name)
    if (run?.state !== 'failed') return []
    const values = { plugin: plugin.name, reason: run.reason }
    return [{ what: 'failed-to-load', file: run.path ?? plugin.packagePath, from: 0, to: 0, values, line: run.line ?? 1 }]
  })
}

const plain = (_key: string, value: unknown): unknown =>
  value instanceof Set ? [...(value as Set<unknown>)] : value instanceof Map ? [...(value as Map<unknown, unknown>)] : value

const versionOf = (knowledge: Knowledge): string => hashOf(Buffer.from(JSON.stringify({ ...knowledge, facts: [] }, plain)))
