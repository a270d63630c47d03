import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import {
  accountOf,
  changePassword,
  requireRole,
  signInByLink,
  signInByPassword,
  signInKey,
  signOut,
  signOutEverywhere,
} from '../../server/services/accounts'
import { hashPassword, isPassword } from '../../server/services/passwords'
import {
  acceptInvitation,
  invite,
  inviteAgain,
  inviteOwner,
  isSetUp,
  listPeople,
  offerOf,
  removePerson,
  setRole,
  withdrawInvitation,
} from '../../server/services/people'
import { makeWorld, type World } from './world'

const SECRET = 'a secret of sixteen'
const HERE = '127.0.0.1'
const PASSWORD = 'reed and clay, at high tide'

let world: World
let clock: number
beforeEach(async () => {
  clock = Date.parse('2026-11-23T12:00:00Z')
  world = await makeWorld({ now: () => new Date(clock) })
})
afterEach(() => world.close())

const maren = async () => (await world.context.accounts.get('maren'))!
const join = (key: string, name: string, password = PASSWORD) => acceptInvitation(world.context, { key, name, password, address: HERE })
const wenna = async () => (await join(await invite(world.context, 'editor', await maren()), 'wenna')).account

describe('links of the demo', () => {
  it('sign in the one they are for', async () => {
    const { token } = await signInByLink(world.context, signInKey(SECRET, 'tobiah'), HERE)
    expect(await accountOf(world.context, token)).toEqual({ id: expect.any(Number) as number, name: 'tobiah', role: 'editor' })
    expect(await accountOf(world.context, token + 'x')).toBeNull()
    expect(await accountOf(world.context, undefined)).toBeNull()
  })

  it.each(['', 'maren', 'maren.', 'nobody.abc', signInKey('another secret, also long', 'maren'), signInKey(SECRET, 'maren') + '='])(
    'refuse the key %j',
    async (key) => {
      await expect(signInByLink(world.context, key, HERE)).rejects.toMatchObject({ status: 401 })
    },
  )

  it('are not for accounts that have none, whatever is derived from the secret', async () => {
    await wenna()
    await expect(signInByLink(world.context, signInKey(SECRET, 'wenna'), HERE)).rejects.toMatchObject({ status: 401 })
  })
})

describe('passwords', () => {
  it('are kept as hashes with their costs, and found again', async () => {
    const kept = await hashPassword(PASSWORD)
    expect(kept).toMatch(/^scrypt:15:8:3:[\w-]{22}:[\w-]{43}$/)
    expect(await isPassword(PASSWORD, kept)).toBe(true)
    expect(await isPassword(PASSWORD + ' ', kept)).toBe(false)
    expect(await isPassword('', null)).toBe(false)
    expect(await hashPassword(PASSWORD)).not.toBe(kept)
  })

  it('fit however an accented letter is typed', async () => {
    expect(await isPassword('caf\u00e9 by the delta', await hashPassword('cafe\u0301 by the delta'))).toBe(true)
  })

  it('sign in by a name in any case, and tell nothing when they do not', async () => {
    await wenna()
    expect((await signInByPassword(world.context, 'WENNA', PASSWORD, HERE)).account.name).toBe('wenna')
    const wrong = await signInByPassword(world.context, 'wenna', 'another', HERE).catch((error: Error) => error)
    const nobody = await signInByPassword(world.context, 'nobody', 'another', HERE).catch((error: Error) => error)
    expect(wrong).toMatchObject({ status: 401 })
    expect((wrong as Error).message).toBe((nobody as Error).message)
    // an account of the demo has none
    await expect(signInByPassword(world.context, 'maren', '', HERE)).rejects.toMatchObject({ status: 401 })
  })

  it('are changed for the present one, which ends the other sessions', async () => {
    const account = await wenna()
    const { token } = await signInByPassword(world.context, 'wenna', PASSWORD, HERE)
    const other = await signInByPassword(world.context, 'wenna', PASSWORD, HERE)
    const change = { current: 'wrong', password: 'a kiln of saltfish', token, address: HERE }
    await expect(changePassword(world.context, account, change)).rejects.toMatchObject({ status: 400 })
    await changePassword(world.context, account, { ...change, current: PASSWORD })
    expect(await accountOf(world.context, token)).not.toBeNull()
    expect(await accountOf(world.context, other.token)).toBeNull()
    await expect(signInByPassword(world.context, 'wenna', PASSWORD, HERE)).rejects.toMatchObject({ status: 401 })
    expect((await signInByPassword(world.context, 'wenna', 'a kiln of saltfish', HERE)).account.name).toBe('wenna')
  })
})

