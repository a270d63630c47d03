import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { ConsoleError, consoles } from '../../server/consoles'
import { places } from '../../server/places'
import { applyChange } from '../../server/services/apply'
import { requireServer } from '../../server/services/context'
import { startServer } from '../../server/services/control'
import { overviewOf } from '../../server/services/overview'
import { settle } from '../../server/services/recovery'
import { viewFile, viewFiles } from '../../server/services/settings'
import { listTray } from '../../server/services/tray'
import { undoApply } from '../../server/services/undo'
import { workspaceFor } from '../../server/services/workspace'
import { SecretBox } from '../../server/db/secrets'
import { echoDriver } from './toys/echo-console'
import { failing, faults, faultyDriver } from './toys/faulty-place'
import { memoryDriver } from './toys/memory-place'
import { addPackage, applyAll, draft, installOne, makeWorld, planFor, repacked, type World } from './world'

const PURSE = 'extras/Purse/settings.yml'
let forget: (() => void)[] = []
beforeAll(() => {
  forget = [places.register(faultyDriver as never), places.register(memoryDriver as never), consoles.register(echoDriver as never)]
})
afterAll(() => forget.forEach((away) => away()))
let world: World
afterEach(async () => {
  faults.clear()
  await world.close()
})

describe('sizes', () => {
  it('what can be installed can be seen, replaced and taken back', async () => {
    world = await makeWorld()
    const large = repacked(world.pack('hampers-2.4'), (files) => ({ ...files, 'art/map.bin': randomBytes(20 * 1024 * 1024) }))
    const server = await world.server()
    const { id } = await addPackage(world.context, server, large, 'h.pack', 'test', 'maren')
    const row = await installOne(world.context, server, id, 'maren')
    expect(row.status).toBe('verified')
    expect((await overviewOf(world.context, server)).plugins.map((plugin) => plugin.name)).toContain('Hampers')
    expect((await undoApply(world.context, server, row.id, 'maren')).status).toBe('verified')
    expect(existsSync(world.path('extras/Hampers.pack'))).toBe(false)
  })

  it('a file too large to show is named, and the rest of the page stands', async () => {
    world = await makeWorld()
    await startServer(world.context, await world.server())
    writeFileSync(world.path('extras/Purse/huge.yml'), Buffer.alloc(17 * 1024 * 1024, 'a: 1 # filler\n'))
    writeFileSync(world.path('extras/Purse/odd.yml'), Buffer.from([0x61, 0x3a, 0xff, 0xfe]))
    const server = await world.server()
    const { files } = (await overviewOf(world.context, server)).plugins.find((plugin) => plugin.name === 'Purse')!
    const problems = Object.fromEntries(files.map((file) => [file.name, file.problem]))
    expect(problems['huge.yml']).toContain('17 MB')
    expect(problems['odd.yml']).toContain('not UTF-8')
    expect(problems['settings.yml']).toBeNull()
    expect((await viewFiles(world.context, server)).map((view) => view.path)).toContain(PURSE)
    await expect(viewFile(world.context, server, 'extras/Purse/huge.yml')).rejects.toMatchObject({ code: 'too-large' })
  })
})

