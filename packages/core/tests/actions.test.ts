import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { parse as parseYaml } from 'yaml'
import { describe, expect, it } from 'vitest'
import { resolveAction, type EntryAction, type LineAction } from '../src/families/actions'
import { arrangementOf } from '../src/families/arrangements'
import { FamilyError, readFamily } from '../src/families/family'
import { dataFolder, nameInFolder, pluginOfPath } from '../src/families/folders'
import { planInstall, type PlanInput } from '../src/families/plan-install'
import type { PackageInfo } from '../src/families/package-info'
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
    expect(resolveAction(entry(['b'], null, false), 'a: 1\nb: 2\n', UNSAID)).toBe('a: 1\n')
    expect(resolveAction(entry(['c'], null, false), 'a: 1\n', UNSAID)).toBe('a: 1\n')
  })

  it('does not touch a file that does not read', () => {
    expect(() => resolveAction(entry(['b'], 1), 'a: "x\n', UNSAID)).toThrow('has mistakes')
  })
})

describe('packages that stay packed', () => {
  const packed = arrangementOf(family)

  it('are found in the folder itself only', () => {
    const listing = ['extras/Purse.pack', 'extras/Purse/settings.yml', 'extras/old/Hampers.pack', 'extras/notes.txt', 'other/X.pack']
    expect(packed.find(family, listing)).toEqual(['extras/Purse.pack'])
  })

  it('go where the family says, or where the one lies that they replace', () => {
    expect(packed.install(family, { name: 'Purse', sha: 's' })).toEqual([{ kind: 'put', path: 'extras/Purse.pack', content: { sha: 's' } }])
    expect(packed.install(family, { name: 'Purse', sha: 's', replaces: 'extras/purse-1.pack' })).toMatchObject([
      { path: 'extras/purse-1.pack' },
    ])
    expect(packed.remove(family, { name: 'Purse', sha: 's', path: 'extras/p.pack' })).toEqual([
      { kind: 'remove', path: 'extras/p.pack', ifSha: 's' },
    ])
  })
})

describe('folders of plugins', () => {
  it.each([
    ['extras/Purse/settings.yml', 'Purse', 'settings.yml'],
    ['extras/Purse/lang/en.yml', 'Purse', 'lang/en.yml'],
    ['extras/Purse.pack', null, null],
    ['other/Purse/a.yml', null, null],
    ['extras/', null, null],
  ])('%s belongs to %s', (path, plugin, name) => {
    expect(pluginOfPath(family, path)).toBe(plugin)
    expect(nameInFolder(family, 'Purse', path)).toBe(name)
  })

  it('may have something behind the name', () => {
    const deep = readFamily(text.replace('data-folder: "extras/{plugin}"', 'data-folder: "mods/{plugin}/config"'))
    expect(dataFolder(deep, 'Purse')).toBe('mods/Purse/config')
    expect(pluginOfPath(deep, 'mods/Purse/config/a.yml')).toBe('Purse')
    expect(pluginOfPath(deep, 'mods/Purse/other/config/a.yml')).toBeNull()
    expect(pluginOfPath(deep, 'mods/Purse/a.yml')).toBeNull()
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
  const info = (name: string, version: string, more: Partial<PackageInfo> = {}): PackageInfo => ({
    name,
    version,
    summary: '',
    game: '*',
    authors: [],
    requires: {},
    optional: {},
    nodes: {},
    commands: {},
    changes: '',
    defaults: {},
    ...more,
  })
  const plan = (more: Partial<PlanInput<number>>) =>
    planInstall<number>({
      family,
      wanted: { id: 1, sha: 'h', info: info('Hampers', '2.0.0', { optional: { Wardkeys: '5.0.0' } }) },
      pantry: [],
      installed: [],
      gameVersion: '7.2',
      satisfies: (version, range) => range === '*' || version === range,
      newer: (a, b) => a > b,
      ...more,
    })
  const ward = (version: string) => ({ name: 'Wardkeys', version, packagePath: 'extras/Wardkeys.pack' })

  it.each([
    ['not there', [], []],
    ['there and fitting', [ward('5.0.0')], []],
    ['there and too old', [ward('4.0.0')], ['older-companion']],
  ] as const)('tells of a companion that is %s', (_name, installed, codes) => {
    const { problems, steps } = plan({ installed })
    expect(problems.map((problem) => problem.code)).toEqual(codes)
    expect(problems.every((problem) => problem.severity === 'warning')).toBe(true)
    expect(steps.map((step) => step.plugin)).toEqual(['Hampers'])
  })

  it('gives file actions, in place of an older version', () => {
    const installed = [{ name: 'Hampers', version: '1.0.0', packagePath: 'extras/hampers-old.pack' }]
    expect(plan({ installed }).steps[0]).toMatchObject({
      replaces: '1.0.0',
      path: 'extras/hampers-old.pack',
      actions: [{ kind: 'put', path: 'extras/hampers-old.pack', content: { sha: 'h' } }],
    })
  })
})
