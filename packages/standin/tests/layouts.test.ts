import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { strToU8, zipSync } from 'fflate'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { ServerConsole } from '../src/server/console'
import { GameServer } from '../src/server/game-server'
import { SettingsFile } from '../src/server/settings-file'
import { SettingsError, readTree } from '../src/server/trees'
import { offersIn } from '../src/site/offers'

const demo = join(dirname(fileURLToPath(import.meta.url)), '../demo')

describe('settings as the servers read them', () => {
  it.each<[string, string, unknown]>([
    ['a.yml', 'a:\n  b: [1, 2]\n', { a: { b: [1, 2] } }],
    ['a.json', '{ "a": { "b": [1, 2] } }', { a: { b: [1, 2] } }],
    ['a.lua', 'return { a = { b = { 1, 2 } } }', { a: { b: [1, 2] } }],
    [
      'a.lua',
      'Config = {}\nConfig.a = { ["b c"] = -1.5, d = true }\nConfig.e.f = [[long]]',
      { a: { 'b c': -1.5, d: true }, e: { f: 'long' } },
    ],
    ['a.lua', 'return { a = "tab\\tand \\"quotes\\"", b = \'x\', c = {} }', { a: 'tab\tand "quotes"', b: 'x', c: {} }],
    ['a.lua', 'return { run = function() end, a = 1 }', { run: undefined, a: 1 }],
  ])('%s: %j', (path, text, expected) => {
    expect(readTree(path, text).data).toEqual(expected)
  })

  it.each([
    ['a.yml', 'a: 1\nb:\n  c: 2\n', ['b', 'c'], 3],
    ['a.json', '{\n  "a": 1,\n  "b": {\n    "c": 2\n  }\n}', ['b', 'c'], 4],
    ['a.lua', 'return {\n  a = 1,\n  b = {\n    c = 2,\n  },\n}', ['b', 'c'], 4],
    ['a.lua', 'return {\n  b = {\n  },\n}', ['b', 'gone'], 2],
  ])('%s knows its lines', (path, text, at, line) => {
    expect(readTree(path, text).lineOf(at)).toBe(line)
  })

  it.each([
    ['a.yml', 'a: 1\nb: "x" y\n', 2],
    ['a.json', '{\n  "a": 1,\n}', 3],
    ['a.lua', 'return {\n  a = ,\n}', 2],
  ])('%s that does not read is told with its line', (path, text, line) => {
    try {
      readTree(path, text)
      expect.unreachable()
    } catch (error) {
      expect(error).toBeInstanceOf(SettingsError)
      expect((error as SettingsError).line).toBe(line)
    }
  })

  it('values are checked where they stand, and what is left out may have a value of its own', () => {
    const file = new SettingsFile('a.lua', 'return {\n  laps = 2.5,\n  sign = "LANTERNROWS",\n}')
    expect(() => file.use({ laps: { at: 'laps', kind: 'number', whole: true } })).toThrow('laps must be a whole number, not 2.5')
    expect(() => file.use({ sign: { at: 'sign', kind: 'text', length: 10 } })).toThrow('sign has 11 letters, more than 10')
    expect(file.use({ wind: { at: 'wind', kind: 'switch', otherwise: true } })).toEqual({ wind: true })
    expect(() => file.use({ wind: { at: 'wind', kind: 'switch' } })).toThrow('wind is missing')
  })
})

