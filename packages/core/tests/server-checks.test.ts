import { describe, expect, it } from 'vitest'
import { CAUSES } from '../src/checks/causes'
import { CHECKS, NO_KNOWLEDGE, type FileFinding, type Knowledge } from '../src/checks'
import type { Rule } from '../src/rules/rule'
import { applyEdits } from '../src/text/edits'
import type { FindingCode } from '../src/tree/nodes'
import { DELTA, GROUPS, found, lineOf } from './delta'

interface Texts {
  /** What is shipped; the same as what is there, where it is left out. */
  readonly factory?: string
  readonly rules?: readonly Rule[]
}

interface Case extends Texts {
  readonly code: FindingCode
  readonly bad: string
  readonly good: string
  /** The text once the fix of the finding is taken; left out where it has none. */
  readonly fixed?: string
  /** On which line, from 1; the first that differs from the factory copy by itself. */
  readonly line?: number
  readonly file?: string
  /** Other files beside it. */
  readonly beside?: Readonly<Record<string, string>>
  readonly knowledge?: Partial<Knowledge>
}

const STALL =
  '# The stalls.\n#   rows   rows of nine slots, 1 to 6\n#   goods  items that are sold\n#   slots  where they stand, counted from 0\nstalls:\n  one: { rows: 1, goods: [clay, reed], slots: [0, 1] }\n  two: { rows: 1, goods: [eel], slots: [4] }\n'

