import type { Knex } from 'knex'
import { array, string } from 'yup'
import { ReadCache } from '../read-cache'
import { hashOf, type BlobRepository } from './blobs'

export interface DraftRow {
  readonly path: string
  readonly baseSha: string
  readonly sha: string
  readonly changedBy: string
  readonly changedAt: string
  /** Hashes of the drafts it came from, one made from the other, and files it was a draft of before (`basedOn`). */
  readonly cameFrom: readonly string[]
}

/** A draft to be kept; what it came from follows from what it takes the place of. */
export type NewDraft = Omit<DraftRow, 'cameFrom'>

/** What a draft of a file is one of that is not there yet: the same as of an empty one. */
export const NO_FILE = hashOf(Buffer.alloc(0))

/** How a file is named that a draft was one of before. */
export const basedOn = (baseSha: string): string => `file ${baseSha}`

/** So many drafts back it is remembered what a draft came from. */
const MOST_BACK = 100

interface Raw {
  path: string
  base_sha: string
  sha: string
  changed_by: string
  changed_at: string
  came_from: string
}

export class DraftRepository {
  private readonly cache = new ReadCache()

  constructor(
    private readonly db: Knex,
    private readonly blobs: BlobRepository,
  ) {}

  async list(serverId: number): Promise<readonly DraftRow[]> {
    return this.cache.get(String(serverId), async () =>
      ((await this.db('drafts').where({ server_id: serverId }).orderBy('path')) as Raw[]).map(fromRaw),
    )
  }

  async get(serverId: number, path: string): Promise<DraftRow | null> {
    return (await this.list(serverId)).find((draft) => draft.path === path) ?? null
  }

  /**
   * Keeps a draft with its contents in the place of the one it was made from, in one step; null for none.
   * @returns false when another draft stands there by now: then nothing was kept, its contents neither
   */
  async replace(serverId: number, draft: NewDraft, contents: readonly Uint8Array[], fromSha: string | null): Promise<boolean> {
    const trx = await this.db.transaction()
    try {
      for (const bytes of contents) await this.blobs.put(bytes, trx)
      const isKept = await keep(trx, serverId, draft, fromSha)
      await (isKept ? trx.commit() : trx.rollback())
      return isKept
    } catch (error) {
      await trx.rollback()
      throw error
    }
  }

  /** Takes a draft away if it is still this one. @returns whether it was */
  async removeIf(serverId: number, path: string, sha: string): Promise<boolean> {
    return (await this.db('drafts').where({ server_id: serverId, path, sha }).delete()) > 0
  }
}

async function keep(trx: Knex, serverId: number, draft: NewDraft, fromSha: string | null): Promise<boolean> {
  const where = { server_id: serverId, path: draft.path }
  const before = fromSha === null ? undefined : ((await trx('drafts').where(where).first('came_from', 'base_sha')) as Raw | undefined)
  const rebased = before && before.base_sha !== draft.baseSha ? [basedOn(before.base_sha)] : []
  const came_from = JSON.stringify(
    [...(before ? originsOf(before) : []), ...rebased, ...(fromSha === null ? [] : [fromSha])].slice(-MOST_BACK),
  )
  const row = { base_sha: draft.baseSha, sha: draft.sha, changed_by: draft.changedBy, changed_at: draft.changedAt, came_from }
  if (fromSha !== null)
    return (
      (await trx('drafts')
        .where({ ...where, sha: fromSha })
        .update(row)) > 0
    )
  const added = await trx('drafts')
    .insert({ ...where, ...row })
    .onConflict(['server_id', 'path'])
    .ignore()
    .returning('path')
  return added.length > 0
}

const originsOf = ({ came_from }: Raw): string[] => originsSchema.validateSync(JSON.parse(came_from))
const originsSchema = array(string().required()).required()

function fromRaw(raw: Raw): DraftRow {
  return {
    path: raw.path,
    baseSha: raw.base_sha,
    sha: raw.sha,
    changedBy: raw.changed_by,
    changedAt: raw.changed_at,
    cameFrom: originsOf(raw),
  }
}
