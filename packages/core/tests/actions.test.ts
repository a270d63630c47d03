import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { parse as parseYaml } from 'yaml'
import { describe, expect, it } from 'vitest'
import { resolveAction, type BlockAction, type EntryAction, type ItemAction, type LineAction } from '../src/families/actions'
import { arrangementOf } from '../src/families/arrangements'
import { FamilyError, readFamily } from '../src/families/family'
import { dataFolder, nameOf, pathOf, patternsFor, placedByName } from '../src/families/folders'
import { planInstall, type PlanInput, type PresentPlugin } from '../src/families/plan-install'
import type { PackageAbout } from '../src/families/package-info'
import { UNSAID } from '../src/formats/reading'

const text = readFileSync('families/archive.yml', 'utf8')
const family = readFamily(text)

describe('a line in a file', () => {
  const line = (present: boolean, of = 'load Hampers'): LineAction => ({ kind: 'line', path: 'start.cfg', line: of, present })

  it.each([
    [null, true, 'load Hampers\n'],
    ['', true, 'load Hampers\n'],
    ['load Purse', true, 'load Purse\nload Hampers\n'],
    ['load Purse\r\n', true, 'load Purse\r\nload Hampers\r\n'],
    ['load Purse\n  load Hampers\n', true, 'load Purse\n  load Hampers\n'],
    ['load Purse\nload Hampers\nsay hi\n', false, 'load Purse\nsay hi\n'],
    ['load Purse\n', false, 'load Purse\n'],
    [null, false, null],
  ])('%j with it there: %s becomes %j', (now, present, expected) => {
    expect(resolveAction(line(present), now, UNSAID)).toBe(expected)
  })

  it('doing it twice changes nothing more, and undoing it gives the file back', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a', 'b', '', '# c'), { maxLength: 6 }), (lines) => {
        const now = lines.map((item) => item + '\n').join('')
        const there = resolveAction(line(true), now, UNSAID)!
        expect(resolveAction(line(true), there, UNSAID)).toBe(there)
        expect(resolveAction(line(false), there, UNSAID)).toBe(now)
      }),
    )
  })
})

describe('a setting in a file', () => {
  const entry = (at: string[], value: unknown, present = true): EntryAction => ({ kind: 'entry', path: 'server.yml', at, value, present })

  it.each([
    ['a: 1\n', ['plugins', 'Hampers'], true, { a: 1, plugins: { Hampers: true } }],
    ['plugins:\n  Purse: true # first\n', ['plugins', 'Hampers'], true, { plugins: { Purse: true, Hampers: true } }],
    ['a:\n  b: 1\n', ['a', 'c', 'd', 'e'], [1, 2], { a: { b: 1, c: { d: { e: [1, 2] } } } }],
    [null, ['a'], 'x', { a: 'x' }],
    ['a: 1\n', ['a'], 2, { a: 2 }],
  ])('%j gets %j', (now, at, value, expected) => {
    const result = resolveAction(entry(at, value), now, UNSAID)!
    expect(parseYaml(result)).toEqual(expected)
    expect(resolveAction(entry(at, value), result, UNSAID)).toBe(result)
    for (const part of now?.split('\n').filter((item) => item.includes('#')) ?? []) expect(result).toContain(part)
  })

  it('is taken out, and one that is not there is no change', () => {
    expect(resolveAction(entry(['b'], undefined, false), 'a: 1\nb: 2\n', UNSAID)).toBe('a: 1\n')
    expect(resolveAction(entry(['c'], undefined, false), 'a: 1\n', UNSAID)).toBe('a: 1\n')
  })

  it('does not touch a file that does not read', () => {
    expect(() => resolveAction(entry(['b'], 1), 'a: "x\n', UNSAID)).toThrow('has mistakes')
  })
})

