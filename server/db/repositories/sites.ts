import type { Knex } from 'knex'
import { ReadCache } from '../read-cache'

/** A plugin site. */
export interface SiteRow {
  /** Null for one that is set up outside, by whoever runs Pasticcio. */
  readonly id: number | null
  /** Where its list is: the address that `index.json` stands below. */
  readonly address: string
  /** Whether it may be at an address of one's own network. */
  readonly mayBePrivate: boolean
  readonly addedBy: string
}

interface Raw {
  id: number
  address: string
  may_be_private: number
  added_by: string
}

export class SiteRepository {
  private readonly cache = new ReadCache()

  constructor(private readonly db: Knex) {}

  async list(): Promise<readonly SiteRow[]> {
    return this.cache.get('sites', async () =>
      ((await this.db('sites').orderBy('id')) as Raw[]).map(({ id, address, may_be_private: mayBePrivate, added_by: addedBy }) => ({
        id,
        address,
        mayBePrivate: Boolean(mayBePrivate),
        addedBy,
      })),
    )
  }

  async add({ address, mayBePrivate, addedBy }: Omit<SiteRow, 'id'>, at: string): Promise<void> {
    await this.db('sites').insert({ address, may_be_private: mayBePrivate, added_by: addedBy, added_at: at })
  }

  /** @returns whether there was one */
  async remove(id: number): Promise<boolean> {
    return (await this.db('sites').where({ id }).delete()) > 0
  }
}
