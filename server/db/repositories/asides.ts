import type { Knex } from 'knex'

/** A finding that was set aside. */
export interface Aside {
  /** What tells it from others (`subjectOf`): another value makes another finding. */
  readonly subject: string
  readonly path: string
  readonly code: string
  readonly reason: string
  readonly by: string
  /** ISO date. */
  readonly at: string
}

interface Row {
  readonly subject: string
  readonly path: string
  readonly code: string
  readonly reason: string
  readonly set_by: string
  readonly set_at: string
}

export class AsideRepository {
  constructor(private readonly db: Knex) {}

  async save(serverId: number, { subject, path, code, reason, by, at }: Aside): Promise<void> {
    await this.db('asides')
      .insert({ server_id: serverId, subject, path, code, reason, set_by: by, set_at: at })
      .onConflict(['server_id', 'subject'])
      .merge()
  }

  /** @returns whether there was one */
  async remove(serverId: number, subject: string): Promise<boolean> {
    return (await this.db('asides').where({ server_id: serverId, subject }).delete()) > 0
  }

  async list(serverId: number): Promise<Aside[]> {
    const rows = (await this.db('asides').where({ server_id: serverId }).orderBy('set_at')) as Row[]
    return rows.map(({ set_by, set_at, ...row }) => ({ ...row, by: set_by, at: set_at }))
  }
}
