import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { hashOf } from '../db/repositories/blobs'
import type { Account, Role } from '../db/repositories/accounts'
import type { Context } from './context'
import { ServiceError } from './errors'
import { note } from './note'
import { hashPassword, isPassword } from './passwords'
import { countAttempt, forgive } from './sign-in-pace'

export const SESSION_DAYS = 30
const ORDER: Readonly<Record<Role, number>> = { viewer: 0, editor: 1, owner: 2 }

/** A session that was opened: what its cookie holds, and whose it is. */
export interface Session {
  readonly token: string
  readonly account: Account
}

/** The demo's sign-in link carries this: made from the installation's secret, one for each account. */
export function signInKey(secret: string, account: string): string {
  return `${account}.${createHmac('sha256', secret).update(`sign-in ${account}`).digest('base64url')}`
}

/**
 * Opens a session for the key of a link of the demo; an installation of one's own has no such links.
 * @throws ServiceError for a wrong key, or after too many
 */
export async function signInByLink(context: Context, key: string, address: string): Promise<Session> {
  const attempt = { account: null, address }
  await countAttempt(context, attempt)
  const name = key.slice(0, key.lastIndexOf('.'))
  const wanted = Buffer.from(signInKey(context.signInLinks.secret, name))
  const given = Buffer.from(key)
  const right = context.signInLinks.accounts.includes(name) && wanted.length === given.length && timingSafeEqual(wanted, given)
  const account = right ? await context.accounts.get(name) : null
  if (!account)
    throw new ServiceError(
      'not-signed-in',
      401,
      'This sign-in link is not valid. Use the link that “npm start” printed, or sign in by name.',
    )
  await forgive(context, attempt)
  return openSession(context, account, 'by the demo’s link')
}

/** Opens a session for a name and its password. @throws ServiceError that does not tell which of the two is wrong */
export async function signInByPassword(context: Context, name: string, password: string, address: string): Promise<Session> {
  const attempt = { account: name, address }
  await countAttempt(context, attempt)
  const account = (await isPassword(password, await context.accounts.passwordOf(name))) ? await context.accounts.get(name) : null
  if (!account) throw new ServiceError('not-signed-in', 401, 'Name and password do not fit. Check both, and the capitals.')
  await forgive(context, attempt)
  return openSession(context, account, 'by password')
}

export async function openSession(context: Context, account: Account, how: string): Promise<Session> {
  const token = randomBytes(32).toString('base64url')
  const now = context.now()
  const expires = new Date(now.getTime() + SESSION_DAYS * 86_400_000)
  await context.accounts.addSession(account.id, hashOf(token), now.toISOString(), expires.toISOString())
  await note(context, account.name, 'sign-in', how)
  return { token, account }
}

export async function accountOf(context: Context, token: string | undefined): Promise<Account | null> {
  return token ? context.accounts.bySession(hashOf(token), context.now().toISOString()) : null
}

/** Ends one session, and what it holds open. */
export async function signOut(context: Context, token: string): Promise<void> {
  await context.accounts.endSession(hashOf(token))
  context.streams.endSession(hashOf(token))
}

/** Ends all sessions of an account, on all its devices. */
export async function signOutEverywhere(context: Context, account: Account, by: string): Promise<void> {
  await context.accounts.endSessions(account.id)
  context.streams.endAccount(account.id)
  await note(context, by, 'sign-out-everywhere', account.name)
}

/** Gives an account another password for its present one, and ends its other sessions. */
export async function changePassword(
  context: Context,
  account: Account,
  change: { readonly current: string; readonly password: string; readonly token: string; readonly address: string },
): Promise<void> {
  const attempt = { account: account.name, address: change.address }
  const kept = await context.accounts.passwordOf(account.name)
  if (kept !== null) {
    await countAttempt(context, attempt)
    if (!(await isPassword(change.current, kept))) throw new ServiceError('bad-input', 400, 'The present password is not right.')
    await forgive(context, attempt)
  }
  await context.accounts.setPassword(account.id, await hashPassword(change.password))
  await context.accounts.endSessions(account.id, hashOf(change.token))
  context.streams.endAccount(account.id, hashOf(change.token))
  await note(context, account.name, 'password', account.name)
}

/** @throws ServiceError when nobody is signed in or the role does not allow it */
export function requireRole(account: Account | null, role: Role): Account {
  if (!account) throw new ServiceError('not-signed-in', 401, 'You are not signed in.')
  if (ORDER[account.role] < ORDER[role])
    throw new ServiceError(
      'not-allowed',
      403,
      `Your role is ${account.role}, and this takes ${role === 'owner' ? 'the owner' : 'an editor'}.`,
    )
  return account
}