describe('sessions', () => {
  it('end one by one or all at once, with what they hold open', async () => {
    const account = await wenna()
    const first = await signInByPassword(world.context, 'wenna', PASSWORD, HERE)
    const second = await signInByPassword(world.context, 'wenna', PASSWORD, HERE)
    const closed: string[] = []
    for (const session of ['a', 'b'])
      world.context.streams.add({ accountId: account.id, session, serverId: 1, close: () => closed.push(session) })
    world.context.streams.add({ accountId: account.id + 1, session: 'c', serverId: 2, close: () => closed.push('c') })
    await signOut(world.context, first.token)
    expect(await accountOf(world.context, first.token)).toBeNull()
    expect(await accountOf(world.context, second.token)).not.toBeNull()
    expect(closed).toEqual([])
    await signOutEverywhere(world.context, account, 'wenna')
    expect(await accountOf(world.context, second.token)).toBeNull()
    expect(closed).toEqual(['a', 'b'])
    world.context.streams.endAll()
    expect(closed).toEqual(['a', 'b', 'c'])
  })

  it('expire', async () => {
    const { token } = await signInByLink(world.context, signInKey(SECRET, 'maren'), HERE)
    clock += 31 * 86_400_000
    expect(await accountOf(world.context, token)).toBeNull()
  })

  it('say what the role is now', async () => {
    const account = await wenna()
    const { token } = await signInByPassword(world.context, 'wenna', PASSWORD, HERE)
    await setRole(world.context, 'wenna', 'viewer', await maren())
    expect(await accountOf(world.context, token)).toEqual({ ...account, role: 'viewer' })
  })

  it('roles include those below them', async () => {
    const isolde = (await world.context.accounts.get('isolde'))!
    expect(requireRole(isolde, 'viewer').name).toBe('isolde')
    expect(() => requireRole(isolde, 'editor')).toThrow('takes an editor')
    expect(() => requireRole(null, 'viewer')).toThrow('not signed in')
    expect(requireRole(await maren(), 'editor').name).toBe('maren')
  })
})

