import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parse as parseYaml } from 'yaml'
import { addEntry, removeEntry, setValue } from '../src/formats/operations'
import { formatOf, parse } from '../src/formats/registry'
import { applyEdits } from '../src/text/edits'
import { getNode, parsePointer } from '../src/tree/pointer'
import type { Value } from '../src/tree/values'
import { UNSAID } from '../src/formats/reading'
import {
  PermissionBook,
  changeGrants,
  idleDenials,
  namesIn,
  readGroups,
  readPlayers,
  type Grant,
  type PermissionNode,
  type Permissions,
  type Subject,
} from '../src/permissions'

const grant = (text: string): Grant => ({
  node: text.replace(/^-/, ''),
  isDenied: text.startsWith('-'),
  pointer: '/x',
  from: 0,
  to: 0,
  until: null,
  isPlain: true,
})
interface Sketch {
  readonly groups: Readonly<
    Record<string, { readonly weight?: number; readonly inherits?: readonly string[]; readonly nodes?: readonly string[] }>
  >
  readonly players?: Readonly<
    Record<string, { readonly groups?: readonly string[]; readonly nodes?: readonly string[]; readonly operator?: boolean }>
  >
  readonly everybody?: string
  readonly wins?: Permissions['wins']
}
const permissionsOf = ({ groups, players = {}, everybody, wins = 'nearest' }: Sketch): Permissions => ({
  groups: Object.entries(groups).map(([name, { weight = 0, inherits = [], nodes = [] }]) => ({
    name,
    pointer: `/groups/${name}`,
    from: 0,
    weight,
    prefix: '',
    suffix: '',
    at: { weight: '', prefix: '', suffix: '' },
    inherits: inherits.map((one) => ({ name: one, pointer: '', from: 0 })),
    inheritsAt: '',
    grants: nodes.map(grant),
    grantsAt: { pointer: '', shape: 'list', count: nodes.length },
  })),
  players: Object.entries(players).map(([name, { groups: own = [], nodes = [], operator = false }]) => ({
    id: `7700${name.length}`,
    name,
    pointer: '',
    from: 0,
    groups: own,
    groupsAt: { pointer: '', shape: 'list' },
    grants: nodes.map(grant),
    grantsAt: { pointer: '', shape: 'list', count: nodes.length },
    isOperator: operator,
  })),
  everybody: everybody ?? null,
  ladder: [],
  wins,
})
const NODES: readonly PermissionNode[] = [
  { node: 'ferry.ride', says: 'Ride the ferry', plugin: 'Moorings', byDefault: 'everyone' },
  { node: 'ferry.flood', says: 'Ride at high water', plugin: 'Moorings', byDefault: 'operators' },
]
const bookOf = (sketch: Sketch): PermissionBook => new PermissionBook(permissionsOf(sketch), NODES)

/** A delta of four groups: the keepers may not ring the bell though all of the ferry is the regulars’. */
const ROW: Sketch = {
  groups: {
    mudlark: { weight: 10, nodes: ['hampers.claim'] },
    regular: { weight: 20, inherits: ['mudlark'], nodes: ['ferry.*', '-ferry.steer'] },
    keeper: { weight: 30, inherits: ['regular'], nodes: ['-ferry.bell', 'ferry.steer'] },
    warden: { weight: 90, inherits: ['keeper'], nodes: ['*', '-wardens.desk.*', 'wardens.desk.open'] },
  },
  players: {
    nessa: { groups: ['regular'] },
    isolde: { groups: ['keeper'], nodes: ['ferry.bell'] },
    talan: { groups: ['keeper', 'mudlark'] },
    wella: {},
    corley: { groups: ['mudlark'], nodes: ['-ferry.flood'], operator: true },
  },
  everybody: 'mudlark',
}

