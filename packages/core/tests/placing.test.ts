import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { FileAction } from '../src/families/actions'
import { arrangementOf } from '../src/families/arrangements'
import { FamilyError, readFamily, type Piece } from '../src/families/family'
import { looksLike, packagesIn } from '../src/families/find-packages'
import { nameOf, pathOf, patternsFor, type Placed } from '../src/families/folders'
import { PackageError, readAbout, readPackage, readSingleFile } from '../src/families/package-info'
import { inverseOf, planParts, registrationsOf, type PackageContent } from '../src/families/plan-parts'
import { sharedFilesOf } from '../src/families/pieces'
import { inProfile, mayNameProfile, profilesNamed } from '../src/families/profile'
import { recogniseFamilies } from '../src/families/recognise'

const text = (id: string): string => readFileSync(`families/${id}.yml`, 'utf8')
const [archive, script, bundle] = ['archive', 'script', 'bundle'].map((id) => readFamily(text(id))) as [
  ReturnType<typeof readFamily>,
  ReturnType<typeof readFamily>,
  ReturnType<typeof readFamily>,
]
const lookouts: Placed = { name: 'Lookouts', folder: 'glasses', home: 'bundles/glasses' }

describe('a description that cannot be', () => {
  it.each<[string, (yaml: string) => string, string, string]>([
    [
      'a key nobody knows',
      (yaml) => yaml.replace('  folder: bundles', '  folder: bundles\n  kpet: packed'),
      'kpet is no part',
      'kpet: packed',
    ],
    ['a word that stands for nothing', (yaml) => yaml.replace('berth {folder}', 'berth {name}'), '{name}', 'berth {name}'],
    [
      'a place outside of the server',
      (yaml) => yaml.replace('  folder: bundles', '  folder: ../bundles'),
      'below the server',
      '../bundles',
    ],
    ['a pattern that is none', (yaml) => yaml.replace('"^berth "', '"("'), 'no regular expression', 'like: "("'],
    ['a line that fits anywhere', (yaml) => yaml.replace('ready: "^ready', 'ready: "ready'), 'must begin with ^', 'ready: "ready'],
    ['nothing packages are known by', (yaml) => yaml.replace('  file: bundle.lua\n', ''), 'descriptor.file is missing', 'descriptor:'],
    ['a registration without its line', (yaml) => yaml.replace('line: "berth {folder}", ', ''), 'line', 'kind: line'],
    ['a mistake in the YAML', (yaml) => yaml.replace('title: Bundles', 'title: "Bundles'), 'not closed', 'title: "Bundles'],
  ])('%s is named with its line', (_what, change, words, at) => {
    const changed = change(text('bundle'))
    expect(changed).not.toBe(text('bundle'))
    try {
      readFamily(changed)
      expect.unreachable()
    } catch (error) {
      expect(error).toBeInstanceOf(FamilyError)
      expect((error as FamilyError).message).toContain(words)
      expect(changed.split('\n')[(error as FamilyError).faults[0]!.line - 1]).toContain(at)
    }
  })

  it('is never more than refused, whatever it holds', () => {
    const whole = text('bundle')
    const sections = whole.split(/^(?=[a-z-]+:)/m).slice(1)
    const value = fc.oneof(fc.jsonValue(), fc.constantFrom(null, [], {}, '{}', '../x', '('))
    fc.assert(
      fc.property(
        fc.subarray(sections),
        fc.dictionary(fc.constantFrom('id', 'plugins', 'descriptor', 'register', 'settings', 'console', 'pieces'), value),
        (kept, odd) => {
          const keys = Object.keys(odd)
          const yaml =
            kept.filter((section) => !keys.some((key) => section.startsWith(`${key}:`))).join('') +
            keys.map((key) => `\n${key}: ${JSON.stringify(odd[key])}\n`).join('')
          try {
            readFamily(yaml)
          } catch (error) {
            expect(error).toBeInstanceOf(FamilyError)
            const { faults } = error as FamilyError
            expect(faults.length).toBeGreaterThan(0)
            expect(faults.every(({ line }) => line >= 1 && line <= yaml.split('\n').length)).toBe(true)
          }
        },
      ),
    )
  })

  it('tells all of its faults at once', () => {
    const broken = text('bundle').replace('  folder: bundles', '  folder: 5').replace('after-change: reload', 'after-change: maybe')
    try {
      readFamily(broken)
      expect.unreachable()
    } catch (error) {
      expect((error as FamilyError).faults.length).toBeGreaterThanOrEqual(2)
      const lines = broken.split('\n')
      expect((error as FamilyError).faults.map(({ line }) => lines[line - 1]!.trim())).toEqual(
        expect.arrayContaining(['folder: 5', 'after-change: maybe']),
      )
    }
  })
})

