import { isResolved } from '../families/actions'
import { arrangementOf } from '../families/arrangements'
import type { Family } from '../families/family'
import { nameOf, patternsFor, placedByName, type Placed } from '../families/folders'
import type { PackageInfo } from '../families/package-info'
import { sharedFilesOf } from '../families/pieces'
import { registrationsOf } from '../families/plan-parts'
import { inNamedProfile, mayNameProfile } from '../families/profile'
import { idsByList, listedFolders, listedInText, type Listed } from '../families/registries'
import { serverFacts, textsAsked, type LyingPlugin, type Stranger } from '../families/server-facts'
import type { Rule } from '../rules/rule'
import { amountOf } from '../tree/compare'
import { formatOf, parse, readingFor } from '../formats/registry'
import { getNode, parsePointer } from '../tree/pointer'
import { placeholdersIn } from './texts'
import { markupOf, workspaceFile, workspaceOf, type Workspace, type WorkspaceInput } from './workspace'
import type { Knowledge, KnownPlugin, OwnPort, PictureFacts, ServerFact } from './knowledge'

/** A server's folder, for whoever reads all of it. Paths are relative to it. */
export interface ServerSource {
  /** All files below it. */
  readonly paths: ReadonlySet<string>
  /** The text of a file; null where there is none, a reason where it cannot be read as one. */
  read(path: string): Promise<string | null | { readonly problem: string }>
  /** What the package at a path says; null for what is passed over, a sentence where it cannot be opened as one. */
  describe(path: string): Promise<PackageInfo | null | { readonly problem: string }>
  /** Of a picture. */
  pictureAt?(path: string): Promise<PictureFacts | null>
  satisfies(version: string, range: string): boolean
  /** What people say the settings of a plugin are, by the names of `nameOf`. */
  said?(plugin: LyingPlugin): Readonly<Record<string, readonly Rule[]>>
}

interface Found extends LyingPlugin {
  readonly defaults: Readonly<Record<string, string>>
  readonly rules: PackageInfo['rules']
  readonly files: readonly string[]
}

/** A whole server as it was read from its folder: its settings files, and what is known beside them. */
export interface ServerFiles {
  readonly family: Family
  readonly plugins: readonly LyingPlugin[]
  readonly inputs: readonly WorkspaceInput[]
  readonly knowledge: Knowledge
}

/** All that `readFiles` finds as a workspace. */
export async function readServer(described: Family, source: ServerSource): Promise<Workspace> {
  const { family, plugins, inputs, knowledge } = await readFiles(described, source)
  const files = inputs.map((input) => workspaceFile({ ...input, known: knowledge.lists }))
  return workspaceOf(files, family, plugins, knowledge)
}

/** Reads a whole server from its folder, as checks ask for it: for the command line, where nothing is kept between two readings. */
export async function readFiles(described: Family, source: ServerSource): Promise<ServerFiles> {
  const texts = new Map<string, string>()
  const problems: ServerFact[] = []
  const read = async (path: string): Promise<string | null> => {
    if (texts.has(path)) return texts.get(path)!
    const text = source.paths.has(path) ? await source.read(path) : null
    if (typeof text === 'string') texts.set(path, text)
    else if (text) problems.push({ what: 'not-utf8', file: path, from: 0, to: 0, values: { says: text.problem } })
    return typeof text === 'string' ? text : null
  }
  const family = await familyHere(described, source, read)
  for (const { file } of family.register) await read(file)
  const strangers: Stranger[] = []
  const plugins = await pluginsOf(family, source, texts, strangers)
  for (const path of textsAsked(family, plugins, source.paths)) await read(path)
  const lists = await listsOf(family, source, read)
  const known = idsByList(lists)
  const owned = new Set(plugins.flatMap(({ files }) => files))
  const markup = markupOf(family)
  const filledIn = new Map(plugins.map(({ name, defaults }) => [name, placeholdersIn(markup, Object.values(defaults))]))
  const inputs: WorkspaceInput[] = []
  for (const plugin of plugins)
    for (const path of plugin.files) {
      const text = await read(path)
      if (text === null) continue
      const name = nameOf(family, plugin, path)
      const rules = [...(source.said?.(plugin)[name] ?? []), ...(plugin.rules?.[name] ?? [])]
      inputs.push({
        path,
        plugin: plugin.name,
        text,
        factory: plugin.defaults[name] ?? null,
        reading: readingFor(path, family),
        rules,
      })
    }
  const facts = serverFacts({
    family,
    plugins,
    paths: source.paths,
    owned: withRecords(family, plugins, source.paths, owned),
    texts,
    strangers,
    satisfies: (a, b) => source.satisfies(a, b),
  })
  const knowledge: Knowledge = {
    lists: known,
    plugins: plugins.map(asKnown),
    commands: family.console.commands.length > 0 ? new Set(family.console.commands) : null,
    texts: markup,
    ports: await ownPorts(family, read),
    groups: groupsPlace(family),
    paths: source.paths,
    pictures: await picturesOf(source),
    filledIn,
    facts: [...problems, ...facts],
  }
  return { family, plugins, inputs, knowledge }
}

