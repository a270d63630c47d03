import { describe, expect, it } from 'vitest'
import { Drivers } from '../../server/drivers'
import { readEnvironment } from '../../server/utils/environment'

const SECRET = 'a secret of sixteen'
const SERVER = { slug: 'lantern-row', familyId: 'archive', folder: '/srv/game', command: ['./start.sh'] }

describe('the environment', () => {
  it('has defaults for all but the secret', () => {
    expect(readEnvironment({ PASTICCIO_SECRET: SECRET })).toEqual({
      PASTICCIO_SECRET: SECRET,
      PASTICCIO_DATA: '.data',
      PASTICCIO_SITES: [],
      PASTICCIO_ACCOUNTS: [],
      PASTICCIO_OWNER_LINK: false,
      PASTICCIO_BEHIND_PROXY: false,
      PASTICCIO_ORIGIN: undefined,
      PASTICCIO_HOSTS: [],
      PASTICCIO_COMMANDS: { kind: 'none' },
      PASTICCIO_KEEP_CHANGES: 500,
      PASTICCIO_SAMPLE_SECONDS: 60,
      PASTICCIO_SERVER: undefined,
      LOG_LEVEL: 'warn',
    })
  })

  it('is read into what it means', () => {
    const environment = readEnvironment({
      PASTICCIO_SECRET: SECRET,
      PASTICCIO_DATA: '/var/lib/pasticcio',
      PASTICCIO_SITES: 'http://127.0.0.1:4000,http://localhost:5000,https://plugins.example',
      PASTICCIO_ACCOUNTS: 'maren:owner,tobiah:editor',
      PASTICCIO_SERVER: JSON.stringify(SERVER),
      PASTICCIO_BEHIND_PROXY: 'true',
      PASTICCIO_ORIGIN: 'https://panel.example',
      LOG_LEVEL: 'info',
      PATH: '/usr/bin',
    })
    expect(environment.PASTICCIO_SITES).toEqual(['http://127.0.0.1:4000', 'http://localhost:5000', 'https://plugins.example'])
    expect(environment.PASTICCIO_ACCOUNTS.map((account) => account.role)).toEqual(['owner', 'editor'])
    expect(environment.PASTICCIO_SERVER).toEqual({ ...SERVER, start: false })
    expect([environment.PASTICCIO_BEHIND_PROXY, environment.PASTICCIO_ORIGIN]).toEqual([true, 'https://panel.example'])
  })

  it.each([
    [{}, /PASTICCIO_SECRET is not set/],
    [{ PASTICCIO_SECRET: 'short' }, /fewer than 16/],
    [{ PASTICCIO_SECRET: SECRET, PASTICCIO_SITES: 'plugins.example' }, /“plugins.example” is none/],
    [{ PASTICCIO_SECRET: SECRET, PASTICCIO_SITES: 'https://plugins.example/list' }, /is none/],
    [{ PASTICCIO_SECRET: SECRET, PASTICCIO_ACCOUNTS: 'maren' }, /needs a role/],
    [{ PASTICCIO_SECRET: SECRET, PASTICCIO_ACCOUNTS: 'maren:queen' }, /role/],
    [{ PASTICCIO_SECRET: SECRET, PASTICCIO_SERVER: '{' }, /PASTICCIO_SERVER/],
    [{ PASTICCIO_SECRET: SECRET, PASTICCIO_SERVER: '{"slug":"No Slug"}' }, /slug takes small letters|required/],
    [{ PASTICCIO_SECRET: SECRET, PASTICCIO_BEHIND_PROXY: 'perhaps' }, /PASTICCIO_BEHIND_PROXY takes true or false/],
    [{ PASTICCIO_SECRET: SECRET, PASTICCIO_ORIGIN: 'panel.example' }, /PASTICCIO_ORIGIN takes an origin/],
    [{ PASTICCIO_SECRET: SECRET, LOG_LEVEL: 'loud' }, /LOG_LEVEL/],
  ])('%j is refused, naming what is wrong', (environment, words) => {
    expect(() => readEnvironment(environment as NodeJS.ProcessEnv)).toThrow(words)
  })
})

describe('kinds of things', () => {
  it('are found by their type, once they are there', () => {
    const drivers = new Drivers('boat', [{ type: 'punt' }])
    const forget = drivers.register({ type: 'ferry' })
    expect(drivers.get('ferry')).toEqual({ type: 'ferry' })
    expect(() => drivers.register({ type: 'punt' })).toThrow('a kind of boat “punt” already')
    forget()
    expect(() => drivers.get('ferry')).toThrow('Known are punt')
  })
})
