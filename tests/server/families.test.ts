import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { parse as parseIni } from 'ini'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Server } from '../../server/services/context'
import { startServer } from '../../server/services/control'
import { overviewOf } from '../../server/services/overview'
import { addPackages } from '../../server/services/pantry'
import { addPlace, listPlaces, type AddedPlace } from '../../server/services/place-archives'
import { install, type PlacingInput } from '../../server/services/placing'
import { planRemoval, removePlugin } from '../../server/services/removing'
import { viewFile } from '../../server/services/settings'
import { renameFolder, switchPlugin } from '../../server/services/switching'
import { survey } from '../../server/services/survey'
import { tasksOf, tickTask } from '../../server/services/tasks'
import { undoApply } from '../../server/services/undo'
import { OtherServer, standin } from './other-server'
import { updateOf, makeWorld, type World } from './world'
import { zip } from './zip'

let world: World
let server: Server
let home = ''
beforeEach(async () => void (world = await makeWorld()))
afterEach(() => world.close())

const open = async (...args: Parameters<OtherServer['open']> extends [World, ...infer Rest] ? Rest : never): Promise<void> => {
  server = await other.open(world, ...args)
  home = other.home
}
const other = new OtherServer()
const { read, has, add, plan, put, remove, asked, change } = other

describe('servers of scripts', () => {
  beforeEach(() => open('night-market', 'script', standin()))

  it('from an empty server to a script that does what was set, and an update that keeps it', async () => {
    const [old] = await add('satchels-1.3.tide')
    expect((await plan({ packages: [old!] })).problems).toMatchObject([
      { code: 'framework-off', message: expect.stringContaining('scripts') as unknown },
    ])
    const row = await put({ packages: [old!], switchOn: true })
    expect(row).toMatchObject({ status: 'verified', title: 'Install Satchels 1.3.0' })
    expect(JSON.parse(read('server.json'))).toMatchObject({ scripts: true, name: 'The night market' })
    expect(await asked('as isolde satchel clay')).toContain('32 clay fit one slot')
    // what it wrote is known as its factory copy, by the blocks in the script
    const view = await viewFile(world.context, server, 'settings/Satchels.json')
    expect(view.factory).toBe(view.text)
    expect((await change('settings/Satchels.json', '"clay": 32', '"clay": 40')).status).toBe('verified')
    expect(await asked('as isolde satchel clay')).toContain('40 clay fit one slot')

    const [next] = await add('satchels-1.4.tide')
    const { update, result } = await updateOf(world.context, server, 'Satchels', next!)
    expect(result.status).toBe('verified')
    expect(update.files.map(({ path }) => path)).toEqual(['settings/Satchels.json'])
    expect(JSON.parse(read('settings/Satchels.json'))).toMatchObject({ 'by-category': { clay: 40, rope: 8 }, 'full-sound': 'bell' })
    expect(await asked('as isolde satchel clay')).toContain('40 clay fit one slot')
    expect((await overviewOf(world.context, server)).plugins).toMatchObject([{ name: 'Satchels', version: '1.4.0', isOff: false }])
  })

  it('a script that comes while the server runs is loaded by a command, without a restart', async () => {
    const [satchels] = await add('satchels-1.3.tide')
    await put({ packages: [satchels!], switchOn: true })
    const [desk] = await add('wardens-desk-2.0.tide')
    const seq = server.console.lastSeq
    expect(await put({ packages: [desk!] })).toMatchObject({ status: 'verified' })
    expect(server.console.since(seq).map(({ event }) => event?.type)).not.toContain('ready')
    expect(has("scripts/Wardens' Desk.tide")).toBe(true)
    expect(await asked('as isolde desk')).toContain('for wardens')
    server.console.send('grant isolde desk.open')
    expect(await asked('as isolde desk')).toContain('The desk is open')
    // what is left to people stays until it is ticked off
    expect(await tasksOf(world.context, server)).toMatchObject([{ plugin: "Wardens' Desk", doneBy: null }])
    const [task] = await tickTask(
      world.context,
      server,
      { plugin: "Wardens' Desk", task: 'Grant desk.open to your wardens', done: true },
      'maren',
    )
    expect(task).toMatchObject({ doneBy: 'maren' })
    await expect(tickTask(world.context, server, { plugin: 'X', task: 'y', done: true }, 'maren')).rejects.toMatchObject({
      code: 'not-found',
    })
  })

  it('one is switched off and on again, and its settings stay', async () => {
    const [id] = await add('noticeboard-1.0.tide')
    await put({ packages: [id!], switchOn: true })
    await switchPlugin(world.context, server, 'Noticeboard', false, 'maren')
    expect([has('scripts/Noticeboard.tide'), has('scripts/off/Noticeboard.tide'), has('settings/Noticeboard.json')]).toEqual([
      false,
      true,
      true,
    ])
    expect((await overviewOf(world.context, server)).plugins).toMatchObject([{ name: 'Noticeboard', isOff: true }])
    expect(await asked('as isolde board')).toContain('no command')
    // one that is switched off is removed from where it lies
    expect((await planRemoval(world.context, server, 'Noticeboard', 'keep')).removed).toEqual(['scripts/off/Noticeboard.tide'])
    await switchPlugin(world.context, server, 'Noticeboard', true, 'maren')
    expect(await asked('as isolde board')).toContain('The night market')
    await expect(switchPlugin(world.context, server, 'Noticeboard', true, 'maren')).rejects.toMatchObject({ code: 'nothing-to-do' })
  })

  it('a script is refused that says nothing of itself, and one of another family is named as such', async () => {
    const into = (bytes: Uint8Array): Promise<unknown> => addPackages(world.context, server, bytes, 'x.tide', 'test', 'maren')
    await expect(into(Buffer.from('print("hello")\n'))).rejects.toMatchObject({
      code: 'bad-package',
      message: expect.stringContaining('first lines') as unknown,
    })
    await expect(into(Buffer.from('#: name: "x\n'))).rejects.toMatchObject({ message: expect.stringContaining('line 1') as unknown })
    await expect(into(world.pack('purse-1.8'))).rejects.toMatchObject({
      message: expect.stringContaining('package for archive servers') as unknown,
    })
  })

  it('one download may hold several, of which each can be installed', async () => {
    const files = ['satchels-1.3.tide', 'noticeboard-1.0.tide'].map((name) => ({
      name: `both/${name}`,
      data: readFileSync(join(world.folder, 'site', name)),
    }))
    const rows = await addPackages(
      world.context,
      server,
      zip([...files, { name: '__MACOSX/both/._x.tide', data: Buffer.from('x') }]),
      'both.zip',
      'test',
      'maren',
    )
    expect(rows.map(({ info }) => info.name).sort()).toEqual(['Noticeboard', 'Satchels'])
    const both = await put({ packages: rows.map(({ id }) => id), switchOn: true })
    expect(both).toMatchObject({ status: 'verified' })
    expect(both.title).toMatch(/^Install .+, .+$/)
  })
})

