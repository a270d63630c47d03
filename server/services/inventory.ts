import {
  arrangementOf,
  dataFolder,
  formatOf,
  getNode,
  isRecord,
  isSettingsFile,
  nameInFolder,
  parse,
  parsePointer,
  readingFor,
  toJson,
  type Family,
  type PackageInfo,
} from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import { factoryKey } from '../db/repositories/factory'
import type { SeenPackage } from '../db/repositories/packages'
import type { ServerRow } from '../db/repositories/servers'
import type { Place, PlaceFile } from '../places'
import { readArchive } from './archives'
import type { Context } from './context'
import { SIZES } from './sizes'

/** A plugin as it is on the server. */
export interface Installed {
  readonly name: string
  readonly version: string
  readonly packagePath: string
  readonly info: PackageInfo
  /** Settings and text files. */
  readonly files: readonly PlaceFile[]
  /** Files the server writes by itself. */
  readonly records: readonly PlaceFile[]
}

/** A factory copy: its hash in the database, or the text itself where it is not kept there yet. */
export type FactoryCopy = { readonly sha: string } | { readonly text: string }

/**
 * What is on a server, read from its own files. A package is opened once, and again only when its size or time says it
 * is another; nothing here writes to the database but `remember`, which is called by what writes anyway.
 */
export class Inventory {
  private packages: Map<string, SeenPackage> | null = null
  /** Files that were looked into and are no packages, with what tells whether they still are the same. */
  private readonly strangers = new Map<string, string>()
  private game: { readonly size: number; readonly changed: number; readonly version: string } | null = null
  private factory: Map<string, string> | null = null
  private looking: Promise<readonly Installed[]> | null = null
  private unknown = false
  /** How often a package was opened, for those who measure. */
  opened = 0

  constructor(
    private readonly context: Context,
    private readonly row: ServerRow,
    private readonly family: Family,
    private readonly place: Place,
  ) {}

  /** Files that look like packages and are none, as far as was looked. */
  get strangerPaths(): string[] {
    return [...this.strangers.keys()]
  }

  /** Requests that come together share one look. */
  plugins(): Promise<readonly Installed[]> {
    if (!this.looking) {
      const looking = this.look().finally(() => {
        if (this.looking === looking) this.looking = null
      })
      this.looking = looking
    }
    return this.looking
  }

  /** The plugin a file belongs to; null for files of none. */
  async ownerOf(path: string): Promise<Installed | null> {
    return (await this.plugins()).find((item) => [...item.files, ...item.records].some((file) => file.path === path)) ?? null
  }

  /** What was seen counts no more: the next one to ask looks again. */
  forget(): void {
    this.looking = null
    this.factory = null
  }

  /** The factory copy of a file of an installed plugin; null where none is known. */
  async factoryOf(plugin: Pick<Installed, 'name' | 'version' | 'info'>, path: string): Promise<FactoryCopy | null> {
    this.factory ??= await this.context.factory.all(this.row.id)
    const sha = this.factory.get(factoryKey(plugin.name, plugin.version, path))
    if (sha) return { sha }
    const name = nameInFolder(this.family, plugin.name, path)
    const text = name !== null && Object.hasOwn(plugin.info.defaults, name) ? plugin.info.defaults[name] : undefined
    return text === undefined ? null : { text }
  }

  async factoryText(plugin: Pick<Installed, 'name' | 'version' | 'info'>, path: string): Promise<string | null> {
    const copy = await this.factoryOf(plugin, path)
    return copy && 'sha' in copy ? this.context.blobs.requireText(copy.sha) : (copy?.text ?? null)
  }

  private async look(): Promise<readonly Installed[]> {
    const { folder } = this.family.plugins
    const arrangement = arrangementOf(this.family)
    const listing = new Map((await this.place.list(folder, arrangement.depth)).map((file) => [file.path, file]))
    const plugins: Installed[] = []
    for (const path of arrangement.find(this.family, [...listing.keys()])) {
      const seen = await this.packageAt(listing.get(path)!)
      if (!seen) continue
      const { info } = seen
      const own = await this.place.list(dataFolder(this.family, info.name), 4)
      plugins.push({
        name: info.name,
        version: info.version,
        packagePath: path,
        info,
        files: own.filter((file) => isSettingsFile(file.path, this.family)),
        records: own.filter((file) => isRecord(file.path, this.family)),
      })
    }
    return plugins.sort((a, b) => a.name.localeCompare(b.name))
  }

