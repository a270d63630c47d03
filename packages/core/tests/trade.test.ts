import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  CHECKS,
  NO_KNOWLEDGE,
  checkFile,
  checkWorkspace,
  factsOf,
  listFindings,
  workspaceFile,
  workspaceOf,
  type FileFinding,
  type Knowledge,
} from '../src/checks'
import { UNSAID } from '../src/formats/reading'
import { reread } from '../src/formats/reread'
import { inferRules } from '../src/rules/infer'
import { parse } from '../src/formats/registry'
import { applyEdits } from '../src/text/edits'
import { makeServer, seededRandom } from './well-formed'

const LISTS = { items: new Set(['clay', 'reed', 'eel', 'brick']), places: new Set(['delta']), groups: new Set(['mud', 'top']) }

describe('what a setting is in the trade', () => {
  it.each<[string, string, string | undefined]>([
    ['# In marks.\nprice: 5\n', '/price', 'price'],
    ['goods:\n  a: { buy: 5, sell: 2 }\n  b: { buy: 5, sell: 2 }\n', '/goods/*/buy', 'price'],
    ['goods:\n  a: { buy: 5, sell: 2 }\n  b: { buy: 5, sell: 2 }\n', '/goods/*/sell', 'payout'],
    ['# Marks to come in.\nentry-fee: 5\n', '/entry-fee', 'fee'],
    ['# As a share of their price, 0 to 1.\nbuys-for: 0.5\n', '/buys-for', 'resale'],
    ['# What a newcomer starts with, in marks.\nstart: 250\n', '/start', 'start-money'],
    ['# Minutes.\ncooldown: 60\n', '/cooldown', 'cooldown'],
    ['# In marks.\nreward: 60\n', '/reward', 'payout'],
    ['payouts:\n  dig: 2\n  cut: 1\n', '/payouts/dig', 'payout'],
    ['# What goods cost, in marks.\nclay:\n  clay: 2\n  brick: 5\n', '/clay/clay', 'price'],
    ['node: a.b.c\n', '/node', 'permission'],
    ['at: "17:30"\n', '/at', 'schedule'],
    ['password: x\n', '/password', 'secret'],
    ['config-version: 7\n', '/config-version', 'version-stamp'],
    ['# The bank pays this share of the balance.\ninterest: 0.02\n', '/interest', 'interest'],
    ['# in percent\ninterest: 3\n', '/interest', 'interest'],
    ['interest: 3\n', '/interest', undefined],
    ['# Taken of what players have, each night.\ntax: 0.01\n', '/tax', 'wealth-tax'],
    ['sales-tax: 0.05\n', '/sales-tax', 'tax'],
    ['tax: 12\n', '/tax', undefined],
    ['# The share of the price that goes to the chest.\ntax: 0.1\n', '/tax', 'tax'],
    ['start: 5\n', '/start', undefined],
    ['rows: 5\n', '/rows', undefined],
  ])('%j: %s is %s', (text, path, role) => {
    expect(inferRules(parse(text, 'yaml', UNSAID), LISTS).find((rule) => rule.path === path)?.role).toBe(role)
  })

  it('and which port of the server’s it has to be', () => {
    const rule = (comment: string) => inferRules(parse(`# ${comment}\nport: 40100\n`, 'yaml', UNSAID))[0]
    expect(rule('It must be the port of the game server.')).toMatchObject({ means: 'port', sameAs: 'game' })
    expect(rule('Has to be the same as the server’s own port.')?.sameAs).toBe('game')
    expect(rule("It must match the server's port.")).toMatchObject({ sameAs: 'game' })
    expect(rule('It must be free.')?.sameAs).toBeUndefined()
  })

  it('a rule of a group leaves out what an entry of the author does not keep', () => {
    const rules = inferRules(
      parse(
        'stalls:\n  a:\n    # One of: low, high\n    kind: low\n    # 1 to 5.\n    size: 3\n    list: [x]\n  b:\n    kind: odd\n    size: 9\n    list:\n',
        'yaml',
        UNSAID,
      ),
    )
    const rule = (path: string) => rules.find((one) => one.path === path)
    expect(rule('/stalls/*/kind')).toMatchObject({ kind: 'text' })
    expect(rule('/stalls/*/kind')?.choices).toBeUndefined()
    expect(rule('/stalls/*/size')).toMatchObject({ kind: 'number', min: 1 })
    expect(rule('/stalls/*/size')?.max).toBeUndefined()
    expect(rule('/stalls/*/list')?.mayBeEmpty).toBe(true)
  })

  it('a plugin may be needed by one of the choices only', () => {
    const [rule] = inferRules(
      parse('# How they prove who they are. gate needs Backwater Gate.\n# One of: game, gate, none\nauth: game\n', 'yaml', UNSAID),
    )
    expect(rule!.needs).toEqual([{ plugin: 'Backwater Gate', for: 'gate' }])
  })
})