describe('packages in a download', () => {
  it.each<[string, typeof archive, string[], unknown]>([
    ['at the top', archive, ['pack.yml', 'defaults/a.yml'], [{ root: '', member: null }]],
    [
      'several packed ones',
      archive,
      ['a/X.pack', 'b/Y.pack', 'read.me'],
      [
        { root: '', member: 'a/X.pack' },
        { root: '', member: 'b/Y.pack' },
      ],
    ],
    ['an outer folder', bundle, ['lookouts-2.1/bundle.lua', 'lookouts-2.1/settings.lua'], [{ root: 'lookouts-2.1/', member: null }]],
    [
      'two folders',
      bundle,
      ['a/bundle.lua', 'b/bundle.lua'],
      [
        { root: 'a/', member: null },
        { root: 'b/', member: null },
      ],
    ],
    ['one within another', bundle, ['bundle.lua', 'parts/bundle.lua'], [{ root: '', member: null }]],
    ['what a system left', bundle, ['bundle.lua', '__MACOSX/x/bundle.lua', '.DS_Store'], [{ root: '', member: null }]],
    [
      'scripts in an archive',
      script,
      ['x/One.tide', 'Two.tide'],
      [
        { root: '', member: 'x/One.tide' },
        { root: '', member: 'Two.tide' },
      ],
    ],
  ])('%s', (_what, family, names, expected) => {
    expect(packagesIn(names, family)).toEqual(expected)
  })

  it.each<[string, typeof archive, string[], RegExp]>([
    ['nothing', bundle, ['a.txt'], /holds no bundle.lua/],
    ['one folder too deep for a packed one', archive, ['hampers/pack.yml'], /lies in the folder hampers, and must be at the top/],
    ['no script', script, ['a.txt'], /holds no .tide file/],
  ])('%s is refused, with the reason', (_what, family, names, reason) => {
    expect(() => packagesIn(names, family)).toThrow(PackageError)
    expect(() => packagesIn(names, family)).toThrow(reason)
  })

  it('one of another family is told as such', () => {
    expect(looksLike(['pack.yml'], [bundle, archive])?.id).toBe('archive')
    expect(looksLike(['x/bundle.lua'], [archive, bundle])?.id).toBe('bundle')
    expect(looksLike(['a.txt'], [archive, bundle])).toBeNull()
  })
})

describe('what packages say', () => {
  const about = (lua: string) =>
    readAbout(lua, bundle, { file: 'bundle.lua', named: 'folder', notes: '- [ ] Buy a key\n- [x] done\n* [ ] Open the port' })

  it.each<[string, Record<string, string>]>([
    ['{ Purse = ">=1.5", Mint = { range = "^2", adds = "coins" } }', { Purse: '>=1.5', Mint: '^2' }],
    ['{ "Purse >=1.5", "Mint", "Wardens\' Desk 2.0", "Tide@~1.2" }', { Purse: '>=1.5', Mint: '*', "Wardens' Desk": '2.0', Tide: '~1.2' }],
    ['"Purse>=1.5, Stage 2"', { Purse: '>=1.5', 'Stage 2': '*' }],
    ['{}', {}],
  ])('needs are read from %s', (lua, expected) => {
    expect(about(`return { name = "X", version = "1.0", requires = ${lua} }`).requires).toEqual(expected)
  })

  it('has a name of its own, of its folder, or none that can be used', () => {
    expect(about('return { version = "1.0" }').name).toBe('folder')
    expect(about('return { name = "Wardens’ Desk", version = "1.0" }').name).toBe('Wardens’ Desk')
    expect(() => about('return { name = "a/b", version = "1.0" }')).toThrow('cannot be a file name')
    expect(() => about('return { name = "X" }')).toThrow('names no version')
    expect(() => about('return { name = "X", version = "1", pieces = { { kind = "steal" } } }')).toThrow(/bundle.lua line 1/)
  })

  it('leaves to people what its notes have boxes for, and says what others add', () => {
    const { tasks, adds } = about(
      'return { name = "X", version = "1", tasks = { "First" }, optional = { Y = { range = "*", adds = "a page" } } }',
    )
    expect(tasks).toEqual(['First', 'Buy a key', 'Open the port'])
    expect(adds).toEqual({ Y: 'a page' })
  })

  it('a script says it in its first lines, and brings what stands between its marks', () => {
    const source =
      '#!/usr/bin/tide\n\n#: name: Satchels\n#: version: 1.3.0\nrun()\n#: name: Other\n#begin settings/Satchels.json\n{ "a": 1 }\n#end\n#begin notes/x.txt\nx\n#end\n'
    const info = readSingleFile(source, script, 'satchels.tide')
    expect(info).toMatchObject({ name: 'Satchels', version: '1.3.0', defaults: { '/settings/{plugin}.json': '{ "a": 1 }\n' } })
    expect(() => readSingleFile('run()\n#: name: X\n', script, 'x.tide')).toThrow('first lines')
    expect(() => readSingleFile('#: name: "X\n', script, 'x.tide')).toThrow('line 1')
  })

  it('settings of an unpacked one are what it ships, also where they are copied to', () => {
    const pieces = '{ { kind = "copy", from = "template/*.json", to = "profile/{folder}.json" } }'
    const files = new Map([
      ['bundle.lua', `return { name = "X", version = "1", pieces = ${pieces} }`],
      ['settings.lua', 'return { a = 1 }'],
      ['main.lua', 'print(1)'],
      ['template/x.json', '{}'],
    ])
    expect(readPackage(files, bundle, 'x').defaults).toEqual({ 'settings.lua': 'return { a = 1 }', '/{profile}/{folder}.json': '{}' })
  })
})

