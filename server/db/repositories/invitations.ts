import type { Knex } from 'knex'
import type { Role } from './accounts'

export interface Invitation {
  readonly id: number
  readonly role: Role
  /** The account that gets a new password by it; null where it makes one. */
  readonly accountId: number | null
  readonly invitedBy: string
  readonly expiresAt: string
}

interface Row {
  id: number
  role: Role
  account_id: number | null
  invited_by: string
  expires_at: string
}

/** Invitations that were not taken yet. Of their links only a hash is kept. */
export class InvitationRepository {
  constructor(private readonly db: Knex) {}

  async open(now: string): Promise<Invitation[]> {
    return ((await this.db('invitations').where('expires_at', '>', now).orderBy('id')) as Row[]).map(toInvitation)
  }

  async add(keyHash: string, invitation: Omit<Invitation, 'id'>, now: string): Promise<void> {
    await this.removeExpired(now)
    const { role, accountId, invitedBy, expiresAt } = invitation
    await this.db('invitations').insert({
      key_hash: keyHash,
      role,
      account_id: accountId,
      invited_by: invitedBy,
      expires_at: expiresAt,
    })
  }

  async removeExpired(now: string): Promise<void> {
    await this.db('invitations').where('expires_at', '<=', now).delete()
  }

  async find(keyHash: string, now: string): Promise<Invitation | null> {
    const row = (await this.db('invitations').where({ key_hash: keyHash }).where('expires_at', '>', now).first()) as Row | undefined
    return row ? toInvitation(row) : null
  }

  /** Takes an invitation away. @returns whether it was there: of two who come at once only one finds it */
  async take(id: number): Promise<boolean> {
    return (await this.db('invitations').where({ id }).delete()) > 0
  }

  async removeBy(invitedBy: string): Promise<void> {
    await this.db('invitations').where({ invited_by: invitedBy }).delete()
  }
}

const toInvitation = (row: Row): Invitation => ({
  id: row.id,
  role: row.role,
  accountId: row.account_id,
  invitedBy: row.invited_by,
  expiresAt: row.expires_at,
})