describe('invitations', () => {
  it('make an account of their role, once', async () => {
    const key = await invite(world.context, 'editor', await maren())
    expect(await offerOf(world.context, key, HERE)).toMatchObject({ role: 'editor', invitedBy: 'maren', name: null })
    const { account, token } = await join(key, 'wenna')
    expect(account).toMatchObject({ name: 'wenna', role: 'editor' })
    expect(await accountOf(world.context, token)).toEqual(account)
    await expect(join(key, 'corley')).rejects.toMatchObject({ code: 'invitation-gone', status: 410 })
  })

  it('let only one of two in who come at once', async () => {
    const key = await invite(world.context, 'viewer', await maren())
    const both = await Promise.allSettled([join(key, 'corley'), join(key, 'emmet')])
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
    expect((await listPeople(world.context)).people).toHaveLength(4)
  })

  it('outlive a name that is taken, also in other letters', async () => {
    const key = await invite(world.context, 'viewer', await maren())
    await expect(join(key, 'Tobiah')).rejects.toMatchObject({ code: 'name-taken' })
    expect((await join(key, 'hesper')).account.role).toBe('viewer')
  })

  it('expire, can be withdrawn, and go with the owner who made them', async () => {
    const owner = await maren()
    const late = await invite(world.context, 'viewer', owner)
    clock += 7 * 86_400_000 + 1
    await expect(join(late, 'jory')).rejects.toMatchObject({ code: 'invitation-gone' })
    const key = await invite(world.context, 'viewer', owner)
    const [open] = (await listPeople(world.context)).invitations
    await withdrawInvitation(world.context, open!.id, owner)
    await expect(join(key, 'jory')).rejects.toMatchObject({ code: 'invitation-gone' })
    await expect(withdrawInvitation(world.context, open!.id, owner)).rejects.toMatchObject({ status: 404 })
    await join(await invite(world.context, 'owner', owner), 'kerra')
    const kerra = (await world.context.accounts.get('kerra'))!
    const hers = await invite(world.context, 'owner', kerra)
    await join(await invite(world.context, 'owner', owner), 'lowen')
    await removePerson(world.context, 'kerra', (await world.context.accounts.get('lowen'))!)
    await expect(join(hers, 'merryn')).rejects.toMatchObject({ code: 'invitation-gone' })
  })

  it('give a new password to those who forgot theirs, and end their sessions', async () => {
    await wenna()
    const { token } = await signInByPassword(world.context, 'wenna', PASSWORD, HERE)
    const key = await inviteAgain(world.context, 'wenna', await maren())
    expect(await offerOf(world.context, key, HERE)).toMatchObject({ name: 'wenna', role: 'editor' })
    await join(key, 'ignored', 'oak plank and rope')
    expect(await accountOf(world.context, token)).toBeNull()
    expect((await signInByPassword(world.context, 'wenna', 'oak plank and rope', HERE)).account.name).toBe('wenna')
  })

  it('of the installation itself are void when it makes another', async () => {
    const first = await inviteOwner(world.context)
    const second = await inviteOwner(world.context)
    await expect(join(first, 'nessa')).rejects.toMatchObject({ code: 'invitation-gone' })
    expect((await join(second, 'nessa')).account.role).toBe('owner')
  })

  it('are kept as hashes', async () => {
    const key = await invite(world.context, 'editor', await maren())
    expect(JSON.stringify(await world.context.db('invitations'))).not.toContain(key)
  })
})

describe('the migration that brought passwords', () => {
  it('takes accounts and sessions from before over, and back', async () => {
    const { db, accounts } = world.context
    const { up, down } = await import('../../server/db/migrations/2026-11-26-passwords')
    await wenna()
    await down(db)
    expect(Object.keys((await db('accounts').first()) as object).sort()).toEqual(['id', 'name', 'role'])
    await db('accounts').insert({ name: 'Kerra', role: 'viewer' })
    await up(db)
    expect(await accounts.get('KERRA')).toMatchObject({ name: 'Kerra', role: 'viewer' })
    // a password does not outlive going back, so a new one is needed
    expect(await accounts.passwordOf('wenna')).toBeNull()
    expect((await signInByLink(world.context, signInKey(SECRET, 'maren'), HERE)).account.name).toBe('maren')
    await expect(accounts.add('kerra', 'editor', 'x')).resolves.toBeNull()
  })
})

