import { posix } from 'node:path'
import {
  arrangementOf,
  gameVersionIn,
  pathOf,
  patternsFor,
  placedByName,
  readingFor,
  registrationsOf,
  isResolved,
  sharedFilesOf,
  type Family,
  type FoundPlugin,
  type PackageAbout,
  type Placed,
  type Stranger,
} from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import type { ServerRow } from '../db/repositories/servers'
import { PlaceError, type Place, type PlaceFile } from '../places'
import type { Context } from './context'
import { notFound } from './errors'
import { FactoryCopies, type FactoryCopy, type OfVersion } from './factory-copies'
import { fileSaid, pluginSaid } from './said'
import { SeenPackages, type Seen } from './seen-packages'
import { SIZES } from './sizes'
import { decode } from './text'

/** A plugin as it is on the server. */
export interface Installed extends Placed {
  readonly version: string
  readonly packagePath: string
  readonly info: PackageAbout
  /** Its package in the pantry; null where that has none. */
  readonly packageId: number | null
  /** Settings and text files. */
  readonly files: readonly PlaceFile[]
  /** Files the server writes by itself. */
  readonly records: readonly PlaceFile[]
  /** Switched off, or not made known to the server: it is there and does not run. */
  readonly isOff: boolean
  /** What of it could not be looked into, and why; the rest of it is here. */
  readonly problems: readonly string[]
}

/** The plugins whose settings a file would hold that is not there yet. */
export const wouldOwn = <P extends Placed>(family: Family, plugins: readonly P[], path: string): P[] =>
  posix.normalize(path) === path ? plugins.filter((plugin) => patternsFor(family, plugin).isSettings(path)) : []

interface SharedLook {
  readonly plugins: Promise<readonly Installed[]>
  count: number
  until: number
}

/** From so many who ask at once, a look is shared so many milliseconds longer: one after the other would find the same. */
const MANY = 4
const MANY_SHARE_MS = 20

/**
 * What is on a server, read from its own files. A package is opened once, and again only when its size or time says it
 * is another; nothing here writes to the database but `remember`, which is called by what writes anyway.
 */
export class Inventory {
  private readonly seen: SeenPackages
  private game: { readonly size: number; readonly changed: number; readonly version: string } | null = null
  private readonly copies: FactoryCopies
  private shared: SharedLook | null = null

  constructor(
    private readonly context: Context,
    private readonly row: ServerRow,
    private readonly family: Family,
    private readonly place: Place,
  ) {
    this.seen = new SeenPackages(context, row, family, place)
    this.copies = new FactoryCopies(context, row, family, this.seen)
  }

  /** Files that look like packages and are none, as far as was looked. */
  get strangerPaths(): string[] {
    return this.seen.strangerPaths
  }

  /** The same with why, as far as they still lie there. */
  get toldStrangers(): Stranger[] {
    return this.seen.toldStrangers
  }

