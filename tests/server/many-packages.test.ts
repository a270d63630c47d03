import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Server } from '../../server/services/context'
import { overviewOf } from '../../server/services/overview'
import { findingsOf } from '../../server/services/findings'
import { makeWorld, repacked, type World } from './world'

let world: World
let server: Server
beforeEach(async () => {
  world = await makeWorld()
  server = await world.server()
})
afterEach(() => world.close())

/** A package of this name with one settings file. */
const packed = (name: string, version = '1.0.0'): Buffer =>
  Buffer.from(
    repacked(world.pack('purse-1.8'), () => ({
      'pack.yml': `name: ${name}\nversion: ${version}\ngame: "*"\n`,
      'behaviour.yml': 'kind: answers\nreads: {}\n',
      'defaults/settings.yml': `# ${name}\non: true\n`,
    })),
  )
const put = (file: string, bytes: Buffer): void => writeFileSync(world.path(`extras/${file}`), bytes)
const names = async (): Promise<string[]> => (await server.inventory.plugins()).map(({ name }) => name)

describe('many packages at once', () => {
  it('are opened in groups, each once; one that is none is named and keeps nobody back', async () => {
    for (let n = 0; n < 70; n++) put(`P${n}.pack`, packed(`P${n}`))
    put('Broken.pack', packed('Broken').subarray(0, 300))
    put('Empty.pack', Buffer.alloc(0))
    expect((await names()).filter((name) => /^P\d+$/.test(name))).toHaveLength(70)
    expect(server.inventory.strangerPaths.sort()).toEqual(['extras/Broken.pack', 'extras/Empty.pack'])
    const { opened } = server.inventory
    await names()
    expect(server.inventory.opened).toBe(opened)
    // only what is another now is opened again
    put('P3.pack', packed('P3', '2.0.0'))
    put('Broken.pack', packed('Mended'))
    rmSync(world.path('extras/P4.pack'))
    const now = await server.inventory.plugins()
    expect(server.inventory.opened).toBe(opened + 2)
    expect(now.find(({ name }) => name === 'P3')?.version).toBe('2.0.0')
    expect(now.some(({ name }) => name === 'Mended')).toBe(true)
    expect(now.some(({ name }) => name === 'P4')).toBe(false)
    expect(server.inventory.strangerPaths).toEqual(['extras/Empty.pack'])
    const told = async () => (await findingsOf(world.context, server)).findings.filter(({ code }) => code === 'bad-package')
    const message = expect.stringMatching(/^extras\/Empty\.pack is no package for this server: .*Download it again/) as unknown
    expect(await told()).toMatchObject([{ file: 'extras/Empty.pack', severity: 'warning', message }])
    rmSync(world.path('extras/Empty.pack'))
    server.inventory.forget()
    expect(await told()).toEqual([])
  })

  it('what they shipped is known by its text before the pantry has it, and by its hash after', async () => {
    put('Eel.pack', packed('Eel'))
    const eel = await server.inventory.require('Eel')
    const path = 'extras/Eel/settings.yml'
    const before = await server.inventory.factoryOf(eel, path)
    expect(before?.text).toBe('# Eel\non: true\n')
    expect(await server.inventory.factoryOf(eel, 'extras/Eel/other.yml')).toBeNull()
    await server.inventory.remember()
    const after = await server.inventory.factoryOf(await server.inventory.require('Eel'), path)
    expect(after).toEqual({ sha: before!.sha, text: null })
    expect(await server.inventory.factoryText(eel, path)).toBe('# Eel\non: true\n')
    expect(await server.inventory.shippedNames(eel)).toEqual(['settings.yml'])
  })

  it('findings are counted by file in one pass', async () => {
    const path = 'extras/Eel/settings.yml'
    put('Eel.pack', packed('Eel'))
    mkdirSync(world.path('extras/Eel'), { recursive: true })
    writeFileSync(world.path(path), 'on: maybe\nnew: [1, 2\n')
    const overview = await overviewOf(world.context, server)
    const file = overview.plugins.find(({ name }) => name === 'Eel')!.files.find((one) => one.path === path)!
    expect(file.errors).toBeGreaterThan(0)
    expect(
      overview.plugins
        .filter(({ name }) => name !== 'Eel')
        .flatMap(({ files }) => files)
        .every(({ errors }) => errors === 0),
    ).toBe(true)
  })
})