  private async packageAt(file: PlaceFile): Promise<SeenPackage | null> {
    this.packages ??= new Map((await this.context.packages.seen(this.row.id)).map((seen) => [seen.path, seen]))
    const known = this.packages.get(file.path)
    if (known && known.size === file.size && known.changed === file.changed) return known
    const mark = `${file.size} ${file.changed}`
    if (this.strangers.get(file.path) === mark) return null
    this.opened++
    try {
      const bytes = await this.place.read(file.path, SIZES.package)
      if (!bytes) return null
      const seen: SeenPackage = { ...file, sha: hashOf(bytes), info: await readArchive(bytes, this.family, file.path) }
      this.packages.set(file.path, seen)
      this.unknown = true
      return seen
    } catch (error) {
      this.context.log.warn({ path: file.path, error }, 'not a package')
      this.strangers.set(file.path, mark)
      return null
    }
  }

  /** The version of the game this server runs, as its own settings say. */
  async gameVersion(): Promise<string> {
    const { file, at } = this.family['game-version']
    const info = await this.place.stat(file)
    if (!info) return 'unknown'
    if (this.game?.size === info.size && this.game.changed === info.changed) return this.game.version
    const bytes = await this.place.read(file, SIZES.settings)
    const format = formatOf(file)
    const keys = parsePointer(at)
    if (!bytes || !format || !keys) return 'unknown'
    const document = parse(bytes.toString('utf8'), format, readingFor(file, this.family))
    const node = getNode(document, keys)
    const version = node ? String(toJson(document, node)) : 'unknown'
    this.game = { size: info.size, changed: info.changed, version }
    return version
  }

  /** Keeps packages that came to the server by other ways, and their factory copies, in the database. */
  async remember(): Promise<void> {
    const plugins = await this.plugins()
    if (!this.unknown) return
    this.unknown = false
    const seen = []
    for (const { packagePath, info } of plugins) {
      const known = this.packages!.get(packagePath)!
      const packageId = await this.keepPackage(known)
      if (packageId !== null) seen.push({ path: known.path, size: known.size, changed: known.changed, packageId })
      for (const [name, text] of Object.entries(info.defaults)) {
        const path = `${dataFolder(this.family, info.name)}/${name}`
        const sha = await this.context.blobs.put(Buffer.from(text, 'utf8'))
        await this.context.factory.keep(this.row.id, info.name, info.version, path, sha)
      }
    }
    await this.context.packages.saveSeen(this.row.id, seen)
    this.factory = null
  }

  /** The number of a package in the pantry; null for one of which the pantry has another file, or that changed meanwhile. */
  private async keepPackage({ path, sha, info }: SeenPackage): Promise<number | null> {
    const { packages, blobs } = this.context
    const known = await packages.find(this.family.id, info.name, info.version)
    if (known) return known.sha === sha ? known.id : null
    const bytes = await this.place.read(path, SIZES.package)
    if (!bytes || hashOf(bytes) !== sha) return null
    await blobs.put(bytes)
    return packages.add({
      familyId: this.family.id,
      sha,
      info,
      origin: `found on ${this.row.slug}`,
      addedAt: this.context.now().toISOString(),
    })
  }

  /** Keeps files that plugins wrote anew as their factory copies, where the package brought none. */
  async keepGenerated(generated: readonly { readonly plugin: string; readonly file: string }[]): Promise<void> {
    this.forget()
    await this.remember()
    const installed = await this.plugins()
    for (const { plugin, file } of generated) {
      const owner = installed.find((item) => item.name === plugin)
      const path = `${dataFolder(this.family, plugin)}/${file}`
      const bytes = owner && isSettingsFile(path, this.family) ? await this.place.read(path, SIZES.settings) : null
      if (owner && bytes) await this.context.factory.keep(this.row.id, plugin, owner.version, path, await this.context.blobs.put(bytes))
    }
    this.factory = null
  }
}