const CASES: readonly Case[] = [
  {
    code: 'unknown-id',
    factory: '# Any item of the game.\nicon: clay\n',
    bad: 'icon: fired_brik\n',
    good: 'icon: eel\n',
    fixed: 'icon: fired_brick\n',
  },
  {
    code: 'unknown-id',
    factory: 'items: [clay 4, reed 2]\n',
    bad: 'items: [clay 4, oak_planks 2]\n',
    good: 'items: [oak_plank 9]\n',
    fixed: 'items: [clay 4, oak_plank 2]\n',
  },
  {
    code: 'unknown-id',
    factory: '# Any item of the game.\nicon: clay\n',
    bad: 'icon: FIRED_BRICK\n',
    good: 'icon: fired_brick\n',
    fixed: 'icon: fired_brick\n',
  },
  {
    code: 'unknown-id',
    factory: 'items: [CLAY 4, REED 2]\n',
    bad: 'items: [CLAY 4, OAK_PLANKS 2]\n',
    good: 'items: [OAK_PLANK 9]\n',
    fixed: 'items: [CLAY 4, OAK_PLANK 2]\n',
  },
  {
    code: 'unknown-id',
    factory: 'weights:\n  "lands:clay": 5\n  "lands:reed": 3\n',
    bad: 'weights:\n  "lands:clay": 5\n  "lands:fired_brik": 3\n',
    good: 'weights:\n  "lands:eel": 1\n  "lands:reed": 3\n',
    fixed: 'weights:\n  "lands:clay": 5\n  "lands:fired_brick": 3\n',
    line: 3,
  },
  {
    code: 'unknown-id',
    factory: 'weights:\n  clay: 5\n  reed: 3\n',
    bad: 'weights:\n  clay: 5\n  raed: 3\n',
    good: 'weights:\n  eel: 1\n  reed: 3\n',
    fixed: 'weights:\n  clay: 5\n  reed: 3\n',
    line: 3,
  },
  {
    code: 'unknown-id',
    factory: 'at: "delta 1 2 3 to 4 5 6"\n',
    bad: 'at: "dalta 1 2 3 to 4 5 6"\n',
    good: 'at: "upriver 1 2 3 to 4 5 6"\n',
    fixed: 'at: "delta 1 2 3 to 4 5 6"\n',
  },
  {
    code: 'unknown-group',
    factory: 'free-for: [warden]\n',
    bad: 'free-for: [wardens]\n',
    good: 'free-for: [mudlark]\n',
    fixed: 'free-for: [warden]\n',
  },
  {
    code: 'unknown-command',
    factory: 'commands:\n  - say Hello\n',
    bad: 'commands:\n  - hampper give\n',
    good: 'commands:\n  - hamper give\n',
    fixed: 'commands:\n  - hamper give\n',
    line: 2,
  },
  {
    code: 'slot-taken',
    factory: STALL,
    bad: STALL.replace('[0, 1]', '[1, 1]'),
    good: STALL.replace('[0, 1]', '[0, 8]'),
    fixed: STALL.replace('[0, 1]', '[1, 0]'),
    line: 6,
  },
  {
    code: 'slot-outside',
    factory: STALL,
    bad: STALL.replace('[0, 1]', '[0, 9]'),
    good: STALL.replace('rows: 1, goods: [clay', 'rows: 2, goods: [clay').replace('[0, 1]', '[0, 9]'),
    line: 6,
  },
  {
    code: 'more-than-slots',
    factory: STALL,
    bad: STALL.replace('[clay, reed]', '[clay, reed, eel]'),
    good: STALL.replace('[clay, reed]', '[clay]'),
    line: 6,
  },
  {
    code: 'no-such-file',
    factory: '# A text file beside this one.\nbook: book.txt\n',
    bad: 'book: rules.txt\n',
    good: 'book: ./book.txt\n',
  },
  { code: 'picture-size', factory: '# A 64x64 PNG beside this file.\nicon: icon.png\n', bad: 'icon: big.png\n', good: "icon: ''\n" },
  { code: 'unknown-node', factory: 'node: a.use\n', bad: 'node: a.uze\n', good: "node: ''\n", fixed: 'node: a.use\n' },
  { code: 'node-of-no-group', factory: 'node: a.use\n', bad: 'node: a.admin\n', good: 'node: a.use\n' },
  {
    code: 'staff-node-for-all',
    file: 'W/groups.yml',
    factory: GROUPS,
    bad: GROUPS.replace('[a.use]', '[a.use, a.admin]'),
    good: GROUPS.replace('nodes: []', 'nodes: [a.admin]'),
    line: 7,
  },
  {
    code: 'groups-in-a-circle',
    file: 'W/groups.yml',
    factory: GROUPS,
    bad: GROUPS.replace('inherits: []', 'inherits: [ferryman]'),
    good: GROUPS.replace('inherits: [mudlark]', 'inherits: []'),
    line: 6,
  },
  {
    code: 'unknown-code',
    factory: 'text: "[b]Hello[/b]"\n',
    bad: 'text: "[amper]Hello"\n',
    good: 'text: "[amber]Hello[/]"\n',
    fixed: 'text: "[amber]Hello"\n',
  },
  {
    code: 'unknown-code',
    factory: 'text: "Hello"\n',
    bad: 'text: "<amber>Hello"\n',
    good: 'text: "[b]Hello[/b]"\n',
    fixed: 'text: "[amber]Hello"\n',
  },
  {
    code: 'unclosed-code',
    factory: 'text: "[b]Hello[/b]"\n',
    bad: 'text: "[amber]Hello"\n',
    good: 'text: "[amber]Hello[/]"\n',
    fixed: 'text: "[amber]Hello[/]"\n',
  },
  {
    code: 'unknown-placeholder',
    factory: 'text: "Hello {player}"\n',
    bad: 'text: "Hello {palyer}"\n',
    good: 'text: "{player}!"\n',
    fixed: 'text: "Hello {player}"\n',
  },
  {
    code: 'unknown-placeholder',
    factory: 'text: "Hello {player}"\n',
    bad: 'text: "Hello %player%"\n',
    good: 'text: "100 % {player}"\n',
    fixed: 'text: "Hello {player}"\n',
  },
  {
    code: 'unclosed-placeholder',
    factory: 'text: "Hello {player}, hi"\n',
    bad: 'text: "Hello {player, hi"\n',
    good: 'text: "{player}"\n',
    fixed: 'text: "Hello {player}, hi"\n',
  },
  { code: 'lost-placeholder', factory: 'text: "Hello {player}"\n', bad: 'text: "Hello"\n', good: 'text: "{player} comes"\n' },
  { code: 'odd-amount', factory: '# In marks.\nprice: 50\n', bad: 'price: -50\n', good: 'price: 5000\n' },
  { code: 'odd-amount', factory: '# In marks.\nprice: 50\n', bad: 'price: 50000000\n', good: 'price: 0\n' },
  { code: 'odd-duration', factory: '# In seconds.\npause: 900\n', bad: 'pause: 18000\n', good: 'pause: 1800\n', fixed: 'pause: 900\n' },
  { code: 'odd-duration', factory: '# In ticks.\npause: 40\n', bad: 'pause: 2\n', good: 'pause: 20\n', fixed: 'pause: 40\n' },
  { code: 'wrong-form', factory: 'at: "17:30"\n', bad: 'at: "17:75"\n', good: 'at: "09:05"\n' },
  { code: 'wrong-form', factory: 'colour: "#C9C6BE"\n', bad: 'colour: "#C9C6B"\n', good: 'colour: "#c9c6be"\n' },
  { code: 'wrong-form', factory: 'host: 127.0.0.1\n', bad: 'host: 127.0.0.361\n', good: 'host: tide.example\n' },
  {
    code: 'wrong-form',
    factory: 'page: https://fair.example\n',
    bad: 'page: htps://fair.example\n',
    good: 'page: http://fair.example/x\n',
  },
  { code: 'wrong-form', factory: 'start: [1, 2, 3]\n', bad: 'start: [1, 2]\n', good: 'start: [4, 5, 6]\n' },
  {
    code: 'unsafe-number',
    factory: 'id: "77000000000000012"\n',
    bad: 'id: 77000000000000012\n',
    good: 'id: "77000000000000013"\n',
    fixed: 'id: "77000000000000012"\n',
  },
  {
    code: 'odd-id',
    factory: 'staff: ["77000000000000012"]\n',
    bad: 'staff: ["7700000000000012"]\n',
    good: 'staff: ["77000000000000013", "77000000000000014"]\n',
  },
  {
    code: 'unknown-setting',
    factory: 'first: 1\nspare: yes\nname: x\n',
    bad: 'first: 1\nspaer: yes\nname: x\n',
    good: 'first: 2\nspare: no\nname: y\n',
    fixed: 'first: 1\nspare: yes\nname: x\n',
    line: 2,
  },
  {
    code: 'missing-setting',
    factory: 'a: { first: 1, name: x, on: true }\n',
    bad: 'a: { first: 1, on: true }\n',
    good: 'a: { first: 3, name: y, on: false }\n',
  },
  {
    code: 'unknown-setting',
    rules: [{ path: '/stall', closed: true }, { path: '/stall/rows' }, { path: '/stall/price' }],
    bad: 'stall:\n  rows: 1\n  prise: 3\n',
    good: 'stall:\n  rows: 1\n  price: 3\n',
    fixed: 'stall:\n  rows: 1\n  price: 3\n',
    line: 3,
  },
  {
    code: 'is-missing',
    rules: [{ path: '/stalls/*/price', present: true }],
    bad: 'stalls:\n  one: { price: 3 }\n  two: { rows: 1 }\n',
    good: 'stalls:\n  one: { price: 3 }\n  two: { price: 1 }\n',
    line: 3,
  },
  {
    code: 'number-expected',
    rules: [{ path: '/slots', kind: 'list', items: 'number' }],
    bad: 'slots: [1, two]\n',
    good: 'slots: [1, 2]\n',
    line: 1,
  },
  {
    code: 'without-effect',
    factory: '# Only counts when fireworks is on.\nlasts: 20\nfireworks: false\nother: x\n',
    bad: 'lasts: 45\nfireworks: false\nother: x\n',
    good: 'lasts: 45\nfireworks: true\nother: x\n',
  },
  {
    code: 'needs-plugin',
    factory: '# In marks (needs Kilnhouse).\nbonus: 0\nname: x\n',
    bad: 'bonus: 5\nname: x\n',
    good: 'bonus: 0\nname: y\n',
  },
  {
    code: 'closed-place',
    factory: 'closed-in: [saltpans]\npits:\n  a: { at: "delta 1 2 3", digs: 1 }\n  b: { at: "upriver 1 2 3", digs: 2 }\n',
    bad: 'closed-in: [saltpans, upriver]\npits:\n  a: { at: "delta 1 2 3", digs: 1 }\n  b: { at: "upriver 1 2 3", digs: 2 }\n',
    good: 'closed-in: []\npits:\n  a: { at: "delta 1 2 3", digs: 1 }\n  b: { at: "upriver 1 2 3", digs: 2 }\n',
  },
  {
    code: 'too-many-items',
    factory: '# Three lines at most.\nlines: ["One.", "Two."]\n',
    bad: 'lines: ["One.", "Two.", "Three.", "Four."]\n',
    good: 'lines: ["One.", "Two.", "Three."]\n',
  },
  {
    code: 'too-long',
    factory: '# At most 8 letters.\ntitle: "[b]Delta[/b]"\n',
    bad: 'title: "[b]The delta[/b]"\n',
    good: 'title: "[amber]12345678[/]"\n',
  },
  { code: 'port-twice', factory: 'port: 41000\n', bad: 'port: 41001\n', good: 'port: 41002\n', beside: { 'Purse/a.yml': 'port: 41001\n' } },
  { code: 'port-twice', factory: 'port: 41000\n', bad: 'port: 40100\n', good: 'port: 40101\n' },
  {
    code: 'port-differs',
    factory: '# It must be the port of the game server.\nport: 40100\n',
    bad: 'port: 40101\n',
    good: 'port: 40100\n',
    fixed: 'port: 40100\n',
  },
  {
    code: 'unknown-entry',
    factory: 'kinds:\n  clay: { price: 1 }\n  reed: { price: 2 }\n  wood: { price: 3 }\ngoods:\n  a: { kind: clay }\n  b: { kind: reed }\n',
    bad: 'kinds:\n  clay: { price: 1 }\n  reed: { price: 2 }\n  wood: { price: 3 }\ngoods:\n  a: { kind: clay }\n  b: { kind: raed }\n',
    good: 'kinds:\n  clay: { price: 1 }\n  reed: { price: 2 }\n  wood: { price: 3 }\ngoods:\n  a: { kind: wood }\n  b: { kind: reed }\n',
    fixed: 'kinds:\n  clay: { price: 1 }\n  reed: { price: 2 }\n  wood: { price: 3 }\ngoods:\n  a: { kind: clay }\n  b: { kind: reed }\n',
    line: 7,
  },
  {
    code: 'money-from-nothing',
    factory: '# In marks.\ngoods:\n  clay: { buy: 8, sell: 3 }\n  reed: { buy: 5, sell: 2 }\n',
    bad: '# In marks.\ngoods:\n  clay: { buy: 8, sell: 9 }\n  reed: { buy: 5, sell: 2 }\n',
    good: '# In marks.\ngoods:\n  clay: { buy: 8, sell: 8 }\n  reed: { buy: 5, sell: 2 }\n',
    line: 3,
  },
  {
    code: 'money-from-nothing',
    factory: '# In marks.\ngoods:\n  clay: { buy: 8 }\n  reed: { buy: 5 }\n',
    bad: '# In marks.\ngoods:\n  clay: { buy: 2 }\n  reed: { buy: 5 }\n',
    good: '# In marks.\ngoods:\n  clay: { buy: 4 }\n  reed: { buy: 5 }\n',
    line: 3,
    beside: { 'Purse/a.yml': '# In marks.\ntrade:\n  clay: { sell: 4 }\n  reed: { sell: 2 }\n' },
  },
  {
    code: 'claim-too-cheap',
    factory:
      '# In marks.\nhampers:\n  a: { items: [clay 4, reed 2], price: 50, cooldown: 60 }\n  b: { items: [reed 2], price: 9, cooldown: 60 }\n',
    bad: '# In marks.\nhampers:\n  a: { items: [clay 4, reed 2], price: 5, cooldown: 0 }\n  b: { items: [reed 2], price: 9, cooldown: 60 }\n',
    good: '# In marks.\nhampers:\n  a: { items: [clay 4, reed 2], price: 5, cooldown: 60 }\n  b: { items: [reed 2], price: 9, cooldown: 60 }\n',
    line: 3,
    beside: { 'Purse/a.yml': '# In marks.\ntrade:\n  clay: { sell: 4 }\n  reed: { sell: 2 }\n' },
  },
  {
    code: 'no-money',
    factory: '# In marks.\ntolls:\n  ferry: { price: 4, seats: 2 }\n  gate: { price: 2, seats: 1 }\n',
    bad: '# In marks.\ntolls:\n  ferry: { price: 4, seats: 2 }\n  gate: { price: 3, seats: 1 }\n',
    good: '# In marks.\ntolls:\n  ferry: { price: 4, seats: 2 }\n  gate: { price: 2, seats: 3 }\n',
    line: 4,
    // the Purse that keeps money has no file here
  },
  {
    code: 'reward-over-price',
    factory: '# In marks.\ntasks:\n  a: { bring: [clay 4, reed 2], reward: 10 }\n  b: { bring: [reed 2], reward: 2 }\n',
    bad: '# In marks.\ntasks:\n  a: { bring: [clay 4, reed 2], reward: 90 }\n  b: { bring: [reed 2], reward: 2 }\n',
    good: '# In marks.\ntasks:\n  a: { bring: [clay 4, reed 2], reward: 30 }\n  b: { bring: [reed 2], reward: 2 }\n',
    line: 3,
    beside: { 'Purse/a.yml': '# In marks.\ntrade:\n  clay: { buy: 8 }\n  reed: { buy: 5 }\n' },
  },
]

