import type { Knex } from 'knex'
import { readFamily, type Family } from '@pasticcio/core'

export interface ServerRow {
  readonly id: number
  readonly slug: string
  readonly familyId: string
  readonly folder: string
  readonly command: readonly string[]
}

interface Raw {
  id: number
  slug: string
  family_id: string
  folder: string
  command: string
}

export class ServerRepository {
  constructor(private readonly db: Knex) {}

  async list(): Promise<ServerRow[]> {
    return ((await this.db('servers').orderBy('id')) as Raw[]).map(fromRaw)
  }

  async get(slug: string): Promise<ServerRow | null> {
    const raw = (await this.db('servers').where({ slug }).first()) as Raw | undefined
    return raw ? fromRaw(raw) : null
  }

  async add(server: Omit<ServerRow, 'id'>): Promise<void> {
    await this.db('servers').insert({
      slug: server.slug,
      family_id: server.familyId,
      folder: server.folder,
      command: JSON.stringify(server.command),
    })
  }

  async saveFamily(text: string): Promise<Family> {
    const family = readFamily(text)
    await this.db('families').insert({ id: family.id, text }).onConflict('id').merge()
    return family
  }

  async requireFamily(id: string): Promise<Family> {
    const row = (await this.db('families').where({ id }).first()) as { text: string } | undefined
    if (!row) throw new Error(`family ${id} is missing`)
    return readFamily(row.text)
  }
}

function fromRaw(raw: Raw): ServerRow {
  return { id: raw.id, slug: raw.slug, familyId: raw.family_id, folder: raw.folder, command: JSON.parse(raw.command) as string[] }
}