describe('who may what', () => {
  const book = bookOf(ROW)
  it.each<[Subject, string, boolean, string]>([
    [{ group: 'mudlark' }, 'hampers.claim', true, 'own mudlark'],
    [{ group: 'regular' }, 'hampers.claim', true, 'parent mudlark'],
    [{ group: 'mudlark' }, 'ferry.bell', false, 'nothing '],
    [{ group: 'mudlark' }, 'ferry.ride', true, 'default '],
    [{ group: 'mudlark' }, 'ferry.flood', false, 'nothing '],
    [{ group: 'regular' }, 'ferry.bell', true, 'own regular *'],
    [{ group: 'regular' }, 'ferry.steer', false, 'own regular'],
    [{ group: 'keeper' }, 'ferry.steer', true, 'own keeper'],
    [{ group: 'keeper' }, 'ferry.bell', false, 'own keeper'],
    [{ group: 'keeper' }, 'ferry.ride', true, 'parent regular *'],
    [{ group: 'warden' }, 'ferry.bell', true, 'own warden *'],
    [{ group: 'warden' }, 'wardens.desk.move', false, 'own warden *'],
    [{ group: 'warden' }, 'wardens.desk.open', true, 'own warden'],
    [{ player: 'nessa' }, 'ferry.bell', true, 'parent regular *'],
    [{ player: 'isolde' }, 'ferry.bell', true, 'own isolde'],
    [{ player: 'talan' }, 'ferry.bell', false, 'parent keeper'],
    [{ player: 'wella' }, 'hampers.claim', true, 'parent mudlark'],
    [{ player: 'nobody' }, 'hampers.claim', true, 'parent mudlark'],
    [{ player: 'corley' }, 'ferry.flood', true, 'operator '],
    [{ player: 'corley' }, 'anything.at.all', true, 'operator '],
    [{ group: 'none' }, 'hampers.claim', false, 'nothing '],
  ])('%j, %s: %s, %s', (subject, node, may, by) => {
    const cell = book.cell(subject, node)
    expect([cell.may, `${cell.by} ${cell.from}${cell.isWildcard ? ' *' : ''}`]).toEqual([may, by])
    expect(book.may(subject, node)).toBe(may)
  })

  it('is told step by step, from the general to the particular', () => {
    const steps = book.trace({ player: 'talan' }, 'ferry.bell')
    expect(steps.map(({ speaker, name, word, may, decides }) => [speaker, name, word, may, decides])).toEqual([
      ['default', '', null, false, false],
      ['group', 'mudlark', null, false, false],
      ['group', 'regular', 'granted', true, false],
      ['group', 'keeper', 'denied', false, true],
      ['player', 'talan', null, false, false],
    ])
    expect(steps[3]!.grant).toMatchObject({ node: 'ferry.bell', isDenied: true })
  })

  it('where any denial wins, none is taken back but for operators', () => {
    const strict = bookOf({ ...ROW, wins: 'denial' })
    expect(strict.cell({ player: 'isolde' }, 'ferry.bell')).toMatchObject({ may: false, by: 'parent', from: 'keeper' })
    expect(strict.may({ group: 'keeper' }, 'ferry.steer')).toBe(false)
    expect(strict.may({ player: 'corley' }, 'ferry.flood')).toBe(true)
    expect(strict.may({ group: 'regular' }, 'ferry.bell')).toBe(true)
  })

  it('groups that inherit in a circle end', () => {
    const round = bookOf({ groups: { a: { inherits: ['b'], nodes: ['x'] }, b: { inherits: ['a'], nodes: ['-x', 'y'] } } })
    expect([round.may({ group: 'a' }, 'x'), round.may({ group: 'b' }, 'x'), round.may({ group: 'a' }, 'y')]).toEqual([true, false, true])
    expect([round.inherits('a', 'a'), round.inherits('a', 'c')]).toEqual([true, false])
  })
})

