import { nameOf, type Family, type Placed } from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import { factoryKey } from '../db/repositories/factory'
import type { ServerRow } from '../db/repositories/servers'
import type { Context } from './context'
import type { SeenPackages } from './seen-packages'

/** What is needed to tell what a plugin shipped. */
export interface OfVersion extends Placed {
  readonly version: string
  readonly packagePath: string
}

/** A factory copy: its hash, and the text itself where the database does not keep it yet. */
export interface FactoryCopy {
  readonly sha: string
  readonly text: string | null
}

/** What the plugins of a server shipped: as the database keeps it, or as their packages have it. */
export class FactoryCopies {
  private kept: Promise<Map<string, string>> | null = null
  private readonly shipped = new Map<number, ReadonlyMap<string, string>>()
  private readonly unkept = new WeakMap<Readonly<Record<string, string>>, Map<string, FactoryCopy>>()

  constructor(
    private readonly context: Context,
    private readonly row: ServerRow,
    private readonly family: Family,
    private readonly seen: SeenPackages,
  ) {}

  /** What the database keeps is asked for again. */
  forget(): void {
    this.kept = null
  }

  /** The factory copy of a file of an installed plugin; null where none is known. */
  async of(plugin: OfVersion, path: string): Promise<FactoryCopy | null> {
    this.kept ??= this.context.factory.all(this.row.id).catch((error: unknown) => {
      this.kept = null
      throw error
    })
    const sha = (await this.kept).get(factoryKey(plugin.name, plugin.version, path))
    if (sha) return { sha, text: null }
    const found = this.seen.get(plugin.packagePath)
    if (!found) return null
    const name = nameOf(this.family, plugin, path)
    if (found.packageId !== null) {
      const shipped = (await this.shippedBy(found.packageId)).get(name)
      return shipped === undefined ? null : { sha: shipped, text: null }
    }
    return found.defaults && Object.hasOwn(found.defaults, name) ? this.copyIn(found.defaults, name) : null
  }

  /** Its hash is worked out once for all looks. */
  private copyIn(defaults: Readonly<Record<string, string>>, name: string): FactoryCopy {
    const known = this.unkept.get(defaults) ?? new Map<string, FactoryCopy>()
    this.unkept.set(defaults, known)
    const copy = known.get(name) ?? { sha: hashOf(Buffer.from(defaults[name]!, 'utf8')), text: defaults[name]! }
    known.set(name, copy)
    return copy
  }

  /** What a package of the pantry ships; it never changes. */
  async shippedBy(packageId: number): Promise<ReadonlyMap<string, string>> {
    const known = this.shipped.get(packageId) ?? (await this.context.packages.defaults(packageId))
    this.shipped.set(packageId, known)
    return known
  }

  /** Names of the settings files an installed plugin brought. */
  async shippedNames(plugin: Pick<OfVersion, 'packagePath'>): Promise<string[]> {
    const found = this.seen.get(plugin.packagePath)
    if (!found) return []
    return found.packageId === null ? Object.keys(found.defaults ?? {}) : [...(await this.shippedBy(found.packageId)).keys()]
  }

  async text(plugin: OfVersion, path: string): Promise<string | null> {
    const copy = await this.of(plugin, path)
    return copy && (copy.text ?? this.context.blobs.requireText(copy.sha))
  }
}
