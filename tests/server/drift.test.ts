import { readFileSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { requireServer, type Server } from '../../server/services/context'
import { startServer, stopServer } from '../../server/services/control'
import { saveDraft } from '../../server/services/drafts'
import { differing, watchFiles } from '../../server/services/file-watch'
import type { Inventory } from '../../server/services/inventory'
import { viewFile } from '../../server/services/settings'
import { applyTray, listTray } from '../../server/services/tray'
import { addPackage, applyAll, draft, installOne, makeWorld, type World } from './world'

let world: World
let server: Server
beforeEach(async () => void (world = await makeWorld()))
afterEach(() => world.close())

describe('records that a running server keeps in memory', () => {
  const RECORD = 'records/Satchels.json'
  let home = ''
  beforeEach(async () => {
    home = join(world.folder, 'servers/night-market')
    writeFileSync(join(home, 'server.json'), '{ "game": "7.2", "scripts": true, "places": ["delta"], "players": ["isolde"] }')
    await world.context.families.ship(readFileSync('families/script.yml', 'utf8'))
    const command = [process.execPath, resolve('packages/standin/dist/server.mjs')]
    await world.context.servers.add({
      slug: 'night-market',
      familyId: 'script',
      connection: { place: { type: 'local', folder: home }, console: { type: 'process', folder: home, command } },
    })
    server = await requireServer(world.context, 'night-market')
    const bytes = readFileSync(join(world.folder, 'site/satchels-1.3.tide'))
    const { id } = await addPackage(world.context, server, bytes, 'satchels-1.3.tide', 'test', 'maren')
    await installOne(world.context, server, id, 'maren')
  })
  const said = async (command: string, expected: RegExp): Promise<void> => {
    const from = server.console.lastSeq
    server.console.send(command)
    expect(await server.console.waitFor(({ text }) => expected.test(text), from, 3000), command).not.toBeNull()
  }
  const onDisk = (): unknown => JSON.parse(readFileSync(join(home, RECORD), 'utf8'))
  const stage = async (change: (text: string) => string): Promise<void> => {
    const { text, sha } = await viewFile(world.context, server, RECORD)
    await saveDraft(world.context, server, { path: RECORD, text: change(text), baseSha: sha, draftSha: null }, 'maren')
  }
  const apply = async () => applyTray(world.context, server, await listTray(world.context, server), 'maren')

  it('are written before they are read, edited, and taken anew', async () => {
    await said('satchel set clay 5', /5 clay fit/)
    expect(onDisk()).toEqual({})
    const view = await viewFile(world.context, server, RECORD)
    expect(JSON.parse(view.text)).toEqual({ clay: 5 })
    expect(view).toMatchObject({ record: true, after: 'reload' })
    await stage((text) => text.replace('5', '7'))
    // what came to be in memory since is neither lost nor written over: it is in the way
    await said('satchel set reed 9', /9 reed fit/)
    await expect(apply()).rejects.toMatchObject({ code: 'drift' })
    expect(onDisk()).toEqual({ clay: 5, reed: 9 })
    expect((await listTray(world.context, server))[0]).toMatchObject({ drifted: true, after: 'reload' })
    await world.context.drafts.removeIf(server.row.id, RECORD, (await listTray(world.context, server))[0]!.sha)
    await stage((text) => text.replace('"clay": 5', '"clay": 7'))
    expect(await apply()).toMatchObject({ status: 'verified', title: '1 change in Satchels' })
    await said('as isolde satchel clay', /7 clay fit/)
    await said('as isolde satchel reed', /9 reed fit/)
    await said('flush Satchels', /2 items written/)
    expect(onDisk()).toEqual({ clay: 7, reed: 9 })
  })

  it('many who look ask the server once', async () => {
    const from = server.console.lastSeq
    await Promise.all(Array.from({ length: 8 }, () => viewFile(world.context, server, RECORD)))
    expect(server.console.since(from).filter(({ event }) => event?.type === 'flushed')).toHaveLength(1)
  })

  it('of a server that would write over them are written while it is stopped', async () => {
    await stopServer(server)
    const text = readFileSync('families/script.yml', 'utf8').replace('after-record: reload\n', '')
    await world.context.families.save(text, 'maren', '')
    world.context.opened.clear()
    await server.console.close()
    server = await requireServer(world.context, 'night-market')
    await startServer(world.context, server)
    await stage(() => '{ "clay": 3 }\n')
    const [file] = await listTray(world.context, server)
    expect(file!.after).toBe('stopped')
    const from = server.console.lastSeq
    expect((await apply()).status).toBe('verified')
    expect(server.console.since(from).some(({ text }) => text === 'stopping')).toBe(true)
    await said('as isolde satchel clay', /3 clay fit/)
    // one that is stopped is left so
    await stopServer(server)
    await stage(() => '{ "clay": 4 }\n')
    expect((await apply()).status).toBe('written')
    expect(server.console.state.status).toBe('stopped')
  })
})

describe('files that the server writes while somebody looks', () => {
  const PATH = 'extras/Purse/settings.yml'
  beforeEach(async () => {
    server = await world.server()
    await startServer(world.context, server)
  })
  interface Watched {
    readonly told: string[][]
    stop(): void
  }
  function watched(): Watched {
    const told: string[][] = []
    const stop = server.feed.subscribe({
      write: (text) => {
        for (const [, data] of text.matchAll(/event: files\ndata: (.*)\n/g)) told.push(JSON.parse(data!) as string[])
      },
      backlog: () => 0,
    })
    return { told, stop }
  }
  /** Waits for the first look, which later ones are held against. */
  const watchedFrom = async (): Promise<Watched> => {
    const look = vi.spyOn(server.inventory, 'plugins')
    const watching = watched()
    await expect.poll(() => look.mock.results.length).toBeGreaterThan(0)
    await look.mock.results[0]!.value
    return watching
  }

  it('are told, and a draft of another setting is carried onto the new text', async () => {
    const { told, stop } = await watchedFrom()
    await draft(world, PATH, (text) => text.replace('start: 250', 'start: 300'))
    writeFileSync(world.path(PATH), world.read(PATH).replace('most: 50', 'most: 60'))
    await expect.poll(() => told, { timeout: 10_000 }).toEqual([[PATH]])
    const view = await viewFile(world.context, server, PATH)
    expect(view.draft!.baseSha).toBe(view.sha)
    expect([view.draft!.text.includes('start: 300'), view.draft!.text.includes('most: 60')]).toEqual([true, true])
    expect((await applyAll(world)).status).toBe('verified')
    stop()
  })

  it('of the same setting leave all three to be looked at', async () => {
    const { told, stop } = await watchedFrom()
    await draft(world, PATH, (text) => text.replace('start: 250', 'start: 300'))
    writeFileSync(world.path(PATH), world.read(PATH).replace('start: 250', 'start: 400'))
    await expect.poll(() => told, { timeout: 10_000 }).toEqual([[PATH]])
    const view = await viewFile(world.context, server, PATH)
    expect(view.draft!.baseSha).not.toBe(view.sha)
    expect((await listTray(world.context, server))[0]!.drifted).toBe(true)
    expect([view.text.includes('start: 400'), view.draft!.text.includes('start: 300')]).toEqual([true, true])
    stop()
  })

  it('are looked at as often as ever after something that took long was told', async () => {
    vi.useFakeTimers()
    let size = 0
    const plugins = vi.fn(async () => [{ files: [{ path: 'a', size: ++size, changed: 0 }], records: [] }])
    const changed = vi.fn(() => new Promise<void>((resolve) => setTimeout(resolve, 60_000)))
    const stop = watchFiles({ plugins } as unknown as Inventory, { changed, failed: expect.unreachable as () => void })
    try {
      await vi.advanceTimersByTimeAsync(2_000)
      expect([plugins.mock.calls.length, changed.mock.calls]).toEqual([2, [[['a']]]])
      await vi.advanceTimersByTimeAsync(60_000 + 2_000)
      expect(plugins).toHaveBeenCalledTimes(3)
      stop()
      await vi.advanceTimersByTimeAsync(600_000)
      expect(plugins).toHaveBeenCalledTimes(3)
    } finally {
      vi.useRealTimers()
    }
  })

  it.each<[Record<string, string>, Record<string, string>, string[]]>([
    [{}, {}, []],
    [{ a: '1' }, { a: '1' }, []],
    [{ a: '1', b: '1' }, { a: '2', c: '1' }, ['a', 'b', 'c']],
  ])('%j and %j differ in %j', (before, now, expected) => {
    expect(differing(new Map(Object.entries(before)), new Map(Object.entries(now)))).toEqual(expected)
  })
})

describe('a plugin that writes its own settings as it starts', () => {
  it('is known by it, with what was another after it; others are not', async () => {
    server = await world.server()
    const { id } = await addPackage(world.context, server, world.pack('errands-1.1'), 'errands-1.1.pack', 'test', 'maren')
    await installOne(world.context, server, id, 'maren')
    const path = 'extras/Errands/settings.yml'
    expect(world.read(path)).toContain('config-version: 2')
    // it wrote it first, which is no writing anew
    expect((await viewFile(world.context, server, path)).rewritten).toBeNull()
    await draft(world, path, (text) => text.replace('config-version: 2', 'config-version: 1'))
    await applyAll(world)
    await stopServer(server)
    writeFileSync(world.path(path), world.read(path).replace('config-version: 2', 'config-version: 1'))
    await startServer(world.context, server)
    expect((await viewFile(world.context, server, path)).rewritten).toMatchObject({ plugin: 'Errands', settings: ['/config-version'] })
    expect((await viewFile(world.context, server, 'extras/Purse/settings.yml')).rewritten).toBeNull()
  })
})
