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
  type PackageAbout,
  type PackageInfo,
} from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import { factoryKey } from '../db/repositories/factory'
import type { SeenPackage } from '../db/repositories/packages'
import type { ServerRow } from '../db/repositories/servers'
import { PlaceError, type Place, type PlaceFile } from '../places'
import type { Context } from './context'
import { ServiceError } from './errors'
import { SIZES } from './sizes'

/** A plugin as it is on the server. */
export interface Installed {
  readonly name: string
  readonly version: string
  readonly packagePath: string
  readonly info: PackageAbout
  /** Settings and text files. */
  readonly files: readonly PlaceFile[]
  /** Files the server writes by itself. */
  readonly records: readonly PlaceFile[]
  /** What of it could not be looked into, and why; the rest of it is here. */
  readonly problems: readonly string[]
}

/** A package on the server; `defaults` where the pantry does not have them. */
interface Found extends SeenPackage {
  readonly defaults: Readonly<Record<string, string>> | null
}

interface SharedLook {
  readonly plugins: Promise<readonly Installed[]>
  count: number
  until: number
}

/** From so many who ask at once, a look is shared so many milliseconds longer: one after the other would find the same. */
const MANY = 4
const MANY_SHARE_MS = 20

/** A factory copy: its hash in the database, or the text itself where it is not kept there yet. */
export type FactoryCopy = { readonly sha: string } | { readonly text: string }

/**
 * What is on a server, read from its own files. A package is opened once, and again only when its size or time says it
 * is another; nothing here writes to the database but `remember`, which is called by what writes anyway.
 */
export class Inventory {
  private packages: Map<string, Found> | null = null
  /** Files that were looked into and are no packages, with what tells whether they still are the same. */
  private readonly strangers = new Map<string, string>()
  private game: { readonly size: number; readonly changed: number; readonly version: string } | null = null
  private factory: Map<string, string> | null = null
  private readonly shipped = new Map<number, ReadonlyMap<string, string>>()
  private shared: SharedLook | null = null
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

  /** Requests that come together share one look; where there are many, it counts a moment longer. */
  plugins(): Promise<readonly Installed[]> {
    if (!this.shared || performance.now() > this.shared.until) this.shared = this.begin()
    this.shared.count++
    return this.shared.plugins
  }

  private begin(): SharedLook {
    const shared: SharedLook = { plugins: this.look(), count: 0, until: Infinity }
    const end = (): void => void (shared.until = shared.count >= MANY ? performance.now() + MANY_SHARE_MS : 0)
    shared.plugins.then(end, end)
    return shared
  }

  /** The plugin a file belongs to; null for files of none. */
  async ownerOf(path: string): Promise<Installed | null> {
    return (await this.plugins()).find((item) => [...item.files, ...item.records].some((file) => file.path === path)) ?? null
  }

  /** What was seen counts no more: the next one to ask looks again. */
  forget(): void {
    this.shared = null
    this.factory = null
  }

  /** The factory copy of a file of an installed plugin; null where none is known. */
  async factoryOf(plugin: Pick<Installed, 'name' | 'version' | 'packagePath'>, path: string): Promise<FactoryCopy | null> {
    this.factory ??= await this.context.factory.all(this.row.id)
    const sha = this.factory.get(factoryKey(plugin.name, plugin.version, path))
    if (sha) return { sha }
    const name = nameInFolder(this.family, plugin.name, path)
    const found = this.packages?.get(plugin.packagePath)
    if (name === null || !found) return null
    if (found.packageId !== null) {
      const shipped = (await this.defaultsOf(found.packageId)).get(name)
      return shipped === undefined ? null : { sha: shipped }
    }
    return found.defaults && Object.hasOwn(found.defaults, name) ? { text: found.defaults[name]! } : null
  }

  /** What a package of the pantry ships; it never changes. */
  private async defaultsOf(packageId: number): Promise<ReadonlyMap<string, string>> {
    const known = this.shipped.get(packageId) ?? (await this.context.packages.defaults(packageId))
    this.shipped.set(packageId, known)
    return known
  }

  /** Names of the settings files an installed plugin brought. */
  async shippedNames(plugin: Pick<Installed, 'packagePath'>): Promise<string[]> {
    const found = this.packages?.get(plugin.packagePath)
    if (!found) return []
    return found.packageId === null ? Object.keys(found.defaults ?? {}) : [...(await this.defaultsOf(found.packageId)).keys()]
  }

  async factoryText(plugin: Pick<Installed, 'name' | 'version' | 'packagePath'>, path: string): Promise<string | null> {
    const copy = await this.factoryOf(plugin, path)
    return copy && 'sha' in copy ? this.context.blobs.requireText(copy.sha) : (copy?.text ?? null)
  }