describe('whatever is given to whom', () => {
  const names = ['a', 'b', 'c', 'd'] as const
  const word = fc.constantFrom('x', 'x.y', 'x.z', 'w', '*', 'x.*', 'x.y.*', 'x.y.q')
  const nodes = fc.array(
    fc.tuple(word, fc.boolean()).map(([node, isDenied]) => (isDenied ? `-${node}` : node)),
    { maxLength: 4 },
  )
  const group = fc.record({ weight: fc.integer({ min: 0, max: 9 }), inherits: fc.subarray([...names]), nodes })
  const sketch = fc.record({
    groups: fc.record({ a: group, b: group, c: group, d: group }),
    players: fc.record({ p: fc.record({ groups: fc.subarray([...names]), nodes, operator: fc.boolean() }) }),
    wins: fc.constantFrom<Permissions['wins']>('nearest', 'denial'),
  })
  const subjects: readonly Subject[] = [...names.map((name) => ({ group: name })), { player: 'p' }]
  const asked = ['x', 'x.y', 'x.z', 'x.y.q', 'w', 'ferry.ride']

  it('one more denial grants nothing to anybody', () => {
    fc.assert(
      fc.property(sketch, fc.constantFrom(...names), word, (one, name, denied) => {
        const more = {
          ...one,
          groups: { ...one.groups, [name]: { ...one.groups[name], nodes: [...one.groups[name].nodes, `-${denied}`] } },
        }
        const [before, after] = [bookOf(one), bookOf(more)]
        for (const subject of subjects) for (const node of asked) expect(after.may(subject, node) && !before.may(subject, node)).toBe(false)
      }),
    )
  })

  it('the answer is that of the last step, of the deciding one, and of whoever reckons it the other way round', () => {
    fc.assert(
      fc.property(sketch, (one) => {
        const book = bookOf(one)
        for (const subject of subjects)
          for (const node of asked) {
            const steps = book.trace(subject, node)
            expect(steps.at(-1)!.may).toBe(book.may(subject, node))
            const deciding = steps.filter(({ decides }) => decides)
            expect(deciding.length).toBe(steps.some(({ word: said }) => said !== null) ? 1 : 0)
            if (deciding[0]) expect(deciding[0].may).toBe(book.may(subject, node))
            // from the particular to the general, the first word counts
            const back = [...steps].reverse()
            const first = back.find(({ word: said }) => said !== null)
            const strict = back.some(({ word: said }) => said === 'denied') && !back.some(({ speaker }) => speaker === 'operator')
            expect(book.may(subject, node)).toBe(one.wins === 'denial' && strict ? false : first?.word === 'granted')
          }
      }),
    )
  })

  it('a denial is idle where nobody may more without it, and only there', () => {
    fc.assert(
      fc.property(sketch, (one) => {
        fc.pre(one.wins === 'nearest')
        const book = bookOf(one)
        const idle = new Set(
          idleDenials(
            book,
            asked.map((node) => ({ node })),
          ).map(({ grant: denial }) => denial),
        )
        for (const group of book.permissions.groups)
          for (const denial of group.grants.filter(({ isDenied }) => isDenied)) {
            const groups = book.permissions.groups.map((other) =>
              other === group ? { ...other, grants: other.grants.filter((grant) => grant !== denial) } : other,
            )
            const without = new PermissionBook({ ...book.permissions, groups }, NODES)
            const changes = subjects.some((subject) => asked.some((node) => without.may(subject, node) !== book.may(subject, node)))
            expect(idle.has(denial)).toBe(!changes)
          }
      }),
    )
  })

  it('the order groups stand in changes nothing where their weights differ', () => {
    fc.assert(
      fc.property(sketch, (one) => {
        const weighed = Object.entries(one.groups).map(([name, rest], i) => [name, { ...rest, weight: i }] as const)
        const straight = bookOf({ ...one, groups: Object.fromEntries(weighed) })
        const turned = bookOf({
          ...one,
          groups: Object.fromEntries(
            [...weighed].reverse().map(([name, rest]) => [name, { ...rest, inherits: [...rest.inherits].reverse() }]),
          ),
        })
        for (const subject of subjects) for (const node of asked) expect(turned.may(subject, node)).toBe(straight.may(subject, node))
      }),
    )
  })
})

