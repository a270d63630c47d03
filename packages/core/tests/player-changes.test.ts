import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readFamily } from '../src/families/family'
import { addEntry, removeEntry, setValue } from '../src/formats/operations'
import { formatOf, parse } from '../src/formats/registry'
import { UNSAID } from '../src/formats/reading'
import { applyEdits } from '../src/text/edits'
import { getNode, parsePointer } from '../src/tree/pointer'
import type { Value } from '../src/tree/values'
import {
  NO_PERMISSIONS,
  PermissionBook,
  backTo,
  changeGroups,
  commandFor,
  instantOf,
  isOver,
  readPlayers,
  saidOf,
  withChanges,
  type PermissionPlayer,
  type PlayerChange,
} from '../src/permissions'

const commands = readFamily(readFileSync('families/archive.yml', 'utf8')).permissions.commands!
const NOW = Date.UTC(2026, 10, 27, 12)
const change = (more: Partial<PlayerChange> = {}): PlayerChange => ({
  player: '77004418209365512',
  what: 'node',
  name: 'ferry.bell',
  word: 'granted',
  term: null,
  ...more,
})
const playersIn = (text: string, path = 'a.yml') => readPlayers(parse(text, formatOf(path)!, UNSAID), '/players', new Set())

describe('the command that says it', () => {
  it.each<[Partial<PlayerChange>, string | null]>([
    [{}, 'rank isolde +ferry.bell'],
    [{ word: 'denied' }, 'rank isolde -ferry.bell'],
    [{ word: null }, 'rank isolde =ferry.bell'],
    [{ name: 'ferry.*', term: { amount: 7, unit: 'day' } }, 'rank isolde +ferry.* 7d'],
    [{ word: 'denied', term: { amount: 90, unit: 'minute' } }, 'rank isolde -ferry.bell 90m'],
    [{ what: 'group', name: 'warden' }, 'rank isolde into warden'],
    [{ what: 'group', name: 'warden', word: null }, 'rank isolde from warden'],
    // a group takes no term here, and a name no second word
    [{ what: 'group', name: 'warden', term: { amount: 1, unit: 'day' } }, null],
    [{ name: 'ferry bell' }, null],
    [{ name: 'x\nstop' }, null],
    [{ name: '-ferry.bell' }, null],
    [{ name: '' }, null],
    [{ player: '1 2' }, null],
  ])('%j: %s', (more, expected) => expect(commandFor(commands, change(more), 'isolde')).toBe(expected))

  it('takes the id where the family asks for it, and the next longer unit where it does not know one', () => {
    const own: typeof commands = { ...commands, grant: 'give {id} {node} {term}', term: { day: ' days' } }
    expect(commandFor(own, change({ term: { amount: 30, unit: 'hour' } }), 'isolde')).toBe('give 77004418209365512 ferry.bell 2 days')
    const { term: _term, ...endless } = own
    expect(commandFor(endless as typeof own, change({ term: { amount: 1, unit: 'day' } }), 'isolde')).toBeNull()
    expect(commandFor({ ...own, deny: undefined }, change({ word: 'denied' }), 'isolde')).toBeNull()
  })

  it('is one line of as many words as the family’s, whatever the names hold', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 12 }), fc.string({ unit: 'grapheme', maxLength: 12 }), (name, called) => {
        const command = commandFor(commands, change({ name }), called)
        if (command === null) return
        expect(command.split(/\s/u)).toEqual(['rank', called, `+${name}`])
        expect(command).not.toMatch(/[\u0000-\u001f\u007f\u2028\u2029;|&]/u)
      }),
    )
  })
})

describe('until when', () => {
  it.each<[string, number | null]>([
    ['2026-12-01', Date.UTC(2026, 11, 1)],
    ['2026-12-01T10:00:00Z', Date.UTC(2026, 11, 1, 10)],
    ['2026-12-01 10:00:00Z', Date.UTC(2026, 11, 1, 10)],
    ['1796119200', 1796119200_000],
    ['1796119200000', 1796119200_000],
    ['soon', null],
    ['12', null],
    ['', null],
  ])('%s', (text, expected) => expect(instantOf(text)).toBe(expected))
  it('what ended counts no more, what cannot be read never ends', () => {
    expect([isOver({ until: '2026-11-27T11:59:59Z' }, NOW), isOver({ until: '2026-11-28' }, NOW), isOver({ until: 'soon' }, NOW)]).toEqual([
      true,
      false,
      false,
    ])
    const [isolde] = playersIn('players:\n  isolde: { nodes: [{ node: a.b, until: 2026-11-20 }, { node: -a.c, until: 2026-12-20 }] }\n')
    const may = (now: number | null, node: string): boolean =>
      new PermissionBook(
        { ...NO_PERMISSIONS, players: [isolde!] },
        [{ node: 'a.c', says: '', plugin: '', byDefault: 'everyone' }],
        now,
      ).may({ player: 'isolde' }, node)
    expect([may(null, 'a.b'), may(NOW, 'a.b'), may(NOW, 'a.c'), may(Date.UTC(2027, 0, 1), 'a.c')]).toEqual([true, false, false, true])
  })
})

