import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { startServer, stopServer } from '../../server/services/control'
import { requireServer } from '../../server/services/context'
import { dropFamily, getFamily, listFamilies, saveFamily, tryFamily } from '../../server/services/families'
import { overviewOf } from '../../server/services/overview'
import { makeWorld, type World } from './world'

const archive = readFileSync('families/archive.yml', 'utf8')

describe('descriptions of families', () => {
  let world: World
  beforeEach(async () => void (world = await makeWorld()))
  afterEach(() => world.close())
  const state = async (id: string): Promise<string> => (await getFamily(world.context, id)).state

  it('are as they came until somebody changes them, and become that again', async () => {
    const { context } = world
    expect(await listFamilies(context)).toMatchObject([{ id: 'archive', state: 'shipped', servers: ['lantern-row'], kept: 'packed' }])
    const own = archive.replace('title: Archive plugins', 'title: Ours')
    expect(await saveFamily(context, own, 'maren')).toMatchObject({ title: 'Ours', state: 'changed', changedBy: 'maren' })
    // a new version of Pasticcio brings another, and what was changed here stays
    await context.families.ship(archive.replace('Archive plugins', 'Archives'))
    expect(await getFamily(context, 'archive')).toMatchObject({ title: 'Ours', state: 'changed' })
    await dropFamily(context, 'archive', 'maren')
    expect(await getFamily(context, 'archive')).toMatchObject({ title: 'Archives', state: 'shipped', changedBy: '' })
    // one that nobody changed follows what is shipped
    await context.families.ship(archive)
    expect(await getFamily(context, 'archive')).toMatchObject({ title: 'Archive plugins', state: 'shipped' })
  })

  it('one of one’s own can be made and taken away again, while no server is of it', async () => {
    const { context } = world
    const own = archive.replace('id: archive', 'id: ours')
    expect(await saveFamily(context, own, 'maren')).toMatchObject({ id: 'ours', state: 'own', shipped: null })
    const folder = join(world.folder, 'servers/night-market')
    await context.servers.add({
      slug: 'other',
      familyId: 'ours',
      connection: { place: { type: 'local', folder }, console: { type: 'process', folder, command: ['x'] } },
    })
    await expect(dropFamily(context, 'ours', 'maren')).rejects.toMatchObject({
      code: 'in-use',
      message: expect.stringContaining('other') as unknown,
    })
    await context.servers.remove((await context.servers.get('other'))!.id)
    await dropFamily(context, 'ours', 'maren')
    await expect(getFamily(context, 'ours')).rejects.toMatchObject({ code: 'not-found' })
  })

  it('that cannot be is refused with every fault, and nothing changes', async () => {
    await expect(saveFamily(world.context, archive.replace('folder: extras', 'folder: /extras'), 'maren')).rejects.toMatchObject({
      code: 'bad-family',
      status: 422,
      message: expect.stringMatching(/^Line \d+ of the description: .*below the server/) as unknown,
      data: { faults: [{ line: archive.split('\n').findIndex((line) => line.includes('folder: extras')) + 1 }] },
    })
    expect(await state('archive')).toBe('shipped')
  })

  it('counts from the moment it is saved, and is not changed under a running server', async () => {
    const { context } = world
    const server = await world.server()
    await startServer(context, server)
    const wide = archive.replace('endings: [yml, yaml', 'endings: [yaml')
    await expect(saveFamily(context, wide, 'maren')).rejects.toMatchObject({ code: 'server-running' })
    await stopServer(server)
    const files = async (): Promise<number> =>
      (await overviewOf(context, await world.server())).plugins.reduce(
        (sum, plugin) => sum + plugin.files.filter(({ record }) => !record).length,
        0,
      )
    const before = await files()
    await saveFamily(context, wide, 'maren')
    expect(await files()).toBeLessThan(before)
    expect(await context.db('record').pluck('action')).toContain('family')
  })

  it('is tried against a server: what it finds, and what its console says', async () => {
    const { context } = world
    const server = await world.server()
    await startServer(context, server)
    writeFileSync(world.path('extras/Odd.pack'), 'no archive')
    const trial = await tryFamily(context, archive, 'lantern-row')
    expect(trial).toMatchObject({ game: '7.2', strangers: ['extras/Odd.pack'], lines: { ready: 1 } })
    expect(trial.plugins.map(({ name }) => name)).toEqual(['Purse', 'Wardkeys'])
    expect(trial.plugins.every(({ settings, isOff }) => settings > 0 && !isOff)).toBe(true)
    const deaf = await tryFamily(context, archive.replace('loaded: "^', 'loaded: "^never '), 'lantern-row')
    expect(deaf.lines['loaded']).toBeUndefined()
    expect(deaf.unread.some((line) => line.includes('loaded'))).toBe(true)
    // nothing of it is kept
    expect(await state('archive')).toBe('shipped')
    expect((await overviewOf(context, await requireServer(context, 'lantern-row'))).title).toBe('Archive plugins')
    await expect(tryFamily(context, 'id: [', 'lantern-row')).rejects.toMatchObject({ code: 'bad-family' })
    await expect(tryFamily(context, archive, 'nowhere')).rejects.toMatchObject({ code: 'not-found' })
  })
})
