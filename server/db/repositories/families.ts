import type { Knex } from 'knex'
import { readFamily, type Family } from '@pasticcio/core'
import { ReadCache } from '../read-cache'

/** A description of a server family as it is kept. */
export interface FamilyRow {
  readonly id: string
  readonly text: string
  /** As it came with Pasticcio; null for one that was made here. */
  readonly shipped: string | null
  /** Who changed it last; empty for one that is as it came. */
  readonly changedBy: string
  readonly changedAt: string
}

interface Raw {
  id: string
  text: string
  shipped: string | null
  changed_by: string
  changed_at: string
}

const fromRaw = ({ id, text, shipped, changed_by, changed_at }: Raw): FamilyRow => ({
  id,
  text,
  shipped,
  changedBy: changed_by,
  changedAt: changed_at,
})

export class FamilyRepository {
  private readonly cache = new ReadCache()

  constructor(private readonly db: Knex) {}

  /** Keeps one that comes with Pasticcio; one that was changed here stays as it is. @throws FamilyError */
  async ship(text: string): Promise<void> {
    const { id } = readFamily(text)
    await this.db.transaction(async (trx) => {
      const row = (await trx('families').where({ id }).first()) as Raw | undefined
      if (!row) return void (await trx('families').insert({ id, text, shipped: text }))
      const isOwn = row.shipped === null || row.text !== row.shipped
      await trx('families')
        .where({ id })
        .update(isOwn ? { shipped: text } : { text, shipped: text })
    })
  }

  /** Keeps one as somebody wrote it. @throws FamilyError */
  async save(text: string, by: string, at: string): Promise<Family> {
    const family = readFamily(text)
    await this.db('families')
      .insert({ id: family.id, text, changed_by: by, changed_at: at })
      .onConflict('id')
      .merge(['text', 'changed_by', 'changed_at'])
    return family
  }

  async remove(id: string): Promise<void> {
    await this.db('families').where({ id }).delete()
  }

  async rows(): Promise<readonly FamilyRow[]> {
    return this.cache.get('rows', async () => ((await this.db('families').orderBy('id')) as Raw[]).map(fromRaw))
  }

  async get(id: string): Promise<FamilyRow | null> {
    return (await this.rows()).find((row) => row.id === id) ?? null
  }

  async all(): Promise<readonly Family[]> {
    const rows = await this.rows()
    return this.cache.get('families', async () => rows.map(({ text }) => readFamily(text)))
  }

  async require(id: string): Promise<Family> {
    const found = (await this.all()).find((family) => family.id === id)
    if (!found) throw new Error(`family ${id} is missing`)
    return found
  }

  /** Slugs of the servers of a family. */
  async serversOf(id: string): Promise<string[]> {
    return (await this.db('servers').where({ family_id: id }).orderBy('slug').pluck('slug')) as string[]
  }
}