describe('servers of the other families', () => {
  let folder: string
  let lines: string[]
  let server: GameServer
  const start = (profile = 'profile'): void => {
    lines = []
    const console = new ServerConsole(
      (line) => lines.push(line.slice(13)),
      () => new Date(0),
    )
    server = new GameServer(
      folder,
      console,
      () => 0.5,
      () => 0,
      { profile, startedAt: new Date('2026-11-26T03:00:00Z') },
    )
    server.start()
  }
  const say = (line: string): string[] => {
    const from = lines.length
    server.command(line)
    return lines.slice(from)
  }
  const path = (name: string): string => join(folder, name)
  beforeEach(() => void (folder = mkdtempSync(join(tmpdir(), 'standin-'))))
  afterEach(() => rmSync(folder, { recursive: true, force: true }))

  describe('scripts', () => {
    const put = (name: string, as: string): void => cpSync(join(demo, 'scripts', name), path(`scripts/${as}.tide`))
    beforeEach(() => {
      mkdirSync(path('scripts'))
      writeFileSync(path('server.json'), '{ "game": "7.2", "scripts": true, "players": ["isolde"] }')
    })

    it('write their settings and records, and keep what is set while running once they are told to', () => {
      put('satchels-1.3.tide', 'Satchels')
      start()
      expect(lines).toContain('info  Satchels generated settings/Satchels.json')
      expect(lines).toContain('info  Satchels 1.3.0 loaded: 4 categories, 0 items of their own')
      expect(say('as isolde satchel clay')).toEqual(['reply isolde reads: 32 clay fit one slot.'])
      // -1 leaves it as the game has it, and so does a category without a line
      expect(say('as isolde satchel map')).toEqual(['reply isolde reads: 64 map fit one slot.'])
      expect(say('as isolde satchel anchor')).toEqual(['reply isolde reads: 64 anchor fit one slot.'])
      expect(say('as isolde satchel nothing')).toEqual(['reply isolde reads: There is no nothing.'])
      expect(say('satchel set clay 5')).toEqual(['reply 5 clay fit one slot'])
      expect(JSON.parse(readFileSync(path('records/Satchels.json'), 'utf8'))).toEqual({})
      expect(say('flush Satchels')).toEqual(['reply 1 items written'])
      expect(JSON.parse(readFileSync(path('records/Satchels.json'), 'utf8'))).toEqual({ clay: 5 })
      expect(say('satchel set nothing 5')).toEqual(['reply satchel set <item> <count>'])
      expect(say('flush Purse')).toEqual(['reply flush: Purse keeps nothing'])
    })

    it('complain about a value, and take it once it is right', () => {
      put('satchels-1.3.tide', 'Satchels')
      mkdirSync(path('settings'))
      writeFileSync(path('settings/Satchels.json'), '{\n  "by-category": { "clay": 2.5 },\n  "announce": true\n}')
      start()
      expect(lines.find((line) => line.includes('failed'))).toContain('by-category.clay must be a whole number from 1, or -1')
      writeFileSync(path('settings/Satchels.json'), '{\n  "by-category": { "clay": 2 },\n  "announce": "yes"\n}')
      expect(say('reload Satchels')[0]).toContain('failed: settings/Satchels.json line 3: announce must be true or false, not "yes"')
      writeFileSync(path('settings/Satchels.json'), '{ "by-category": { "clay": 2 }, "announce": true }')
      expect(say('reload Satchels')).toEqual(['info  Satchels 1.3.0 reloaded: 1 categories, 0 items of their own'])
    })

    it('are loaded while it runs, answer those who hold a node, and rest where they are switched off', () => {
      start()
      expect(say("load Wardens' Desk")).toEqual(["error load: there is no plugin Wardens' Desk"])
      put('wardens-desk-2.0.tide', 'desk')
      expect(say("load Wardens' Desk")).toContain("info  Wardens' Desk 2.0.0 loaded: for 1 wardens")
      expect(say('as isolde desk')).toEqual(['reply isolde reads: The desk is for wardens.'])
      say('grant isolde desk.open')
      expect(say('as isolde desk')[0]).toContain('The desk is open')
      writeFileSync(path('server.json'), '{ "game": "7.2", "scripts": false, "players": [] }')
      start()
      expect(lines).toContain('error scripts are switched off in server.json')
      expect(say('plugins')).toEqual([])
    })

    it('what is no script, or is there twice, is passed over', () => {
      put('noticeboard-1.0.tide', 'One')
      put('noticeboard-1.0.tide', 'Two')
      writeFileSync(path('scripts/broken.tide'), 'run()\n')
      start()
      expect(lines.filter((line) => line.startsWith('error'))).toEqual([
        'error broken.tide: not a script: its description lacks a name or a version',
        'error Noticeboard 1.0.2 is there already, so another of it is passed over',
      ])
    })
  })

  describe('bundles', () => {
    const put = (name: string, as: string): void => cpSync(join(demo, 'bundles', name), path(`bundles/${as}`), { recursive: true })
    const harbour = (...names: string[]): void =>
      writeFileSync(path('harbour.cfg'), ['set bundles on', ...names.map((name) => `berth ${name}`)].join('\n'))
    beforeEach(() => {
      mkdirSync(path('profile'))
      mkdirSync(path('places/Mole'), { recursive: true })
      writeFileSync(path('profile/server.json'), '{ "game": "7.1", "players": ["isolde"] }')
    })

    it('are opened as the harbour names them, after what they need', () => {
      put('ferrybook-1.0', 'ferrybook')
      put('regatta-1.5', 'boats')
      harbour('boats', 'ferrybook', 'gone')
      start()
      expect(lines).toContain('info  ferrybook: berthed 1.0.0, 24 seats')
      expect(lines).toContain('info  boats: berthed 1.5.0, rounds of 180 s, 3 laps, 2 crews')
      expect(lines).toContain('error gone: not berthed: there is no bundles/gone/bundle.lua')
      expect(say('as isolde crews')).toEqual(['reply isolde reads: reed: The Reeds', 'reply isolde reads: clay: The Clays'])
      harbour('boats')
      start()
      expect(lines).toContain('error boats: not berthed: it needs Ferrybook >=1.0, which is not running')
    })

    it('a sign refuses the eleventh letter, and takes the tenth', () => {
      put('beacon-sign-1.2', 'sign')
      harbour('sign')
      const settings = path('bundles/sign/settings.lua')
      const before = readFileSync(settings, 'utf8')
      writeFileSync(settings, before.replace('LANTERN', 'LANTERNROWS'))
      start()
      expect(lines).toContain('error sign: not berthed: settings.lua line 3: lines.first has 11 letters, more than 10')
      writeFileSync(settings, before.replace('LANTERN', 'LANTERNROW'))
      expect(say('reberth sign')).toEqual(['info  sign: berthed 1.2.0 again, LANTERNROW ROW in oak'])
    })

    it('clears at its minutes, by the hours it shares with others in the folder it was told', () => {
      put('outwash-3.1', 'outwash')
      harbour('outwash')
      mkdirSync(path('season'))
      writeFileSync(path('season/server.json'), '{ "game": "7.1" }')
      writeFileSync(path('season/tides.ini'), '[harbour]\nhours = 06:00\n[outwash]\nhours = 03:40, 15:40\n')
      start('season')
      expect(lines).toContain('info  outwash: berthed 3.1.0, at 03:40, 15:40 UTC, warns 5 min before, keeps 2')
      expect(say('clock 2099')).toEqual(['reply 03:34:59'])
      expect(say('clock 1')).toEqual(['info  [chat] The outwash comes in 5 minutes.', 'reply 03:35:00'])
      const cleared = 'info  [chat] The outwash takes 20 strays within 30 seconds, and leaves eel, crayfish.'
      expect(say('clock 300')).toEqual([cleared, 'reply 03:40:00'])
      expect(say(`clock ${24 * 3600}`).filter((line) => line === cleared)).toHaveLength(2)
      writeFileSync(path('season/tides.ini'), '[outwash]\n')
      expect(say('reberth outwash')).toEqual(['error outwash: not berthed: season/tides.ini line 1: outwash.hours is missing'])
    })

    it('costs what is set of each tick, and tells it when it is asked', () => {
      put('beacon-sign-1.2', 'sign')
      harbour('sign')
      start()
      expect(say('times')).toEqual(['reply time: sign 0.30 ms'])
    })

    it('a harbour that opens none says so; places are opened by their exact names', () => {
      put('ferrybook-1.0', 'ferrybook')
      writeFileSync(path('harbour.cfg'), 'berth ferrybook\n')
      start()
      expect(lines).toContain('error bundles are switched off in harbour.cfg')
      expect(say('open Mole')).toEqual(['info  Mole is open'])
      expect(say('open mole')).toEqual(['error open: there is no place mole'])
    })
  })

  it('a folder of none of them is no server', () => {
    expect(() => start()).toThrow('is no server’s folder'.replace('’', "'"))
  })
})