describe('packages that stay packed', () => {
  const packed = arrangementOf(family)
  const purse = placedByName(family, 'Purse')
  const content = { sha: 's', root: '', members: [] }

  it('are found in the folder itself only', () => {
    const listing = ['extras/Purse.pack', 'extras/Purse/settings.yml', 'extras/old/Hampers.pack', 'extras/notes.txt', 'other/X.pack']
    expect(packed.find(family, listing)).toEqual([{ path: 'extras/Purse.pack', unpacked: null, isOff: false }])
  })

  it('go where the family says, or where the one lies that they replace', () => {
    expect(packed.install(family, purse, content)).toEqual([{ kind: 'put', path: 'extras/Purse.pack', content: { sha: 's' } }])
    expect(packed.install(family, purse, { ...content, replaces: 'extras/purse-1.pack' })).toMatchObject([{ path: 'extras/purse-1.pack' }])
    expect(packed.mainPath(family, purse)).toBe('extras/Purse.pack')
  })
})

describe('folders of plugins', () => {
  const purse = placedByName(family, 'Purse')

  it.each([
    ['extras/Purse/settings.yml', true, 'settings.yml'],
    ['extras/Purse/lang/en.yml', true, 'lang/en.yml'],
    ['extras/Purse.pack', false, '/extras/Purse.pack'],
    ['other/Purse/a.yml', false, '/other/Purse/a.yml'],
  ])('%s belongs to Purse: %s', (path, isOwn, name) => {
    expect(patternsFor(family, purse).isSettings(path)).toBe(isOwn)
    expect(nameOf(family, purse, path)).toBe(name)
    expect(pathOf(family, purse, name)).toBe(path)
  })

  it('may have something behind the name', () => {
    const deep = readFamily(text.replace('data-folder: "extras/{plugin}"', 'data-folder: "mods/{plugin}/config"'))
    expect(dataFolder(deep, purse)).toBe('mods/Purse/config')
    const { isSettings } = patternsFor(deep, purse)
    expect(['mods/Purse/config/a.yml', 'mods/Purse/other/config/a.yml', 'mods/Purse/a.yml'].map(isSettings)).toEqual([true, false, false])
  })
})

describe('a family', () => {
  it('has defaults filled in', () => {
    expect(readFamily(text.replace(/ {2}records:.*\n/, '')).settings.records).toEqual([])
    expect(family.plugins.kept).toBe('packed')
  })

  it.each([
    ['  kept: boxed\n  folder: extras', 'plugins.kept'],
    ['  folder: 5', 'plugins.folder'],
  ])('with %j is refused, naming the field', (line, field) => {
    const broken = (): unknown => readFamily(text.replace('  folder: extras', line))
    expect(broken).toThrow(FamilyError)
    expect(broken).toThrow(field)
  })
})

