import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PARTS, labelledSets, score } from '../../../bench/labelled/score.mjs'
import { itemRegistry } from '../../standin/src/server/items'
import { formatOf, parse, readingFor } from '../src/formats/registry'
import { UNSAID } from '../src/formats/reading'
import { appliesOf } from '../src/rules/applies'
import { RuleBook } from '../src/rules/book'
import { choicesIn, codesIn } from '../src/rules/choices'
import { describedIn, saidAbout } from '../src/rules/comments'
import { inferRules } from '../src/rules/infer'
import { readDescription } from '../src/rules/description'
import { MEANINGS, mergeRules, type Rule } from '../src/rules/rule'
import { appliesIn, boundsIn, emptyMeansIn, itemsIn, lengthIn, needsIn, saidIn, timeUnitIn, timeUnitOfFile } from '../src/rules/said'
import { SECONDS, readSpelledTime, readableUnit, spellTime, tidy } from '../src/rules/units'
import { parsePointer } from '../src/tree/pointer'
import { toJson } from '../src/tree/values'
import type { Document } from '../src/tree/nodes'

const readRules = (data: unknown): readonly Rule[] => readDescription(JSON.stringify(data))

const read = (path: string): Document => parse(readFileSync(path, 'utf8'), formatOf(path)!, readingFor(path, null))
const rulesOf = (text: string, known = {}): RuleBook => new RuleBook(inferRules(parse(text, 'yaml', UNSAID), known))

describe('settings that were labelled by hand', () => {
  const known = {
    items: new Set(itemRegistry().map(({ id }) => id)),
    places: new Set(['delta', 'upriver', 'saltpans', 'undertow']),
    groups: new Set(['mudlark', 'ferryman', 'warden']),
  }
  const sets = labelledSets({ read, data: (document: Document) => toJson(document, document.root) })
  const books = new Map<string, RuleBook>()
  const ruleOf = (path: string, pointer: string): Rule | null => {
    if (!books.has(path)) books.set(path, new RuleBook(inferRules(read(path), known)))
    return books.get(path)!.find(parsePointer(pointer)!)
  }
  const { counts, settings } = score(
    sets.flatMap(({ files }) => files),
    ruleOf,
  )

  it('are at least 300', () => expect(settings).toBeGreaterThanOrEqual(300))
  it.each(PARTS)('%s: what is said is right, and most of it is said', (part) => {
    const { right, said, wanted } = counts[part]!
    expect(right / said).toBeGreaterThanOrEqual(0.95)
    expect(right / wanted).toBeGreaterThanOrEqual(0.85)
  })
})