describe('each kind of finding', () => {
  it.each(CASES)('$code: $bad', ({ code, factory, rules = [], bad, good, fixed, line, file = 'A/a.yml', beside = {}, knowledge }) => {
    // what stands above a setting in the factory copy stands there in the administrator's, too
    const whole = (text: string): string =>
      factory?.startsWith('#') && !text.startsWith('#') ? `${/^(?:#.*\n)+/.exec(factory)![0]}${text}` : text
    const groups: Record<string, string> = file === 'W/groups.yml' ? {} : { 'W/groups.yml': GROUPS }
    const factories = { [file]: factory ?? bad, 'W/groups.yml': GROUPS, ...beside }
    const world = { ...DELTA, ...knowledge }
    const look = (text: string): FileFinding[] =>
      found(
        { [file]: whole(text), ...groups, ...beside },
        { factories: { ...factories, ...(file === 'W/groups.yml' ? { [file]: factory! } : {}) }, rules, knowledge: world },
      )
    const all = look(bad)
    const hit = all.find((finding) => finding.code === code && finding.file === file)
    expect(all.map((finding) => finding.code)).toContain(code)
    const text = whole(bad)
    const wanted = (line ?? 1) + (text.split('\n').length - bad.split('\n').length)
    expect(lineOf(text, hit!.from)).toBe(wanted)
    expect(hit!.message).toMatch(/\.$|\?$/)
    expect(look(good).filter((finding) => finding.severity !== 'note')).toEqual([])
    expect(look(good).map((finding) => finding.code)).not.toContain(code)
    expect(hit!.fix ? applyEdits(text, hit!.fix.edits) : undefined).toEqual(fixed === undefined ? undefined : whole(fixed))
  })

  it('has words for what is wrong with the server as a whole', () => {
    const facts = [
      ['misplaced-package', 'misplaced-package'],
      ['file-of-nobody', 'file-of-nobody'],
      ['piece-missing', 'piece-missing'],
      ['plugins-off', 'plugins-off'],
      ['not-registered', 'not-registered'],
      ['registered-nobody', 'registered-nobody'],
      ['registered-early', 'registered-early'],
      ['not-utf8', 'not-utf8'],
      ['failed-to-load', 'plugin-failed'],
      ['requires-missing', 'needs-plugin'],
      ['requires-other', 'needs-plugin'],
      ['requires-off', 'needs-plugin'],
      ['conflict', 'conflicting-plugin'],
      ['bad-package', 'bad-package'],
      ['other-game', 'other-game'],
    ] as const
    const values = {
      plugin: 'Errands',
      needs: 'Purse',
      range: '>=2',
      version: '1',
      folder: 'extras',
      line: 'berth x',
      near: 'berth y',
      says: 'Plugins',
      what: 'a file',
      because: '',
      other: 'B',
      reason: 'No.',
    }
    const told = found(
      {},
      { knowledge: { ...DELTA, facts: facts.map(([what]) => ({ what, file: `${what}.cfg`, from: 0, to: 0, line: 7, values })) } },
    )
    expect(told.map(({ file, code, line }) => [file, code, line]).sort()).toEqual(
      facts.map(([what, code]) => [`${what}.cfg`, code, 7]).sort(),
    )
    for (const { message } of told) expect(message).not.toMatch(/undefined|\{/)
  })

  it('has a case for each code of each check but those of readers and rules', () => {
    const covered = new Set<string>(CASES.map(({ code }) => code))
    const elsewhere = new Set(['reads', 'keeps-rules', 'server-is-sound', 'languages-agree'])
    const missing = CHECKS.filter(({ id }) => !elsewhere.has(id)).flatMap(({ codes }) => codes.filter((code) => !covered.has(code)))
    expect(missing).toEqual([])
    for (const { codes } of CHECKS) for (const code of codes) expect(CAUSES[code].title).not.toBe('')
  })
})

describe('how sure a finding is', () => {
  const factory = '# From 1 to 9.\nsave: 5\nicon: clay\n'
  const bad = '# From 1 to 9.\nsave: 50\nicon: klay\n'
  it('what is only told from the factory copy warns, and what is declared is an error', () => {
    const look = (rules: readonly Rule[]): string[] =>
      found({ 'A/a.yml': bad }, { factories: { 'A/a.yml': factory }, rules }).map(({ severity, code }) => `${severity} ${code}`)
    expect(look([])).toEqual(['warning out-of-range', 'warning unknown-id'])
    expect(look([{ path: '/icon', means: 'id', registry: 'items' }])).toEqual(['warning out-of-range', 'error unknown-id'])
    expect(look([{ path: '/save', max: 20, source: 'yours' }])).toEqual(['error out-of-range', 'warning unknown-id'])
    // what somebody says overrules what the comment says
    expect(look([{ path: '/save', max: 60, source: 'yours' }])).toEqual(['warning unknown-id'])
  })

  it('nothing is found where nothing is known', () => {
    expect(found({ 'A/a.yml': bad, 'B/b.yml': 'port: 1\nnode: x.y\nitems: [a 1]\n' }, { knowledge: NO_KNOWLEDGE })).toEqual([])
  })
})