describe('planning an installation', () => {
  const info = (name: string, version: string, more: Partial<PackageAbout> = {}) => ({
    name,
    version,
    game: '*',
    requires: {},
    optional: {},
    conflicts: {},
    companions: {},
    ...more,
  })
  const offer = (id: number, name: string, version: string, more: Partial<PackageAbout> = {}) => ({
    id,
    from: 'pantry' as const,
    info: info(name, version, more),
  })
  const numbers = (version: string): number[] => version.split('.').map(Number)
  const newer = (a: string, b: string): boolean => {
    const [left, right] = [numbers(a), numbers(b)]
    for (let i = 0; i < 3; i++) if ((left[i] ?? 0) !== (right[i] ?? 0)) return (left[i] ?? 0) > (right[i] ?? 0)
    return false
  }
  const plan = (more: Partial<PlanInput<number>>) =>
    planInstall<number>({
      family,
      wanted: [offer(1, 'Hampers', '2.0.0', { optional: { Wardkeys: '5.0.0' } })],
      offers: [],
      installed: [],
      gameVersion: '7.2',
      satisfies: (version, range) => range === '*' || version === range || (range.startsWith('>=') && !newer(range.slice(2), version)),
      newer,
      ...more,
    })
  const there = (name: string, version: string, more: Partial<PresentPlugin['info']> = {}): PresentPlugin => ({
    ...placedByName(family, name),
    version,
    packagePath: `extras/${name.toLowerCase()}-old.pack`,
    info: { conflicts: {}, requires: {}, ...more },
  })

  it.each([
    ['not there', [], []],
    ['there and fitting', [there('Wardkeys', '5.0.0')], []],
    ['there and too old', [there('Wardkeys', '4.0.0')], ['older-companion']],
  ] as const)('tells of one it works with that is %s', (_name, installed, codes) => {
    const { problems, steps } = plan({ installed })
    expect(problems.map((problem) => problem.code)).toEqual(codes)
    expect(problems.every((problem) => problem.severity === 'warning')).toBe(true)
    expect(steps.map((step) => step.name)).toEqual(['Hampers'])
  })

  it('takes the place of an older version', () => {
    expect(plan({ installed: [there('Hampers', '1.0.0')] }).steps[0]).toMatchObject({
      replaces: { version: '1.0.0', path: 'extras/hampers-old.pack' },
    })
  })

  it('brings what is needed, in order, the newest that fits the game and not the newest of all', () => {
    const offers = [
      offer(2, 'Purse', '1.7.0'),
      offer(3, 'Purse', '1.9.0', { requires: { Mint: '>=1.0.0' } }),
      offer(4, 'Purse', '2.0.0', { game: '>=8.0' }),
      offer(5, 'Mint', '1.0.0'),
      offer(6, 'Mint', '0.9.0'),
    ]
    const { steps, problems } = plan({ wanted: [offer(1, 'Hampers', '2.0.0', { requires: { Purse: '>=1.6.0' } })], offers })
    expect(steps.map(({ id, name, because, requiredBy }) => [id, name, because, requiredBy])).toEqual([
      [5, 'Mint', 'required', 'Purse'],
      [3, 'Purse', 'required', 'Hampers'],
      [1, 'Hampers', 'asked', null],
    ])
    expect(problems).toEqual([])
  })

  it.each<[string, Partial<PlanInput<number>>, string[]]>([
    ['a game that is too old', { wanted: [offer(1, 'A', '1.0.0', { game: '>=8.0' })] }, ['game-version']],
    ['what is needed and nowhere', { wanted: [offer(1, 'A', '1.0.0', { requires: { B: '>=1.0.0' } })] }, ['missing-requirement']],
    [
      'what is needed and too old',
      { wanted: [offer(1, 'A', '1.0.0', { requires: { B: '>=2.0.0' } })], installed: [there('B', '1.0.0')] },
      ['older-requirement'],
    ],
    [
      'what it does not run beside',
      { wanted: [offer(1, 'A', '1.0.0', { conflicts: { B: '*' } })], installed: [there('B', '1.0.0')] },
      ['conflict'],
    ],
    [
      'what does not run beside it',
      { wanted: [offer(1, 'A', '1.0.0')], installed: [there('B', '1.0.0', { conflicts: { A: '>=1.0.0' } })] },
      ['conflict'],
    ],
    [
      'two that do not run beside each other',
      { wanted: [offer(1, 'A', '1.0.0'), offer(2, 'B', '1.0.0', { conflicts: { A: '*' } })] },
      ['conflict'],
    ],
    ['one that is there', { wanted: [offer(1, 'A', '1.0.0')], installed: [there('A', '1.0.0')] }, ['installed-already']],
    [
      'a name that is one on some disks',
      { wanted: [offer(1, 'purse', '1.0.0')], installed: [there('Purse', '1.0.0')] },
      ['other-capitals'],
    ],
    ['a companion that cannot be had', { wanted: [offer(1, 'A', '1.0.0', { companions: { B: '*' } })] }, ['older-companion']],
  ])('says of %s', (_name, input, codes) => {
    expect(plan(input).problems.map(({ code }) => code)).toEqual(codes)
  })

  it('takes companions along unless they are left out, and goes in no circles', () => {
    const offers = [offer(2, 'Gate', '1.0.0', { requires: { Bridge: '*' } }), offer(1, 'Bridge', '1.0.0', { companions: { Gate: '*' } })]
    const names = (more: Partial<PlanInput<number>>) => plan({ wanted: [offers[1]!], offers, ...more }).steps.map(({ name }) => name)
    expect(names({})).toEqual(['Bridge', 'Gate'])
    expect(names({ without: ['Gate'] })).toEqual(['Bridge'])
    expect(names({ installed: [there('Gate', '1.0.0')] })).toEqual(['Bridge'])
  })
})