describe('what files say', () => {
  const read = (path: string, text: string) => parse(text, formatOf(path)!, UNSAID)

  it.each([
    [
      'a.yml',
      '# Where they start.\nnewcomers: { group: mud }\nladder: [mud, keep]\ngroups:\n  mud:\n    prefix: "[mud]"\n    weight: 10\n    nodes: [a.b]\n  keep:\n    weight: 30\n    inherits: [mud]\n    nodes:\n      - a.*\n      - -a.c\n',
    ],
    [
      'a.json',
      '{ "default-group": "mud", "ladder": ["mud", "keep"], "groups": { "mud": { "prefix": "[mud]", "weight": 10, "permissions": { "a.b": true } }, "keep": { "weight": 30, "parents": ["mud"], "permissions": { "a.*": true, "a.c": false } } } }',
    ],
    [
      'a.lua',
      'return {\n  default = "mud",\n  ladder = { "mud", "keep" },\n  groups = {\n    mud = { prefix = "[mud]", weight = 10, nodes = { "a.b" } },\n    keep = { weight = 30, inherits = "mud", nodes = { "a.*", "-a.c" } },\n  },\n}\n',
    ],
  ])('%s: groups with weight, parents and nodes, who starts where, and the ladder', (path, text) => {
    const { groups, everybody, ladder } = readGroups(read(path, text), '/groups')
    expect(groups.map(({ name, weight, prefix, inherits }) => [name, weight, prefix, inherits.map((one) => one.name)])).toEqual([
      ['mud', 10, '[mud]', []],
      ['keep', 30, '', ['mud']],
    ])
    expect(groups[1]!.grants.map(({ node, isDenied }) => [node, isDenied])).toEqual([
      ['a.*', false],
      ['a.c', true],
    ])
    for (const { from, to } of groups[1]!.grants) expect(text.slice(from, to)).toMatch(/a\.|true|false/)
    expect(everybody).toBe('mud')
    expect(ladder).toEqual([
      { name: 'mud', pointer: '/ladder/0' },
      { name: 'keep', pointer: '/ladder/1' },
    ])
  })

  it('players by ids or names, with their groups, what is theirs alone and for how long, and who is an operator', () => {
    const text =
      'players:\n  "77004418209365512":\n    name: isolde\n    groups: [keep]\n    nodes:\n      - { node: a.d, until: 2026-12-01 }\n  nessa: { group: mud, nodes: [-a.b] }\n  "77004418209365599": {}\n'
    const players = readPlayers(read('a.yml', text), '/players', new Set(['nessa']))
    expect(players).toMatchObject([
      { id: '77004418209365512', name: 'isolde', groups: ['keep'], grants: [{ node: 'a.d', until: '2026-12-01' }], isOperator: false },
      { id: 'nessa', name: 'nessa', groups: ['mud'], grants: [{ node: 'a.b', isDenied: true }], isOperator: true },
      { id: '77004418209365599', name: '', groups: [], grants: [] },
    ])
    expect(namesIn(read('a.yml', 'operators: [maren, "7700"]\n'), '/operators')).toEqual(['maren', '7700'])
    expect(readGroups(read('a.yml', 'x: 1\n'), '/groups')).toEqual({ groups: [], everybody: null, ladder: [] })
  })
})