describe('what lies in an unpacked plugin’s folder', () => {
  const deep = readFamily(text('bundle').replace('  ending: zip', '  ending: zip\n  depth: 2'))
  const find = (family: typeof bundle, listing: string[]): (string | undefined)[] =>
    arrangementOf(family)
      .find(family, listing)
      .map(({ unpacked }) => unpacked?.home)

  it.each<[typeof bundle, string[], string[]]>([
    [bundle, ['bundles/a/bundle.lua', 'bundles/bundle.lua', 'other/b/bundle.lua'], ['bundles/a']],
    [bundle, ['bundles/a/b/bundle.lua'], []],
    [deep, ['bundles/a/b/bundle.lua', 'bundles/c/bundle.lua', 'bundles/c/d/bundle.lua'], ['bundles/a/b', 'bundles/c']],
  ])('%#', (family, listing, homes) => {
    expect(find(family, listing)).toEqual(homes)
  })

  it('goes into a folder its family lets it have, whatever it is called', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[A-Za-z][A-Za-z0-9 '’.-]{0,20}$/), (name) => {
        const { folder, home } = arrangementOf(bundle).placeNew(bundle, name)
        expect(home).toBe(`bundles/${folder}`)
        expect(folder).toMatch(/^[a-z][a-z0-9_]*$/)
      }),
    )
    expect(arrangementOf(bundle).placeNew(bundle, 'Beacon Sign').folder).toBe('beacon_sign')
  })

  it('is told from records and from code, and named whatever its folder is called', () => {
    const { isSettings, isRecord } = patternsFor(bundle, lookouts)
    expect(
      ['bundles/glasses/settings.lua', 'bundles/glasses/main.lua', 'bundles/other/settings.lua', 'profile/glasses.json'].map(isSettings),
    ).toEqual([true, false, false, true])
    expect(isRecord('bundles/glasses/records.lua')).toBe(true)
    for (const path of ['bundles/glasses/settings.lua', 'profile/glasses.json', 'harbour.cfg']) {
      expect(pathOf(bundle, lookouts, nameOf(bundle, lookouts, path))).toBe(path)
      expect(nameOf(bundle, lookouts, path)).not.toContain('glasses')
    }
    // a folder whose name means something to patterns means itself
    const odd: Placed = { name: 'Odd', folder: '[a]{b}*', home: 'bundles/[a]{b}*' }
    expect(patternsFor(bundle, odd).isSettings('bundles/[a]{b}*/settings.lua')).toBe(true)
    expect(patternsFor(bundle, odd).isSettings('bundles/ab/settings.lua')).toBe(false)
    expect(patternsFor(bundle, null).isSettings('bundles/anything/settings.lua')).toBe(true)
  })
})

