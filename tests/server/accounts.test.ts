import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { accountOf, requireRole, signIn, signInKey } from '../../server/services/accounts'
import { makeWorld, type World } from './world'

const SECRET = 'a secret of sixteen'

describe('accounts', () => {
  let world: World
  beforeAll(async () => {
    world = await makeWorld()
  })
  afterAll(() => world.close())

  it('a link signs in the one it is for', async () => {
    const token = await signIn(world.context, SECRET, signInKey(SECRET, 'tobiah'))
    expect(await accountOf(world.context, token)).toMatchObject({ name: 'tobiah', role: 'editor' })
    expect(await accountOf(world.context, token + 'x')).toBeNull()
    expect(await accountOf(world.context, undefined)).toBeNull()
  })

  it.each(['', 'maren', 'maren.', 'nobody.abc', signInKey('another secret, also long', 'maren'), signInKey(SECRET, 'maren') + '='])(
    'refuses the key %j',
    async (key) => {
      await expect(signIn(world.context, SECRET, key)).rejects.toMatchObject({ status: 401 })
    },
  )

  it('roles include those below them', async () => {
    const isolde = (await world.context.accounts.get('isolde'))!
    const maren = (await world.context.accounts.get('maren'))!
    expect(requireRole(isolde, 'viewer').name).toBe('isolde')
    expect(() => requireRole(isolde, 'editor')).toThrow('takes an editor')
    expect(() => requireRole(null, 'viewer')).toThrow('not signed in')
    expect(requireRole(maren, 'editor').name).toBe('maren')
  })
})
