import type { Knex } from 'knex'

/** Whom attempts to sign in are counted for. */
export interface Counted {
  readonly kind: 'account' | 'address'
  readonly key: string
}

export interface Attempts {
  readonly count: number
  /** In milliseconds since 1970, as is `waitUntil`. */
  readonly lastAt: number
  readonly waitUntil: number
}

interface Row {
  count: number
  last_at: number
  wait_until: number
}

/** How often signing in failed, by account and by address. */
export class AttemptRepository {
  constructor(private readonly db: Knex) {}

  /** Reads the counts of several and writes what becomes of them, with nothing in between; `decide` gives null to leave them. */
  async change(of: readonly Counted[], decide: (now: readonly Attempts[]) => readonly Attempts[] | null): Promise<void> {
    await this.db.transaction(async (trx) => {
      const read = async ({ kind, key }: Counted): Promise<Attempts> => {
        const row = (await trx('sign_in_attempts').where({ kind, key }).first()) as Row | undefined
        return { count: row?.count ?? 0, lastAt: row?.last_at ?? 0, waitUntil: row?.wait_until ?? 0 }
      }
      const next = decide(await Promise.all(of.map(read)))
      for (const [i, { kind, key }] of (next ? of : []).entries()) {
        const { count, lastAt, waitUntil } = next![i]!
        const row = { kind, key, count, last_at: lastAt, wait_until: waitUntil }
        await trx('sign_in_attempts').insert(row).onConflict(['kind', 'key']).merge()
      }
    })
  }

  /** Forgets counts that nothing was added to for long. */
  async forget(before: number): Promise<void> {
    await this.db('sign_in_attempts').where('last_at', '<', before).delete()
  }
}