  private async look(): Promise<readonly Installed[]> {
    const { folder } = this.family.plugins
    const arrangement = arrangementOf(this.family)
    const listing = new Map((await this.place.list(folder, arrangement.depth)).map((file) => [file.path, file]))
    const plugins: Promise<Installed>[] = []
    for (const path of arrangement.find(this.family, [...listing.keys()])) {
      const seen = await this.packageAt(listing.get(path)!)
      if (!seen) continue
      plugins.push(this.installed(seen))
    }
    return (await Promise.all(plugins)).sort((a, b) => a.name.localeCompare(b.name))
  }

  /** A plugin with its files. What of them cannot be looked into is said of that plugin, and keeps nobody else back. */
  private async installed({ path, info }: Found): Promise<Installed> {
    const problems: string[] = []
    const own = await this.place
      .list(dataFolder(this.family, info.name), 4, ({ message }) => problems.push(message))
      .catch((error: unknown) => {
        if (!(error instanceof PlaceError) || error.code === 'unreachable') throw error
        problems.push(error.message)
        return []
      })
    return {
      name: info.name,
      version: info.version,
      packagePath: path,
      info,
      files: own.filter((file) => isSettingsFile(file.path, this.family)),
      records: own.filter((file) => isRecord(file.path, this.family)),
      problems,
    }
  }

  private async packageAt(file: PlaceFile): Promise<Found | null> {
    this.packages ??= new Map((await this.context.packages.seen(this.row.id)).map((seen) => [seen.path, { ...seen, defaults: null }]))
    const known = this.packages.get(file.path)
    if (known && known.size === file.size && known.changed === file.changed) return known
    const mark = `${file.size} ${file.changed}`
    if (this.strangers.get(file.path) === mark) return null
    this.opened++
    try {
      const bytes = await this.place.read(file.path, SIZES.package)
      if (!bytes) return null
      const found = await this.describe(file, bytes)
      this.packages.set(file.path, found)
      this.unknown = true
      return found
    } catch (error) {
      if (!(error instanceof ServiceError || error instanceof PlaceError)) throw error
      this.context.log.warn({ path: file.path, error }, 'not a package')
      this.strangers.set(file.path, mark)
      return null
    }
  }

  /** One the pantry has need not be unpacked again. */
  private async describe(file: PlaceFile, bytes: Uint8Array): Promise<Found> {
    const sha = hashOf(bytes)
    const known = (await this.context.packages.list(this.family.id)).find((row) => row.sha === sha)
    if (known) return { ...file, sha, info: known.info, packageId: known.id, defaults: null }
    const { defaults, ...info }: PackageInfo = await this.context.unpacker.describe(bytes, this.family, file.path)
    return { ...file, sha, info, packageId: null, defaults }
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
      const found = this.packages!.get(packagePath)!
      const packageId = found.packageId ?? (await this.keepPackage(found))
      if (packageId === null) {
        await this.keepDefaults(info, found.defaults ?? {})
        continue
      }
      this.packages!.set(packagePath, { ...found, packageId, defaults: null })
      seen.push({ path: found.path, size: found.size, changed: found.changed, packageId })
      for (const [name, sha] of await this.defaultsOf(packageId)) await this.keepCopy(info, name, sha)
    }
    await this.context.packages.saveSeen(this.row.id, seen)
    this.factory = null
  }

  private async keepDefaults(info: PackageAbout, defaults: Readonly<Record<string, string>>): Promise<void> {
    for (const [name, text] of Object.entries(defaults))
      await this.keepCopy(info, name, await this.context.blobs.put(Buffer.from(text, 'utf8')))
  }

  private keepCopy({ name, version }: PackageAbout, file: string, sha: string): Promise<void> {
    return this.context.factory.keep(this.row.id, name, version, `${dataFolder(this.family, name)}/${file}`, sha)
  }

  /** The number of a package in the pantry; null for one of which the pantry has another file, or that changed meanwhile. */
  private async keepPackage({ path, sha, info, defaults }: Found): Promise<number | null> {
    const { packages } = this.context
    const known = await packages.find(this.family.id, info.name, info.version)
    if (known) return known.sha === sha ? known.id : null
    const bytes = await this.place.read(path, SIZES.package)
    if (!bytes || hashOf(bytes) !== sha) return null
    const origin = `found on ${this.row.slug}`
    return packages.add({ familyId: this.family.id, info, origin, addedAt: this.context.now().toISOString() }, bytes, defaults ?? {})
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