describe('a line behind others', () => {
  const line = (more: Partial<LineAction> = {}): LineAction => ({ kind: 'line', path: 'x.cfg', line: 'berth c', present: true, ...more })

  it.each<[string, Partial<LineAction>, string]>([
    ['a\nb\n', {}, 'a\nb\nberth c\n'],
    ['berth a\nset x\n', { like: '^berth ' }, 'berth a\nberth c\nset x\n'],
    ['set x\n', { like: '^berth ' }, 'set x\nberth c\n'],
    ['berth a\nset x\nberth b\nset y', { like: '^berth ', after: ['berth a'] }, 'berth a\nset x\nberth b\nberth c\nset y'],
    ['berth a\nset x', { after: ['set x'], like: '^berth ' }, 'berth a\nset x\nberth c\n'],
    // one that stands too early is moved, and not doubled
    ['berth c\nberth a\n', { after: ['berth a'] }, 'berth a\nberth c\n'],
    ['berth a\nberth c\nberth b\n', { after: ['berth a'] }, 'berth a\nberth c\nberth b\n'],
    ['berth a\r\nset x\r\n', { like: '^berth ' }, 'berth a\r\nberth c\r\nset x\r\n'],
  ])('%j with %j becomes %j', (now, more, expected) => {
    const result = resolveAction(line(more), now, UNSAID)!
    expect(result).toBe(expected)
    expect(resolveAction(line(more), result, UNSAID)).toBe(result)
  })
})

describe('an item of a list, and a block of lines', () => {
  const item = (value: unknown, present = true, at = ['bundles']): ItemAction => ({ kind: 'item', path: 'a.yml', at, value, present })
  const block = (text: string, present = true): BlockAction => ({ kind: 'block', path: 'a.ini', text, present })

  it.each([
    ['bundles:\n  - id: a\n', { id: 'b', name: 'B' }, { bundles: [{ id: 'a' }, { id: 'b', name: 'B' }] }],
    ['bundles: []\n', 'b', { bundles: ['b'] }],
    ['other: 1\n', 'b', { other: 1, bundles: ['b'] }],
    ['bundles:\n', 'b', { bundles: ['b'] }],
    [null, 'b', { bundles: ['b'] }],
  ])('%j gets %j', (now, value, expected) => {
    const result = resolveAction(item(value), now, UNSAID)!
    expect(parseYaml(result)).toEqual(expected)
    expect(resolveAction(item(value), result, UNSAID)).toBe(result)
    expect(parseYaml(resolveAction(item(value, false), result, UNSAID)!)).not.toEqual(expected)
  })

  it('is left alone where somebody made it another, and refused where there is no list', () => {
    expect(resolveAction(item({ id: 'b' }, false), 'bundles:\n  - id: c\n', UNSAID)).toBe('bundles:\n  - id: c\n')
    expect(() => resolveAction(item('b'), 'bundles: 5\n', UNSAID)).toThrow('no list')
    const entry: EntryAction = { kind: 'entry', path: 'a.yml', at: ['x'], value: 1, present: false }
    expect(resolveAction(entry, 'x: 2\ny: 1\n', UNSAID)).toBe('x: 2\ny: 1\n')
    expect(resolveAction(entry, 'x: 1\ny: 1\n', UNSAID)).toBe('y: 1\n')
    expect(resolveAction({ ...entry, present: true, keep: true }, 'x: 2\n', UNSAID)).toBe('x: 2\n')
  })

  it('goes in behind a blank line, once, and comes out as if it had never been', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('a=1', '', '; c', '[s]'), { minLength: 1, maxLength: 6 }),
        fc.constantFrom('\n', '\r\n'),
        (lines, eol) => {
          const now = lines.map((text) => text + eol).join('')
          const there = resolveAction(block('[Outwash]\nat=04:00\n'), now, UNSAID)!
          expect(there).toContain(`[Outwash]${eol}at=04:00${eol}`)
          expect(resolveAction(block('[Outwash]\nat=04:00\n'), there, UNSAID)).toBe(there)
          expect(resolveAction(block('[Outwash]\nat=04:00\n', false), there, UNSAID)).toBe(now)
          // what was changed stays
          const changed = there.replace('04:00', '05:00')
          expect(resolveAction(block('[Outwash]\nat=04:00\n', false), changed, UNSAID)).toBe(changed)
        },
      ),
    )
  })
})
