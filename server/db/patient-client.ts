// the dialect as a class to build on, which Knex has no types for
// @ts-expect-error 7016: what of it is used is said below
import SqliteClient from 'knex/lib/dialects/better-sqlite3/index.js'
import type { Knex } from 'knex'
import { countStatement } from './read-cache'

const RETRY_MS = 15
const GIVE_UP_MS = 5_000

type Query = (connection: unknown, query: { readonly sql: string }) => Promise<unknown>
const Base = SqliteClient as typeof Knex.Client & { readonly prototype: { _query: Query } }

/**
 * Knex's client for SQLite, which waits for a lock of another process without stopping this one: SQLite's own waiting
 * sleeps, and with it everything else here. What waited in vain ends with SQLite's error.
 */
export class PatientClient extends Base {
  async _query(connection: unknown, query: { readonly sql: string }): Promise<unknown> {
    const until = performance.now() + GIVE_UP_MS
    for (;;) {
      try {
        const result = await Base.prototype._query.call(this, connection, query)
        countStatement(query.sql)
        return result
      } catch (error) {
        // of a snapshot that is too old, waiting makes nothing newer
        if ((error as { code?: string }).code !== 'SQLITE_BUSY' || performance.now() > until) throw error
      }
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS))
    }
  }
}
