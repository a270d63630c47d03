import { arrangementOf, readAbout, PackageError, type Family, type FoundPlugin, type PackageAbout } from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import type { SeenPackage } from '../db/repositories/packages'
import type { ServerRow } from '../db/repositories/servers'
import { PlaceError, type Place, type PlaceFile } from '../places'
import type { Context } from './context'
import { ServiceError } from './errors'
import { SIZES } from './sizes'
import { decode } from './text'

/** A package on the server; `defaults` where the pantry does not have them. */
export interface Seen extends SeenPackage {
  readonly defaults: Readonly<Record<string, string>> | null
}

/**
 * The packages of a server as they were last looked into. Each is opened once, and again only when its size or time says it
 * is another.
 */
export class SeenPackages {
  private packages: Map<string, Seen> | null = null
  /** Files that were looked into and are no packages, with what tells whether they still are the same. */
  private readonly strangers = new Map<string, string>()
  /** Whether one was opened that is not kept in the database yet. */
  unknown = false
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

  get(path: string): Seen | undefined {
    return this.packages?.get(path)
  }

  set(path: string, seen: Seen): void {
    this.packages?.set(path, seen)
  }

  /** What lies there; null for what is no package after all. */
  async at(found: FoundPlugin, file: PlaceFile): Promise<Seen | null> {
    this.packages ??= new Map((await this.context.packages.seen(this.row.id)).map((seen) => [seen.path, { ...seen, defaults: null }]))
    const known = this.packages.get(file.path)
    if (known && known.size === file.size && known.changed === file.changed) return known
    const mark = `${file.size} ${file.changed}`
    if (this.strangers.get(file.path) === mark) return null
    this.opened++
    try {
      const seen = await this.look(found, file)
      if (!seen) return null
      this.strangers.delete(file.path)
      this.packages.set(file.path, seen)
      this.unknown = true
      return seen
    } catch (error) {
      if (!(error instanceof ServiceError || error instanceof PlaceError || error instanceof PackageError)) throw error
      this.context.log.warn({ path: file.path, error }, 'not a package')
      this.strangers.set(file.path, mark)
      return null
    }
  }

  private async look(found: FoundPlugin, file: PlaceFile): Promise<Seen | null> {
    const isFolder = arrangementOf(this.family).arrives === 'folder'
    const bytes = await this.place.read(file.path, isFolder ? SIZES.archive.descriptor : SIZES.package)
    if (!bytes) return null
    return isFolder ? this.describeFolder(found, file, bytes) : this.describe(file, bytes)
  }

  /** One the pantry has need not be opened again. */
  private async describe(file: PlaceFile, bytes: Uint8Array): Promise<Seen> {
    const sha = hashOf(bytes)
    const known = (await this.context.packages.list(this.family.id)).find((row) => row.sha === sha && row.root === '')
    if (known) return { ...file, sha, info: known.info, packageId: known.id, defaults: null }
    const [only, ...others] = await this.context.unpacker.packages(bytes, this.family, file.path)
    if (!only || others.length > 0 || only.bytes)
      throw new ServiceError('bad-package', 422, `${file.path} holds packages and is none itself. Take them out of it.`)
    return { ...file, sha, info: aboutOf(only.info), packageId: null, defaults: only.info.defaults }
  }

  /** What was unpacked says what it is in its folder; what it shipped, only the pantry knows. */
  private async describeFolder({ unpacked }: FoundPlugin, file: PlaceFile, bytes: Uint8Array): Promise<Seen> {
    const named = unpacked?.folder ?? file.path
    const about = readAbout(decode(file.path, bytes), this.family, { file: file.path, named, notes: '' })
    const known = await this.context.packages.find(this.family.id, about.name, about.version)
    return { ...file, sha: hashOf(bytes), info: known?.info ?? about, packageId: known?.id ?? null, defaults: known ? null : {} }
  }
}

/** What a package says of itself, without the files it brings. */
export function aboutOf<T extends PackageAbout>(info: T): PackageAbout {
  const about: PackageAbout & { defaults?: unknown; readme?: unknown; changelog?: unknown } = { ...info }
  for (const brought of ['defaults', 'readme', 'changelog'] as const) delete about[brought]
  return about
}