/** A description as it holds for a folder, whose scripts may name the profile; the first that is there counts. */
async function familyHere(family: Family, { paths }: ServerSource, read: (path: string) => Promise<string | null>): Promise<Family> {
  const scripts = [...paths].filter((path) => !path.includes('/') && mayNameProfile(family, path))
  const texts = await Promise.all(scripts.map(async (path) => (await read(path)) ?? ''))
  return inNamedProfile(family, texts, (folder) => [...paths].some((path) => path.startsWith(`${folder}/`)))
}

export const asKnown = ({ name, version, path, isOff, info }: LyingPlugin): KnownPlugin => ({
  name,
  version,
  path,
  isOff,
  requires: info.requires,
  conflicts: info.conflicts,
  nodes: info.nodes,
  commands: info.commands,
  placeholders: info.placeholders,
})

/** Where the family says that groups are, if it says so of a file. */
export function groupsPlace({ registries }: Family): Knowledge['groups'] {
  const groups = registries.groups
  return groups?.file === undefined ? null : { file: groups.file, at: groups.at }
}

async function pluginsOf(
  family: Family,
  source: ServerSource,
  registers: ReadonlyMap<string, string>,
  strangers: Stranger[],
): Promise<Found[]> {
  const paths = [...source.paths]
  const found: Found[] = []
  for (const { path, unpacked, isOff } of arrangementOf(family).find(family, paths)) {
    const info = await source.describe(path)
    if (!info) continue
    if ('problem' in info) {
      strangers.push({ path, says: info.problem })
      continue
    }
    const placed: Placed = unpacked ? { name: info.name, ...unpacked } : placedByName(family, info.name)
    const isKnown = registrationsOf(family, placed, true).every((action) =>
      isResolved(action, registers.get(action.path) ?? null, readingFor(action.path, family)),
    )
    const plugin: LyingPlugin = { ...placed, version: info.version, path, isOff: isOff || !isKnown, info }
    const { isSettings } = patternsFor(family, placed)
    const shared = sharedFilesOf(family, placed, info.pieces).filter((one) => source.paths.has(one))
    const files = [...new Set([...paths.filter(isSettings), ...shared])]
    found.push({ ...plugin, defaults: info.defaults, rules: info.rules, files })
  }
  return found.sort((a, b) => (a.name < b.name ? -1 : 1))
}

function withRecords(
  family: Family,
  plugins: readonly Placed[],
  paths: ReadonlySet<string>,
  owned: ReadonlySet<string>,
): ReadonlySet<string> {
  const records = plugins.flatMap((plugin) => [...paths].filter(patternsFor(family, plugin).isRecord))
  return new Set([...owned, ...records])
}

async function listsOf(
  family: Family,
  { paths }: ServerSource,
  read: (path: string) => Promise<string | null>,
): Promise<Record<string, readonly Listed[]>> {
  const lists: Record<string, readonly Listed[]> = {}
  for (const [name, registry] of Object.entries(family.registries)) {
    if (!registry) continue
    if (registry.folders !== undefined) lists[name] = listedFolders(registry.folders, paths)
    else if (registry.file !== undefined) {
      const text = await read(registry.file)
      if (text !== null) lists[name] = listedInText(family, registry, registry.file, text)
    }
  }
  return lists
}

/** The server's own ports, as its family says where they are. */
export async function ownPorts(family: Family, read: (path: string) => Promise<string | null>): Promise<OwnPort[]> {
  const ports: OwnPort[] = []
  for (const { name, file, at } of family.ports) {
    const text = await read(file)
    const format = formatOf(file)
    if (text === null || !format) continue
    const document = parse(text, format, readingFor(file, family))
    const node = getNode(document, parsePointer(at) ?? [])
    const port = node ? amountOf(document, node) : null
    if (port !== null) ports.push({ name, port, file })
  }
  return ports
}

async function picturesOf(source: ServerSource): Promise<Map<string, PictureFacts>> {
  const pictures = new Map<string, PictureFacts>()
  for (const path of source.paths)
    if (/\.(?:png|jpe?g|gif|webp)$/i.test(path)) {
      const found = await source.pictureAt?.(path)
      if (found) pictures.set(path, found)
    }
  return pictures
}
