import type { Knex } from 'knex'
import type { PackageInfo } from '@pasticcio/core'

export interface PackageRow {
  readonly id: number
  readonly familyId: string
  readonly sha: string
  readonly info: PackageInfo
  readonly origin: string
  readonly addedAt: string
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

  async add(row: Omit<PackageRow, 'id'>): Promise<void> {
    await this.db('packages').insert({
      family_id: row.familyId,
      name: row.info.name,
      version: row.info.version,
      sha: row.sha,
      info: JSON.stringify(row.info),
      origin: row.origin,
      added_at: row.addedAt,
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

function fromRaw(raw: Raw): PackageRow {
  return {
    id: raw.id,
    familyId: raw.family_id,
    sha: raw.sha,
    info: JSON.parse(raw.info) as PackageInfo,
    origin: raw.origin,
    addedAt: raw.added_at,
  }
}
