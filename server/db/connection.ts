import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import knex, { type Knex } from 'knex'
import { migrations } from './migrations'

/** Opens the database in the data folder, creating or migrating it. */
export async function openDatabase(folder: string): Promise<Knex> {
  mkdirSync(folder, { recursive: true })
  const db = knex({
    client: 'better-sqlite3',
    connection: { filename: join(folder, 'pasticcio.sqlite') },
    useNullAsDefault: true,
    pool: {
      min: 1,
      max: 1,
      afterCreate: (connection: { pragma(text: string): void }, done: () => void) => {
        connection.pragma('journal_mode = WAL')
        connection.pragma('foreign_keys = ON')
        done()
      },
    },
  })
  await db.migrate.latest({ migrationSource: migrations })
  return db
}
