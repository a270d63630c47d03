import { closeSync, openSync } from 'node:fs'
import Database from 'better-sqlite3'

/** Somebody else holds it: another process, or another part of this one. */
export class HeldElsewhere extends Error {
  constructor(file: string, options?: ErrorOptions) {
    super(`${file} is held by another program`, options)
    this.name = 'HeldElsewhere'
  }
}

/**
 * A file that one process holds at a time, with a note in it. The lock is the operating system's (SQLite's exclusive
 * locking mode, https://www.sqlite.org/pragma.html#pragma_locking_mode), so that it ends with the process whatever ends
 * that, and no process number has to be believed; the note is what the holder before left.
 */
export class Hold {
  private constructor(private readonly db: Database.Database) {}

  /** @throws HeldElsewhere, or the error of the file system */
  static take(file: string): Hold {
    closeSync(openSync(file, 'a', 0o600))
    const db = new Database(file, { timeout: 0 })
    try {
      db.pragma('locking_mode = EXCLUSIVE')
      db.pragma('journal_mode = MEMORY')
      db.exec('BEGIN EXCLUSIVE; CREATE TABLE IF NOT EXISTS note (text TEXT NOT NULL); COMMIT')
      return new Hold(db)
    } catch (error) {
      db.close()
      throw (error as { code?: string }).code?.startsWith('SQLITE_BUSY') ? new HeldElsewhere(file, { cause: error }) : error
    }
  }

  get note(): string | null {
    return (this.db.prepare('SELECT text FROM note').pluck().get() as string | undefined) ?? null
  }

  set note(text: string | null) {
    this.db.transaction(() => {
      this.db.exec('DELETE FROM note')
      if (text !== null) this.db.prepare('INSERT INTO note VALUES (?)').run(text)
    })()
  }

  release(): void {
    this.db.close()
  }
}
