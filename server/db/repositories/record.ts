import type { Knex } from 'knex'

export interface RecordEntry {
  readonly at: string
  readonly account: string
  readonly serverId: number | null
  readonly action: string
  readonly detail: string
}

/** Who did what, append-only: a trigger of the database refuses anything else. */
export class RecordRepository {
  constructor(private readonly db: Knex) {}

  async add(entry: RecordEntry): Promise<void> {
    await this.db('record').insert({
      at: entry.at,
      account: entry.account,
      server_id: entry.serverId,
      action: entry.action,
      detail: entry.detail,
    })
  }
}
