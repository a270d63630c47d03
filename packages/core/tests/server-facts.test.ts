import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { checkWorkspace } from '../src/checks'
import { readServer, type ServerSource } from '../src/checks/read-server'
import { readFamily, type Family } from '../src/families/family'
import { readAbout, type PackageInfo } from '../src/families/package-info'
import { idsByList, listedFolders, listedInText } from '../src/families/registries'

const family = (id: string): Family => readFamily(readFileSync(`families/${id}.yml`, 'utf8'))
const BUNDLE = family('bundle')
const ARCHIVE = family('archive')
const major = (version: string): number => Number(version.split('.')[0])
/** Ranges of the tests: `*`, or `>=` and a number. */
const satisfies = (version: string, range: string): boolean =>
  range === '*' || range === '' || major(version) >= Number(/\d+/.exec(range)![0])

/** A server of bundles that is as it should be. */
const HARBOUR: Readonly<Record<string, string>> = {
  'harbour.cfg': '# What is opened.\nset bundles on\nberth ferrybook\nberth lookouts\n',
  'profile/server.json': '{ "game": "7.1" }',
  'registry/items.json': '[{ "id": "tin_bell", "category": "metal" }]',
  'places/estuary/place.json': '{}',
  'bundles/ferrybook/bundle.lua': 'return { name = "Ferrybook", version = "1.0.0", game = "*" }',
  'bundles/ferrybook/settings.lua': 'return { seats = 24 }',
  'bundles/ferrybook/items.lua': 'return { tin_bell = { weight = 1 }, glass = { weight = 2 } }',
  'bundles/lookouts/bundle.lua':
    'return { name = "Lookouts", version = "2.0.0", game = "*", requires = { Ferrybook = ">=1" }, pieces = {\n' +
    '  { kind = "copy", from = "template/lookouts.json", to = "{profile}/{folder}.json", because = "what each player keeps" },\n' +
    '  { kind = "entries", from = "install/items.lua", to = "{their-home}/items.lua", of = "Ferrybook" },\n' +
    '  { kind = "block", from = "install/tides.ini", to = "{profile}/tides.ini" },\n} }',
  'bundles/lookouts/settings.lua': 'return { every = 5 }',
  'bundles/lookouts/install/items.lua': 'return { glass = { weight = 2 } }',
  'bundles/lookouts/install/tides.ini': '[lookouts]\nhours = 03:40\n',
  'bundles/lookouts/template/lookouts.json': '{}',
  'profile/lookouts.json': '{}',
  'profile/tides.ini': '[harbour]\nhours = 06:00\n\n[lookouts]\nhours = 03:40\n',
}

function sourceOf(
  files: Readonly<Record<string, string>>,
  of: Family,
  describePackage?: (path: string) => PackageInfo | null,
): ServerSource {
  return {
    paths: new Set(Object.keys(files)),
    read: async (path) => (files[path] === 'LATIN' ? { problem: 'It is not UTF-8 text.' } : (files[path] ?? null)),
    describe: async (path) =>
      files[path] === 'BROKEN'
        ? { problem: 'It describes no plugin.' }
        : (describePackage?.(path) ?? {
            ...readAbout(files[path]!, of, { file: path, named: path, notes: '' }),
            defaults: {},
            readme: '',
            changelog: '',
          }),
    satisfies,
  }
}

async function told(files: Readonly<Record<string, string | null>>, of = BUNDLE): Promise<string[]> {
  const whole = Object.fromEntries(Object.entries({ ...HARBOUR, ...files }).filter((entry): entry is [string, string] => entry[1] !== null))
  const findings = checkWorkspace(await readServer(of, sourceOf(whole, of)))
  return findings
    .filter(({ severity }) => severity !== 'note')
    .map(({ file, line, severity, code }) => `${severity} ${file}${line === undefined ? '' : `:${line}`} ${code}`)
}