describe('players as they will be', () => {
  const players = playersIn('players:\n  "7701": { name: isolde, groups: [keep], nodes: [a.b, -a.c] }\n  nessa: { groups: [mud] }\n')
  it('have what was changed, in their order; who was not known is added', () => {
    const after = withChanges(
      players,
      [
        change({ player: '7701', name: 'a.b', word: 'denied', term: { amount: 2, unit: 'hour' } }),
        change({ player: 'isolde', name: 'a.c', word: null }),
        change({ player: '7701', what: 'group', name: 'mud' }),
        change({ player: 'nessa', what: 'group', name: 'mud', word: null }),
        change({ player: 'wella', name: 'x' }),
      ],
      NOW,
    )
    expect(after.map(({ id, groups, grants }) => [id, groups, grants.map((one) => `${one.isDenied ? '-' : ''}${one.node}`)])).toEqual([
      ['7701', ['keep', 'mud'], ['-a.b']],
      ['nessa', [], []],
      ['wella', [], ['x']],
    ])
    expect(after[0]!.grants[0]!.until).toBe('2026-11-27T14:00:00.000Z')
  })

  it('whatever is said and taken back, each player says what he said before', () => {
    const name = fc.constantFrom('a.b', 'a.c', 'x')
    const one = fc.record({
      player: fc.constantFrom('7701', 'nessa'),
      what: fc.constant<'node'>('node'),
      name,
      word: fc.constantFrom('granted', 'denied', null),
      term: fc.option(fc.record({ amount: fc.integer({ min: 1, max: 99 }), unit: fc.constantFrom('minute', 'hour', 'day') })),
    })
    fc.assert(
      fc.property(fc.array(one, { maxLength: 5 }), (list) => {
        let now: readonly PermissionPlayer[] = players
        const back: PlayerChange[] = []
        for (const said of list as PlayerChange[]) {
          back.unshift(
            backTo(
              said,
              saidOf(
                now.find(({ id }) => id === said.player),
                said,
              ),
              NOW,
            ),
          )
          now = withChanges(now, [said], NOW)
        }
        const after = withChanges(now, back, NOW)
        for (const player of players)
          for (const node of ['a.b', 'a.c', 'x']) {
            const about = { what: 'node', name: node } as const
            expect(
              saidOf(
                after.find(({ id }) => id === player.id),
                about,
              ),
            ).toEqual(saidOf(player, about))
          }
      }),
    )
  })

  it('what ended meanwhile is not given back', () => {
    expect(backTo(change(), { word: 'granted', until: '2026-11-27T11:00:00Z' }, NOW)).toMatchObject({ word: null, term: null })
    expect(backTo(change(), { word: 'granted', until: '2026-11-27T12:30:00Z' }, NOW)).toMatchObject({
      word: 'granted',
      term: { amount: 30, unit: 'minute' },
    })
  })
})

describe('groups of a player in a file', () => {
  function changed(path: string, text: string, group: string, isIn: boolean): string | null {
    const read = (source: string) => parse(source, formatOf(path)!, UNSAID)
    const steps = changeGroups(playersIn(text, path)[0]!, group, isIn)
    let now = text
    for (const step of steps ?? []) {
      const document = read(now)
      const keys = parsePointer(step.pointer)!
      if (step.kind === 'remove') now = applyEdits(now, removeEntry(document, keys))
      else if (getNode(document, keys)) now = applyEdits(now, setValue(document, keys, step.value as Value))
      else now = applyEdits(now, addEntry(document, keys.slice(0, -1), keys.at(-1)!, step.value as Value))
    }
    return steps && now
  }
  it.each<[string, string, string, boolean, string | null]>([
    ['a.yml', 'players:\n  a: { groups: [x, y] }\n', 'z', true, 'players:\n  a: { groups: [x, y, z] }\n'],
    ['a.yml', 'players:\n  a: { groups: [x, y] }\n', 'x', false, 'players:\n  a: { groups: [y] }\n'],
    ['a.yml', 'players:\n  a: { groups: [x, y] }\n', 'y', true, 'players:\n  a: { groups: [x, y] }\n'],
    ['a.yml', 'players:\n  a: { group: x }\n', 'z', true, 'players:\n  a: { group: z }\n'],
    ['a.json', '{ "players": { "a": { "name": "b" } } }', 'y', true, '{ "players": { "a": { "name": "b", "groups": [ "y" ] } } }'],
    ['a.yml', 'players:\n  a: { groups: { x: {} } }\n', 'y', true, null],
  ])('%s %s', (path, text, group, isIn, expected) => expect(changed(path, text, group, isIn)).toBe(expected))

  it('are read from lists, sections and single names', () => {
    const [a, b, c] = playersIn(
      'players:\n  a: { rank: x }\n  b: { groups: { x: {}, y: { until: 1 } } }\n  c: { groups: [{ name: x }, { group: y }, z] }\n',
    )
    expect([a!.groups, b!.groups, c!.groups]).toEqual([['x'], ['x', 'y'], ['x', 'y', 'z']])
  })
})
