import type { Knex } from 'knex'
import { array, number, object, string } from 'yup'

export type ApplyKind = 'settings' | 'install' | 'update' | 'undo'
export type ApplyStatus = 'running' | 'verified' | 'written' | 'complained' | 'failed' | 'undone'

export interface ApplyFile {
  readonly path: string
  readonly beforeSha: string | null
  readonly afterSha: string | null
}

export interface Complaint {
  readonly plugin: string
  /** Relative to the server's folder, where the console named a file. */
  readonly path: string | null
  readonly line: number | null
  readonly reason: string
}

export interface ApplyOutcome {
  readonly lines: readonly string[]
  readonly complaints: readonly Complaint[]
  readonly message: string
}

export interface ApplyRow {
  readonly id: number
  readonly serverId: number
  readonly kind: ApplyKind
  readonly title: string
  readonly status: ApplyStatus
  readonly undoes: number | null
  readonly outcome: ApplyOutcome
  readonly startedBy: string
  readonly startedAt: string
}

interface Raw {
  id: number
  server_id: number
  kind: ApplyKind
  title: string
  status: ApplyStatus
  undoes: number | null
  outcome: string
  started_by: string
  started_at: string
}

const outcomeSchema = object({
  lines: array(string().defined()).required(),
  complaints: array(
    object({
      plugin: string().defined(),
      path: string().nullable().defined(),
      line: number().nullable().defined(),
      reason: string().defined(),
    }),
  ).required(),
  message: string().defined(),
})
const EMPTY: ApplyOutcome = { lines: [], complaints: [], message: '' }

export class ApplyRepository {
  constructor(private readonly db: Knex) {}

  async begin(
    row: Pick<ApplyRow, 'serverId' | 'kind' | 'title' | 'undoes' | 'startedBy' | 'startedAt'>,
    files: readonly ApplyFile[],
  ): Promise<number> {
    return this.db.transaction(async (trx) => {
      const [id] = (await trx('applies').insert({
        server_id: row.serverId,
        kind: row.kind,
        title: row.title,
        status: 'running',
        undoes: row.undoes,
        outcome: JSON.stringify(EMPTY),
        started_by: row.startedBy,
        started_at: row.startedAt,
      })) as [number]
      for (const file of files)
        await trx('apply_files').insert({ apply_id: id, path: file.path, before_sha: file.beforeSha, after_sha: file.afterSha })
      return id
    })
  }

  async step(applyId: number, step: string, detail: string, at: string): Promise<void> {
    await this.db('apply_steps').insert({ apply_id: applyId, step, detail, at })
  }

  async end(applyId: number, status: ApplyStatus, outcome: ApplyOutcome): Promise<void> {
    await this.db('applies')
      .where({ id: applyId })
      .update({ status, outcome: JSON.stringify(outcome) })
  }

  async setStatus(applyId: number, status: ApplyStatus): Promise<void> {
    await this.db('applies').where({ id: applyId }).update({ status })
  }

  async get(id: number): Promise<ApplyRow | null> {
    const raw = (await this.db('applies').where({ id }).first()) as Raw | undefined
    return raw ? fromRaw(raw) : null
  }

  async list(serverId: number): Promise<ApplyRow[]> {
    return ((await this.db('applies').where({ server_id: serverId }).orderBy('id', 'desc').limit(200)) as Raw[]).map(fromRaw)
  }

  async unfinished(serverId: number): Promise<ApplyRow[]> {
    return ((await this.db('applies').where({ server_id: serverId, status: 'running' }).orderBy('id', 'desc')) as Raw[]).map(fromRaw)
  }

  async files(applyId: number): Promise<ApplyFile[]> {
    const rows = (await this.db('apply_files').where({ apply_id: applyId }).orderBy('path')) as {
      path: string
      before_sha: string | null
      after_sha: string | null
    }[]
    return rows.map((row) => ({ path: row.path, beforeSha: row.before_sha, afterSha: row.after_sha }))
  }

  async steps(applyId: number): Promise<{ step: string; detail: string; at: string }[]> {
    return (await this.db('apply_steps').where({ apply_id: applyId }).orderBy('id').select('step', 'detail', 'at')) as {
      step: string
      detail: string
      at: string
    }[]
  }
}

function fromRaw(raw: Raw): ApplyRow {
  return {
    id: raw.id,
    serverId: raw.server_id,
    kind: raw.kind,
    title: raw.title,
    status: raw.status,
    undoes: raw.undoes,
    outcome: outcomeSchema.validateSync(JSON.parse(raw.outcome)),
    startedBy: raw.started_by,
    startedAt: raw.started_at,
  }
}