describe('a server as a whole', () => {
  it('that is as it should be has nothing wrong', async () => expect(await told({})).toEqual([]))

  it.each<[string, Record<string, string | null>, string[]]>([
    ['a line that is missing', { 'harbour.cfg': 'set bundles on\nberth ferrybook\n' }, ['warning harbour.cfg not-registered']],
    [
      'an order that is wrong',
      { 'harbour.cfg': 'set bundles on\nberth lookouts\nberth ferrybook\n' },
      ['error harbour.cfg:2 registered-early'],
    ],
    [
      'a line for nothing',
      { 'harbour.cfg': 'set bundles on\nberth ferrybook\nberth lookouts\nberth gone\n' },
      ['error harbour.cfg:4 registered-nobody'],
    ],
    ['all of it off', { 'harbour.cfg': '# x\nset bundles off\nberth ferrybook\nberth lookouts\n' }, ['error harbour.cfg:2 plugins-off']],
    ['a template that is gone', { 'profile/lookouts.json': null }, ['warning profile/lookouts.json piece-missing']],
    [
      'entries that are gone',
      { 'bundles/ferrybook/items.lua': 'return { tin_bell = { weight = 1 } }' },
      ['warning bundles/ferrybook/items.lua piece-missing'],
    ],
    ['a block that is gone', { 'profile/tides.ini': '[harbour]\nhours = 06:00\n' }, ['warning profile/tides.ini piece-missing']],
    ['an archive nobody unpacked', { 'bundles/more.zip': 'x' }, ['warning bundles/more.zip misplaced-package']],
    [
      'what is needed in another version',
      { 'bundles/ferrybook/bundle.lua': 'return { name = "Ferrybook", version = "0.9.0", game = "*" }' },
      ['error bundles/lookouts/bundle.lua needs-plugin'],
    ],
    [
      'two that do not go together',
      { 'bundles/ferrybook/bundle.lua': 'return { name = "Ferrybook", version = "1.0.0", game = "*", conflicts = { Lookouts = "*" } }' },
      ['error bundles/ferrybook/bundle.lua conflicting-plugin'],
    ],
    ['a description that cannot be read', { 'bundles/lookouts/bundle.lua': 'BROKEN' }, ['warning bundles/lookouts/bundle.lua bad-package']],
    [
      'one for another version of the game',
      { 'bundles/ferrybook/bundle.lua': 'return { name = "Ferrybook", version = "1.0.0", game = ">=8" }' },
      ['warning bundles/ferrybook/bundle.lua other-game'],
    ],
    [
      'a game whose version nobody says',
      {
        'profile/server.json': '{ "game": "next" }',
        'bundles/ferrybook/bundle.lua': 'return { name = "Ferrybook", version = "1.0.0", game = ">=8" }',
      },
      [],
    ],
    ['a file in another encoding', { 'bundles/lookouts/settings.lua': 'LATIN' }, ['error bundles/lookouts/settings.lua not-utf8']],
  ])('%s', async (_what, files, expected) => expect(await told(files)).toEqual(expected))

  it('is read by the profile that its start script names', async () => {
    const moved = Object.entries(HARBOUR).flatMap(([path, text]): [string, string | null][] =>
      path.startsWith('profile/')
        ? [
            [path, null],
            [path.replace('profile/', 'night/'), text],
          ]
        : [],
    )
    const files = { ...Object.fromEntries(moved), 'start.sh': '# --profile=day\n./harbour --profile=night\n' }
    expect(await told(files)).toEqual([])
    expect(await told({ ...files, 'night/lookouts.json': null })).toEqual(['warning night/lookouts.json piece-missing'])
    expect(
      await told({
        ...files,
        'night/server.json': '{ "game": "6.0" }',
        'bundles/ferrybook/bundle.lua': 'return { name = "Ferrybook", version = "1.0.0", game = ">=7" }',
      }),
    ).toEqual(['warning bundles/ferrybook/bundle.lua other-game'])
  })

  it('whose plugins need what is not there says so of each', async () => {
    const files = Object.fromEntries(
      Object.keys(HARBOUR)
        .filter((path) => path.startsWith('bundles/ferrybook/'))
        .map((path) => [path, null]),
    )
    expect(await told({ ...files, 'harbour.cfg': 'set bundles on\nberth lookouts\n' })).toEqual([
      'error bundles/lookouts/bundle.lua needs-plugin',
    ])
  })

  it('names files of nobody, and packages beside their folder', async () => {
    const info: PackageInfo = {
      ...readAbout('name: Purse\nversion: 1.0.0\n', ARCHIVE, { file: 'pack.yml', named: 'x', notes: '' }),
      defaults: { 'settings.yml': 'start: 5\nport: 41000\n' },
      readme: '',
      changelog: '',
    }
    const files = {
      'brackwater.yml': 'game-version: "7.2"\nport: 40100\nplaces: [delta]\n',
      'extras/Purse.pack': 'x',
      'extras/Purse/settings.yml': 'start: 9\nport: 40100\n',
      'extras/Purse/Deep.pack': 'x',
      'extras/Gone/settings.yml': 'a: 1\n',
    }
    const workspace = await readServer(
      ARCHIVE,
      sourceOf(files, ARCHIVE, () => info),
    )
    const found = checkWorkspace(workspace).map(({ file, code, severity }) => `${severity} ${file} ${code}`)
    expect(found).toEqual([
      'note extras/Gone/settings.yml file-of-nobody',
      'warning extras/Purse/Deep.pack misplaced-package',
      'warning extras/Purse/settings.yml port-twice',
    ])
    expect(workspace.files.get('extras/Purse/settings.yml')!.factory!.text).toBe('start: 5\nport: 41000\n')
    expect(workspace.knowledge.ports).toEqual([{ name: 'game', port: 40100, file: 'brackwater.yml' }])
    expect([...workspace.knowledge.lists['places']!]).toEqual(['delta'])
  })
})

describe('lists of the server', () => {
  it('are read from items, from names of sections, and from folders', () => {
    const items = { file: 'items.json', at: '', id: 'id', group: 'kind' }
    expect(
      listedInText(ARCHIVE, items as never, 'items.json', '[{ "id": "eel", "kind": "water" }, { "id": "reed", "kind": "reed" }, 7]'),
    ).toEqual([
      { id: 'eel', name: null, group: 'water' },
      { id: 'reed', name: null, group: 'reed' },
      { id: '7', name: null, group: null },
    ])
    expect(
      listedInText(
        ARCHIVE,
        { file: 'g.yml', at: '/groups', name: 'title' } as never,
        'g.yml',
        'groups:\n  mud: { title: Mud }\n  top: {}\n',
      ),
    ).toEqual([
      { id: 'mud', name: 'Mud', group: null },
      { id: 'top', name: null, group: null },
    ])
    expect(listedInText(ARCHIVE, { file: 'g.yml', at: '/none' } as never, 'g.yml', 'a: 1\n')).toEqual([])
    expect(listedFolders('places', ['places/delta/x', 'places/delta/y/z', 'places/file', 'other/a/b']).map(({ id }) => id)).toEqual([
      'delta',
    ])
  })
  it('that are empty are not known, and groups of items are a list of their own', () => {
    const known = idsByList({ items: [{ id: 'eel', name: null, group: 'water' }], sounds: [] })
    expect(Object.keys(known)).toEqual(['items', 'categories'])
    expect([...known['categories']!]).toEqual(['water'])
  })
})
