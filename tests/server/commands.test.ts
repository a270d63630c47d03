import { describe, expect, it } from 'vitest'
import { readPolicy, requireAllowed } from '../../server/services/commands'
import { readEnvironment, strangeVariables } from '../../server/utils/environment'

const SECRET = 'a secret of sixteen'

describe('commands that run on this machine', () => {
  it.each([
    ['none', ['/srv/start.sh'], false],
    ['any', ['/srv/start.sh', '--fast'], true],
    ['/srv/start.sh,/usr/bin/java', ['/srv/start.sh', '--fast'], true],
    ['/srv/start.sh, /usr/bin/java', ['/usr/bin/java'], true],
    ['/srv/start.sh', ['/srv/other.sh'], false],
    ['/srv/start.sh', ['start.sh'], false],
    ['/srv/start.sh', [], false],
  ])('%s and %j: %s', (policy, command, allowed) => {
    const work = (): void => requireAllowed({ commands: readPolicy(policy) }, command)
    if (allowed) expect(work).not.toThrow()
    else
      expect(work).toThrow(
        expect.objectContaining({ code: 'not-allowed', status: 403, message: expect.stringContaining('PASTICCIO_COMMANDS') as unknown }),
      )
  })

  it('are allowed by the environment, and by nobody else', () => {
    expect(readEnvironment({ PASTICCIO_SECRET: SECRET }).PASTICCIO_COMMANDS).toEqual({ kind: 'none' })
    expect(readEnvironment({ PASTICCIO_SECRET: SECRET, PASTICCIO_COMMANDS: 'any' }).PASTICCIO_COMMANDS).toEqual({ kind: 'any' })
    expect(() => readEnvironment({ PASTICCIO_SECRET: SECRET, PASTICCIO_COMMANDS: 'start.sh' })).toThrow('takes any, none, or full paths')
  })

  it('a variable that is misspelt is seen', () => {
    expect(strangeVariables({ PASTICCIO_SITE: 'x', PASTICCIO_SITES: 'y', PATH: '/bin', PASTICCIO_DEMO: 'z' })).toEqual(['PASTICCIO_SITE'])
  })
})
