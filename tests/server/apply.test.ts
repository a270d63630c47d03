import { existsSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { hashOf } from '../../server/db/repositories/blobs'
import { applyChange } from '../../server/services/apply'
import { startServer } from '../../server/services/control'
import { historyOf } from '../../server/services/history'
import { giveRule } from '../../server/services/rules'
import { listTray, trayText } from '../../server/services/tray'
import { settle } from '../../server/services/recovery'
import { undoApply } from '../../server/services/undo'
import { applyAll, draft as draftIn, makeWorld, type World } from './world'

const PURSE = 'extras/Purse/settings.yml'

describe('apply', () => {
  let world: World
  beforeEach(async () => {
    world = await makeWorld()
    await startServer(world.context, await world.server())
  })
  afterEach(() => world.close())

  const draft = (change: (text: string) => string): Promise<string | null> => draftIn(world, PURSE, change)

  it('writes, reloads, and says the plugin took it', async () => {
    await draft((text) => text.replace('start: 250', 'start: 400'))
    const row = await applyAll(world, 'tobiah')
    expect(row).toMatchObject({ status: 'verified', title: '1 change in Purse', startedBy: 'tobiah' })
    expect(world.read(PURSE)).toContain('start: 400')
    expect(row.outcome.lines.join()).toContain('newcomers start with 400 marks')
    expect(await listTray(world.context, await world.server())).toEqual([])
    expect(readdirSync(world.path('extras/Purse')).filter((name) => name.endsWith('.tmp'))).toEqual([])
  })

  it('restarts where a changed setting asks for more than a reload, and says which', async () => {
    const server = await world.server()
    const ready = () => server.console.since(0).filter(({ event }) => event?.type === 'ready').length
    await giveRule(world.context, server, PURSE, { path: '/accounts/start', applies: 'restart' }, 'maren')
    await draft((text) => text.replace('most: 50', 'most: 60'))
    expect((await listTray(world.context, server))[0]).toMatchObject({ after: 'reload', asks: { applies: 'reload', pointer: '' } })
    await draft((text) => text.replace('start: 250', 'start: 400'))
    const [file] = await listTray(world.context, server)
    expect(file).toMatchObject({ after: 'restart', asks: { applies: 'restart', pointer: '/accounts/start' } })
    const before = ready()
    expect(await applyAll(world, 'tobiah')).toMatchObject({ status: 'verified' })
    expect(ready()).toBe(before + 1)
  })

  it('brings the console’s complaint with file and line, and goes back with the draft kept', async () => {
    await draft((text) => text.replace('interest: 0.01', 'interest: 7'))
    const row = await applyAll(world, 'tobiah')
    expect(row.status).toBe('complained')
    expect(row.outcome.complaints).toEqual([{ plugin: 'Purse', path: PURSE, line: 26, reason: 'bank.interest must be at most 1, not 7' }])
    await undoApply(world.context, await world.server(), row.id, 'tobiah')
    expect(world.read(PURSE)).toContain('interest: 0.01')
    expect((await trayText(world.context, await world.server(), PURSE)).draft).toContain('interest: 7')
    expect((await historyOf(world.context, await world.server())).map((item) => item.status)).toEqual(['verified', 'undone'])
  })

  it('a complaint is one of the console itself, of a plugin that is installed and concerned', async () => {
    const { console } = await world.server()
    await draft((text) => text.replace('start: 250', 'start: 400'))
    // while the plugin reloads: a player says so, and the console speaks of others
    console.listen({
      line: (line) => {
        if (!line.text.includes('reloaded')) return
        for (const text of ['say Purse 1.8.0 failed: settings.yml line 1: gone', 'say Wardkeys failed: all doors']) console.send(text)
      },
    })
    console.send('say Purse 1.8.0 failed: before')
    const row = await applyAll(world, 'tobiah')
    expect(row).toMatchObject({ status: 'verified', outcome: { complaints: [] } })
    const change = { kind: 'settings' as const, plugins: ['Purse'], restart: false }
    const said = (text: string) => ({
      seq: 1,
      time: '',
      level: 'error',
      text,
      event: { type: 'failed' as const, plugin: text, version: '1', file: null, line: null, reason: 'x' },
    })
    const server = await world.server()
    const { verify } = await import('../../server/services/apply-outcome')
    for (const [plugin, complains] of [
      ['Purse', true],
      ['Wardkeys', false],
      ['[chat]', false],
    ] as const)
      expect((await verify(server, change, [said(plugin)], async () => undefined)).outcome.complaints.length > 0, plugin).toBe(complains)
  })

  it('writes nothing over a file that changed meanwhile', async () => {
    await draft((text) => text.replace('start: 250', 'start: 400'))
    const theirs = world.read(PURSE).replace('most: 50', 'most: 60')
    writeFileSync(world.path(PURSE), theirs)
    await expect(applyAll(world, 'tobiah')).rejects.toMatchObject({ code: 'drift', status: 409 })
    expect(world.read(PURSE)).toBe(theirs)
    expect((await listTray(world.context, await world.server()))[0]!.drifted).toBe(true)
    expect((await trayText(world.context, await world.server(), PURSE)).now).toBe(theirs)
  })

  it('writes no file that does not read, and names the line', async () => {
    await draft((text) => text.replace('start: 250', 'start: "250'))
    await expect(applyAll(world, 'tobiah')).rejects.toMatchObject({
      code: 'has-errors',
      message: expect.stringMatching(/^Line 16 of extras\/Purse\/settings.yml/) as unknown,
    })
    expect(world.read(PURSE)).toContain('start: 250')
  })

  it('a change that reads like the file is no draft', async () => {
    await draft((text) => text.replace('start: 250', 'start: 400'))
    await draft((text) => text.replace('start: 400', 'start: 250'))
    expect(await listTray(world.context, await world.server())).toEqual([])
  })

  it('refuses paths that lead out of the server’s folder, also through links', async () => {
    symlinkSync('/etc', world.path('extras/away'))
    const server = await world.server()
    for (const path of ['../outside.yml', '/etc/passwd', 'extras/../../x.yml', 'extras/away/hosts'])
      await expect(
        applyChange(
          world.context,
          server,
          {
            kind: 'settings',
            title: 'x',
            actions: [{ kind: 'put', path, content: { sha: await world.context.blobs.put(Buffer.from('x')) } }],
            plugins: [],
            restart: false,
          },
          'maren',
        ),
      ).rejects.toMatchObject({ code: 'outside' })
  })

  it('one writer at a time', async () => {
    const server = await world.server()
    let free = (): void => undefined
    const busy = server.work.run('write', 'tobiah', () => new Promise<void>((resolve) => (free = resolve)))
    await expect(
      applyChange(
        world.context,
        server,
        { kind: 'settings', title: 'x', actions: [{ kind: 'remove', path: 'a.yml' }], plugins: [], restart: false },
        'maren',
      ),
    ).rejects.toMatchObject({ code: 'busy', message: expect.stringContaining('tobiah is writing to it') as unknown })
    free()
    await busy
  })

  describe('killed in the middle', () => {
    async function interrupted(written: readonly string[]): Promise<void> {
      const { context } = world
      const server = await world.server()
      const files = await Promise.all(
        ['a.yml', 'b.yml'].map(async (name) => {
          const path = `extras/Purse/${name}`
          writeFileSync(world.path(path), 'old: 1\n')
          const [beforeSha, afterSha] = [await context.blobs.put(Buffer.from('old: 1\n')), await context.blobs.put(Buffer.from('new: 1\n'))]
          if (written.includes(name)) writeFileSync(world.path(path), 'new: 1\n')
          return { path, beforeSha, afterSha }
        }),
      )
      writeFileSync(world.path('extras/Purse/.0123456789abcdef.tmp'), 'half')
      await context.applies.begin(
        { serverId: server.row.id, kind: 'settings', title: 't', undoes: null, startedBy: 'maren', startedAt: '2026-11-23T12:00:00Z' },
        files,
      )
      server.settled = null
      await settle(context, server)
    }

    it.each([
      [[], 'failed', 'old'],
      [['a.yml'], 'failed', 'old'],
      [['a.yml', 'b.yml'], 'written', 'new'],
    ] as const)('with %j written: %s, and all files are %s', async (written, status, content) => {
      await interrupted(written)
      expect((await historyOf(world.context, await world.server()))[0]!.status).toBe(status)
      for (const name of ['a.yml', 'b.yml']) expect(world.read(`extras/Purse/${name}`)).toBe(`${content}: 1\n`)
      expect(existsSync(world.path('extras/Purse/.0123456789abcdef.tmp'))).toBe(false)
    })
  })

  it('the record of who did what cannot be changed', async () => {
    const { db } = world.context
    await world.context.record.add({ at: 'now', account: 'maren', serverId: null, action: 'test', detail: '' })
    await expect(db('record').update({ account: 'someone' })).rejects.toThrow('append-only')
    await expect(db('record').delete()).rejects.toThrow('append-only')
  })

  it('keeps content once, by its hash', async () => {
    const sha = await world.context.blobs.put(Buffer.from('x'))
    expect(await world.context.blobs.put(Buffer.from('x'))).toBe(sha)
    expect(sha).toBe(hashOf('x'))
  })
})