describe('people', () => {
  it('keep an owner who can sign in', async () => {
    const owner = await maren()
    await expect(removePerson(world.context, 'maren', owner)).rejects.toMatchObject({ code: 'last-owner' })
    await expect(setRole(world.context, 'maren', 'editor', owner)).rejects.toMatchObject({ code: 'last-owner' })
    await join(await invite(world.context, 'owner', owner), 'perran')
    await setRole(world.context, 'maren', 'editor', (await world.context.accounts.get('perran'))!)
    expect((await maren()).role).toBe('editor')
    await expect(removePerson(world.context, 'perran', await maren())).rejects.toMatchObject({ code: 'last-owner' })
  })

  it('keep one owner of two who let each other go at once', async () => {
    const owner = await maren()
    for (const name of ['perran', 'rosen']) await join(await invite(world.context, 'owner', owner), name)
    await setRole(world.context, 'maren', 'viewer', owner)
    const [perran, rosen] = await Promise.all(['perran', 'rosen'].map(async (name) => (await world.context.accounts.get(name))!))
    const both = await Promise.allSettled([
      setRole(world.context, 'perran', 'viewer', rosen!),
      removePerson(world.context, 'rosen', perran!),
    ])
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
    expect((await listPeople(world.context)).people.filter(({ role }) => role === 'owner')).toHaveLength(1)
  })

  it('are told without their passwords', async () => {
    await wenna()
    await signInByPassword(world.context, 'wenna', PASSWORD, HERE)
    const { people } = await listPeople(world.context)
    expect(people.map(({ name, role, hasPassword, sessions }) => [name, role, hasPassword, sessions])).toEqual([
      ['maren', 'owner', false, 0],
      ['tobiah', 'editor', false, 0],
      ['isolde', 'viewer', false, 0],
      ['wenna', 'editor', true, 2],
    ])
    expect(JSON.stringify(people)).not.toContain('scrypt')
  })

  it('are there or not', async () => {
    expect(await isSetUp(world.context)).toBe(true)
    const bare = { ...world.context, signInLinks: { secret: SECRET, accounts: [] } }
    expect(await isSetUp(bare)).toBe(false)
    await wenna()
    expect(await isSetUp(bare)).toBe(true)
  })
})

describe('the pace of signing in', () => {
  const guess = (name: string, address = HERE) =>
    signInByPassword(world.context, name, 'a wrong guess', address).then(
      () => 200,
      (error: { status: number }) => error.status,
    )

  it('slows down by account, from wherever the attempts come', async () => {
    await wenna()
    for (let i = 0; i < 5; i++) expect(await guess('wenna', `10.0.0.${i}`)).toBe(401)
    expect(await guess('wenna', '10.0.1.1')).toBe(429)
    expect(await guess('Wenna', '10.0.1.1')).toBe(429)
    // even the right password waits, and says how long
    await expect(signInByPassword(world.context, 'wenna', PASSWORD, HERE)).rejects.toMatchObject({ data: { retryAfter: 1 } })
    clock += 1000
    expect((await signInByPassword(world.context, 'wenna', PASSWORD, HERE)).account.name).toBe('wenna')
    expect(await guess('wenna')).toBe(401)
  })

  it('doubles the wait, to five minutes at most, and forgets after an hour', async () => {
    const waits: number[] = []
    for (let i = 0; i < 30 && waits.length < 12; i++) {
      await guess('corley', `10.1.0.${i}`)
      const error = await signInByPassword(world.context, 'corley', '', `10.2.0.${i}`).catch((e: { data?: { retryAfter?: number } }) => e)
      const wait = (error as { data?: { retryAfter?: number } }).data?.retryAfter
      if (wait) waits.push(wait)
      clock += (wait ?? 0) * 1000
    }
    expect(waits).toEqual([1, 2, 4, 8, 16, 32, 64, 128, 256, 300, 300, 300])
    clock += 3_600_001
    for (let i = 0; i < 5; i++) expect(await guess('corley', '10.3.0.1')).toBe(401)
  })

  it('slows down by address, whatever the name, and counts many at once', async () => {
    const all = await Promise.all(Array.from({ length: 40 }, (_, i) => guess(`name${i}`, '10.9.9.9')))
    expect(all.filter((status) => status === 401)).toHaveLength(20)
    expect(all.filter((status) => status === 429)).toHaveLength(20)
    await expect(join('no such key', 'x')).rejects.toMatchObject({ status: 410 })
    await expect(offerOf(world.context, 'no such key', '10.9.9.9')).rejects.toMatchObject({ status: 429 })
  }, 120_000)

  it('takes many right attempts', async () => {
    for (let i = 0; i < 50; i++) await signInByLink(world.context, signInKey(SECRET, 'maren'), HERE)
    expect(await guess('corley')).toBe(401)
  })
})
