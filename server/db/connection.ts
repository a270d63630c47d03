import { chmodSync, closeSync, existsSync, mkdirSync, openSync } from 'node:fs'
import { join } from 'node:path'
import knex, { type Knex } from 'knex'
import { migrations } from './migrations'
import { PatientClient } from './patient-client'

/** The database's file in the data folder. */
export const databaseFile = (folder: string): string => join(folder, 'pasticcio.sqlite')

interface RawConnection {
  pragma(text: string): unknown
  exec(text: string): void
}

/** Opens the database in the data folder, creating or migrating it. Its files are for the account that runs Pasticcio alone. */
export async function openDatabase(folder: string): Promise<Knex> {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file = databaseFile(folder)
  closeSync(openSync(file, 'a', 0o600))
  // what SQLite makes beside it gets the same mode
  for (const part of [file, `${file}-wal`, `${file}-shm`]) if (existsSync(part)) chmodSync(part, 0o600)
  const db = knex({
    client: PatientClient,
    connection: { filename: file },
    useNullAsDefault: true,
    // errors name the statement, and not what it holds
    compileSqlOnError: false,
    pool: {
      min: 1,
      max: 1,
      afterCreate(connection: RawConnection, done: () => void) {
        prepare(connection)
        done()
      },
    },
  })
  await db.migrate.latest({ migrationSource: migrations })
  return db
}

function prepare(connection: RawConnection): void {
  connection.pragma('journal_mode = WAL')
  // what is recorded must be on the disk before it is done, also when the power goes
  connection.pragma('synchronous = FULL')
  connection.pragma('foreign_keys = ON')
  connection.pragma('journal_size_limit = 8388608')
  // room that is given back; a database from before that must be rewritten once
  if (Number((connection.pragma('auto_vacuum') as { auto_vacuum: number }[])[0]!.auto_vacuum) !== 2) {
    connection.pragma('auto_vacuum = INCREMENTAL')
    connection.exec('VACUUM')
  }
  // from here on waiting is the client's, which does not stop the process
  connection.pragma('busy_timeout = 0')
}
