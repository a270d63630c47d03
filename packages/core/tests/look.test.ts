import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NO_KNOWLEDGE, lookInto, nearest, subjectsOf, type FileFinding } from '../src/checks'
import { distance } from '../src/checks/near'
import { UNSAID } from '../src/formats/reading'
import { brokenBy, compileRule } from '../src/rules/compile'
import { safePattern } from '../src/rules/pattern'
import { explainRules, readRule, type Rule } from '../src/rules/rule'

describe('what was most likely meant', () => {
  it.each([
    ['fired_brik', 'fired_brick'],
    ['Fired-Brick', 'fired_brick'],
    ['firedbrick', 'fired_brick'],
    ['bells.tin_bell', 'tin_bell'],
    ['red_roof_tile', 'roof_tile'],
    ['saltfihs', 'saltfish'],
    ['reeds', 'reed'],
    ['lantern', null],
    ['', null],
  ])('%s: %s', (word, meant) => {
    expect(nearest(word, ['fired_brick', 'tin_bell', 'roof_tile', 'saltfish', 'reed', 'eel'])?.id ?? null).toBe(meant)
  })

  it('counts letters as a plain reckoning of all ways does', () => {
    const letters = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 7 })
    fc.assert(
      fc.property(letters, letters, (a, b) => {
        const plain = plainDistance(a, b)
        expect(distance(a, b, 7)).toBe(plain)
        expect(distance(a, b, 1)).toBe(plain <= 1 ? plain : null)
      }),
    )
  })
})

/** The whole table of the optimal string alignment, row by row. */
function plainDistance(a: string, b: string): number {
  const table = Array.from({ length: a.length + 1 }, (_, i) =>
    Array.from({ length: b.length + 1 }, (_one, j) => (i === 0 ? j : j === 0 ? i : 0)),
  )
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++) {
      const ways = [table[i - 1]![j]! + 1, table[i]![j - 1]! + 1, table[i - 1]![j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)]
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) ways.push(table[i - 2]![j - 2]! + 1)
      table[i]![j] = Math.min(...ways)
    }
  return table[a.length]![b.length]!
}

describe('rules as Yup schemas', () => {
  const rule = (more: Partial<Rule>): Rule => ({ path: '/a', ...more })
  it.each<[Partial<Rule>, number | string, readonly string[]]>([
    [{ min: 1, max: 9 }, 5, []],
    [{ min: 1, max: 9 }, 0, ['min']],
    [{ min: 1, max: 9 }, 12, ['max']],
    [{ wholeNumber: true }, 1.5, ['wholeNumber']],
    [{ step: 0.25, min: 0 }, 0.75, []],
    [{ step: 0.25, min: 0 }, 0.8, ['step']],
    [{ max: 1, wholeNumber: true }, 1.5, ['max', 'wholeNumber']],
    [{ choices: ['0', '1'] }, 2, ['choices']],
    [{ choices: ['low', 'high'] }, 'low', []],
    [{ choices: ['low', 'high'] }, 'Low', ['choices']],
    [{ maxLength: 4 }, '[b]reed[/b]', []],
    [{ maxLength: 4, countsCodes: true }, '[b]reed[/b]', ['maxLength']],
    [{ required: true }, '', ['required']],
    [{ pattern: '^[a-z]+$', patternSays: 'small letters' }, 'Reed', ['pattern']],
    [{ pattern: '^[a-z]+$' }, 'reed', []],
    [{ kind: 'text' }, 'anything', []],
    [{ kind: 'number' }, 77, []],
  ])('%j of %j breaks %j', (more, value, parts) => {
    const broken = brokenBy(compileRule(rule(more), { codes: '\\[/?[a-z]*\\]' }), value)
    expect(broken.map(({ part }) => part).sort()).toEqual([...parts].sort())
    for (const { says } of broken) expect(says('the author')).toMatch(/\.$/)
  })

  it('take no pattern that could take forever', () => {
    for (const bad of ['(a+)+', '(a|b)*c', '([a-z]+)*$', '(a)\\1', '(', 'x'.repeat(600)]) expect(safePattern(bad), bad).toBeNull()
    for (const good of ['^[a-z]+$', '[(+]*x', '\\d{2}:\\d{2}', '(?:ab)+', 'a|b']) expect(safePattern(good), good).not.toBeNull()
    expect(() => readRule({ path: '/a', pattern: '(a+)+' }, 'the rule')).toThrow('regular expression')
    expect(() => readRule({ path: '/a', role: 'king' }, 'the rule')).toThrow('one of price')
  })

  it('say of each part which source it comes from', () => {
    const told = explainRules([
      { path: '/a', source: 'seen', kind: 'number', means: 'number', min: 0 },
      { path: '/a', source: 'comment', max: 9 },
      { path: '/a', source: 'yours', max: 12 },
      { path: '/a', source: 'declared', means: 'port', unit: 'x' },
    ])
    expect(told).toEqual({
      rule: { path: '/a', source: 'yours', max: 12, means: 'port', unit: 'x', kind: 'number' },
      sources: { path: 'yours', source: 'yours', max: 'yours', means: 'declared', unit: 'declared', kind: 'seen' },
    })
    expect(explainRules([])).toBeNull()
  })
})

describe('what is told of one file', () => {
  const input = (text: string) => ({
    path: 'A/a.yml',
    plugin: 'A',
    text,
    factory: 'items: [clay 4, reed 2]\npassword: x\n',
    reading: UNSAID,
  })
  const knowledge = { ...NO_KNOWLEDGE, lists: { items: new Set(['clay', 'reed']) } }
  it('is plain data that a thread can answer with', () => {
    const looked = lookInto(input('items: [clay 4, raed 2]\npassword: hunter2\n'), knowledge)
    expect(structuredClone(looked)).toEqual(looked)
    expect(looked).toMatchObject({ mine: 2, lines: 3, secrets: [{ from: 34, to: 41 }] })
    expect(looked.findings.map(({ code }) => code)).toEqual(['unknown-id'])
    expect(lookInto({ ...input('x'), path: 'A/picture.png' }, knowledge).facts).toBeNull()
  })

  it('names each finding by itself, and still so when lines come before it', () => {
    const text = 'items: [raed 1, raed 1]\nmore: [raed 1]\n'
    const found = (before: string): FileFinding[] => [...lookInto(input(before + text), knowledge).findings]
    const subjects = (before: string): string[] => subjectsOf(found(before), () => before + text)
    expect(new Set(subjects('')).size).toBe(found('').length)
    expect(found('').length).toBeGreaterThan(1)
    expect(subjects('# more\n# lines\n')).toEqual(subjects(''))
    expect(subjectsOf(found(''), () => null)).toHaveLength(found('').length)
  })
})
