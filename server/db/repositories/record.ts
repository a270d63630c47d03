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

  /** What of some kinds was done to a server since a moment (an ISO date), in order. */
  async ofServer(serverId: number, actions: readonly string[], since: string): Promise<Omit<RecordEntry, 'serverId'>[]> {
    const rows = this.db('record').where('server_id', serverId).whereIn('action', actions).where('at', '>=', since).orderBy('id')
    return (await rows.select('at', 'account', 'action', 'detail')) as Omit<RecordEntry, 'serverId'>[]
  }
}