describe('what is given is changed in the way the file has it', () => {
  /** Does the steps one after the other, as drafts do. */
  function changed(path: string, text: string, node: string | readonly string[], to: 'granted' | 'denied' | null): string {
    const read = (source: string) => parse(source, formatOf(path)!, UNSAID)
    const group = readGroups(read(text), '/groups').groups[0]!
    let now = text
    for (const step of changeGrants(group, [node].flat(), to)) {
      const document = read(now)
      const keys = parsePointer(step.pointer)!
      if (step.kind === 'remove') now = applyEdits(now, removeEntry(document, keys))
      else if (step.kind === 'set' || getNode(document, keys)) now = applyEdits(now, setValue(document, keys, step.value as Value))
      else now = applyEdits(now, addEntry(document, keys.slice(0, -1), keys.at(-1)!, step.value as Value))
    }
    return now
  }
  const yaml = 'groups:\n  mud:\n    nodes:\n      - a.b # the first\n      - -a.c\n      - a.c\n'
  it.each<[string, 'granted' | 'denied' | null, string]>([
    ['a.d', 'granted', yaml + '      - a.d\n'],
    ['a.d', 'denied', yaml + '      - -a.d\n'],
    ['a.d', null, yaml],
    ['a.b', 'granted', yaml],
    ['a.b', 'denied', yaml.replace('- a.b #', '- -a.b #')],
    ['a.b', null, yaml.replace('      - a.b # the first\n', '')],
    ['a.c', 'granted', yaml.replace('      - -a.c\n      - a.c\n', '      - a.c\n')],
    ['a.c', 'denied', yaml.replace('      - -a.c\n      - a.c\n', '      - -a.c\n')],
    ['a.c', null, yaml.replace('      - -a.c\n      - a.c\n', '')],
  ])('%s, %s', (node, to, expected) => {
    expect(changed('a.yml', yaml, node, to)).toBe(expected)
  })

  it.each<[string, string, string, 'granted' | 'denied' | null, string]>([
    [
      'a.json',
      '{ "groups": { "mud": { "nodes": { "a.b": true } } } }',
      'a.b',
      'denied',
      '{ "groups": { "mud": { "nodes": { "a.b": false } } } }',
    ],
    [
      'a.json',
      '{ "groups": { "mud": { "nodes": { "a.b": true } } } }',
      'a.c',
      'granted',
      '{ "groups": { "mud": { "nodes": { "a.b": true, "a.c": true } } } }',
    ],
    [
      'a.json',
      '{ "groups": { "mud": { "nodes": { "a.b": true, "a.c": false } } } }',
      'a.c',
      null,
      '{ "groups": { "mud": { "nodes": { "a.b": true } } } }',
    ],
    [
      'a.lua',
      'return { groups = { mud = { nodes = { "a.b" } } } }\n',
      'a.c',
      'denied',
      'return { groups = { mud = { nodes = { "a.b", "-a.c" } } } }\n',
    ],
    ['a.yml', 'groups:\n  mud:\n    weight: 10\n', 'a.c', 'granted', 'groups:\n  mud:\n    weight: 10\n    nodes: [a.c]\n'],
  ])('%s: %s with %s %s', (path, text, node, to, expected) => {
    const done = changed(path, text, node, to)
    expect(readGroups(parse(done, formatOf(path)!, UNSAID), '/groups')).toEqual({
      ...readGroups(parse(expected, formatOf(path)!, UNSAID), '/groups'),
      groups: expect.anything() as unknown,
    })
    const grants = (source: string): [string, boolean][] =>
      readGroups(parse(source, formatOf(path)!, UNSAID), '/groups').groups[0]!.grants.map((one) => [one.node, one.isDenied])
    expect(grants(done)).toEqual(grants(expected))
    if (path !== 'a.yml') expect(done).toBe(expected)
  })

  it('what ends is given for good in its place, and what gives nothing keeps its own', () => {
    const text = 'groups:\n  mud:\n    nodes:\n      - { note: ours }\n      - { node: a.b, until: 2026-12-01 }\n'
    expect(changed('a.yml', text, ['a.b', 'a.c'], 'granted')).toBe(
      'groups:\n  mud:\n    nodes:\n      - { note: ours }\n      - a.b\n      - a.c\n',
    )
  })

  it('whatever was there, it says afterwards what was asked for, and of others what it said', () => {
    const word = fc.constantFrom('a.b', 'a.c', 'a.*', 'x')
    const nodes = fc.array(fc.tuple(word, fc.boolean()), { maxLength: 6 })
    const asked = fc.uniqueArray(fc.constantFrom<string>('a.b', 'a.c', 'x', 'new.one', 'new.two'), { minLength: 1, maxLength: 4 })
    const isList = fc.boolean()
    fc.assert(
      fc.property(nodes, asked, fc.constantFrom('granted', 'denied', null), isList, (given, wanted, to, inList) => {
        // a section says each node once
        const list = inList ? given : [...new Map(given)]
        const items = list
          .map(([one, isDenied]) => (inList ? `      - ${isDenied ? '-' : ''}${one}\n` : `      ${one}: ${!isDenied}\n`))
          .join('')
        const text = `groups:\n  mud:\n    nodes:${list.length > 0 ? `\n${items}` : inList ? ' []\n' : ' {}\n'}    weight: 3\n`
        const after = readGroups(parse(changed('a.yml', text, wanted, to as 'granted' | 'denied' | null), 'yaml', UNSAID), '/groups')
          .groups[0]!
        for (const node of wanted)
          expect(after.grants.filter((one) => one.node === node).map(({ isDenied }) => isDenied)).toEqual(
            to === null ? [] : [to === 'denied'],
          )
        expect(after.grants.filter((one) => !wanted.includes(one.node)).map((one) => [one.node, one.isDenied])).toEqual(
          list.filter(([one]) => !wanted.includes(one)),
        )
        expect(after.weight).toBe(3)
      }),
    )
  })
})

it('denials that take nothing from anybody are told, those that do are not', () => {
  const book = bookOf({
    groups: {
      mud: { weight: 1, nodes: ['-a.b', '-ferry.ride'] },
      keep: { weight: 2, inherits: ['mud'], nodes: ['a.*', '-a.c', '-x.y'] },
    },
  })
  const nodes = ['a.b', 'a.c', 'x.y', 'ferry.ride'].map((node) => ({ node }))
  expect(idleDenials(book, nodes).map(({ group, grant: one }) => [group, one.node])).toEqual([
    ['mud', 'a.b'],
    ['keep', 'x.y'],
  ])
  const lifted = bookOf({ groups: { mud: { nodes: ['a.*'] }, keep: { inherits: ['mud'], nodes: ['-a.c'] } } })
  expect(idleDenials(lifted, nodes)).toEqual([])
})