describe('what a disk does', () => {
  beforeEach(async () => {
    world = await makeWorld({ place: 'faulty' })
    mkdirSync(world.path('extras/Purse'), { recursive: true })
  })

  it('a file that cannot be removed fails the change, and everything is as it was', async () => {
    const server = await world.server()
    writeFileSync(world.path('extras/Purse/old.yml'), 'a: 1\n')
    writeFileSync(world.path('extras/Purse/other.yml'), 'a: 1\n')
    failing('remove', 'denied')
    const actions = [
      { kind: 'put' as const, path: 'extras/Purse/other.yml', content: { sha: await world.context.blobs.put(Buffer.from('a: 2\n')) } },
      { kind: 'remove' as const, path: 'extras/Purse/old.yml' },
    ]
    const change = { kind: 'settings' as const, title: 't', actions, plugins: [], restart: false }
    await expect(applyChange(world.context, server, change, 'maren')).rejects.toMatchObject({
      code: 'no-access',
      message: expect.stringContaining('everything is as it was') as unknown,
    })
    expect(world.read('extras/Purse/other.yml')).toBe('a: 1\n')
    expect((await world.context.applies.list(server.row.id))[0]!.status).toBe('failed')
  })

  it('what could not be taken back at once is settled before the next change', async () => {
    const server = await world.server()
    writeFileSync(world.path('extras/Purse/a.yml'), 'a: 1\n')
    writeFileSync(world.path('extras/Purse/b.yml'), 'b: 1\n')
    const put = async (path: string, text: string) => ({
      kind: 'put' as const,
      path,
      content: { sha: await world.context.blobs.put(Buffer.from(text)) },
    })
    let commits = 0
    faults.set('commit', () => {
      if (++commits > 1) throw new Error('the line dropped')
    })
    const both = [await put('extras/Purse/a.yml', 'a: 2\n'), await put('extras/Purse/b.yml', 'b: 2\n')]
    const change = { kind: 'settings' as const, title: 't', plugins: [], restart: false }
    await expect(applyChange(world.context, server, { ...change, actions: both }, 'maren')).rejects.toThrow('the line dropped')
    expect((await world.context.applies.unfinished(server.row.id)).length).toBe(1)
    // still down: the next change waits rather than write over half a change
    await expect(applyChange(world.context, server, { ...change, actions: both }, 'maren')).rejects.toThrow('the line dropped')
    faults.clear()
    await applyChange(world.context, server, { ...change, actions: [await put('extras/Purse/c.yml', 'c: 1\n')] }, 'maren')
    expect([world.read('extras/Purse/a.yml'), world.read('extras/Purse/b.yml')]).toEqual(['a: 1\n', 'b: 1\n'])
    expect(await world.context.applies.unfinished(server.row.id)).toEqual([])
  })

  it('a console that fails after the files are written leaves no change unfinished', async () => {
    const server = await world.server()
    await startServer(world.context, server)
    Object.assign(server.console, {
      send: () => {
        throw new ConsoleError('not-running', 'The server is not running.')
      },
    })
    await draft(world, PURSE, (text) => text + '# more\n')
    const row = await applyAll(world, 'maren')
    expect(row.status).toBe('complained')
    expect(row.outcome.message).toContain('The files are written, but they do not count yet: The server is not running.')
    expect(world.read(PURSE)).toContain('# more')
    expect(await world.context.applies.unfinished(server.row.id)).toEqual([])
  })

  it('one server that cannot be reached keeps no other from its work', async () => {
    const { context } = world
    const connection = { place: { type: 'faulty', folder: '/no/such/folder' }, console: { type: 'echo', name: 'x' } }
    await context.servers.add({ slug: 'kiln-yard', familyId: 'archive', connection })
    const away = await requireServer(context, 'kiln-yard')
    const files = [{ path: 'extras/a.yml', beforeSha: null, afterSha: await context.blobs.put(Buffer.from('x')) }]
    const row = { serverId: away.row.id, kind: 'settings', title: 't', undoes: null, startedBy: 'maren', startedAt: 'now' } as const
    await context.applies.begin(row, files)
    await expect(settle(context, away)).rejects.toMatchObject({ code: 'unreachable' })
    await expect(overviewOf(context, away)).rejects.toMatchObject({ code: 'unreachable' })
    await settle(context, await world.server())
    expect((await overviewOf(context, await world.server())).plugins.length).toBeGreaterThan(0)
  })

  it('"no access" is not "no such file"', async () => {
    failing('stat', 'denied')
    failing('read', 'denied')
    await expect(planFor(world.context, await world.server(), 1)).rejects.toMatchObject({ code: 'not-found' })
    await expect(overviewOf(world.context, await world.server())).rejects.toMatchObject({ code: 'denied' })
  })
})

describe('reading as the family says', () => {
  it('a .jsonc file with a comment is edited, checked and applied', async () => {
    world = await makeWorld({ family: (text) => text.replace('json, lua', 'json, jsonc, lua') })
    mkdirSync(world.path('extras/Purse'), { recursive: true })
    writeFileSync(world.path('extras/Purse/extra.jsonc'), '{\n  // how many\n  "many": 1,\n}\n')
    const server = await world.server()
    await draft(world, 'extras/Purse/extra.jsonc', (text) => text.replace('1,', '2,'))
    expect((await workspaceFor(world.context, server)).findings).toEqual([])
    expect(await listTray(world.context, server)).toMatchObject([{ blocking: 0, count: 1, drifted: false }])
    expect((await applyAll(world, 'tobiah')).status).toBe('written')
    expect(world.read('extras/Purse/extra.jsonc')).toContain('"many": 2')
  })

  it('settings in subfolders have their factory copy and what an update ships', async () => {
    world = await makeWorld()
    const server = await world.server()
    const version = (name: string, from: string, to: string, line: string): Buffer =>
      repacked(world.pack(name), (files) => ({
        ...files,
        'pack.yml': files['pack.yml']!.replace(`version: ${from}`, `version: ${to}`),
        'defaults/lang/en.yml': `greeting: ${line}\n`,
        'defaults/lang/deep/en.yml': `farewell: ${line}\n`,
      }))
    rmSync(world.path('extras/Purse.pack'))
    writeFileSync(world.path('extras/Purse.pack'), version('purse-1.8', '1.8.0', '1.8.1', 'Hello'))
    mkdirSync(world.path('extras/Purse/lang/deep'), { recursive: true })
    writeFileSync(world.path('extras/Purse/lang/en.yml'), 'greeting: Well met\n')
    writeFileSync(world.path('extras/Purse/lang/deep/en.yml'), 'farewell: Hello\n')
    await addPackage(world.context, server, version('purse-1.8', '1.8.0', '1.9.0', 'Good day'), 'p.pack', 'test', 'maren')
    const view = await viewFile(world.context, server, 'extras/Purse/lang/en.yml')
    expect([view.factory, view.update?.text]).toEqual(['greeting: Hello\n', 'greeting: Good day\n'])
    const deep = await viewFile(world.context, server, 'extras/Purse/lang/deep/en.yml')
    expect(deep.update).toEqual({ version: '1.9.0', text: 'farewell: Good day\n' })
    const { files } = (await overviewOf(world.context, server)).plugins.find((plugin) => plugin.name === 'Purse')!
    expect(files.find((file) => file.name === 'lang/en.yml')?.mine).toBe(1)
  })
})

