import {
  fillIn,
  isSettingsFile,
  isRecord,
  parse,
  formatOf,
  getNode,
  parsePointer,
  readingFor,
  toJson,
  type PackageInfo,
} from '@pasticcio/core'
import type { Context, Server } from './context'
import { readArchive } from './archives'

/** A plugin as it is on the server. */
export interface Installed {
  readonly name: string
  readonly version: string
  readonly packagePath: string
  readonly info: PackageInfo
  /** Settings and text files, relative to the server's folder. */
  readonly files: readonly string[]
  /** Files the server writes by itself. */
  readonly records: readonly string[]
}

/**
 * What is installed, read from the server's own files. Packages not known yet are remembered, so that their factory
 * copies are there when they are needed.
 */
export async function listInstalled(context: Context, server: Server): Promise<Installed[]> {
  const { family, files } = server
  const found: Installed[] = []
  for (const path of await files.list(family.plugins.folder, 0)) {
    if (!path.endsWith('.' + family.plugins.ending)) continue
    const bytes = await files.read(path)
    if (!bytes) continue
    let info: PackageInfo
    try {
      info = await readArchive(bytes, family, path)
    } catch (error) {
      context.log.warn({ path, error }, 'not a package')
      continue
    }
    await remember(context, server, bytes, info)
    const own = await files.list(fillIn(family.plugins['data-folder'], { plugin: info.name }))
    found.push({
      name: info.name,
      version: info.version,
      packagePath: path,
      info,
      files: own.filter((file) => isSettingsFile(file, family)),
      records: own.filter((file) => isRecord(file, family)),
    })
  }
  return found.sort((a, b) => a.name.localeCompare(b.name))
}

async function remember(context: Context, server: Server, bytes: Uint8Array, info: PackageInfo): Promise<void> {
  const { id } = server.family
  if (!(await context.packages.find(id, info.name, info.version))) {
    const sha = await context.blobs.put(bytes)
    await context.packages.add({ familyId: id, sha, info, origin: `found on ${server.row.slug}`, addedAt: context.now().toISOString() })
  }
  for (const [name, text] of Object.entries(info.defaults)) {
    const path = `${fillIn(server.family.plugins['data-folder'], { plugin: info.name })}/${name}`
    if (await context.factory.get(server.row.id, info.name, info.version, path)) continue
    await context.factory.keep(server.row.id, info.name, info.version, path, await context.blobs.put(Buffer.from(text, 'utf8')))
  }
}

/** The version of the game this server runs, as its own settings say. */
export async function gameVersion(server: Server): Promise<string> {
  const { file, at } = server.family['game-version']
  const bytes = await server.files.read(file)
  const format = formatOf(file)
  const keys = parsePointer(at)
  if (!bytes || !format || !keys) return 'unknown'
  const document = parse(bytes.toString('utf8'), format, readingFor(file, server.family))
  const node = getNode(document, keys)
  return node ? String(toJson(document, node)) : 'unknown'
}

/** Keeps files the plugins of this start wrote anew as their factory copies, where the package brought none. */
export async function keepGenerated(
  context: Context,
  server: Server,
  generated: readonly { plugin: string; file: string }[],
): Promise<void> {
  const installed = await listInstalled(context, server)
  for (const { plugin, file } of generated) {
    const owner = installed.find((item) => item.name === plugin)
    if (!owner) continue
    const path = `${fillIn(server.family.plugins['data-folder'], { plugin })}/${file}`
    const bytes = isSettingsFile(path, server.family) ? await server.files.read(path) : null
    if (bytes) await context.factory.keep(server.row.id, plugin, owner.version, path, await context.blobs.put(bytes))
  }
}