it('the demo’s players may what the stand-in server says they may, every one and every node', () => {
  const world = mkdtempSync(join(tmpdir(), 'pasticcio-rights-'))
  try {
    const dist = resolve('packages/standin/dist')
    execFileSync(process.execPath, [join(dist, 'demo.mjs'), world])
    const folder = join(world, 'servers/lantern-row')
    const read = (path: string) => parse(readFileSync(join(folder, path), 'utf8'), formatOf(path)!, UNSAID)
    const own = read('brackwater.yml')
    const permissions: Permissions = {
      ...readGroups(read('extras/Wardkeys/settings.yml'), '/groups'),
      players: readPlayers(read('extras/Wardkeys/players.yml'), '/players', new Set(namesIn(own, '/operators'))),
      wins: 'nearest',
    }
    const lived = parseYaml(readFileSync('packages/standin/demo/lantern-row.yml', 'utf8')) as { packages: string[] }
    const packs = lived.packages.map(
      (name) =>
        parseYaml(readFileSync(`packages/standin/demo/${name}/pack.yml`, 'utf8')) as {
          name: string
          nodes: Record<string, string>
          open?: string[]
        },
    )
    const nodes = packs.flatMap(({ name, nodes: own, open = [] }) =>
      Object.entries(own).map(([node, says]): PermissionNode => ({
        node,
        says,
        plugin: name,
        byDefault: open.includes(node) ? 'everyone' : 'nobody',
      })),
    )
    const names = namesIn(own, '/players')
    const told = execFileSync(process.execPath, [join(dist, 'server.mjs')], {
      cwd: folder,
      input: [...names.map((name) => `may ${name}`), 'stop', ''].join('\n'),
      encoding: 'utf8',
    })
    const book = new PermissionBook(permissions, nodes)
    let counts = { may: 0, mayNot: 0 }
    for (const name of names) {
      const line = new RegExp(`may: ${name}: (.*)$`, 'm').exec(told)?.[1]
      const expected = nodes.filter(({ node }) => line?.split(' ').includes(node)).map(({ node }) => node)
      const own = nodes.filter(({ node }) => book.may({ player: name }, node)).map(({ node }) => node)
      expect([name, ...own]).toEqual([name, ...expected])
      counts = { may: counts.may + own.length, mayNot: counts.mayNot + nodes.length - own.length }
    }
    expect(names.length).toBeGreaterThan(15)
    expect(Math.min(counts.may, counts.mayNot)).toBeGreaterThan(80)
  } finally {
    rmSync(world, { recursive: true, force: true })
  }
}, 60_000)

it('so do the staff of a family where any denial wins, from settings in JSON', () => {
  const world = mkdtempSync(join(tmpdir(), 'pasticcio-rights-'))
  try {
    const dist = resolve('packages/standin/dist')
    execFileSync(process.execPath, [join(dist, 'demo.mjs'), world])
    const folder = join(world, 'servers/night-market')
    writeFileSync(join(folder, "scripts/Wardens' Desk.tide"), readFileSync('packages/standin/demo/scripts/wardens-desk-2.1.tide'))
    const names = ['isolde', 'tobiah', 'jory', 'nessa']
    const said = (): string =>
      execFileSync(process.execPath, [join(dist, 'server.mjs')], {
        cwd: folder,
        input: [...names.map((name) => `may ${name}`), 'stop', ''].join('\n'),
        encoding: 'utf8',
      })
    const path = join(folder, "settings/Wardens' Desk.json")
    const nodes = ['open', 'move', 'hush', 'crews', 'ask'].map((name): PermissionNode => ({
      node: `desk.${name}`,
      says: '',
      plugin: "Wardens' Desk",
      byDefault: name === 'ask' ? 'everyone' : 'nobody',
    }))
    const agrees = (): string[] => {
      const told = said()
      const document = parse(readFileSync(path, 'utf8'), 'json', UNSAID)
      const players = readPlayers(document, '/staff', new Set())
      const book = new PermissionBook({ ...readGroups(document, '/crews'), players, wins: 'denial' }, nodes)
      return names.map((name) => {
        const own = nodes.filter(({ node }) => book.may({ player: name }, node)).map(({ node }) => node)
        const line = new RegExp(`may: ${name}: (.*)$`, 'm').exec(told)?.[1] ?? ''
        const theirs = line.split(' ').filter((node) => node.startsWith('desk.'))
        expect([name, ...own]).toEqual([name, ...theirs])
        return `${name} ${own.length}`
      })
    }
    expect(agrees()).toEqual(['isolde 4', 'tobiah 4', 'jory 0', 'nessa 1'])
    // what a mate is denied, no crew that inherits from it is given
    writeFileSync(
      path,
      readFileSync(path, 'utf8').replace('"desk.crews": false', '"desk.crews": true').replace('"desk.hush": true', '"desk.*": false'),
    )
    expect(agrees()).toEqual(['isolde 0', 'tobiah 5', 'jory 0', 'nessa 1'])
  } finally {
    rmSync(world, { recursive: true, force: true })
  }
}, 60_000)
