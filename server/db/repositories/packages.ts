import type { Knex } from 'knex'
import { array, object, string } from 'yup'
import type { PackageInfo } from '@pasticcio/core'

export interface PackageRow {
  readonly id: number
  readonly familyId: string
  readonly sha: string
  readonly info: PackageInfo
  readonly origin: string
  readonly addedAt: string
}

/** A package on a server, with what tells whether it is still the same. */
export interface SeenPackage {
  readonly path: string
  readonly size: number
  readonly changed: number
  readonly sha: string
  readonly info: PackageInfo
}

interface Raw {
  id: number
  family_id: string
  sha: string
  info: string
  origin: string
  added_at: string
}

export class PackageRepository {
  constructor(private readonly db: Knex) {}

  async list(familyId: string): Promise<PackageRow[]> {
    return ((await this.db('packages').where({ family_id: familyId }).orderBy(['name', 'id'])) as Raw[]).map(fromRaw)
  }

  async get(id: number): Promise<PackageRow | null> {
    const raw = (await this.db('packages').where({ id }).first()) as Raw | undefined
    return raw ? fromRaw(raw) : null
  }

  async find(familyId: string, name: string, version: string): Promise<PackageRow | null> {
    const raw = (await this.db('packages').where({ family_id: familyId, name, version }).first()) as Raw | undefined
    return raw ? fromRaw(raw) : null
  }

  async add(row: Omit<PackageRow, 'id'>): Promise<number> {
    const [id] = (await this.db('packages').insert({
      family_id: row.familyId,
      name: row.info.name,
      version: row.info.version,
      sha: row.sha,
      info: JSON.stringify(row.info),
      origin: row.origin,
      added_at: row.addedAt,
    })) as [number]
    return id
  }

  /** The packages as they lay on a server when they were last looked into, by path. */
  async seen(serverId: number): Promise<SeenPackage[]> {
    const rows = (await this.db('installed_packages')
      .join('packages', 'packages.id', 'installed_packages.package_id')
      .where('installed_packages.server_id', serverId)
      .select('path', 'size', 'changed', 'sha', 'info')) as (Omit<SeenPackage, 'info'> & { info: string })[]
    return rows.map((row) => ({ ...row, info: readInfo(row.info) }))
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

  async saveChoices(serverId: number, packageId: number, choices: string): Promise<void> {
    await this.db('choices').insert({ server_id: serverId, package_id: packageId, choices }).onConflict(['server_id', 'package_id']).merge()
  }
}

/** What a package says of itself, as it was kept; see PackageInfo. */
const infoSchema = object({
  name: string().required(),
  version: string().required(),
  summary: string().defined(),
  game: string().required(),
  authors: array(string().required()).required(),
  requires: object().required(),
  optional: object().required(),
  nodes: object().required(),
  commands: object().required(),
  changes: string().defined(),
  defaults: object().required(),
})

function readInfo(json: string): PackageInfo {
  return infoSchema.validateSync(JSON.parse(json)) as PackageInfo
}

function fromRaw(raw: Raw): PackageRow {
  return {
    id: raw.id,
    familyId: raw.family_id,
    sha: raw.sha,
    info: readInfo(raw.info),
    origin: raw.origin,
    addedAt: raw.added_at,
  }
}
