import type { Knex } from 'knex'

export type Role = 'owner' | 'editor' | 'viewer'
export interface Account {
  readonly id: number
  readonly name: string
  readonly role: Role
}

export class AccountRepository {
  constructor(private readonly db: Knex) {}

  async list(): Promise<Account[]> {
    return (await this.db('accounts').orderBy('id')) as Account[]
  }

  async get(name: string): Promise<Account | null> {
    return ((await this.db('accounts').where({ name }).first()) as Account | undefined) ?? null
  }

  async ensure(name: string, role: Role): Promise<void> {
    await this.db('accounts').insert({ name, role }).onConflict('name').ignore()
  }

  async addSession(accountId: number, tokenHash: string, expiresAt: string): Promise<void> {
    await this.db('sessions').insert({ token_hash: tokenHash, account_id: accountId, expires_at: expiresAt })
  }

  async bySession(tokenHash: string, now: string): Promise<Account | null> {
    const row = (await this.db('sessions')
      .join('accounts', 'accounts.id', 'sessions.account_id')
      .where('token_hash', tokenHash)
      .where('expires_at', '>', now)
      .first('accounts.*')) as Account | undefined
    return row ?? null
  }

  async endSession(tokenHash: string): Promise<void> {
    await this.db('sessions').where({ token_hash: tokenHash }).delete()
  }
}
