import type { Knex } from 'knex'
import { array, number, object, string } from 'yup'
import type { FileAction } from '@pasticcio/core'
import { ReadCache } from '../read-cache'
import { CommandRepository, type PlannedCommand } from './commands'

export type ApplyKind = 'settings' | 'install' | 'update' | 'undo' | 'remove' | 'switch'
export type ApplyStatus = 'running' | 'verified' | 'written' | 'complained' | 'failed' | 'undone'

export interface ApplyFile {
  readonly path: string
  readonly beforeSha: string | null
  readonly afterSha: string | null
}

/** What a change did to place a plugin, or to take it out. */
export interface Placement {
  readonly plugin: string
  readonly version: string
  readonly isOut: boolean
  readonly actions: readonly FileAction[]
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
  /** Whether it is kept however old it gets. */
  readonly pinned: boolean
}

/** A change as it stands in a list. */
export interface ListedApply extends ApplyRow {
  readonly files: readonly string[]
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
  pinned: number
}

interface RawFile {
  path: string
  before_sha: string | null
  after_sha: string | null
}

const toRaw = (applyId: number, { path, beforeSha, afterSha }: ApplyFile): RawFile & { apply_id: number } => ({
  apply_id: applyId,
  path,
  before_sha: beforeSha,
  after_sha: afterSha,
})

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
  private readonly cache = new ReadCache()

  constructor(private readonly db: Knex) {}

  async begin(
    row: Pick<ApplyRow, 'serverId' | 'kind' | 'title' | 'undoes' | 'startedBy' | 'startedAt'>,
    files: readonly ApplyFile[],
    placements: readonly Placement[] = [],
    commands: readonly PlannedCommand[] = [],
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
      for (const file of files) await trx('apply_files').insert(toRaw(id, file))
      for (const { plugin, version, isOut, actions } of placements)
        await trx('placements').insert({ apply_id: id, plugin, version, is_out: isOut, actions: JSON.stringify(actions) })
      await new CommandRepository(trx).begin(id, commands)
      return id
    })
  }

  async step(applyId: number, step: string, detail: string, at: string): Promise<void> {
    await this.db('apply_steps').insert({ apply_id: applyId, step, detail, at })
  }

  /** What the files of a change are to be, where that turned out to be something else than when it began. */
  async setFiles(applyId: number, files: readonly ApplyFile[]): Promise<void> {
    await this.db.transaction(async (trx) => {
      await trx('apply_files').where({ apply_id: applyId }).delete()
      for (const file of files) await trx('apply_files').insert(toRaw(applyId, file))
    })
  }

  /**
   * Ends a change. With one whose files are written, the drafts it wrote leave the tray and what it takes back is marked
   * as such, in the same step: whoever looks later sees all of it or nothing.
   */
  async end(applyId: number, status: ApplyStatus, outcome: ApplyOutcome): Promise<void> {
    await this.db.transaction(async (trx) => {
      await trx('applies')
        .where({ id: applyId })
        .update({ status, outcome: JSON.stringify(outcome) })
      if (status === 'failed') return
      const { server_id, undoes } = (await trx('applies').where({ id: applyId }).first('server_id', 'undoes')) as Raw
      for (const { path, after_sha } of (await trx('apply_files').where({ apply_id: applyId })) as RawFile[])
        if (after_sha !== null) await trx('drafts').where({ server_id, path, sha: after_sha }).delete()
      if (undoes !== null) await trx('applies').where({ id: undoes }).update({ status: 'undone' })
    })
  }

  async setPinned(applyId: number, pinned: boolean): Promise<void> {
    await this.db('applies').where({ id: applyId }).update({ pinned })
  }

  /**
   * Changes of a server that are not among its newest and may go: neither pinned, nor under way, nor the last to touch
   * one of their files.
   */
  async outdated(serverId: number, kept: number): Promise<number[]> {
    const newest = this.db('applies').select('id').where({ server_id: serverId }).orderBy('id', 'desc').limit(kept)
    const last = this.db('apply_files as f')
      .join('applies as a', 'a.id', 'f.apply_id')
      .where('a.server_id', serverId)
      .whereNotIn('a.status', ['failed', 'running'])
      .groupBy('f.path')
      .select(this.db.raw('MAX(a.id)'))
    return (await this.db('applies')
      .where({ server_id: serverId, pinned: false })
      .whereNot({ status: 'running' })
      .whereNotIn('id', newest)
      .whereNotIn('id', last)
      .pluck('id')) as number[]
  }

  /** Takes a change out of the history. */
  async remove(id: number): Promise<void> {
    await this.db.transaction(async (trx) => {
      await trx('applies').where({ undoes: id }).update({ undoes: null })
      await trx('applies').where({ id }).delete()
    })
  }

  async get(id: number): Promise<ApplyRow | null> {
    const raw = (await this.db('applies').where({ id }).first()) as Raw | undefined
    return raw ? fromRaw(raw) : null
  }

  /** The newest changes of a server, each with the paths of its files. */
  async list(serverId: number): Promise<readonly ListedApply[]> {
    return this.cache.get(String(serverId), () => this.readList(serverId))
  }

  private async readList(serverId: number): Promise<ListedApply[]> {
    const rows = (await this.db('applies').where({ server_id: serverId }).orderBy('id', 'desc').limit(200)) as Raw[]
    const files = (await this.db('apply_files')
      .whereIn(
        'apply_id',
        rows.map(({ id }) => id),
      )
      .orderBy('path')
      .select('apply_id', 'path')) as { apply_id: number; path: string }[]
    return rows.map((raw) => ({ ...fromRaw(raw), files: files.filter((file) => file.apply_id === raw.id).map(({ path }) => path) }))
  }

  /** What the last change in force that placed a plugin did, with its number; null where none did, or it was taken out. */
  async placementOf(serverId: number, plugin: string): Promise<{ applyId: number; actions: FileAction[] } | null> {
    const row = (await this.db('placements as p')
      .join('applies as a', 'a.id', 'p.apply_id')
      .where({ 'a.server_id': serverId, 'p.plugin': plugin })
      .whereIn('a.status', ['verified', 'written', 'complained'])
      .orderBy('a.id', 'desc')
      .first('a.id', 'p.is_out', 'p.actions')) as { id: number; is_out: number; actions: string } | undefined
    return row && !row.is_out ? { applyId: row.id, actions: JSON.parse(row.actions) as FileAction[] } : null
  }

  async unfinished(serverId: number): Promise<ApplyRow[]> {
    return ((await this.db('applies').where({ server_id: serverId, status: 'running' }).orderBy('id', 'desc')) as Raw[]).map(fromRaw)
  }

  async files(applyId: number): Promise<ApplyFile[]> {
    const rows = (await this.db('apply_files').where({ apply_id: applyId }).orderBy('path')) as RawFile[]
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
    pinned: Boolean(raw.pinned),
  }
}