describe('money', () => {
  const world = (files: Readonly<Record<string, string>>): FileFinding[] => {
    const read = Object.entries(files).map(([path, text]) =>
      workspaceFile({
        path,
        plugin: path.split('/')[0]!,
        text: `# In marks.\n${text}`,
        factory: `# In marks.\n${text}`,
        reading: UNSAID,
        known: LISTS,
      }),
    )
    return checkWorkspace(workspaceOf(read, null, [], { ...NO_KNOWLEDGE, lists: LISTS })).filter(({ check }) => check === 'money-holds')
  }
  const shop = (clay: number, reed: number): string => `goods:\n  clay: { buy: ${clay} }\n  reed: { buy: ${reed} }\n`
  const buyer = (clay: number, reed: number): string => `wanted:\n  clay: { sell: ${clay} }\n  reed: { sell: ${reed} }\n`

  it('from nothing is found exactly where one sells for less than another pays', () => {
    const price = fc.integer({ min: 1, max: 20 })
    fc.assert(
      fc.property(price, price, price, price, (clay, reed, paysClay, paysReed) => {
        const gains = [
          ['clay', paysClay - clay],
          ['reed', paysReed - reed],
        ] as const
        const loops = gains.filter(([, gain]) => gain > 0)
        const found = world({ 'A/a.yml': shop(clay, reed), 'B/b.yml': buyer(paysClay, paysReed) })
        // both are as they were shipped, so that all of it is one finding, told by its worst
        expect(found).toHaveLength(loops.length > 0 ? 1 : 0)
        const worst = Math.max(0, ...loops.map(([, gain]) => gain))
        if (worst > 0) expect(found[0]!.message).toContain(`${worst} from nothing`)
        if (loops.length === 2) expect(found[0]!.message).toContain('So does one other item')
      }),
    )
  })

  it('follows what a category says where an item says nothing, and leaves out values with words of their own', () => {
    const text = (own: string): string =>
      `#   buy   what players pay. -1 leaves it to the game\ncategories:\n  mud: { buy: 8, sell: 3 }\n  wet: { buy: 9, sell: 2 }\ngoods:\n  clay: { category: mud${own} }\n  eel: { category: wet, buy: 9 }\n`
    expect(world({ 'A/a.yml': text('') })).toEqual([])
    expect(world({ 'A/a.yml': text(', buy: 2') }).map(({ message }) => message)[0]).toMatch(/^clay costs 2 at A and brings 3 at A/)
  })

  it('that cannot be read is told as such, and nothing else is wrong by it', () => {
    const factory = `# In marks.\n${shop(8, 5)}`
    const read = (text: string) => [
      workspaceFile({ path: 'A/a.yml', plugin: 'A', text, factory, reading: UNSAID, known: LISTS }),
      workspaceFile({ path: 'B/b.yml', plugin: 'B', text: `# In marks.\n${buyer(6, 4)}`, factory: null, reading: UNSAID, known: LISTS }),
    ]
    const codes = (text: string) =>
      checkWorkspace(workspaceOf(read(text), null, [], { ...NO_KNOWLEDGE, lists: LISTS })).map(({ code }) => code)
    expect(codes(factory)).toEqual([])
    expect(codes(factory.replace('buy: 8', 'buy: eight'))).toEqual(['number-expected'])
    expect(codes(factory.replace('buy: 8', 'buy: 5'))).toEqual(['money-from-nothing'])
  })
})

