import { beforeEach, describe, expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { useOwnZone } from '../../app/composables/use-own-zone'
import { useTyped } from '../../app/composables/use-typed'
import { useKnownStore } from '../../app/stores/known'
import { useServerStore } from '../../app/stores/server'
import { controlFor } from '../../app/utils/control-kinds'
import { counted, plural } from '../../app/utils/counted'
import { isCalledAfter, isSheet } from '../../app/utils/rule-files'
import { partsOf, textsOf } from '../../app/utils/rule-form'
import { shortZone } from '../../app/utils/short-zone'
import { heightOf, shapeOf } from '../../app/utils/row-shapes'
import { UNSAID, locate, parse, type Rule } from '@pasticcio/core'
import { answering, overviewOf } from './world'

const KNOWN = {
  registries: {
    items: [
      { id: 'rope_coil', name: null, group: 'rope' },
      { id: 'eel', name: 'An eel', group: null },
    ],
  },
  nodes: [{ id: 'fair.enter', says: 'Come in', plugin: 'Fair' }],
  ports: [
    { port: 4000, plugin: 'Bridge', path: 'a.yml', pointer: '/port' },
    { port: 4001, plugin: 'Gate', path: 'b.yml', pointer: '/port' },
    { port: 65535, plugin: 'Last', path: 'c.yml', pointer: '/port' },
  ],
  placeholders: [],
  texts: { placeholder: ['%{', '}'], lineBreak: null, codes: '<[^>]*>' },
}

beforeEach(() => {
  localStorage.clear()
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
})

describe('what values are picked from', () => {
  it('are the lists of the server, with names in words where it has none, and the nodes of its plugins', async () => {
    answering({ 'GET /known': KNOWN })
    const known = useKnownStore()
    await known.load()
    expect(known.picksOf('items')).toEqual([
      { id: 'rope_coil', name: 'Rope coil', group: 'rope' },
      { id: 'eel', name: 'An eel', group: '' },
    ])
    expect(known.picksOf('nodes')).toEqual([{ id: 'fair.enter', name: 'Come in', group: 'Fair' }])
    expect(known.picksOf('nothing')).toEqual([])
    expect([...known.ids['items']!]).toEqual(['rope_coil', 'eel'])
    expect('<b>Hi</b>'.replace(known.codes!, '')).toBe('Hi')
  })

  it('are written as those that stand there: the game’s own, and in the way of most', async () => {
    answering({ 'GET /known': { ...KNOWN, registries: { ...KNOWN.registries, groups: [{ id: 'warden' }] } } })
    const known = useKnownStore()
    await known.load()
    const ids = (registry: string, ...like: string[]): string[] => known.picksOf(registry, like).map(({ id }) => id)
    expect(ids('items', 'EEL')).toEqual(['ROPE_COIL', 'EEL'])
    expect(ids('items', 'lands:eel')).toEqual(['lands:rope_coil', 'lands:eel'])
    expect(ids('items', 'EEL', 'rope_coil', 'eel')).toEqual(['rope_coil', 'eel'])
    expect(ids('items', 'Eel')).toEqual(['rope_coil', 'eel'])
    expect(ids('items', '')).toEqual(['rope_coil', 'eel'])
    expect(ids('groups', 'WARDEN')).toEqual(['warden'])
  })

  it('are nothing where they cannot be had, and values are typed', async () => {
    answering({})
    const known = useKnownStore()
    await known.load()
    expect(known.picksOf('items')).toEqual([])
    expect(known.codes).toBeNull()
  })

  it('are waited for once for each server, and read anew behind what is shown', async () => {
    let asked = 0
    answering({ 'GET /known': () => ({ ...KNOWN, ports: KNOWN.ports.slice(0, ++asked) }) })
    const known = useKnownStore()
    await known.ready()
    expect(known.known.ports).toHaveLength(1)
    await known.ready()
    expect(known.known.ports).toHaveLength(1)
    await expect.poll(() => known.known.ports.length).toBe(2)
  })

  it('lately picked ones come first, each once, the last eight', async () => {
    const known = useKnownStore()
    for (const id of ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i', 'b']) known.picked('items', id)
    expect(known.recentOf('items')).toEqual(['b', 'i', 'h', 'g', 'f', 'e', 'd', 'c'])
    expect(known.recentOf('sounds')).toEqual([])
  })

  it('ports tell who else has them, and which is free', async () => {
    answering({ 'GET /known': KNOWN })
    const known = useKnownStore()
    await known.load()
    expect(known.usersOf(4000, 'x.yml', '/port').map(({ plugin }) => plugin)).toEqual(['Bridge'])
    expect(known.usersOf(4000, 'a.yml', '/port')).toEqual([])
    expect([known.nextFree(4000), known.nextFree(5000), known.nextFree(65535)]).toEqual([4002, 5000, 65535])
  })
})

describe('times on one’s own clocks', () => {
  const zoneOf = (zone: string | undefined): ReturnType<typeof useOwnZone> => effectScope().run(() => useOwnZone(() => zone))!

  it('are those of the file where it names no zone, or none that is known', () => {
    useKnownStore().zone = 'Asia/Tokyo'
    for (const zone of [undefined, 'Nowhere/Here']) {
      const { ofFile, own, here, there } = zoneOf(zone)
      expect([ofFile.value, own.value, here('17:30'), there('18:00', '7:30')]).toEqual([null, null, '17:30', '18:00'])
    }
  })

  it('go there and back', () => {
    useKnownStore().zone = 'Asia/Tokyo'
    const { isSame, here, there } = zoneOf('UTC')
    expect([isSame.value, here('17:30'), there('02:30', '17:30'), here('soon'), there(' soon ', '')]).toEqual([
      false,
      '02:30',
      '17:30',
      'soon',
      'soon',
    ])
    useKnownStore().zone = 'UTC'
    expect(zoneOf('UTC').isSame.value).toBe(true)
  })

  it.each([
    ['America/New_York', 'New York'],
    ['UTC', 'UTC'],
  ])('%s is said as %s', (zone, said) => expect(shortZone(zone)).toBe(said))
})

describe('what is typed', () => {
  it('is not undone by an answer to what was typed before', async () => {
    const file = ref('a')
    const { typed, sent } = effectScope().run(() => useTyped(() => file.value))!
    for (const text of ['ab', 'abc']) {
      typed.value = text
      sent(text)
    }
    file.value = 'ab'
    await nextTick()
    expect(typed.value).toBe('abc')
    file.value = 'elsewhere'
    await nextTick()
    expect(typed.value).toBe('elsewhere')
  })
})

describe('words and shapes', () => {
  it.each([
    ['second', 'seconds'],
    ['millisecond', 'ms'],
    ['', ''],
  ])('of %j there are %j', (unit, words) => expect(plural(unit)).toBe(words))
  it('counts', () =>
    expect([counted(0, 'file'), counted(1, 'file'), counted(3, 'entry', 'entries')]).toEqual(['no files', '1 file', '3 entries']))

  it('a list of lines is as high as it has lines, up to six', () => {
    const document = parse('lines:\n  - one line\n  - two lines\n', 'yaml', UNSAID)
    const { entry } = locate(document, ['lines'])!
    const row = {
      type: 'setting',
      entry,
      sides: { factory: null, base: null, update: null },
      parent: null,
      depth: 0,
      mine: false,
      staged: false,
      changes: false,
      settings: 0,
      mineCount: 0,
    } as const
    expect(heightOf(shapeOf(row))).toBe(48)
  })

  it.each<[string, Partial<Rule>, string]>([
    ['at: soon\n', { means: 'time' }, 'text'],
    ['at: ""\n', { means: 'time' }, 'time'],
    ['c: red\n', { means: 'colour' }, 'text'],
    ['p: here\n', { means: 'coordinates' }, 'text'],
    ['p: "4000"\n', { means: 'port' }, 'text'],
    ['s: 3\n', { means: 'switch' }, 'number'],
    ['d: 5\n', { means: 'duration' }, 'number'],
    ['m: {}\n', {}, 'block'],
    ['l: [[1]]\n', { means: 'slot' }, 'tokens'],
    ['l: []\n', { means: 'id' }, 'ids'],
    ['l: [1, 2]\n', {}, 'tokens'],
    ['t: "a\\nb"\n', {}, 'block'],
    ['t: x\n', { choices: ['x', 'y'] }, 'choice'],
    ['t: x\n', { kind: 'number' }, 'number'],
  ])('%j with %j has a control that can show it: %s', (text, rule, kind) => {
    const document = parse(text, 'yaml', UNSAID)
    const key = text.split(':')[0]!
    expect(controlFor(document, locate(document, [key])!.entry, { path: `/${key}`, ...rule })).toBe(kind)
  })
})

describe('what somebody says of a setting', () => {
  it.each([
    ['number', { min: '1', max: ' 5 ', step: '0.5', maxLength: '9' }, { min: 1, max: 5, step: 0.5 }],
    ['number', { min: 'few', max: '' }, {}],
    ['text', { maxLength: '24', emptyMeans: 'shows none' }, { maxLength: 24, emptyMeans: 'shows none' }],
    ['choice', { choices: 'low, fair ,,high' }, { choices: ['low', 'fair', 'high'] }],
    [
      'picture',
      { width: '64', height: '64', endings: '.png, jpg', folder: 'art' },
      { width: 64, height: 64, endings: ['png', 'jpg'], folder: 'art' },
    ],
    ['switch', { needs: 'fair.fireworks' }, { needs: [{ setting: '/fair/fireworks', is: true }] }],
    ['switch', { needs: '/fair/fireworks' }, { needs: [{ setting: '/fair/fireworks', is: true }] }],
    ['switch', { needs: 'Purse' }, { needs: [{ plugin: 'Purse' }] }],
    ['time', { zone: 'UTC', min: '1' }, { zone: 'UTC' }],
    ['number', { role: 'price', applies: 'restart', required: 'true' }, { role: 'price', applies: 'restart' }],
    ['text', { required: 'true', pattern: '^[a-z]+$' }, { required: true, pattern: '^[a-z]+$' }],
  ] as const)('of a %s, %j', (means, texts, parts) => expect(partsOf(means, texts, ['Purse'])).toEqual(parts))

  it.each([
    [{ path: '/a', means: 'number', min: 1, step: 2 }],
    [{ path: '/a', means: 'picture', width: 64, height: 32, endings: ['png'], folder: 'art' }],
    [{ path: '/a', means: 'text', maxLength: 3, emptyMeans: 'off', needs: [{ setting: '/b/c', is: true }] }],
    [{ path: '/a', means: 'text', required: true, pattern: '^a', role: 'message', applies: 'stopped' }],
    [{ path: '/a', means: 'choice', choices: ['a', 'b'], needs: [{ plugin: 'Purse' }] }],
  ] as const)('%j comes back as it was said', (rule) => {
    const said = rule as unknown as Rule
    expect({ path: '/a', means: said.means, ...partsOf(said.means!, textsOf(said), ['Purse']) }).toEqual(rule)
  })
})

describe('files of rules', () => {
  it.each([
    ['# Ours.\nplugin: Purse\nfiles: {}\n', true],
    ['{ "plugin": "Purse" }', false],
    ['rules:\n  - path: /plugin\n', false],
    ['{ "properties": {} }', false],
  ])('%j is a sheet: %s', (text, is) => expect(isSheet(text)).toBe(is))

  it.each([
    ['lanterns.schema.json', 'extras/Fair/lanterns.json', true],
    ['Settings.json', 'extras/Fair/settings.yml', true],
    ['fair.json', 'extras/Fair/lanterns.json', false],
  ])('%s is called after %s: %s', (name, path, is) => expect(isCalledAfter(name, path)).toBe(is))
})
