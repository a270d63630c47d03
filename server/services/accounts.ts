import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { hashOf } from '../db/repositories/blobs'
import type { Account, Role } from '../db/repositories/accounts'
import type { Context } from './context'
import { ServiceError } from './errors'

const SESSION_DAYS = 30
const ORDER: Readonly<Record<Role, number>> = { viewer: 0, editor: 1, owner: 2 }

/** The part of a sign-in link that proves it: made from the installation's secret, one for each account. */
export function signInKey(secret: string, account: string): string {
  return `${account}.${createHmac('sha256', secret).update(`sign-in ${account}`).digest('base64url')}`
}

/** Opens a session for the key of a sign-in link. @returns the session's token @throws ServiceError for a wrong key */
export async function signIn(context: Context, secret: string, key: string): Promise<string> {
  const name = key.slice(0, key.indexOf('.'))
  const wanted = Buffer.from(signInKey(secret, name))
  const given = Buffer.from(key)
  const account = await context.accounts.get(name)
  if (!account || wanted.length !== given.length || !timingSafeEqual(wanted, given))
    throw new ServiceError('not-signed-in', 401, 'This sign-in link is not valid. Start Pasticcio again, and use the link it prints.')
  const token = randomBytes(32).toString('base64url')
  const expires = new Date(context.now().getTime() + SESSION_DAYS * 86_400_000)
  await context.accounts.addSession(account.id, hashOf(token), expires.toISOString())
  await context.record.add({ at: context.now().toISOString(), account: name, serverId: null, action: 'sign-in', detail: '' })
  return token
}

export async function accountOf(context: Context, token: string | undefined): Promise<Account | null> {
  return token ? context.accounts.bySession(hashOf(token), context.now().toISOString()) : null
}

/** @throws ServiceError when nobody is signed in or the role does not allow it */
export function requireRole(account: Account | null, role: Role): Account {
  if (!account) throw new ServiceError('not-signed-in', 401, 'You are not signed in. Use the link that Pasticcio printed when it started.')
  if (ORDER[account.role] < ORDER[role])
    throw new ServiceError(
      'not-allowed',
      403,
      `Your role is ${account.role}, and this takes ${role === 'owner' ? 'the owner' : 'an editor'}.`,
    )
  return account
}
