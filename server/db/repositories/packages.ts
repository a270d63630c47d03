import type { Knex } from 'knex'
import { aboutSchema, type PackageAbout } from '@pasticcio/core'
import { ReadCache } from '../read-cache'
import type { BlobRepository } from './blobs'

/** A package of the pantry. Of one number it never changes; the settings files it brings are asked for apart. */
export interface PackageRow {
  readonly id: number
  readonly familyId: string
  readonly sha: string
  /** Where in the download it begins; empty for all of it. */
  readonly root: string
  readonly info: PackageAbout
  readonly origin: string
  readonly addedAt: string
}

/** A package on a server, with what tells whether it is still the same. */
export interface SeenPackage {
  readonly path: string
  readonly size: number
  readonly changed: number
  readonly sha: string
  readonly info: PackageAbout
  /** Its number in the pantry; null where it is not there. */
  readonly packageId: number | null
}

interface Raw {
  id: number
  family_id: string
  sha: string
  root: string
  info: string
  origin: string
  added_at: string
}

export class PackageRepository {
  /** What was read already: rows of a number stay as they are, and parsing all of them for each request is dear. */
  private readonly known = new Map<number, PackageRow>()
  private readonly cache = new ReadCache()

  constructor(
    private readonly db: Knex,
    private readonly blobs: BlobRepository,
  ) {}

  async list(familyId: string): Promise<readonly PackageRow[]> {
    return this.cache.get(familyId, () => this.readList(familyId))
  }

  private async readList(familyId: string): Promise<PackageRow[]> {
    const ids = (await this.db('packages').where({ family_id: familyId }).orderBy(['name', 'id']).pluck('id')) as number[]
    const missing = ids.filter((id) => !this.known.has(id))
    if (missing.length > 0)
      for (const raw of (await this.db('packages').whereIn('id', missing)) as Raw[]) this.known.set(raw.id, fromRaw(raw))
    return ids.flatMap((id) => this.known.get(id) ?? [])
  }

  async get(id: number): Promise<PackageRow | null> {
    const raw = (await this.db('packages').where({ id }).first()) as Raw | undefined
    return raw ? fromRaw(raw) : null
  }

  async find(familyId: string, name: string, version: string): Promise<PackageRow | null> {
    const raw = (await this.db('packages').where({ family_id: familyId, name, version }).first()) as Raw | undefined
    return raw ? fromRaw(raw) : null
  }

  /** Adds a package with its bytes and the settings files it brings, in one step. @returns its number, also where somebody else was quicker */
  async add(row: Omit<PackageRow, 'id' | 'sha'>, bytes: Uint8Array, defaults: Readonly<Record<string, string>>): Promise<number> {
    return this.db.transaction(async (trx) => {
      const named = { family_id: row.familyId, name: row.info.name, version: row.info.version }
      const there = (await trx('packages').where(named).first('id')) as { id: number } | undefined
      if (there) return there.id
      const [id] = (await trx('packages').insert({
        ...named,
        sha: await this.blobs.put(bytes, trx),
        root: row.root,
        info: JSON.stringify(row.info),
        origin: row.origin,
        added_at: row.addedAt,
      })) as [number]
      for (const [name, text] of Object.entries(defaults))
        await trx('package_defaults').insert({ package_id: id, name, sha: await this.blobs.put(Buffer.from(text, 'utf8'), trx) })
      return id
    })
  }

  /** Takes a package out of the pantry. */
  async remove(id: number): Promise<void> {
    await this.db('packages').where({ id }).delete()
    this.known.delete(id)
  }

  /** Slugs of the servers a package lies on. */
  async serversWith(id: number): Promise<string[]> {
    return (await this.db('installed_packages')
      .join('servers', 'servers.id', 'installed_packages.server_id')
      .where('package_id', id)
      .distinct()
      .orderBy('slug')
      .pluck('slug')) as string[]
  }

  /** The settings files a package brings: hashes of their texts by name. */
  async defaults(id: number): Promise<ReadonlyMap<string, string>> {
    const rows = (await this.db('package_defaults').where({ package_id: id }).select('name', 'sha')) as { name: string; sha: string }[]
    return new Map(rows.map(({ name, sha }) => [name, sha]))
  }

  /** The text of one settings file a package brings; null for one it does not. */
  async defaultText(id: number, name: string): Promise<string | null> {
    const row = (await this.db('package_defaults').where({ package_id: id, name }).first('sha')) as { sha: string } | undefined
    return row ? this.blobs.requireText(row.sha) : null
  }

  /** The texts of all settings files a package brings, by name. */
  async defaultTexts(id: number): Promise<Record<string, string>> {
    const texts: [string, string][] = []
    for (const [name, sha] of await this.defaults(id)) texts.push([name, await this.blobs.requireText(sha)])
    return Object.fromEntries(texts)
  }

  /** The packages as they lay on a server when they were last looked into, by path. */
  async seen(serverId: number): Promise<SeenPackage[]> {
    const rows = (await this.db('installed_packages')
      .join('packages', 'packages.id', 'installed_packages.package_id')
      .where('installed_packages.server_id', serverId)
      .select('path', 'size', 'changed', 'sha', 'info', 'package_id as packageId')) as (Omit<SeenPackage, 'info'> & { info: string })[]
    return rows.map((row) => ({ ...row, info: readAbout(row.info) }))
  }

  async saveSeen(serverId: number, seen: readonly (Omit<SeenPackage, 'info' | 'sha'> & { readonly packageId: number })[]): Promise<void> {
    await this.db.transaction(async (trx) => {
      await trx('installed_packages').where({ server_id: serverId }).delete()
      for (const { path, size, changed, packageId } of seen)
        await trx('installed_packages').insert({ server_id: serverId, path, size, changed, package_id: packageId })
    })
  }

  async getChoices(serverId: number, packageId: number): Promise<string | null> {
    const row = (await this.db('choices').where({ server_id: serverId, package_id: packageId }).first()) as { choices: string } | undefined
    return row?.choices ?? null
  }

  /** Reads the choices and writes what becomes of them, with nothing in between: of two who choose at once both count. */
  async changeChoices(serverId: number, packageId: number, change: (choices: string | null) => string): Promise<void> {
    await this.db.transaction(async (trx) => {
      const where = { server_id: serverId, package_id: packageId }
      const row = (await trx('choices').where(where).first()) as { choices: string } | undefined
      await trx('choices')
        .insert({ ...where, choices: change(row?.choices ?? null) })
        .onConflict(['server_id', 'package_id'])
        .merge()
    })
  }
}

function readAbout(json: string): PackageAbout {
  return aboutSchema.validateSync(JSON.parse(json)) as PackageAbout
}

function fromRaw(raw: Raw): PackageRow {
  return {
    id: raw.id,
    familyId: raw.family_id,
    sha: raw.sha,
    root: raw.root,
    info: readAbout(raw.info),
    origin: raw.origin,
    addedAt: raw.added_at,
  }
}
