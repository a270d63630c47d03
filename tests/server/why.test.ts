import { mkdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { unzipSync } from 'fflate'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { requireServer, type Server } from '../../server/services/context'
import { startServer, stopServer } from '../../server/services/control'
import { whyNot, type WhyAnswer } from '../../server/services/why'
import { draft, makeWorld, type World } from './world'

const PITS = 'extras/Clayworks/settings.yml'
const GROUPS = 'extras/Wardkeys/settings.yml'
const KILN = `${PITS}#/pits/kiln`

describe('why something does not work', () => {
  let world: World
  let server: Server
  const put = (path: string, text: string | Uint8Array): void => {
    mkdirSync(dirname(world.path(path)), { recursive: true })
    writeFileSync(world.path(path), text)
  }
  async function ask(more: { plugin?: string; feature?: string; group?: string } = {}): Promise<Record<WhyAnswer['id'], WhyAnswer>> {
    const { answers } = await whyNot(world.context, server, { plugin: 'Clayworks', feature: '', group: '', ...more })
    return Object.fromEntries(answers.map((one) => [one.id, one])) as Record<WhyAnswer['id'], WhyAnswer>
  }

  beforeEach(async () => {
    world = await makeWorld()
    server = await requireServer(world.context, 'lantern-row')
    for (const [pack, name] of [
      ['clayworks-1.2', 'Clayworks'],
      ['wardkeys-5.0', 'Wardkeys'],
    ] as const) {
      const bytes = world.pack(pack)
      put(`extras/${name}.pack`, bytes)
      for (const [file, content] of Object.entries(unzipSync(bytes)))
        if (file.startsWith('defaults/')) put(`extras/${name}/${file.slice('defaults/'.length)}`, content)
    }
    server.inventory.forget()
  })
  afterEach(() => world.close())

  it('always asks the same, in the same order, and says what it does not know', async () => {
    const { answers, features, groups } = await whyNot(world.context, server, { plugin: 'Clayworks', feature: '', group: '' })
    expect(answers.map(({ id, answer }) => `${id} ${answer}`)).toEqual([
      'loaded unknown',
      'on-server yes',
      'needs yes',
      'switched-on yes',
      'place yes',
      'permission no',
      'right look',
      'read unknown',
      'console unknown',
    ])
    expect(features.map(({ title }) => title)).toEqual(['low-bank', 'weir', 'kiln'])
    expect(groups).toEqual(['mudlark', 'ferryman', 'warden'])
    for (const { says } of answers) expect(says).not.toBe('')
  })

  it('says who holds what it asks for, also by inheritance', async () => {
    expect((await ask({ feature: `${PITS}#/pits/weir` })).permission).toMatchObject({ answer: 'yes', says: 'it asks for no permission' })
    expect((await ask({ feature: KILN })).permission).toMatchObject({
      answer: 'no',
      says: 'it asks for clayworks.dig.kiln, which no group holds',
      link: { path: PITS, line: 50 },
    })
    await draft(world, GROUPS, (text) => text.replace('      - hampers.skip-pause\n', '      - hampers.skip-pause\n      - clayworks.*\n'))
    expect((await ask({ feature: KILN })).permission.answer).toBe('yes')
    // a warden inherits from a ferryman
    expect((await ask({ feature: KILN, group: 'warden' })).permission).toMatchObject({ answer: 'yes', question: 'May warden?' })
    expect((await ask({ feature: KILN, group: 'mudlark' })).permission).toMatchObject({
      answer: 'no',
      says: expect.stringContaining('ferryman, warden do') as unknown,
    })
    await draft(world, GROUPS, (text) => text.replace('      - hampers.admin\n', '      - hampers.admin\n      - -clayworks.dig.kiln\n'))
    expect((await ask({ feature: KILN, group: 'warden' })).permission.answer).toBe('no')
  })

  it('looks at what is wrong, at places that are closed, and at what waits in the tray', async () => {
    await draft(world, PITS, (text) =>
      text.replace('  bonus: 0', '  bonus: two').replace('closed-in: [undertow]', 'closed-in: [undertow, upriver]'),
    )
    put('brackwater.yml', 'name: x\ngame-version: "7.2"\nplaces: [delta, upriver, saltpans, undertow]\n')
    const all = await ask()
    expect(all.right).toMatchObject({ answer: 'look', link: { path: PITS } })
    expect(all.read).toMatchObject({ answer: 'look', says: 'changes of it are in the tray, and not applied yet' })
    expect((await ask({ feature: `${PITS}#/pits/weir` })).place).toMatchObject({
      answer: 'no',
      says: expect.stringContaining('upriver') as unknown,
    })
    expect((await ask({ feature: KILN })).place.answer).toBe('yes')
    // what is wrong elsewhere in the file is not in the way of this pit
    expect((await ask({ feature: `${PITS}#/pits/low-bank` })).right.answer).toBe('yes')
  })

  it('sees that a switch is off, in the plugin as a whole or above what is asked about', async () => {
    put(PITS, `enabled: false\nshops:\n  enabled: true\n  list:\n    a: { price: 1 }\n    b: { price: 2 }\n`)
    server.inventory.forget()
    expect((await ask())['switched-on']).toMatchObject({ answer: 'no', says: 'enabled is off', link: { path: PITS, line: 1 } })
    expect((await ask({ feature: `${PITS}#/shops/list/a` }))['switched-on']).toMatchObject({ answer: 'no' })
    put(PITS, `enabled: true\nshops:\n  enabled: off\n  list:\n    a: { price: 1 }\n    b: { price: 2 }\n`)
    server.inventory.forget()
    expect((await ask())['switched-on'].answer).toBe('yes')
  })

  it('says what a plugin lacks, and that it is switched off', async () => {
    put('extras/Errands.pack', world.pack('errands-1.0'))
    rmSync(world.path('extras/Purse.pack'), { force: true })
    put('extras/off/Purse.pack', world.pack('purse-1.8'))
    server.inventory.forget()
    expect((await ask({ plugin: 'Errands' })).needs).toMatchObject({
      answer: 'no',
      says: expect.stringMatching(/^Errands needs Purse.*switched off/) as unknown,
    })
    expect((await ask({ plugin: 'Purse' }))['on-server']).toMatchObject({ answer: 'no', says: 'it lies on the server and is switched off' })
    expect((await ask()).needs.answer).toBe('yes')
  })

  it('hears from a running server that it was loaded, failed, or read its settings before they were written', async () => {
    await startServer(world.context, server)
    const running = await ask()
    expect(running.loaded).toMatchObject({ answer: 'yes', says: 'Clayworks 1.2.0 was loaded' })
    expect(running.console.answer).toBe('yes')
    expect(running.read.answer).toBe('yes')
    const later = new Date(Date.now() + 60_000)
    utimesSync(world.path(PITS), later, later)
    server.inventory.forget()
    expect((await ask()).read).toMatchObject({ answer: 'no', says: 'settings.yml was written after it read it last; reload it' })
    await stopServer(server)
    put(PITS, 'pits-in-common:\n  refill: 1\n')
    server.inventory.forget()
    await startServer(world.context, server)
    const failed = await ask()
    expect(failed.loaded).toMatchObject({ answer: 'no', link: { path: PITS } })
    expect(failed.console.answer).toBe('look')
    await stopServer(server)
  })

  it('refuses what is not there', async () => {
    await expect(ask({ plugin: 'Nobody' })).rejects.toMatchObject({ code: 'not-found' })
    await expect(ask({ feature: `${PITS}#/pits/none` })).rejects.toMatchObject({ code: 'bad-input' })
  })
})