describe('what an author’s words say', () => {
  it.each([
    ['0 to 1', { min: 0, max: 1 }],
    ['between 1 and 60', { min: 1, max: 60 }],
    ['Number of rows, 3 up to 6', { min: 3, max: 6 }],
    ['(0-100%)', { min: 0, max: 100 }],
    ['Min: 5, Max: 3600', { min: 5, max: 3600 }],
    ['At least 10.', { min: 10 }],
    ['20 or more', { min: 20 }],
    ['no more than 8', { max: 8 }],
    ['-5 .. 5', { min: -5, max: 5 }],
    ['64 by 64, a PNG', {}],
    ['From 22:00 to 06:00', {}],
    ['since version 1.20.4 to 1.21.0', {}],
    ['Under 60 is hard on the disk.', {}],
    ['At most 32 letters', {}],
    ['Shown to {player} to say hello', {}],
  ])('bounds in “%s”', (comment, bounds) => expect(boundsIn(comment)).toEqual(bounds))

  it.each([
    ['Seconds until the next one.', 'second'],
    ['in ticks (20 ticks are one second)', 'tick'],
    ['How often claims are written, in seconds. At least 10.', 'second'],
    ['Save all data every X minutes.', 'minute'],
    ['a day lasts so many minutes', 'minute'],
    ['Timeout in ms', 'millisecond'],
    ['Interval (seconds)', 'second'],
    ['From so many in ten seconds only one line is said.', null],
    ['How much is taken in one tick. 20 ticks are one second.', null],
    ['Ticks a second, 1 to 20.', null],
    ['min: 5', null],
    ['{seconds} is filled in', null],
    ['in second place', null],
    ['how many can be sold in a day', null],
  ])('the unit in “%s”', (comment, unit) => expect(timeUnitIn(comment)).toBe(unit))

  it.each([
    ['One of: name, rank, balance', 'rank', ['name', 'rank', 'balance']],
    ['LEFT, RIGHT or BOTH', 'LEFT', ['LEFT', 'RIGHT', 'BOTH']],
    ['Audience: all | crew | captain', 'crew', ['all', 'crew', 'captain']],
    ["'auto', 'harbour' or 'quay'", 'auto', ['auto', 'harbour', 'quay']],
    ['(low/fair/high)', 'fair', ['low', 'fair', 'high']],
    ['- hold: kept for later\n- ground: set down', 'hold', ['hold', 'ground']],
    ['Types: FILE, TABLE (faster)', 'FILE', ['FILE', 'TABLE']],
    ['The eel, the crayfish and the roe.', 'eel', []],
    ['One of: a, b', 'c', []],
    ['', 'x', []],
  ])('choices in “%s”', (comment, value, choices) => expect(choicesIn(comment, value)).toEqual(choices))

  it('codes, values with words of their own, empty texts, lengths and needs', () => {
    expect(codesIn('0 = nobody, 1 = the captain, 2 = everybody', '1').map(({ says }) => says)).toEqual([
      'nobody',
      'the captain',
      'everybody',
    ])
    expect(saidIn('Strays in one place. 0 is no limit.')).toEqual([{ value: '0', says: 'no limit' }])
    expect(saidIn('A share, 0 to 1.')).toEqual([])
    expect(emptyMeansIn('Shown above. Empty says nothing.')).toBe('says nothing')
    expect(emptyMeansIn('the permission node, empty for everybody')).toBe('for everybody')
    expect(emptyMeansIn('An empty heading switches this page off.')).toBe('switches this page off')
    expect([lengthIn('At most 32 letters.'), lengthIn('ten letters a line at most'), lengthIn('At most 32.')]).toEqual([32, 10, undefined])
    expect(itemsIn('Twelve at most; an empty one leaves a gap.')).toBe(12)
    expect(needsIn('in marks (needs Purse)').plugins.map(({ plugin }) => plugin)).toEqual(['Purse'])
    expect(needsIn('gate needs Backwater Gate').plugins).toEqual([{ plugin: 'Backwater Gate', before: 'gate' }])
    expect(needsIn('only used when use_key is true').settings).toEqual([{ name: 'use_key', is: true }])
    expect(timeUnitOfFile('Regatta. Durations are seconds.')).toBe('second')
    expect([...describedIn(' rows    rows of nine, 1 to 6\n name: what players see\n         in chat\n').entries()]).toEqual([
      ['rows', 'rows of nine, 1 to 6'],
      ['name', 'what players see\nin chat'],
    ])
  })
})