describe('the plugin site', () => {
  it('says of each file which family it is for', () => {
    const folder = mkdtempSync(join(tmpdir(), 'site-'))
    cpSync(join(demo, 'scripts/satchels-1.4.tide'), join(folder, 'satchels.tide'))
    const lua = readFileSync(join(demo, 'bundles/regatta-1.6/bundle.lua'))
    writeFileSync(join(folder, 'regatta 1.6.zip'), zipSync({ 'regatta/bundle.lua': new Uint8Array(lua) }))
    writeFileSync(
      join(folder, 'plain.pack'),
      zipSync({ 'pack.yml': strToU8('name: Plain\nversion: 1.0.0\n'), 'behaviour.yml': strToU8('kind: answers\nreads: {}\n') }),
    )
    writeFileSync(join(folder, 'notes.txt'), 'x')
    expect(offersIn(folder)).toMatchObject([
      { name: 'Plain', family: 'archive', link: '/packages/plain.pack' },
      { name: 'Regatta', version: '1.6.0', family: 'bundle', requires: { Ferrybook: '>=1.0' }, link: '/packages/regatta%201.6.zip' },
      { name: 'Satchels', version: '1.4.0', family: 'script' },
    ])
    rmSync(folder, { recursive: true })
    expect(existsSync(folder)).toBe(false)
  })
})
