import type { Knex } from 'knex'

export interface DraftRow {
  readonly path: string
  readonly baseSha: string
  readonly sha: string
  readonly changedBy: string
  readonly changedAt: string
}

interface Raw {
  path: string
  base_sha: string
  sha: string
  changed_by: string
  changed_at: string
}

export class DraftRepository {
  constructor(private readonly db: Knex) {}

  async list(serverId: number): Promise<DraftRow[]> {
    return ((await this.db('drafts').where({ server_id: serverId }).orderBy('path')) as Raw[]).map(fromRaw)
  }

  async get(serverId: number, path: string): Promise<DraftRow | null> {
    const raw = (await this.db('drafts').where({ server_id: serverId, path }).first()) as Raw | undefined
    return raw ? fromRaw(raw) : null
  }

  async save(serverId: number, draft: DraftRow): Promise<void> {
    await this.db('drafts')
      .insert({
        server_id: serverId,
        path: draft.path,
        base_sha: draft.baseSha,
        sha: draft.sha,
        changed_by: draft.changedBy,
        changed_at: draft.changedAt,
      })
      .onConflict(['server_id', 'path'])
      .merge()
  }

  async remove(serverId: number, paths: readonly string[]): Promise<void> {
    await this.db('drafts')
      .where({ server_id: serverId })
      .whereIn('path', [...paths])
      .delete()
  }
}

function fromRaw(raw: Raw): DraftRow {
  return { path: raw.path, baseSha: raw.base_sha, sha: raw.sha, changedBy: raw.changed_by, changedAt: raw.changed_at }
}
