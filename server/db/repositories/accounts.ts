import type { Knex } from 'knex'
import { ReadCache } from '../read-cache'

export const ROLES = ['owner', 'editor', 'viewer'] as const
export type Role = (typeof ROLES)[number]
export interface Account {
  readonly id: number
  readonly name: string
  readonly role: Role
}

/** An account as it stands in the list of people. */
export interface Person extends Account {
  readonly hasPassword: boolean
  readonly sessions: number
  /** When the latest of its sessions was opened; null without one. */
  readonly lastSignIn: string | null
}

interface Row extends Account {
  readonly password: string | null
}

/** Two names that differ in this only by how they are written are one. */
export const nameKey = (name: string): string => name.normalize('NFKC').toLowerCase()

/** Accounts and their sessions. Of a session only the hash of its token is kept. */
export class AccountRepository {
  private readonly cache = new ReadCache()

  constructor(private readonly db: Knex) {}

  async people(now: string): Promise<Person[]> {
    const rows = (await this.db('accounts').orderBy('id')) as Row[]
    const sessions = (await this.db('sessions')
      .where('expires_at', '>', now)
      .groupBy('account_id')
      .select('account_id')
      .count({ count: '*' })
      .max({ last: 'started_at' })) as unknown as { account_id: number; count: number; last: string }[]
    return rows.map((row) => {
      const own = sessions.find((item) => item.account_id === row.id)
      return { ...toAccount(row), hasPassword: row.password !== null, sessions: own?.count ?? 0, lastSignIn: own?.last || null }
    })
  }

  async get(name: string): Promise<Account | null> {
    const row = await this.row(name)
    return row ? toAccount(row) : null
  }

  async byId(id: number): Promise<Account | null> {
    const row = (await this.db('accounts').where({ id }).first()) as Row | undefined
    return row ? toAccount(row) : null
  }

  /** What the password of an account was turned into; null where there is no such account or it has none. */
  async passwordOf(name: string): Promise<string | null> {
    return (await this.row(name))?.password ?? null
  }

  async ensure(name: string, role: Role): Promise<void> {
    await this.db('accounts')
      .insert({ name, name_key: nameKey(name), role })
      .onConflict('name_key')
      .ignore()
  }

  /** @returns the new account; null where the name is taken */
  async add(name: string, role: Role, password: string): Promise<Account | null> {
    const added = (await this.db('accounts')
      .insert({ name, name_key: nameKey(name), role, password })
      .onConflict('name_key')
      .ignore()
      .returning('id')) as { id: number }[]
    return added[0] ? { id: added[0].id, name, role } : null
  }

  async setPassword(id: number, password: string): Promise<void> {
    await this.db('accounts').where({ id }).update({ password })
  }

  /** @returns whether it was done: the last owner who can sign in by a password stays one, however many ask at once */
  async setRole(id: number, role: Role): Promise<boolean> {
    const query = this.db('accounts').where({ id })
    return (await (role === 'owner' ? query : query.where(this.mayLose(id))).update({ role })) > 0
  }

  /** @returns whether it was done, as with `setRole` */
  async remove(id: number): Promise<boolean> {
    return (await this.db('accounts').where({ id }).where(this.mayLose(id)).delete()) > 0
  }

  /** Of accounts that are no owners, or not the last of them. */
  private mayLose(id: number): (query: Knex.QueryBuilder) => void {
    const others = this.db('accounts').select('id').where({ role: 'owner' }).whereNot({ id }).whereNotNull('password')
    return (query) => void query.whereNot({ role: 'owner' }).orWhereExists(others)
  }

  async addSession(accountId: number, tokenHash: string, startedAt: string, expiresAt: string): Promise<void> {
    await this.endExpired(startedAt)
    await this.db('sessions').insert({ token_hash: tokenHash, account_id: accountId, started_at: startedAt, expires_at: expiresAt })
  }

  /** Asked with each request, and answered from what is known while nothing is written. */
  async bySession(tokenHash: string, now: string): Promise<Account | null> {
    const row = await this.cache.get(
      tokenHash,
      async () =>
        (await this.db('sessions')
          .join('accounts', 'accounts.id', 'sessions.account_id')
          .where('token_hash', tokenHash)
          .first('accounts.*', 'expires_at')) as (Row & { readonly expires_at: string }) | undefined,
    )
    return row && row.expires_at > now ? toAccount(row) : null
  }

  /** Forgets sessions that are over. */
  async endExpired(now: string): Promise<void> {
    await this.db('sessions').where('expires_at', '<=', now).delete()
  }

  async endSession(tokenHash: string): Promise<void> {
    await this.db('sessions').where({ token_hash: tokenHash }).delete()
  }

  /** Ends the sessions of an account, or all but one of them. */
  async endSessions(accountId: number, except = ''): Promise<void> {
    await this.db('sessions').where({ account_id: accountId }).whereNot({ token_hash: except }).delete()
  }

  private async row(name: string): Promise<Row | undefined> {
    return (await this.db('accounts')
      .where({ name_key: nameKey(name) })
      .first()) as Row | undefined
  }
}

const toAccount = ({ id, name, role }: Row): Account => ({ id, name, role })
