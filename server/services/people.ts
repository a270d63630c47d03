import { randomBytes } from 'node:crypto'
import { string } from 'yup'
import type { Account, Person, Role } from '../db/repositories/accounts'
import { hashOf } from '../db/repositories/blobs'
import type { Invitation } from '../db/repositories/invitations'
import { openSession, signOutEverywhere, type Session } from './accounts'
import type { Context } from './context'
import { ServiceError, notFound } from './errors'
import { note } from './note'
import { hashPassword } from './passwords'
import { countAttempt, forgive } from './sign-in-pace'

const INVITATION_DAYS = 7
const FIRST_START_HOURS = 24

/** What a name of an account looks like. */
const nameShape = string()
  .trim()
  .matches(
    /^[\p{L}\p{N}][\p{L}\p{N}._ -]{0,39}$/u,
    'a name begins with a letter or digit and has at most 40 letters, digits, blanks, dots or dashes',
  )
  .required('a name is missing')

/** What an invitation offers, for the page it leads to. */
export interface Offer {
  readonly role: Role
  readonly invitedBy: string
  readonly expiresAt: string
  /** The account it gives a new password; null where it makes one. */
  readonly name: string | null
}

/** Makes a link's key for somebody new, which works once. */
export async function invite(context: Context, role: Role, by: Account): Promise<string> {
  await note(context, by.name, 'invite', role)
  return addInvitation(context, { role, accountId: null, invitedBy: by.name, hours: INVITATION_DAYS * 24 })
}

/** Makes a link's key that gives somebody a new password, for those who forgot theirs. */
export async function inviteAgain(context: Context, name: string, by: Account): Promise<string> {
  const account = await requireAccount(context, name)
  await note(context, by.name, 'new-password-link', account.name)
  return addInvitation(context, { role: account.role, accountId: account.id, invitedBy: by.name, hours: INVITATION_DAYS * 24 })
}

/** Stands for the installation itself where it invites: no account has this name. */
const INSTALLATION = ''

/** Makes the key of the link that creates the owner, or helps one back in; those made before by the installation are void. */
export async function inviteOwner(context: Context): Promise<string> {
  await context.invitations.removeBy(INSTALLATION)
  return addInvitation(context, { role: 'owner', accountId: null, invitedBy: INSTALLATION, hours: FIRST_START_HOURS })
}

/** Whether somebody can sign in at all. */
export async function isSetUp(context: Context): Promise<boolean> {
  if (context.signInLinks.accounts.length > 0) return true
  return (await context.accounts.people(context.now().toISOString())).some(({ hasPassword }) => hasPassword)
}

async function addInvitation(
  context: Context,
  { role, accountId, invitedBy, hours }: { role: Role; accountId: number | null; invitedBy: string; hours: number },
): Promise<string> {
  const key = randomBytes(32).toString('base64url')
  const now = context.now()
  const expiresAt = new Date(now.getTime() + hours * 3_600_000).toISOString()
  await context.invitations.add(hashOf(key), { role, accountId, invitedBy, expiresAt }, now.toISOString())
  return key
}

/** What an invitation offers. @throws ServiceError `invitation-gone` */
export async function offerOf(context: Context, key: string, address: string): Promise<Offer> {
  const { role, invitedBy, expiresAt, accountId } = await requireInvitation(context, key, address)
  const account = accountId === null ? null : await context.accounts.byId(accountId)
  return { role, invitedBy, expiresAt, name: account?.name ?? null }
}

/**
 * Takes an invitation: makes the account or gives it its new password, and opens a session. It works once. Where it is for
 * an account that is there, the name is not looked at. @throws ServiceError, ValidationError for a name that is none
 */