  /** How often a package was opened, for those who measure. */
  get opened(): number {
    return this.seen.opened
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

  /** The plugin a file belongs to; null for files of none, and the first of those that share it. */
  async ownerOf(path: string): Promise<Installed | null> {
    return (await this.ownersOf(path))[0] ?? null
  }

  /** All plugins that have settings in a file; of one that is not there, the one that would. */
  async ownersOf(path: string): Promise<Installed[]> {
    const plugins = await this.plugins()
    const owners = plugins.filter((item) => [...item.files, ...item.records].some((file) => file.path === path))
    return owners.length > 0 ? owners : wouldOwn(this.family, plugins, path).slice(0, 1)
  }

  /** The plugin that has settings in a file, or else one whose settings lie in its folder or nearest above it, as of a picture. */
  async ownerNear(path: string): Promise<Installed | null> {
    let near: { readonly plugin: Installed; readonly depth: number } | null = null
    for (const plugin of await this.plugins())
      for (const file of [...plugin.files, ...plugin.records]) {
        if (file.path === path) return plugin
        const depth = file.path.lastIndexOf('/') + 1
        if (depth > (near?.depth ?? 0) && path.startsWith(file.path.slice(0, depth))) near = { plugin, depth }
      }
    return near?.plugin ?? null
  }

  /** What was seen counts no more: the next one to ask looks again. */
  forget(): void {
    this.shared = null
    this.copies.forget()
  }

  /** The plugin of this name. @throws ServiceError `not-found` */
  async require(name: string): Promise<Installed> {
    const found = (await this.plugins()).find((item) => item.name === name)
    if (!found) throw notFound(`plugin ${name} on this server`)
    return found
  }

  /** The factory copy of a file of an installed plugin; null where none is known. */
  factoryOf(plugin: OfVersion, path: string): Promise<FactoryCopy | null> {
    return this.copies.of(plugin, path)
  }

  factoryText(plugin: OfVersion, path: string): Promise<string | null> {
    return this.copies.text(plugin, path)
  }

  /** Names of the settings files an installed plugin brought. */
  shippedNames(plugin: Pick<Installed, 'packagePath'>): Promise<string[]> {
    return this.copies.shippedNames(plugin)
  }

  private async look(): Promise<readonly Installed[]> {
    const { family, place } = this
    const listing = new Map<string, PlaceFile>()
    for (const { folder, depth } of arrangementOf(family).roots(family))
      for (const file of await place.list(folder, depth)) listing.set(file.path, file)
    const registers = await this.registers()
    const lists = new Map<string, Promise<Listed>>()
    const lying = arrangementOf(family)
      .find(family, [...listing.keys()])
      .map((found) => ({ found, file: listing.get(found.path)! }))
    const seen = await this.seen.all(lying)
    const plugins = lying.flatMap(({ found }, index) => {
      const there = seen[index]
      return there ? [this.installed(found, there, registers, lists)] : []
    })
    return (await Promise.all(plugins)).sort((a, b) => a.name.localeCompare(b.name))
  }

  /** The texts of the files that plugins are made known in. */
  private async registers(): Promise<ReadonlyMap<string, string>> {
    const texts = new Map<string, string>()
    for (const path of new Set(this.family.register.map(({ file }) => file))) {
      const bytes = await this.place.read(path, SIZES.settings)
      if (bytes) texts.set(path, decode(path, bytes))
    }
    return texts
  }

  /** A plugin with its files. What of them cannot be looked into is said of that plugin, and keeps nobody else back. */
  private async installed(
    found: FoundPlugin,
    { path, info, packageId }: Seen,
    registers: ReadonlyMap<string, string>,
    lists: Map<string, Promise<Listed>>,
  ): Promise<Installed> {
    const placed = placedAt(this.family, found, info.name)
    const patterns = patternsFor(this.family, placed)
    const listed = await Promise.all(patterns.roots.map(({ folder, depth }) => this.listOnce(lists, folder, depth)))
    const own = [...new Map(listed.flatMap(({ files }) => files).map((file) => [file.path, file])).values()]
    const settings = own.filter((file) => patterns.isSettings(file.path))
    const elsewhere = sharedFilesOf(this.family, placed, info.pieces).filter((path) => !settings.some((file) => file.path === path))
    const shared = await Promise.all(elsewhere.map((path) => this.place.stat(path)))
    return {
      ...placed,
      version: info.version,
      packagePath: path,
      info,
      packageId,
      files: [...settings, ...shared.filter((file) => file !== null)],
      records: own.filter((file) => patterns.isRecord(file.path)),
      isOff: found.isOff || !this.isKnown(placed, registers),
      problems: listed.flatMap(({ problems }) => problems),
    }
  }

  /** Folders that several plugins share are listed once a look. */
  private listOnce(lists: Map<string, Promise<Listed>>, folder: string, depth: number): Promise<Listed> {
    const key = `${depth} ${folder}`
    const there = lists.get(key)
    if (there) return there
    const made = this.list(folder, depth)
    lists.set(key, made)
    return made
  }

  private async list(folder: string, depth: number): Promise<Listed> {
    const problems: string[] = []
    const files = await this.place
      .list(folder, depth, ({ message }) => problems.push(message))
      .catch((error: unknown) => {
        if (!(error instanceof PlaceError) || error.code === 'unreachable') throw error
        problems.push(error.message)
        return []
      })
    // found side by side, in whatever order the disk answers
    return { files, problems: problems.sort() }
  }

  /** Whether a plugin is made known to the server; where none need be, all are. */
  private isKnown(plugin: Placed, registers: ReadonlyMap<string, string>): boolean {
    return registrationsOf(this.family, plugin, true).every((action) =>
      isResolved(action, registers.get(action.path) ?? null, readingFor(action.path, this.family)),
    )
  }

  /** The version of the game this server runs, as its own settings say. */
  async gameVersion(): Promise<string> {
    const { file } = this.family['game-version']
    const info = await this.place.stat(file)
    if (!info) return 'unknown'
    if (this.game?.size === info.size && this.game.changed === info.changed) return this.game.version
    const bytes = await this.place.read(file, SIZES.settings)
    const version = (bytes && gameVersionIn(this.family, bytes.toString('utf8'))) ?? 'unknown'
    this.game = { size: info.size, changed: info.changed, version }
    return version
  }

  /** Keeps packages that came to the server by other ways, and their factory copies, in the database. */
  async remember(): Promise<void> {
    const plugins = await this.plugins()
    if (!this.seen.unknown) return
    this.seen.unknown = false
    const seen = []
    for (const plugin of plugins) {
      const found = this.seen.get(plugin.packagePath)!
      const packageId = found.packageId ?? (await this.keepPackage(found))
      if (packageId === null) {
        await this.keepDefaults(plugin, found.defaults ?? {})
        continue
      }
      this.seen.set(plugin.packagePath, { ...found, packageId, defaults: null })
      seen.push({ path: found.path, size: found.size, changed: found.changed, packageId })
      for (const [name, sha] of await this.copies.shippedBy(packageId)) await this.keepCopy(plugin, name, sha)
    }
    await this.context.packages.saveSeen(this.row.id, seen)
    this.copies.forget()
  }

  private async keepDefaults(plugin: Installed, defaults: Readonly<Record<string, string>>): Promise<void> {
    for (const [name, text] of Object.entries(defaults))
      await this.keepCopy(plugin, name, await this.context.blobs.put(Buffer.from(text, 'utf8')))
  }

  private keepCopy(plugin: Installed, file: string, sha: string): Promise<void> {
    return this.context.factory.keep(this.row.id, plugin.name, plugin.version, pathOf(this.family, plugin, file), sha)
  }

  /** The number of a package in the pantry; null for one that cannot be had whole, or of which the pantry has another file. */
  private async keepPackage({ path, sha, info, defaults }: Seen): Promise<number | null> {
    const { packages } = this.context
    const known = await packages.find(this.family.id, info.name, info.version)
    if (known) return known.sha === sha ? known.id : null
    if (arrangementOf(this.family).arrives === 'folder') return null
    const bytes = await this.place.read(path, SIZES.package)
    if (!bytes || hashOf(bytes) !== sha) return null
    const origin = `found on ${this.row.slug}`
    const row = { familyId: this.family.id, root: '', info, origin, addedAt: this.context.now().toISOString() }
    return packages.add(row, bytes, defaults ?? {})
  }

  /** Keeps files that plugins wrote anew as their factory copies, where the package brought none. */
  async keepGenerated(generated: readonly { readonly plugin: string; readonly file: string }[]): Promise<void> {
    this.forget()
    await this.remember()
    const installed = await this.plugins()
    for (const { plugin, file } of generated) {
      const owner = pluginSaid(installed, plugin)
      const path = owner && fileSaid(this.family, owner, file)
      const bytes = path ? await this.place.read(path, SIZES.settings) : null
      if (owner && path && bytes)
        await this.context.factory.keep(this.row.id, owner.name, owner.version, path, await this.context.blobs.put(bytes))
    }
    this.copies.forget()
  }
}

/** Names of the plugins that files belong to, each once. */
export async function ownersOf({ inventory }: { readonly inventory: Inventory }, paths: readonly string[]): Promise<string[]> {
  const owners = await Promise.all(paths.map((path) => inventory.ownersOf(path)))
  return [...new Set(owners.flat().map(({ name }) => name))]
}

/** The settings and records that are a plugin's alone: others go on with what they share. */
export function ownFilesOf(family: Family, { files, records, ...plugin }: Installed): PlaceFile[] {
  const { isSettings } = patternsFor(family, plugin)
  return [...files.filter(({ path }) => isSettings(path)), ...records]
}

interface Listed {
  readonly files: readonly PlaceFile[]
  readonly problems: readonly string[]
}

/** Where a plugin that was found lies. */
function placedAt(family: Family, { unpacked }: FoundPlugin, name: string): Placed {
  return unpacked ? { name, ...unpacked } : placedByName(family, name)
}
