import { describe, expect, it } from 'vitest'
import type { FileFinding, Knowledge } from '../src/checks'
import { applyEdits } from '../src/text/edits'
import { DELTA, GROUPS, found, lineOf, plugin } from './delta'

describe('texts of a family with other marks', () => {
  const knowledge: Knowledge = {
    ...DELTA,
    texts: {
      placeholder: ['%{', '}'],
      lineBreak: null,
      codes: '</?[^<>]*>',
      marks: [
        { code: '<amber>', colour: '#e8b04a' },
        { code: '</>', ends: 'colour' },
        { code: '<b>', bold: true },
        { code: '</b>', ends: 'bold' },
      ],
    },
    plugins: [plugin('A', { placeholders: { '%{player}': 'Who', '%{count}': 'How many' } })],
  }
  it.each<[string, string, readonly string[], string | undefined]>([
    ['<amber>%{player}</>', '<#d9930d>%{player}</> may', [], undefined],
    ['<amber>%{player}</>', '<b>%{player}</b> and %{count}', [], undefined],
    ['<amber>%{player}</>', '<#d9930>%{player}</>', ['unknown-code'], undefined],
    ['<amber>%{player}</>', '<ambre>%{player}</>', ['unknown-code'], '<amber>%{player}</>'],
    ['<amber>%{player}</>', '[amber]%{player}', ['unknown-code'], '<amber>%{player}'],
    ['<amber>%{player}</>', '<amber>{player}</>', ['unknown-placeholder'], '<amber>%{player}</>'],
    ['<amber>%{player}</>', '<amber>%{palyer}</>', ['unknown-placeholder'], '<amber>%{player}</>'],
    ['<amber>%{player}</>', '<amber>%{player</>', ['unclosed-placeholder'], '<amber>%{player}</>'],
    ['<amber>%{player}</>', '<amber>%{player} may', ['unclosed-code'], '<amber>%{player} may</>'],
    ['<b>%{count}</b>', '<b>all</b>', ['lost-placeholder'], undefined],
    ['plain', '100 % of 3 < 4 and { nothing }', [], undefined],
  ])('%j made %j', (shipped, mine, codes, fixed) => {
    const text = `{ "text": ${JSON.stringify(mine)} }`
    const told = found({ 'A/a.json': text }, { factories: { 'A/a.json': `{ "text": ${JSON.stringify(shipped)} }` }, knowledge })
    expect(told.map(({ code }) => code)).toEqual(codes)
    const fix = told.find((one) => one.fix)?.fix
    expect(fix ? (JSON.parse(applyEdits(text, fix.edits)) as { text: string }).text : undefined).toBe(fixed)
  })
})

describe('entries of one’s own', () => {
  const factory = 'pits:\n  low: { name: A, digs: 5, node: "" }\n  weir: { name: B, digs: 6, node: "" }\n'
  const codes = (more: string): string[] =>
    found({ 'A/a.yml': factory + more }, { factories: { 'A/a.yml': factory }, knowledge: { ...DELTA, paths: new Set() } }).map(
      ({ code, message }) => `${code} ${/“([^”]*)”/.exec(message)?.[1]}`,
    )
  it.each<[string, readonly string[]]>([
    ['  kiln: { name: C, digs: 7, node: "" }\n', []],
    ['  kiln: { name: C, dgis: 7, node: "" }\n', ['unknown-setting dgis']],
    ['  kiln: { name: C, node: "" }\n', ['missing-setting kiln']],
    ['  kiln: { name: C, digs: 7, node: "", of-our-own: 1 }\n', []],
    ['  kiln: { name: C, digs: 7, node: a.nobody }\n', ['unknown-node undefined']],
    ['  kiln: { name: C, digs: -7, node: "" }\n', ['odd-amount digs']],
  ])('%j: %j', (more, expected) => expect(codes(more)).toEqual(expected))
})

describe('groups of players', () => {
  const groups = (text: string): FileFinding[] =>
    found({ 'W/groups.yml': text, 'A/a.yml': 'node: a.admin\n' }, { factories: { 'W/groups.yml': GROUPS, 'A/a.yml': 'node: a.use\n' } })
  const codes = (text: string): string[] => groups(text).map(({ code }) => code)
  it('hold nodes by a star, by what they inherit, and by what begins so; a minus gives nothing', () => {
    const ferryman = (nodes: string): string => GROUPS.replace('nodes: []', `nodes: [${nodes}]`)
    expect(codes(ferryman('a.admin'))).toEqual([])
    expect(codes(ferryman("'*'"))).toEqual([])
    expect(codes(ferryman('a.*'))).toEqual([])
    expect(codes(ferryman('-a.admin'))).toEqual(['node-of-no-group'])
    expect(codes(ferryman('a.admn'))).toEqual(['node-of-no-group', 'unknown-node'])
  })
  it('that inherit in a circle are told once, at what somebody wrote', () => {
    const circle = GROUPS.replace('inherits: []', 'inherits: [ferryman]')
    const [finding, ...others] = groups(circle).filter(({ code }) => code === 'groups-in-a-circle')
    expect(others).toEqual([])
    expect(finding!.message).toContain('mudlark inherits from ferryman inherits from mudlark')
    expect(lineOf(circle, finding!.from)).toBe(6)
  })
  it('of which everybody is in one are looked at with what they inherit', () => {
    const both = GROUPS.replace('group: mudlark', 'group: ferryman').replace('[a.use]', '[a.use, a.admin]')
    expect(codes(both)).toEqual(['staff-node-for-all'])
    expect(codes(GROUPS.replace('[a.use]', "[a.use, '*']"))).toEqual(['staff-node-for-all'])
    expect(groups(GROUPS.replace('[a.use]', "[a.use, '*']"))[0]!.severity).toBe('error')
  })
  it('that cannot be read leave open who holds what', () => {
    expect(new Set(codes(GROUPS.replace('groups:', 'groups: "')))).toEqual(new Set(['unclosed-quote']))
  })
})