export async function acceptInvitation(
  context: Context,
  { key, name: given, password, address }: { key: string; name: string; password: string; address: string },
): Promise<Session> {
  const invitation = await requireInvitation(context, key, address)
  const name = invitation.accountId === null ? await nameShape.validate(given) : given
  const hashed = await hashPassword(password)
  const taken = invitation.accountId === null && (await context.accounts.get(name))
  if (taken) throw nameTaken(name)
  if (!(await context.invitations.take(invitation.id))) throw gone()
  const account = await accountBy(context, invitation, name, hashed)
  // somebody else was quicker with the name, and another one can be chosen
  if (!account) {
    await context.invitations.add(hashOf(key), invitation, context.now().toISOString())
    throw nameTaken(name)
  }
  await note(context, account.name, 'join', `${account.role}, invited by ${invitation.invitedBy}`)
  return openSession(context, account, 'by invitation')
}

/** The account that an invitation makes, or gives its new password; null where the name is taken. */
async function accountBy(context: Context, { accountId, role }: Invitation, name: string, hashed: string): Promise<Account | null> {
  if (accountId === null) return context.accounts.add(name, role, hashed)
  const account = await context.accounts.byId(accountId)
  if (!account) throw gone()
  await context.accounts.setPassword(account.id, hashed)
  await context.accounts.endSessions(account.id)
  context.streams.endAccount(account.id)
  return account
}

async function requireInvitation(context: Context, key: string, address: string): Promise<Invitation> {
  const attempt = { account: null, address }
  await countAttempt(context, attempt)
  const invitation = await context.invitations.find(hashOf(key), context.now().toISOString())
  if (!invitation) throw gone()
  await forgive(context, attempt)
  return invitation
}

/** Everybody with an account, and the invitations that were not taken yet. */
export async function listPeople(context: Context): Promise<{ people: Person[]; invitations: (Invitation & { name: string | null })[] }> {
  const now = context.now().toISOString()
  const people = await context.accounts.people(now)
  const invitations = (await context.invitations.open(now)).map((invitation) => ({
    ...invitation,
    name: people.find(({ id }) => id === invitation.accountId)?.name ?? null,
  }))
  return { people, invitations }
}

export async function withdrawInvitation(context: Context, id: number, by: Account): Promise<void> {
  if (!(await context.invitations.take(id))) throw notFound('such invitation; it was taken or has expired')
  await note(context, by.name, 'withdraw-invitation', String(id))
}

/** @throws ServiceError `last-owner` */
export async function setRole(context: Context, name: string, role: Role, by: Account): Promise<void> {
  const account = await requireAccount(context, name)
  if (!(await context.accounts.setRole(account.id, role))) throw lastOwner(account)
  // links that somebody handed out as an owner are worth no more than the role
  if (role !== 'owner') await context.invitations.removeBy(account.name)
  await note(context, by.name, 'role', `${account.name}: ${role}`)
}

/** Takes an account away, and ends its sessions. What it did stays in the record. @throws ServiceError `last-owner` */
export async function removePerson(context: Context, name: string, by: Account): Promise<void> {
  const account = await requireAccount(context, name)
  if (!(await context.accounts.remove(account.id))) throw lastOwner(account)
  context.streams.endAccount(account.id)
  await context.invitations.removeBy(account.name)
  await note(context, by.name, 'remove-account', account.name)
}

export async function signOutPerson(context: Context, name: string, by: Account): Promise<void> {
  await signOutEverywhere(context, await requireAccount(context, name), by.name)
}

async function requireAccount(context: Context, name: string): Promise<Account> {
  const account = await context.accounts.get(name)
  if (!account) throw notFound(`account ${name}`)
  return account
}

const lastOwner = ({ name }: Account): ServiceError =>
  new ServiceError('last-owner', 409, `${name} is the only owner who can sign in. Make somebody else an owner first.`)

const nameTaken = (name: string): ServiceError =>
  new ServiceError('name-taken', 409, `There is an account “${name}” already. Choose another name.`)

const gone = (): ServiceError =>
  new ServiceError('invitation-gone', 410, 'This invitation was used, withdrawn, or has expired. Ask an owner for a new one.')
