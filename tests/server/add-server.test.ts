import { chmodSync, cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { recogniseFamilies } from '@pasticcio/core'
import { requireServer } from '../../server/services/context'
import { addServer, changeCommand, commandOf, forgetServer } from '../../server/services/servers'
import { startServer } from '../../server/services/control'
import { survey } from '../../server/services/survey'
import type { Try } from '../../server/services/tries'
import { makeWorld, type World } from './world'

const game = join(dirname(fileURLToPath(import.meta.url)), '../../packages/standin/dist/server.mjs')
const COMMAND = [process.execPath, game]

let world: World
let folder: string
beforeEach(async () => {
  world = await makeWorld()
  folder = join(world.folder, 'servers/Low Bank')
  cpSync(join(world.folder, 'servers/lantern-row'), folder, { recursive: true })
})
afterEach(() => world.close())

/** Every file below a folder with its bytes and times. */
function snapshot(at: string): string[] {
  return readdirSync(at, { recursive: true, withFileTypes: true })
    .filter((item) => item.isFile())
    .map((item) => join(item.parentPath, item.name))
    .sort()
    .map((path) => `${path} ${statSync(path).mtimeMs} ${readFileSync(path).toString('base64').length}`)
}

async function tried(command: readonly string[], at = folder): Promise<Try> {
  const id = await world.context.tries.begin(world.context, { folder: at, familyId: 'archive', command })
  for (;;) {
    const now = world.context.tries.get(id)
    if (now.status !== 'running') return now
    await new Promise((resolve) => setImmediate(resolve))
  }
}
const owner = async () => (await world.context.accounts.get('maren'))!

describe('looking into a folder', () => {
  it('says what is there, and writes nothing', async () => {
    mkdirSync(join(folder, 'extras/Wardkeys'), { recursive: true })
    writeFileSync(join(folder, 'extras/Wardkeys/settings.yml'), 'newcomers: { group: reedcutter }\n')
    writeFileSync(join(folder, 'extras/Wardkeys/own-notes.yml'), 'a: 1\n')
    writeFileSync(join(folder, 'extras/Broken.pack'), 'no archive')
    writeFileSync(join(folder, 'start.sh'), '#!/bin/sh\n')
    const before = snapshot(folder)
    const found = await survey(world.context, folder)
    expect(snapshot(folder)).toEqual(before)
    expect(found).toMatchObject({
      family: 'archive',
      game: '7.2',
      settingsFiles: 2,
      withoutFactory: ['extras/Wardkeys/own-notes.yml'],
      strangers: ['extras/Broken.pack'],
      starters: ['start.sh'],
      slug: 'low-bank',
    })
    expect(found.plugins.map(({ name, version }) => `${name} ${version}`)).toEqual(['Purse 1.8.0', 'Wardkeys 5.0.2'])
    expect(found.families[0]).toMatchObject({ family: 'archive', hasVersionFile: true, packages: 3 })
    expect(await world.context.servers.list()).toHaveLength(1)
    expect(await world.context.db('packages')).toHaveLength(0)
  })

  it('proposes no family for a folder that shows no sign of any', async () => {
    const empty = join(world.folder, 'empty')
    mkdirSync(empty)
    expect(await survey(world.context, empty)).toMatchObject({ family: null, plugins: [], game: 'unknown' })
    // one may say so all the same
    expect(await survey(world.context, empty, 'archive')).toMatchObject({ family: 'archive', plugins: [] })
  })

  it.each([
    ['relative/path', 'full path'],
    ['/no/such/folder', 'no such folder'],
    [fileURLToPath(import.meta.url), 'this is a file'],
  ])('says what is wrong with %s', async (path, words) => {
    await expect(survey(world.context, path)).rejects.toThrow(words)
  })

  it.skipIf(process.getuid?.() === 0)('says that it may not write there', async () => {
    chmodSync(folder, 0o555)
    await expect(survey(world.context, folder)).rejects.toThrow('may not')
    chmodSync(folder, 0o755)
  })

  it('takes no folder twice, and no name twice', async () => {
    await expect(survey(world.context, join(world.folder, 'servers/lantern-row') + '/')).rejects.toMatchObject({ code: 'name-taken' })
    symlinkSync(join(world.folder, 'servers/lantern-row'), join(world.folder, 'by-another-name'))
    await expect(survey(world.context, join(world.folder, 'by-another-name'))).rejects.toMatchObject({ code: 'name-taken' })
    const same = join(world.folder, 'other/lantern-row')
    cpSync(folder, same, { recursive: true })
    expect((await survey(world.context, same)).slug).toBe('lantern-row-2')
  })

  it('sees the likeliest family first', async () => {
    const [family] = await world.context.families.all()
    const other = {
      ...family!,
      id: 'other',
      'game-version': { file: 'other.cfg', at: '/v' },
      plugins: { ...family!.plugins, folder: 'else' },
    }
    const order = (paths: string[]): string[] => recogniseFamilies([family!, other], paths).map((item) => `${item.family} ${item.score}`)
    expect(order(['brackwater.yml', 'extras/A.pack'])).toEqual(['archive 6', 'other 0'])
    expect(order(['other.cfg'])).toEqual(['other 3', 'archive 0'])
    expect(order(['else/readme.txt'])).toEqual(['other 1', 'archive 0'])
  })
})

describe('trying a server', () => {
  it('starts it, hears that it is ready, and stops it again', async () => {
    const done = await tried(COMMAND)
    expect(done.steps.map(({ step, ok }) => [step, ok])).toEqual([
      ['folder', true],
      ['start', true],
      ['stop', true],
    ])
    expect(done).toMatchObject({ status: 'passed' })
    expect(done.steps[1]!.detail).toMatch(/Ready after [\d.]+ s, with 2 plugins loaded\./)
    expect(done.lines.some(({ text }) => text.startsWith('ready, 2 plugins'))).toBe(true)
  })

  it.each([
    [['no-such-program-here'], 'there is no program “no-such-program-here”'],
    [[process.execPath, '-e', 'console.log("no port is free"); process.exit(3)'], 'it ended with code 3'],
  ])('says why %j does not work', async (command, words) => {
    const done = await tried(command)
    expect(done.status).toBe('failed')
    expect(done.steps.at(-1)).toMatchObject({ step: 'start', ok: false, detail: expect.stringContaining(words) as unknown })
  })

  it('shows what the server said before it ended', async () => {
    const done = await tried([process.execPath, '-e', 'console.log("no port is free")'])
    expect(done.lines.map(({ text }) => text).join()).toContain('no port is free')
  })

  it('goes one at a time, and can be cut short', async () => {
    const silent = { folder, familyId: 'archive', command: [process.execPath, '-e', 'process.stdin.on("data", () => process.exit(0))'] }
    const id = await world.context.tries.begin(world.context, silent)
    await expect(world.context.tries.begin(world.context, { ...silent, command: COMMAND })).rejects.toMatchObject({ code: 'busy' })
    while (world.context.tries.get(id).steps.at(-1)?.step !== 'start') await new Promise((resolve) => setImmediate(resolve))
    await world.context.tries.cancel(id)
    while (world.context.tries.get(id).status === 'running') await new Promise((resolve) => setImmediate(resolve))
    expect(world.context.tries.get(id).status).toBe('failed')
    expect(() => world.context.tries.get('none')).toThrow('no such try')
  })
})

describe('adding a server', () => {
  const setup = () => ({ slug: 'low-bank', folder, familyId: 'archive', command: COMMAND })

  it('takes only what was tried exactly so, unless that is wanted', async () => {
    await expect(addServer(world.context, { ...setup(), tried: null, untried: false }, await owner())).rejects.toMatchObject({
      code: 'not-tried',
    })
    const { id } = await tried(COMMAND)
    const other = { ...setup(), command: [...COMMAND, '--fast'], tried: id, untried: false }
    await expect(addServer(world.context, other, await owner())).rejects.toMatchObject({ code: 'not-tried' })
    await addServer(world.context, { ...setup(), tried: id, untried: false }, await owner())
    const server = await requireServer(world.context, 'low-bank')
    expect((await server.inventory.plugins()).map(({ name }) => name)).toEqual(['Purse', 'Wardkeys'])
    // what plugins wrote while it was tried has its factory copy
    const purse = (await server.inventory.plugins())[0]!
    expect(await server.inventory.factoryText(purse, 'extras/Purse/settings.yml')).toBe(
      readFileSync(join(folder, 'extras/Purse/settings.yml'), 'utf8'),
    )
    await expect(addServer(world.context, { ...setup(), slug: 'again', tried: id, untried: true }, await owner())).rejects.toMatchObject({
      code: 'name-taken',
    })
  })

  it('says what is wrong with the rest', async () => {
    const untried = { ...setup(), tried: null, untried: true }
    await expect(addServer(world.context, { ...untried, slug: 'lantern-row' }, await owner())).rejects.toMatchObject({ code: 'name-taken' })
    await expect(addServer(world.context, { ...untried, familyId: 'nothing' }, await owner())).rejects.toMatchObject({ code: 'bad-input' })
  })

  it('can be started another way later, while it is stopped', async () => {
    const server = await addServer(world.context, { ...setup(), command: ['no-such-program'], tried: null, untried: true }, await owner())
    expect(commandOf(server)).toEqual(['no-such-program'])
    await expect(startServer(world.context, server)).rejects.toThrow('there is no program')
    await changeCommand(world.context, server, COMMAND, await owner())
    const again = await requireServer(world.context, 'low-bank')
    expect(commandOf(again)).toEqual(COMMAND)
    await startServer(world.context, again)
    await expect(changeCommand(world.context, again, ['other'], await owner())).rejects.toMatchObject({ code: 'server-running' })
    await again.console.lifecycle!.stop()
  })

  it('is undone by forgetting it, which leaves its files', async () => {
    const server = await addServer(world.context, { ...setup(), tried: null, untried: true }, await owner())
    await startServer(world.context, server)
    await expect(forgetServer(world.context, server, await owner())).rejects.toMatchObject({ code: 'server-running' })
    await server.console.lifecycle!.stop()
    await forgetServer(world.context, server, await owner())
    expect(existsSync(join(folder, 'extras/Purse/settings.yml'))).toBe(true)
    await expect(requireServer(world.context, 'low-bank')).rejects.toMatchObject({ status: 404 })
    rmSync(folder, { recursive: true })
  })
})