describe('servers of bundles', () => {
  beforeEach(() => open('ferry-trials', 'bundle', standin()))
  const packages = async (): Promise<number[]> => {
    for (const name of ['ferrybook-1.0', 'regatta-1.5']) await add(`${name}.zip`)
    return add('lookouts-2.1.zip')
  }

  it('from an empty server to bundles that do what was set: every file, line and entry in its place', async () => {
    const before = read('harbour.cfg')
    const wanted = { packages: await packages(), folders: { Lookouts: 'glasses' }, switchOn: true }
    const { steps, problems } = await plan(wanted)
    expect(problems).toEqual([])
    expect(steps.map(({ name, home: folder, because }) => [name, folder, because])).toEqual([
      ['Ferrybook', 'bundles/ferrybook', 'required'],
      ['Regatta', 'bundles/regatta', 'required'],
      ['Lookouts', 'bundles/glasses', 'asked'],
    ])
    const parts = steps[2]!.parts
    expect(parts.map(({ kind, path, from }) => [kind, path, from])).toEqual([
      ['package', 'bundles/glasses', 'lookouts-2.1-final/'],
      ['register', 'harbour.cfg', null],
      ['copy', 'profile/glasses.json', 'template/lookouts.json'],
      ['entries', 'bundles/ferrybook/items.lua', 'install/items.lua'],
      ['copy', 'bundles/ferrybook/pictures/', 'install/pictures/*.png'],
      ['copy', 'keys/', '*.key'],
    ])
    expect(parts[1]!.texts[0]!.after).toMatch(/berth regatta\nberth glasses\n$/)

    const row = await put(wanted)
    expect(row).toMatchObject({ status: 'verified', title: 'Install Lookouts 2.1.0 with Ferrybook, Regatta' })
    expect(read('harbour.cfg')).toBe(`${before}set bundles on\nberth ferrybook\nberth regatta\nberth glasses\n`)
    expect(read('bundles/ferrybook/items.lua')).toMatch(/rope_coil[^]*lookout_glass = \{[^]*lookout_mast/)
    expect(read('bundles/ferrybook/items.lua')).toContain('-- What may be taken aboard')
    for (const path of ['bundles/ferrybook/pictures/lookout_mast.png', 'keys/lookouts.key', 'profile/glasses.json'])
      expect(has(path)).toBe(true)
    expect(await asked('as isolde lookout')).toContain('mole: The mole, fair')
    expect((await change('bundles/glasses/settings.lua', 'title = "The mole"', 'title = "The pier"')).status).toBe('verified')
    expect(await asked('as isolde lookout')).toContain('The pier')
    expect((await tasksOf(world.context, server)).map(({ task }) => task)).toEqual([
      'Give the wardens the node lookouts.place',
      'Open port 7740 to the outside, for the screens',
      'Fetch a picture key at https://glass.example and put it into secrets.lua',
    ])
  })

  it('is taken back as one step, and leaves nothing', async () => {
    const before = read('harbour.cfg')
    const row = await put({ packages: await packages(), switchOn: true })
    await undoApply(world.context, server, row.id, 'maren')
    expect(read('harbour.cfg')).toBe(before)
    for (const path of ['bundles/lookouts/bundle.lua', 'bundles/regatta/settings.lua', 'keys/lookouts.key', 'profile/lookouts.json'])
      expect(has(path)).toBe(false)
    expect((await overviewOf(world.context, server)).plugins).toEqual([])
  })

  it('removing takes out what it brought, keeps what was changed, and what others need is said', async () => {
    await put({ packages: await packages(), switchOn: true })
    // somebody changed one of the entries since, and set something
    writeFileSync(join(home, 'bundles/ferrybook/items.lua'), read('bundles/ferrybook/items.lua').replace('weight = 8', 'weight = 9'))
    await change('bundles/lookouts/settings.lua', 'every = 5', 'every = 7')
    writeFileSync(join(home, 'bundles/lookouts/main.lua'), '-- mended here\n')
    expect((await planRemoval(world.context, server, 'Ferrybook', 'keep')).neededBy).toEqual(['Regatta'])
    const planned = await planRemoval(world.context, server, 'Lookouts', 'keep')
    expect(planned).toMatchObject({ changed: ['bundles/lookouts/main.lua'], left: ['bundles/ferrybook/items.lua /lookout_mast'] })
    expect(planned.removed).toContain('keys/lookouts.key')
    expect((await remove('Lookouts', 'keep')).status).toBe('verified')
    expect(read('harbour.cfg')).not.toContain('berth lookouts')
    const items = read('bundles/ferrybook/items.lua')
    expect([items.includes('lookout_glass'), items.includes('lookout_mast')]).toEqual([false, true])
    expect(
      ['bundles/lookouts/bundle.lua', 'keys/lookouts.key', 'bundles/lookouts/settings.lua', 'bundles/lookouts/main.lua'].map(has),
    ).toEqual([false, false, true, true])
    // installed again, what was set is still there
    rmSync(join(home, 'bundles/lookouts/main.lua'))
    const [id] = await add('lookouts-2.1.zip')
    await put({ packages: [id!] })
    expect(read('bundles/lookouts/settings.lua')).toContain('every = 7')
    const gone = await remove('Lookouts', 'archive')
    expect(has('bundles/lookouts/settings.lua')).toBe(false)
    expect(gone.pinned).toBe(true)
    await undoApply(world.context, server, gone.id, 'maren')
    expect(read('bundles/lookouts/settings.lua')).toContain('every = 7')
  })

  it('an update carries settings, replaces the rest, and takes out what the new version has no more', async () => {
    await put({ packages: await packages(), switchOn: true })
    await change('bundles/regatta/settings.lua', 'laps = 3', 'laps = 5')
    const [next] = await add('regatta-1.6.zip')
    const { update, result } = await updateOf(world.context, server, 'Regatta', next!)
    expect(update).toMatchObject({ removed: ['bundles/regatta/old.lua'], rewritten: [] })
    expect(result.status).toBe('verified')
    expect(has('bundles/regatta/old.lua')).toBe(false)
    expect(read('bundles/regatta/settings.lua')).toMatch(/seconds = 240[^]*laps = 5[^]*wind_turns = 60/)
    expect(await asked('as isolde regatta')).toContain('240 seconds, 5 laps')
    expect(read('harbour.cfg').match(/berth regatta/g)).toHaveLength(1)
  })

  it('what an earlier version brought is taken out with a later one', async () => {
    await put({ packages: await packages(), switchOn: true })
    const source = unzipSync(readFileSync(join(world.folder, 'site/lookouts-2.1.zip')))
    const lua = strFromU8(source['lookouts-2.1-final/bundle.lua']!).replace('"2.1.0"', '"2.2.0"')
    const newer = zipSync({ ...source, 'lookouts-2.1-final/bundle.lua': strToU8(lua) })
    const [row] = await addPackages(world.context, server, newer, 'lookouts.zip', 'test', 'maren')
    const { result } = await updateOf(world.context, server, 'Lookouts', row!.id)
    expect(result.status).toBe('verified')
    await remove('Lookouts', 'archive')
    expect(['bundles/lookouts/bundle.lua', 'keys/lookouts.key', 'bundles/ferrybook/pictures/lookout_mast.png'].filter(has)).toEqual([])
    expect(read('bundles/ferrybook/items.lua')).not.toContain('lookout_mast')
    expect(read('harbour.cfg')).not.toContain('lookouts')
  })

  it('the folder is renamed with everything it is known by', async () => {
    await put({ packages: await packages(), switchOn: true })
    await change('bundles/regatta/settings.lua', 'laps = 3', 'laps = 4')
    const row = await renameFolder(world.context, server, 'Regatta', 'boat_race', 'maren')
    expect(row.status).toBe('verified')
    expect(read('harbour.cfg')).toMatch(/berth boat_race/)
    expect(read('harbour.cfg')).not.toMatch(/berth regatta/)
    expect(has('bundles/regatta/bundle.lua')).toBe(false)
    const view = await viewFile(world.context, server, 'bundles/boat_race/settings.lua')
    expect(view.factory).toContain('laps = 3')
    // what it is made of is known still, wherever it lies
    await renameFolder(world.context, server, 'Lookouts', 'glasses', 'maren')
    expect([has('profile/lookouts.json'), has('profile/glasses.json')]).toEqual([false, true])
    await remove('Lookouts', 'archive')
    expect(['bundles/glasses/bundle.lua', 'bundles/glasses/main.lua', 'profile/glasses.json', 'keys/lookouts.key'].filter(has)).toEqual([])
    expect(read('bundles/ferrybook/items.lua')).not.toContain('lookout_glass')
    for (const folder of ['Boat Race', '../out', 'ferrybook'])
      await expect(renameFolder(world.context, server, 'Regatta', folder, 'maren')).rejects.toMatchObject({
        status: expect.any(Number) as number,
      })
  })

  it('a line that somebody forgot, or misspelt, is seen', async () => {
    await put({ packages: await packages(), switchOn: true })
    writeFileSync(join(home, 'harbour.cfg'), read('harbour.cfg').replace('berth regatta', 'berth Regatta'))
    await server.inventory.forget()
    expect((await overviewOf(world.context, server)).plugins.map(({ name, isOff }) => [name, isOff])).toEqual([
      ['Ferrybook', false],
      ['Lookouts', false],
      ['Regatta', true],
    ])
    await switchPlugin(world.context, server, 'Regatta', true, 'maren')
    expect(read('harbour.cfg')).toContain('berth regatta\n')
  })

  it('files that are there stay, unless somebody says otherwise, and belong to whoever had them', async () => {
    const [id] = await packages()
    mkdirSync(join(home, 'keys'))
    writeFileSync(join(home, 'keys/lookouts.key'), 'ours')
    const wanted = { packages: [id!], switchOn: true }
    const keyPart = async (input: PlacingInput) => (await plan(input)).steps.at(-1)!.parts.find(({ path }) => path === 'keys/')!
    expect(await keyPart(wanted)).toMatchObject({ leftAsIs: ['keys/lookouts.key'], replaced: [], puts: 0 })
    expect(await keyPart({ ...wanted, overwrite: ['keys/lookouts.key'] })).toMatchObject({
      leftAsIs: [],
      replaced: ['keys/lookouts.key'],
      puts: 1,
    })
    await put(wanted)
    expect(read('keys/lookouts.key')).toBe('ours')
    // it was not put there with the plugin, and does not go with it
    await remove('Lookouts', 'archive')
    expect(read('keys/lookouts.key')).toBe('ours')
    const row = await put({ ...wanted, overwrite: ['keys/lookouts.key'] })
    expect(read('keys/lookouts.key')).toContain('Rosen Pike')
    await undoApply(world.context, server, row.id, 'maren')
    expect(read('keys/lookouts.key')).toBe('ours')
  })

  it('a bundle that came by other ways is taken out as what is known of it', async () => {
    const unknown = join(home, 'bundles/own')
    mkdirSync(unknown)
    writeFileSync(join(unknown, 'bundle.lua'), 'return { name = "Own", version = "0.1" }')
    writeFileSync(join(unknown, 'settings.lua'), 'return { a = 1 }')
    writeFileSync(join(unknown, 'main.lua'), '-- ours')
    writeFileSync(join(home, 'harbour.cfg'), `${read('harbour.cfg')}set bundles on\nberth own\n`)
    server.inventory.forget()
    const planned = await planRemoval(world.context, server, 'Own', 'keep')
    expect(planned).toMatchObject({
      removed: ['bundles/own/bundle.lua', 'bundles/own/main.lua'],
      settings: ['bundles/own/settings.lua'],
      changed: [],
    })
    await remove('Own', 'keep')
    expect([read('harbour.cfg').includes('berth own'), has('bundles/own/main.lua'), has('bundles/own/settings.lua')]).toEqual([
      false,
      false,
      true,
    ])
    await expect(planRemoval(world.context, server, 'Own', 'keep')).rejects.toMatchObject({ code: 'not-found' })
  })

  it('is not removed as it no longer is, nor where it is not', async () => {
    const [id] = await packages()
    await put({ packages: [id!], switchOn: true })
    const { sha } = await planRemoval(world.context, server, 'Lookouts', 'keep')
    writeFileSync(join(home, 'bundles/lookouts/main.lua'), '-- changed\n')
    await expect(
      removePlugin(world.context, server, { plugin: 'Lookouts', settings: 'keep', planSha: sha }, 'maren'),
    ).rejects.toMatchObject({ code: 'plan-changed' })
    expect(has('bundles/lookouts/bundle.lua')).toBe(true)
  })

  it('a block goes into a file that others use, and out again', async () => {
    const before = read('profile/tides.ini')
    const [id] = await add('outwash-3.1.zip')
    await put({ packages: [id!], switchOn: true })
    expect(parseIni(read('profile/tides.ini'))).toMatchObject({ harbour: { hours: '06:00, 18:00' }, outwash: { hours: '03:40, 15:40' } })
    await remove('Outwash', 'archive')
    expect(read('profile/tides.ini')).toBe(before)
  })

  it('names that cannot be, and places that are taken, are said before anything is copied', async () => {
    const [id] = await packages()
    const codes = async (folder: string): Promise<string[]> =>
      (await plan({ packages: [id!], folders: { Lookouts: folder }, switchOn: true })).problems.map(({ code }) => code)
    expect(await codes('Look outs')).toEqual(['bad-folder'])
    expect(await codes('../out')).toEqual(['bad-folder'])
    expect(await codes('regatta')).toEqual(['folder-taken'])
  })

  it('what was looked at is what is done', async () => {
    const ids = await packages()
    const { sha } = await plan({ packages: ids, switchOn: true })
    await add('regatta-1.6.zip')
    await expect(install(world.context, server, { packages: ids, switchOn: true, planSha: sha }, 'maren')).rejects.toMatchObject({
      code: 'plan-changed',
    })
    expect(has('bundles/lookouts/bundle.lua')).toBe(false)
  })

  it('a place comes from an archive under the exact name a command then needs', async () => {
    const into = async (name: string, members = ['low-bank/place.json', 'low-bank/tides/1.bin']): Promise<AddedPlace> => {
      const file = join(world.folder, 'upload')
      writeFileSync(file, zip(members.map((member) => ({ name: member, data: Buffer.from('{}') }))))
      return addPlace(world.context, server, file, name, 'maren')
    }
    await startServer(world.context, server)
    const { change, command } = await into('Low Bank')
    expect([change.status, command]).toEqual(['verified', 'open Low Bank'])
    expect(has('places/Low Bank/tides/1.bin')).toBe(true)
    server.console.send(command!)
    expect(await server.console.waitFor(({ text }) => text === 'Low Bank is open', 0, 3000)).not.toBeNull()
    expect(await listPlaces(server)).toEqual({ places: ['Low Bank', 'estuary', 'mole'], folder: 'places' })
    await expect(into('low bank')).rejects.toMatchObject({ code: 'name-taken' })
    await expect(into('../out')).rejects.toMatchObject({ code: 'bad-input' })
    await expect(into('odd', ['../out.bin'])).rejects.toMatchObject({ code: 'bad-package' })
    await undoApply(world.context, server, change.id, 'maren')
    expect(has('places/Low Bank/tides/1.bin')).toBe(false)
    // whatever came of it, nothing of the upload is left
    expect(existsSync(join(world.folder, 'upload'))).toBe(false)
  })

  it('a folder on the disk is recognised as what it is', async () => {
    await world.context.servers.remove(server.row.id)
    await world.context.families.ship(readFileSync('families/script.yml', 'utf8'))
    const found = await survey(world.context, home)
    expect(found.family).toBe('bundle')
    expect(found.game).toBe('7.1')
  })
})

/** A family nobody has heard of: folders of folders, settings in INI, registered by a key set to true. */
const DELTA = `
id: delta
title: Delta parts
game-version: { file: delta.ini, at: /game/version }
plugins: { kept: unpacked, folder: parts, depth: 2, install-as: "parts/own/{folder}", folder-name: "^[a-z-]+$" }
descriptor: { file: part.ini, name: /part/name, version: /part/version, requires: /part/needs, game: /part/game }
register: [{ kind: key, file: delta.ini, at: "/parts/{folder}", value: "true" }]
settings: { files: ["{home}/*.ini"], except: ["part.ini"], records: [] }
console:
  stop: quit
  line: "^(?<text>.*)$"
  ready: "^up$"
  loaded: "^\\\\+ (?<plugin>\\\\S+) (?<version>\\\\S+)"
  failed: "^- (?<plugin>\\\\S+) (?<reason>.*)$"
after-change: restart
after-install: restart
reading: { yaml: "1.2", json-comments: false }
texts: { placeholder: ["{", "}"] }
`
/** Its server, which reads what is there with a reader of its own. */
const DELTA_SERVER = `
import { readFileSync, readdirSync, existsSync } from 'node:fs'
import { createInterface } from 'node:readline'
import { parse } from '${resolve('node_modules/ini/lib/ini.js')}'
const known = parse(readFileSync('delta.ini', 'utf8')).parts ?? {}
for (const group of readdirSync('parts')) for (const name of readdirSync('parts/' + group)) {
  const home = 'parts/' + group + '/' + name
  if (!existsSync(home + '/part.ini') || known[name] !== true) continue
  const { part } = parse(readFileSync(home + '/part.ini', 'utf8'))
  const { reeds } = parse(readFileSync(home + '/reeds.ini', 'utf8'))
  console.log('+ ' + name + ' ' + part.version + ' cuts ' + reeds.each)
}
console.log('up')
createInterface({ input: process.stdin }).on('line', (line) => line === 'quit' && process.exit(0)).on('close', () => process.exit(0))
`

describe('a family that is described by YAML alone', () => {
  beforeEach(async () => {
    const folder = join(world.folder, 'servers/delta-one')
    mkdirSync(join(folder, 'parts/house/banks'), { recursive: true })
    writeFileSync(join(folder, 'delta.ini'), '; what there is\n[game]\nversion=7.3\n\n[parts]\nbanks=true\n')
    writeFileSync(join(folder, 'parts/house/banks/part.ini'), '[part]\nname=Banks\nversion=1.2\n')
    writeFileSync(join(folder, 'parts/house/banks/reeds.ini'), '[reeds]\neach=1\n')
    writeFileSync(join(folder, 'server.mjs'), DELTA_SERVER)
    await open('delta-one', 'delta', [process.execPath, join(folder, 'server.mjs')], DELTA)
  })
  const reeds = (version: string, each: number, more = ''): Buffer =>
    zip([
      {
        name: `reeds-${version}/part.ini`,
        data: Buffer.from(`[part]\nname=Reed cutter\nversion=${version}\nneeds=Banks >=1.0\ngame=>=7.0\n`),
      },
      { name: `reeds-${version}/reeds.ini`, data: Buffer.from(`; how many at once\n[reeds]\neach=${each}\n${more}`) },
    ])

  it('is driven from an empty server over a change to an update and out again', async () => {
    const into = async (bytes: Uint8Array): Promise<number> =>
      (await addPackages(world.context, server, bytes, 'reeds.zip', 'test', 'maren'))[0]!.id
    expect((await overviewOf(world.context, server)).plugins).toMatchObject([{ name: 'Banks', version: '1.2', folder: 'banks' }])
    const row = await put({ packages: [await into(reeds('1.0', 4))], folders: { 'Reed cutter': 'reeds' } })
    expect(row.status).toBe('verified')
    expect(parseIni(read('delta.ini'))).toEqual({ game: { version: '7.3' }, parts: { banks: true, reeds: true } })
    expect(read('delta.ini')).toContain('; what there is')
    const changed = await change('parts/own/reeds/reeds.ini', 'each=4', 'each=6')
    expect(changed.status).toBe('verified')
    expect(changed.outcome.lines.join('\n')).toContain('+ reeds 1.0 cuts 6')
    const { result } = await updateOf(world.context, server, 'Reed cutter', await into(reeds('1.1', 5, 'wet=no\n')))
    expect(result.outcome.lines.join('\n')).toContain('+ reeds 1.1 cuts 6')
    expect(parseIni(read('parts/own/reeds/reeds.ini'))).toMatchObject({ reeds: { each: '6', wet: 'no' } })
    await switchPlugin(world.context, server, 'Reed cutter', false, 'maren')
    expect(parseIni(read('delta.ini')).parts).toEqual({ banks: true })
    await remove('Reed cutter', 'archive')
    expect(has('parts/own/reeds/reeds.ini')).toBe(false)
    expect(read('delta.ini')).toBe('; what there is\n[game]\nversion=7.3\n\n[parts]\nbanks=true\n')
  })

  it('is started and read as its description says', async () => {
    await startServer(world.context, server)
    expect(server.console.since(0).map(({ event }) => event?.type)).toEqual(['loaded', 'ready'])
  })
})