describe('what it costs', () => {
  /** Runs something, and counts packages opened, queries made and rows written. */
  async function counted(work: () => Promise<unknown>): Promise<{ opened: number; queries: number; written: number }> {
    const { db } = world.context
    const { inventory } = await world.server()
    const changes = async (): Promise<number> => ((await db.raw('SELECT total_changes() AS n')) as { n: number }[])[0]!.n
    const [opened, written] = [inventory.opened, await changes()]
    let queries = 0
    const count = (): void => void queries++
    db.on('query', count)
    await work()
    db.off('query', count)
    return { opened: inventory.opened - opened, queries, written: (await changes()) - written }
  }

  it.each([3, 12])('with %i plugins no package is opened to save a draft or to look, and looking writes nothing', async (many) => {
    world = await makeWorld()
    for (let i = 2; i < many; i++) {
      const pack = repacked(world.pack('purse-1.8'), (files) => ({
        ...files,
        'pack.yml': files['pack.yml']!.replace('name: Purse', `name: P${i}`),
      }))
      writeFileSync(world.path(`extras/P${i}.pack`), pack)
    }
    mkdirSync(world.path('extras/Purse'), { recursive: true })
    writeFileSync(world.path(PURSE), 'economy:\n  start: 250\n')
    const first = await counted(async () => overviewOf(world.context, await world.server()))
    expect(first).toMatchObject({ opened: many, written: 0 })
    await (await world.server()).inventory.remember()
    const looking = await counted(async () => overviewOf(world.context, await world.server()))
    expect(looking).toMatchObject({ opened: 0, written: 0 })
    const saving = await counted(async () => {
      await draft(world, PURSE, (text) => text + '# more\n')
      await listTray(world.context, await world.server())
      await overviewOf(world.context, await world.server())
    })
    expect(saving.opened).toBe(0)
    // the number of queries does not grow with the plugins
    expect(saving.queries).toBeLessThan(25)
    process.stdout.write(
      `autosave with ${many} plugins: ${saving.opened} packages opened, ${saving.queries} queries; overview ${looking.queries}\n`,
    )
    // nor are they opened again after a new start
    world.context.opened.clear()
    expect((await counted(async () => overviewOf(world.context, await world.server()))).opened).toBe(0)
  })
})

describe('connections', () => {
  it('keep their secrets encrypted, and open with them', async () => {
    world = await makeWorld()
    const { context } = world
    const connection = { place: { type: 'memory', shelf: 'top secret' }, console: { type: 'echo', name: 'x', password: 'hush' } }
    await context.servers.add({ slug: 'far', familyId: 'archive', connection })
    const raw = (await context.db('servers').where({ slug: 'far' }).first()) as { connection: string }
    expect(raw.connection).not.toMatch(/top secret|hush/)
    expect((await context.servers.get('far'))!.connection).toEqual(connection)
    const bad = { ...connection, console: { type: 'echo' } }
    await expect(context.servers.add({ slug: 'bad', familyId: 'archive', connection: bad })).rejects.toThrow('name is a required field')
  })

  it('cannot be opened with another secret, or when they were changed', () => {
    const box = new SecretBox('a secret of sixteen')
    const sealed = box.seal('hush')
    expect(box.open(sealed)).toBe('hush')
    expect(box.seal('hush')).not.toBe(sealed)
    expect(() => new SecretBox('another secret, too').open(sealed)).toThrow()
    expect(() => box.open(sealed.slice(0, -2) + (sealed.endsWith('A') ? 'B' : 'A'))).toThrow()
    expect(() => box.open('plain')).toThrow()
  })

  it('of servers from before are taken over, and can be given back', async () => {
    world = await makeWorld()
    const { db } = world.context
    const { up, down } = await import('../../server/db/migrations/2026-11-26-connections')
    await down(db)
    const old = (await db('servers').first()) as { folder: string; command: string }
    expect(old.folder).toBe(world.path('').replace(/\/$/, ''))
    await up(db)
    const { connection } = (await world.context.servers.get('lantern-row'))!
    expect(connection.place).toEqual({ type: 'local', folder: old.folder })
    expect(connection.console['command']).toEqual(JSON.parse(old.command))
  })
})
