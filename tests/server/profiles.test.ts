import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { offersIn } from '../../packages/standin/src/site/offers'
import type { Server } from '../../server/services/context'
import { stopServer } from '../../server/services/control'
import { install, planPlacing } from '../../server/services/placing'
import { asStartedNow } from '../../server/services/servers'
import { SiteOffers } from '../../server/services/sites'
import { survey } from '../../server/services/survey'
import { OtherServer, standin } from './other-server'
import { makeWorld, sitesAt, type World } from './world'

let world: World
let server: Server
let home = ''
const other = new OtherServer()
const { add, put, asked, change } = other
const open = async (command: readonly string[]): Promise<void> => {
  server = await other.open(world, 'ferry-trials', 'bundle', command)
}
beforeEach(async () => void (world = await makeWorld()))
afterEach(() => world.close())

describe('a server whose folder only its start script names', () => {
  const start = (profile: string): void => {
    mkdirSync(join(home, profile), { recursive: true })
    writeFileSync(join(home, profile, 'server.json'), `{ "game": "7.1", "name": "${profile}", "players": ["isolde"] }`)
    writeFileSync(join(home, profile, 'tides.ini'), '[harbour]\nhours = 06:00\n')
    writeFileSync(join(home, 'start.sh'), `#!/bin/sh\nexec ${standin().join(' ')} --profile=${profile}\n`)
  }
  beforeEach(async () => {
    home = join(world.folder, 'servers/ferry-trials')
    rmSync(join(home, 'profile'), { recursive: true })
    start('season')
  })

  it('is found, run and edited there, and followed when the script names another', async () => {
    await world.context.families.ship(readFileSync('families/bundle.yml', 'utf8'))
    expect(await survey(world.context, home)).toMatchObject({ family: 'bundle', game: '7.1' })
    await open(['sh', './start.sh'])
    const [id] = await add('outwash-3.1.zip')
    await put({ packages: [id!], switchOn: true })
    expect(server.console.since(0).map(({ text }) => text)).toContainEqual(expect.stringContaining('for season'))
    await change('season/tides.ini', '03:40, 15:40', '04:10')
    expect(await asked('as isolde outwash')).toContain('Comes at 04:10.')
    const ended: string[] = []
    const watching = { accountId: 1, session: 's', serverId: server.row.id, close: () => ended.push('of this server') }
    for (const stream of [watching, { ...watching, serverId: 99, close: () => ended.push('of another') }]) world.context.streams.add(stream)
    // while it runs it is the folder it was started with
    start('winter')
    expect(await asStartedNow(world.context, server)).toBe(server)
    await stopServer(server)
    server = other.server = await asStartedNow(world.context, server)
    expect(server.family['game-version'].file).toBe('winter/server.json')
    // whoever watched it asks again, and hears the one that is open by now
    expect(ended).toEqual(['of this server'])
    expect(await server.inventory.gameVersion()).toBe('7.1')
    // neither a remark nor a folder that is not there leads anywhere
    writeFileSync(join(home, 'start.sh'), '#!/bin/sh\n# --profile=season\nexec serve --profile=nowhere\n')
    mkdirSync(join(home, 'profile'))
    writeFileSync(join(home, 'profile/server.json'), '{ "game": "7.0" }')
    server = other.server = await asStartedNow(world.context, server)
    expect(await server.inventory.gameVersion()).toBe('7.0')
  })
})

describe('bundles that share', () => {
  beforeEach(() => open(standin()))

  it('settings in a file that is shared with others are edited there, and a mistake is told at its line', async () => {
    const [id] = await add('outwash-3.1.zip')
    await put({ packages: [id!], switchOn: true })
    expect((await server.inventory.require('Outwash')).files.map(({ path }) => path)).toContain('profile/tides.ini')
    expect(await change('profile/tides.ini', '03:40, 15:40', '04:10')).toMatchObject({ status: 'verified', title: '1 change in Outwash' })
    expect(await asked('as isolde outwash')).toContain('Comes at 04:10.')
    const row = await change('profile/tides.ini', 'hours = 04:10', 'hour = 04:10')
    expect(row.outcome.complaints).toEqual([
      { plugin: 'Outwash', path: 'profile/tides.ini', line: expect.any(Number) as number, reason: 'outwash.hours is missing' },
    ])
    // no file that does not read is written, whoever it belongs to
    await expect(change('profile/tides.ini', '[outwash]', '[outwash')).rejects.toMatchObject({ code: 'has-errors' })
  })

  it('what is at a plugin site is looked at before it is installed', async () => {
    const site = createServer((_request, response) => response.end(JSON.stringify(offersIn(join(world.folder, 'site')))))
    await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve))
    const context = {
      ...world.context,
      offers: new SiteOffers(sitesAt(`http://127.0.0.1:${(site.address() as AddressInfo).port}`), world.context.log),
    }
    try {
      await context.offers.list(20_000)
      const [id] = await add('regatta-1.5.zip')
      const wanted = { packages: [id!], switchOn: true }
      const { sha, steps } = await planPlacing(context, server, wanted)
      expect(steps.map(({ name, version, from, parts }) => [name, version, from, parts.length > 0])).toEqual([
        ['Ferrybook', '1.1.0', 'site', false],
        ['Regatta', '1.5.0', 'pantry', true],
      ])
      await expect(install(context, server, { ...wanted, planSha: sha }, 'maren')).rejects.toMatchObject({ code: 'not-fetched' })
      await add('ferrybook-1.1.zip')
      expect((await put(wanted)).status).toBe('verified')
    } finally {
      site.close()
    }
  })
})
