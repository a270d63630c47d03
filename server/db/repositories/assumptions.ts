import type { Knex } from 'knex'
import type { Assumed } from '@pasticcio/core'

/** What people of a server assume of its players. */
export interface AssumedRow {
  readonly assumed: Assumed
  /** Counts how often it was saved: who changes it says which one was seen. */
  readonly revision: number
  readonly by: string
  /** ISO date. */
  readonly at: string
}

interface Row {
  readonly assumed: string
  readonly revision: number
  readonly set_by: string
  readonly set_at: string
}

export class AssumptionRepository {
  constructor(private readonly db: Knex) {}

  async get(serverId: number): Promise<AssumedRow | null> {
    const row = (await this.db('assumptions').where({ server_id: serverId }).first()) as Row | undefined
    return row ? { assumed: JSON.parse(row.assumed) as Assumed, revision: row.revision, by: row.set_by, at: row.set_at } : null
  }

  /**
   * Saves them where nobody did since a revision; 0 for the first.
   * @returns the revision it has now; null where somebody else was faster
   */
  async save(serverId: number, assumed: Assumed, since: number, by: string, at: string): Promise<number | null> {
    const row = { assumed: JSON.stringify(assumed), revision: since + 1, set_by: by, set_at: at }
    const done =
      since === 0
        ? await this.db('assumptions')
            .insert({ server_id: serverId, ...row })
            .onConflict('server_id')
            .ignore()
            .returning('revision')
        : await this.db('assumptions').where({ server_id: serverId, revision: since }).update(row).returning('revision')
    return done.length > 0 ? since + 1 : null
  }
}