describe('what makes a change count, as an author says', () => {
  it.each([
    ['Needs a restart.', 'restart'],
    ['Changing it requires a server restart', 'restart'],
    ['Takes effect only after the next restart.', 'restart'],
    ['After a change: restart the server', 'restart'],
    ['Which port. Restart the server so that it counts.', 'restart'],
    ['Restart required', 'restart'],
    ['Takes effect at the next start.', 'restart'],
    ['What is said at the next start of a round.', undefined],
    ['Applied on reload.', 'reload'],
    ['Counts after a reload, no restart is needed.', 'reload'],
    ['A reload is enough.', 'reload'],
    ['Stop the server first.', 'stopped'],
    ['Change this only while the server is stopped.', 'stopped'],
    ['How long players are safe after a restart, in seconds.', undefined],
    ['Minutes before a restart that players are told.', undefined],
    ['Trades made while the server is down are paid later.', undefined],
    ['Works without a restart.', undefined],
    ['Where players start.', undefined],
    ['The server that it is told to.', undefined],
  ])('“%s”', (comment, applies) => expect(appliesIn(comment)).toBe(applies))

  const file =
    '# Purses. After a change: reload Purse\n\n# Needs a restart.\nport: 1\n# In marks.\nfee: 2\nstalls:\n  # Stop the server first.\n  world: a\n'
  const rules = inferRules(parse(file, 'yaml', UNSAID))
  it.each([
    [[], null],
    [['/fee'], { applies: 'reload', pointer: '' }],
    [['/fee', '/port'], { applies: 'restart', pointer: '/port' }],
    [['/port', '/stalls/world', '/fee'], { applies: 'stopped', pointer: '/stalls/world' }],
  ])('changes of %j ask for %j', (paths, asked) => {
    expect(
      appliesOf(
        paths.map((path) => ({ path, kind: 'changed', mine: 1 }) as const),
        rules,
      ),
    ).toEqual(asked)
  })

  it('also for what is within a section that was added, and for one that holds what was changed', () => {
    expect(appliesOf([{ path: '/stalls', kind: 'added', mine: { world: 'a' } }], rules)).toMatchObject({ applies: 'stopped' })
    const above = appliesOf([{ path: '/a/b/c', kind: 'changed', mine: 1 }], [{ path: '/a', applies: 'restart' }])
    expect(above).toEqual({ applies: 'restart', pointer: '/a' })
    const any: Rule[] = [{ path: '/a/*/c', applies: 'restart' }]
    expect(appliesOf([{ path: '/a/b/c', kind: 'changed', mine: 1 }], any)).toMatchObject({ applies: 'restart' })
    expect(appliesOf([{ path: '/a/b/c', kind: 'comment' }], any)).toBeNull()
  })
})

describe('what an author says about one setting', () => {
  const text = `# All of it.
stalls:
  # The goods.
  #   buy    what players pay, in marks
  #   stock  how many there are in a day
  quay:
    rope: { buy: 3, stock: 4 }
    # Dear.
    oil: { buy: 9, stock: 1, node: x }
`
  const document = parse(text, 'yaml', UNSAID)
  it.each([
    ['/stalls/quay/rope/buy', 'what players pay, in marks'],
    ['/stalls/quay/oil/stock', 'how many there are in a day'],
    ['/stalls/quay/oil', 'Dear.'],
    ['/stalls/quay/oil/node', ''],
    ['/stalls/quay/rope', ''],
    ['/nowhere/buy', ''],
  ])('%s: %j', (pointer, expected) => expect(saidAbout(document, parsePointer(pointer)!)).toBe(expected))
})