describe('what placing comes to', () => {
  const regatta: Placed = { name: 'Regatta', folder: 'boats', home: 'bundles/boats' }
  const content = (members: string[], texts: Record<string, string> = {}): PackageContent => ({
    sha: 's',
    root: 'outer/',
    members,
    texts: new Map(Object.entries(texts)),
  })
  const piece = (more: Partial<Piece>): Piece => ({
    kind: 'copy',
    from: 'x',
    to: 'y',
    at: '',
    of: undefined,
    keep: true,
    because: '',
    ...more,
  })
  const parts = (pieces: Piece[], of: PackageContent, more: Partial<Parameters<typeof planParts>[0]> = {}) =>
    planParts({
      family: bundle,
      plugin: { ...lookouts, version: '2.1' },
      content: of,
      pieces,
      follows: ['Regatta'],
      others: [regatta],
      place: null,
      ...more,
    }).slice(2)
  const put = (path: string, member: string, ifAbsent = true): FileAction => ({
    kind: 'put',
    path,
    content: { package: 's', member: `outer/${member}` },
    ...(ifAbsent ? { ifAbsent: true } : {}),
  })

  it.each<[string, Piece, PackageContent, Partial<Parameters<typeof planParts>[0]>, FileAction[]]>([
    [
      'a template',
      piece({ from: 'template/*.json', to: 'profile/{folder}.json' }),
      content(['template/a.json']),
      {},
      [put('profile/glasses.json', 'template/a.json')],
    ],
    ['a key', piece({ from: '*.key', to: 'keys/' }), content(['a.key', 'b/c.key']), {}, [put('keys/a.key', 'a.key')]],
    [
      'pictures of another',
      piece({ from: 'img/**', to: '{their-home}/img/', of: 'Regatta' }),
      content(['img/a/b.png']),
      {},
      [put('bundles/boats/img/a/b.png', 'img/a/b.png')],
    ],
    [
      'a folder into a world',
      piece({ from: 'world/**', to: 'places/{place}/' }),
      content(['world/r/1.bin']),
      { place: 'mole' },
      [put('places/mole/r/1.bin', 'world/r/1.bin')],
    ],
    [
      'never over what is there by itself',
      piece({ from: 'a.txt', to: 'a.txt', keep: false }),
      content(['a.txt']),
      {},
      [put('a.txt', 'a.txt')],
    ],
    [
      'over what somebody said',
      piece({ from: 'a.txt', to: 'a.txt' }),
      content(['a.txt']),
      { overwrite: ['a.txt'] },
      [put('a.txt', 'a.txt', false)],
    ],
    [
      'entries',
      piece({ kind: 'entries', from: 'i.lua', to: '{their-home}/items.lua', of: 'Regatta' }),
      content(['i.lua'], { 'i.lua': 'return { a = { b = 1 }, c = "d" }' }),
      {},
      [
        { kind: 'entry', path: 'bundles/boats/items.lua', at: ['a'], value: { b: 1 }, present: true, keep: true },
        { kind: 'entry', path: 'bundles/boats/items.lua', at: ['c'], value: 'd', present: true, keep: true },
      ],
    ],
    [
      'items of a list',
      piece({ kind: 'entries', from: 'i.json', to: 'l.json' }),
      content(['i.json'], { 'i.json': '["a"]' }),
      {},
      [{ kind: 'item', path: 'l.json', at: [], value: 'a', present: true }],
    ],
    [
      'a block',
      piece({ kind: 'block', from: 'b.ini', to: 's.ini' }),
      content(['b.ini'], { 'b.ini': '[a]\nb=1\n' }),
      {},
      [{ kind: 'block', path: 's.ini', text: '[a]\nb=1\n', present: true }],
    ],
  ])('%s', (_what, one, of, more, actions) => {
    expect(parts([one], of, more).flatMap((part) => part.actions)).toEqual(actions)
  })

  it.each<[string, Piece, string]>([
    ['whose plugin is not there', piece({ from: 'a', of: 'Nobody', to: '{their-home}/a' }), 'Nobody is not on this server'],
    ['whose place is not chosen', piece({ from: 'a', to: 'places/{place}/' }), 'choose where first'],
  ])('a piece %s is left out, and said', (_what, one, skipped) => {
    expect(parts([one], content(['a']))).toMatchObject([{ skipped, actions: [] }])
  })

  it('nothing leads out of the server, whatever words are filled in', () => {
    expect(() => parts([piece({ from: 'a', to: 'places/{place}/' })], content(['a']), { place: '..' })).toThrow(PackageError)
    expect(() => parts([piece({ from: 'a', to: 'bundles/other/bundle.lua' })], content(['a']))).toThrow('where a package is')
    expect(() => parts([piece({ kind: 'entries', from: 'i.lua', to: 'x.lua' })], content(['i.lua'], { 'i.lua': 'return {' }))).toThrow(
      'has mistakes',
    )
  })

  it('a line comes behind those of what it needs, and every change within a file can be taken back', () => {
    const all = planParts({
      family: bundle,
      plugin: { ...lookouts, version: '2.1' },
      content: content([]),
      pieces: [],
      follows: ['Regatta'],
      others: [regatta],
      place: null,
    })
    expect(all[1]!.actions).toEqual([
      { kind: 'line', path: 'harbour.cfg', line: 'berth glasses', present: true, like: '^berth ', after: ['berth boats'] },
    ])
    expect(inverseOf({ kind: 'item', path: 'a', at: [], value: 1, present: true })).toMatchObject({ present: false, value: 1 })
  })

  it.each([
    [
      '{ kind: item, file: bundles.yml, at: /all, value: { id: "{folder}", name: "{plugin}", of: ["{version}"] } }',
      { kind: 'item', path: 'bundles.yml', at: ['all'], value: { id: 'glasses', name: 'Lookouts', of: ['2.1'] } },
    ],
    ['{ kind: key, file: s.ini, at: "/on/{folder}", value: true }', { kind: 'entry', path: 's.ini', at: ['on', 'glasses'], value: true }],
    ['{ kind: key, file: "{home}/on.ini", at: /on }', { kind: 'entry', path: 'bundles/glasses/on.ini', at: ['on'], value: true }],
  ])('made known by %s', (how, expected) => {
    const family = readFamily(text('bundle').replace(/ {2}- \{ kind: line.*/, `  - ${how}`))
    expect(registrationsOf(family, { ...lookouts, version: '2.1' }, true)).toMatchObject([{ ...expected, present: true }])
  })
})

describe('a folder that only a start command names', () => {
  it.each<[string, string[]]>([
    ['./serve --profile=season', ['season']],
    ['./serve --profile season/two/ --x', ['season/two']],
    ['#!/bin/sh\n# ./serve --profile=old\nexec ./serve --profile=new\n', ['new']],
    ['@echo off\r\nREM serve --profile=old\r\nserve.exe --profile=new\r\n', ['new']],
    ['serve --profile=../out --profile=/etc --profile=here', ['here']],
    ['serve --profiles=a', []],
    ['', []],
  ])('%j names %j', (text, expected) => {
    expect(profilesNamed(bundle, text)).toEqual(expected)
  })

  it('stands for {profile} in places and patterns, and packages are read alike wherever it is', () => {
    const season = inProfile(bundle, 'season')
    expect(season['game-version'].file).toBe('season/server.json')
    expect(inProfile(bundle, null)['game-version'].file).toBe('profile/server.json')
    expect(inProfile(archive, 'season')).toBe(archive)
    const path = 'season/glasses.json'
    expect([season, inProfile(bundle, null)].map((family) => patternsFor(family, lookouts).isSettings(path))).toEqual([true, false])
    expect(nameOf(season, lookouts, path)).toBe('/{profile}/{folder}.json')
    expect(pathOf(inProfile(bundle, null), lookouts, nameOf(season, lookouts, path))).toBe('profile/glasses.json')
    const block: Piece = { kind: 'block', from: 'a.ini', to: '{profile}/tides.ini', at: '', keep: true, because: '', of: undefined }
    expect(sharedFilesOf(season, lookouts, [block, { ...block, to: 'a.bin' }, { ...block, to: '{their-home}/a.ini' }])).toEqual([
      'season/tides.ini',
    ])
  })

  it('is looked for in the scripts a family names, and a description that uses it must say how', () => {
    expect(['start.sh', 'a.cmd', 'read.me', 'bundles/start.sh'].filter((path) => mayNameProfile(bundle, path))).toEqual([
      'start.sh',
      'a.cmd',
    ])
    expect(mayNameProfile(archive, 'start.sh')).toBe(false)
    const without = text('bundle').replace(/^profile: .*$/m, '')
    expect(() => readFamily(without)).toThrow('profile is missing')
  })
})

it('a folder is recognised by what lies in it', () => {
  const first = (paths: string[]): string => recogniseFamilies([archive, script, bundle], paths)[0]!.family
  expect(first(['brackwater.yml', 'extras/Purse.pack'])).toBe('archive')
  expect(first(['server.json', 'scripts/Satchels.tide'])).toBe('script')
  expect(first(['harbour.cfg', 'bundles/a/bundle.lua'])).toBe('bundle')
})
