import type { Described, Download } from '@pasticcio/unpack'
import pLimit from 'p-limit'
import { arrangementOf, readAbout, PackageError, type Family, type FoundPlugin, type PackageAbout, type Stranger } from '@pasticcio/core'
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

/** Where something that looks like a package lies. */
export interface Lying {
  readonly found: FoundPlugin
  readonly file: PlaceFile
}

const BATCH_BYTES = 8 * 1024 * 1024
const BATCH_FILES = 64
/** One is read while another is opened. */
const BATCHES_AT_ONCE = 2

/**
 * The packages of a server as they were last looked into. Each is opened once, and again only when its size or time says it
 * is another.
 */
export class SeenPackages {
  private packages: Map<string, Seen> | null = null
  /** Files that were looked into and are no packages, with what tells whether they still are the same. */
  private readonly strangers = new Map<string, { readonly mark: string; readonly says: string }>()
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

  /** The same with why, and the next step. */
  get toldStrangers(): Stranger[] {
    return [...this.strangers].map(([path, { says }]) => ({ path, says }))
  }

  get(path: string): Seen | undefined {
    return this.packages?.get(path)
  }

  set(path: string, seen: Seen): void {
    this.packages?.set(path, seen)
  }

  /** What lies at each of these; null for what is no package after all. Those that are new are opened many at once. */
  async all(lying: readonly Lying[]): Promise<readonly (Seen | null)[]> {
    this.packages ??= new Map((await this.context.packages.seen(this.row.id)).map((seen) => [seen.path, { ...seen, defaults: null }]))
    const paths = new Set(lying.map(({ file }) => file.path))
    for (const path of this.strangers.keys()) if (!paths.has(path)) this.strangers.delete(path)
    const fresh = lying.filter(({ file }) => !this.isKnown(file))
    this.opened += fresh.length
    const turns = pLimit(BATCHES_AT_ONCE)
    await Promise.all(batchesOf(fresh).map((batch) => turns(() => this.open(batch))))
    return lying.map(({ file }) => (this.strangers.has(file.path) ? null : (this.packages?.get(file.path) ?? null)))
  }

  /** Whether it was looked into as it is now. */
  private isKnown(file: PlaceFile): boolean {
    const known = this.packages?.get(file.path)
    return (known?.size === file.size && known.changed === file.changed) || this.strangers.get(file.path)?.mark === markOf(file)
  }

  private async open(batch: readonly Lying[]): Promise<void> {
    const found = arrangementOf(this.family).arrives === 'folder' ? await this.describeFolders(batch) : await this.describe(batch)
    batch.forEach(({ file }, index) => this.keep(file, found[index]!))
  }

  private keep(file: PlaceFile, found: Seen | Error | null): void {
    this.packages?.delete(file.path)
    this.strangers.delete(file.path)
    if (found === null) return
    if (found instanceof Error) {
      this.context.log.warn({ path: file.path, error: found }, 'not a package')
      this.strangers.set(file.path, { mark: markOf(file), says: saidOf(file.path, found) })
      return
    }
    this.packages?.set(file.path, found)
    this.unknown = true
  }

  private async describe(batch: readonly Lying[]): Promise<(Seen | Error | null)[]> {
    const inPantry = new Map(
      (await this.context.packages.list(this.family.id)).filter(({ root }) => root === '').map((row) => [row.sha, row]),
    )
    const read = await Promise.all(batch.map(({ file }) => orTold(() => this.place.read(file.path, SIZES.package))))
    const unopened: Unopened[] = []
    const found = read.map((bytes, index): Seen | Error | Unopened | null => {
      if (bytes === null || bytes instanceof Error) return bytes
      const { file } = batch[index]!
      const sha = hashOf(bytes)
      const known = inPantry.get(sha)
      // one the pantry has need not be opened again
      if (known) return { ...file, sha, info: known.info, packageId: known.id, defaults: null }
      unopened.push({ file, sha, bytes, fileName: file.path })
      return unopened.at(-1)!
    })
    const opened = await this.context.unpacker.several(unopened, this.family)
    const seen = new Map<unknown, Seen | Error>(unopened.map((item, index) => [item, seenIn(item, opened[index]!)]))
    return found.map((item) => seen.get(item) ?? (item as Seen | Error | null))
  }

  private describeFolders(batch: readonly Lying[]): Promise<(Seen | Error | null)[]> {
    return Promise.all(
      batch.map(({ found, file }) =>
        orTold(async () => {
          const bytes = await this.place.read(file.path, SIZES.archive.descriptor)
          return bytes && this.describeFolder(found, file, bytes)
        }),
      ),
    )
  }

  /** What was unpacked says what it is in its folder; what it shipped, only the pantry knows. */
  private async describeFolder({ unpacked }: FoundPlugin, file: PlaceFile, bytes: Uint8Array): Promise<Seen> {
    const named = unpacked?.folder ?? file.path
    const about = readAbout(decode(file.path, bytes), this.family, { file: file.path, named, notes: '' })
    const known = await this.context.packages.find(this.family.id, about.name, about.version)
    return { ...file, sha: hashOf(bytes), info: known?.info ?? about, packageId: known?.id ?? null, defaults: known ? null : {} }
  }
}

/** What was refused says so in a sentence; what could only not be read says why. */
const saidOf = (path: string, error: Error): string =>
  error instanceof ServiceError ? error.message : `${path} describes no plugin: ${error.message}. Install it anew.`

interface Unopened extends Download {
  readonly file: PlaceFile
  readonly sha: string
}

function seenIn({ file, sha }: Unopened, packages: readonly Described[] | Error): Seen | Error {
  if (packages instanceof Error) return packages
  const [only, ...others] = packages
  if (only && others.length === 0 && !only.bytes)
    return { ...file, sha, info: aboutOf(only.info), packageId: null, defaults: only.info.defaults }
  return new ServiceError('bad-package', 422, `${file.path} holds packages and is none itself. Take them out of it.`)
}

/** What can be said of one file, and keeps no other back. */
async function orTold<T>(work: () => Promise<T>): Promise<T | Error> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof ServiceError || error instanceof PlaceError || error instanceof PackageError) return error
    throw error
  }
}

/** In groups that cost little memory; what is larger goes alone. */
function batchesOf(lying: readonly Lying[]): Lying[][] {
  const batches: Lying[][] = []
  let size = Infinity
  for (const item of lying) {
    size += item.file.size
    if (size > BATCH_BYTES || batches.at(-1)!.length >= BATCH_FILES) {
      batches.push([])
      size = item.file.size
    }
    batches.at(-1)!.push(item)
  }
  return batches
}

const markOf = ({ size, changed }: PlaceFile): string => `${size} ${changed}`

/** What a package says of itself, without the files it brings. */
export function aboutOf<T extends PackageAbout>(info: T): PackageAbout {
  const about: PackageAbout & { defaults?: unknown; readme?: unknown; changelog?: unknown } = { ...info }
  for (const brought of ['defaults', 'readme', 'changelog'] as const) delete about[brought]
  return about
}