describe('rules of a file', () => {
  it('bounds that the value itself breaks are none, but for values with words of their own', () => {
    const book = rulesOf('a:\n  # 1 to 10\n  count: 50\n  # 1 to 10, -1 is no limit\n  most: -1\n')
    expect(book.find(['a', 'count'])).not.toHaveProperty('min')
    expect(book.find(['a', 'most'])).toMatchObject({ min: 1, max: 10, said: [{ value: '-1', says: 'no limit' }] })
  })

  it('what hangs on a switch, on another setting, on a plugin', () => {
    const book = rulesOf('shop:\n  enabled: false\n  # only used when log is on\n  file: shop.log\n  log: true\n  price: 5 # needs Purse\n')
    expect(book.find(['shop', 'price'])?.needs).toEqual([{ plugin: 'Purse' }, { setting: '/shop/enabled', is: true }])
    expect(book.find(['shop', 'file'])?.needs).toContainEqual({ setting: '/shop/log', is: true })
    expect(book.find(['shop', 'enabled'])).not.toHaveProperty('needs')
  })

  it('entries of a group share theirs, also in lists and at several depths', () => {
    const book = rulesOf('stalls:\n  - { icon: eel, port: 4000 }\n  - { icon: reed, port: 4001 }\n', { items: new Set(['eel', 'reed']) })
    expect(book.find(['stalls', '7', 'icon'])).toMatchObject({ means: 'id', registry: 'items' })
    expect(book.find(['stalls', '0', 'port'])).toMatchObject({ means: 'port', max: 65535 })
  })

  it('ids are told by the server’s own lists, and one word is none by chance', () => {
    const known = { items: new Set(['eel', 'map']), places: new Set(['delta']) }
    const book = rulesOf('goods: [eel, map]\nview: map\nicon: map\nwhere: delta\n', known)
    expect(book.find(['goods'])).toMatchObject({ means: 'id', registry: 'items' })
    expect(book.find(['icon'])).toMatchObject({ means: 'id' })
    expect(book.find(['view'])).not.toHaveProperty('means')
  })

  it('of several sources the most trusted counts, and others only where they go with it', () => {
    const path = '/a'
    expect(mergeRules([])).toBeNull()
    expect(
      mergeRules([
        { path, source: 'seen', means: 'number', min: 0 },
        { path, source: 'yours', means: 'duration', unit: 'tick' },
      ]),
    ).toEqual({ path, source: 'yours', means: 'duration', unit: 'tick' })
    expect(
      mergeRules([
        { path, source: 'comment', means: 'duration', unit: 'tick', min: 5 },
        { path, source: 'declared', means: 'duration', max: 10 },
      ]),
    ).toEqual({ path, source: 'declared', means: 'duration', unit: 'tick', min: 5, max: 10 })
  })

  it.each([
    [[{ path: 'x' }], /JSON Pointer/],
    [[{ path: '/x', means: 'sausage' }], /“means” must be one of/],
    [[{ path: '/x', min: 'few' }], /“min” must be a number/],
    [[{ path: '/x', choices: [1] }], /list of texts/],
    [[{ path: '/x', leave: 'yes' }], /true or false/],
    [{ rule: [] }, /list of rules/],
  ])('data that is no rule is refused: %j', (data, message) => expect(() => readRules(data)).toThrow(message))

  it('reads every meaning', () => expect(readRules(MEANINGS.map((means) => ({ path: '/x', means })))).toHaveLength(MEANINGS.length))
})

describe('stretches of time', () => {
  const units = fc.constantFrom(...Object.keys(SECONDS))

  it('spelled as they were, they say what they are', () => {
    const parts = fc.uniqueArray(fc.constantFrom('d', 'h', 'm', 's'), { minLength: 1 })
    fc.assert(
      fc.property(
        parts,
        fc.integer({ min: 1, max: 90 }),
        fc.constantFrom('', ' '),
        fc.integer({ min: 0, max: 400_000 }),
        (used, amount, gap, seconds) => {
          const like = readSpelledTime(used.map((unit) => `${amount}${gap}${unit}`).join(' '))!
          const counted = used.reduce((sum, unit) => sum + amount * { d: 86400, h: 3600, m: 60, s: 1 }[unit]!, 0)
          expect(like.seconds).toBe(counted)
          expect(readSpelledTime(spellTime(seconds, like))!.seconds).toBe(seconds)
        },
      ),
    )
  })

  it('are read in a unit that tells them shortly', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), units, (amount, unit) => {
        const seconds = tidy(amount * SECONDS[unit]!)
        const shown = tidy(seconds / SECONDS[readableUnit(seconds)]!)
        expect(tidy(shown * SECONDS[readableUnit(seconds)]!)).toBe(seconds)
      }),
    )
  })

  it.each([
    ['3d', 259200],
    ['1h30m', 5400],
    ['90 seconds', 90],
    ['500ms', 0.5],
    ['40t', 2],
  ])('%s is so many seconds', (text, seconds) => expect(readSpelledTime(text)?.seconds).toBe(seconds))

  it.each(['eel 3', '3', '', '3 eels', '1h x', 'PT5M'])('“%s” is none', (text) => expect(readSpelledTime(text)).toBeNull())

  it.each([
    [7200, '3d', '2h'],
    [172800, '3d', '2d'],
    [5400, '10 minutes', '90 minutes'],
    [45, '10 minutes', '45 seconds'],
    [0, '3d', '0d'],
  ])('%s seconds, written like %s, are %s', (seconds, like, text) => expect(spellTime(seconds, readSpelledTime(like)!)).toBe(text))
})