describe('looking again', () => {
  const knowledge: Knowledge = { ...NO_KNOWLEDGE, lists: LISTS }
  it('at rest finds what a fresh look finds, whatever was typed', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.array(fc.tuple(fc.nat(), fc.constantFrom('', 'x', '9', '-1', '\n', '[b]', '{', ' "')), { minLength: 1, maxLength: 6 }),
        (seed, steps) => {
          const { files, lists } = makeServer(seededRandom(seed))
          const [[path, { mine, shipped }]] = Object.entries(files) as [[string, { mine: string; shipped: string }]]
          const known = { ...knowledge, lists }
          const first = workspaceFile({ path, plugin: 'A', text: mine, factory: shipped, reading: UNSAID, known: lists })!
          const around = (file: typeof first) => workspaceOf([file], null, [], known)
          let file = first
          let findings = checkFile(around(file), file)
          for (const [at, insert] of steps) {
            const from = at % (file.document.text.length + 1)
            const edits = [{ from, to: Math.min(file.document.text.length, from + (insert === '' ? 3 : 0)), insert }]
            const { document, changes } = reread(file.document, edits)
            file = { ...file, document }
            findings = checkFile(around(file), file, { findings, changes, isAtRest: true })
            const whole = workspaceFile({
              path,
              plugin: 'A',
              text: applyEdits(document.text, []),
              factory: shipped,
              reading: file.document.reading,
              known: lists,
            })!
            const plain = (list: readonly FileFinding[]) =>
              list.map(({ code, from: place, to, message }) => `${place}-${to} ${code} ${message}`).sort()
            expect(plain(listFindings(path, findings))).toEqual(plain(listFindings(path, checkFile(around(whole), whole))))
          }
        },
      ),
      { numRuns: 80 },
    )
  }, 120_000)

  it('keeps what it found, moved along, until there is time', () => {
    const text = 'first: 1\nicon: klay\nlast: 2\n'
    const make = (now: string) =>
      workspaceFile({
        path: 'A/a.yml',
        plugin: 'A',
        text: now,
        factory: '# Any item of the game.\nicon: clay\nfirst: 1\nlast: 2\n',
        reading: UNSAID,
        known: LISTS,
      })!
    const before = make(text)
    const around = (file: typeof before) => workspaceOf([file], null, [], knowledge)
    const findings = checkFile(around(before), before)
    const { document, changes } = reread(before.document, [{ from: 7, to: 8, insert: '12345' }])
    const file = { ...before, document }
    const quick = listFindings('A/a.yml', checkFile(around(file), file, { findings, changes }))
    expect(quick.map(({ code, from, fix }) => [code, from, fix?.edits[0]?.from])).toEqual([['unknown-id', 19, 19]])
    expect(CHECKS.filter((check) => check.scope === 'file' && check.again).map(({ id }) => id)).toEqual(['reads', 'keeps-rules'])
  })

  it('facts are plain data, the same however often they are asked for', () => {
    const file = workspaceFile({
      path: 'A/a.yml',
      plugin: 'A',
      text: 'enabled: no\nport: 5\nstalls:\n  a: { node: x.y, kind: one }\n  b: { node: x.z, kind: two }\n',
      factory: null,
      reading: UNSAID,
    })!
    const facts = factsOf(workspaceOf([file]), file)
    expect(structuredClone(facts)).toEqual(facts)
    expect(factsOf(workspaceOf([file]), file)).toBe(facts)
    expect(facts).toMatchObject({
      ports: [{ port: 5, pointer: '/port', isRemote: false, sameAs: null }],
      nodes: [{ text: 'x.y', isGiven: false }, { text: 'x.z' }],
      names: [{ pointer: '/stalls', names: ['a', 'b'] }],
      switches: [{ text: 'enabled', isOn: false }],
      entries: [{ pointer: '/stalls/a' }, { pointer: '/stalls/b' }],
    })
  })
})
