import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { drawTables, economyFacts, economyOf } from '../src/economy'
import { UNSAID } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import { locate, parsePointer } from '../src/tree/pointer'
import { ITEMS, LISTS, WRITE, factsFor, gathered, type Data } from './economy-written'

/* The same economy said with sections, and by names with points: what is gathered of the one has to be what is gathered of the other. */

const leaves = (data: Data, keys: readonly string[] = []): (readonly [keys: readonly string[], value: string])[] =>
  data !== null && typeof data === 'object'
    ? Object.entries(data).flatMap(([key, value]) => leaves(value as Data, [...keys, key]))
    : [[keys, String(data)]]
const WRITES: Readonly<Record<string, (data: Data) => string>> = {
  properties: (data) =>
    leaves(data)
      .map(([keys, value]) => `${keys.join('.')} = ${value}\n`)
      .join(''),
  // the first name is the section, the others stand in the names
  ini: (data) =>
    Object.entries(data as Record<string, Data>)
      .map(
        ([section, own]) =>
          `[${section}]\n${leaves(own)
            .map(([keys, value]) => `${keys.join('.')}=${value}\n`)
            .join('')}`,
      )
      .join(''),
}
const amount = fc.integer({ min: 2, max: 900 })
const economy: fc.Arbitrary<Data> = fc
  .tuple(fc.uniqueArray(fc.constantFrom(...ITEMS), { minLength: 2, maxLength: 6 }), amount, amount, amount)
  .chain(([items, a, b, c]) =>
    fc.constantFrom<Data>(
      { shop: Object.fromEntries(items.map((item, i) => [item, { buy: a + i, sell: b + i }])) },
      { prices: Object.fromEntries(items.map((item, i) => [item, a + i])), start: { money: c } },
      { payouts: { fish: { min: a, max: a + b }, wood: { min: c, max: c + a } }, tolls: { bridge: a, lock: b } },
      { jobs: { miner: { pay: a, cooldown: '2h' }, potter: { pay: b, cooldown: '30m' } }, bank: { interest: { rate: '2.5%', max: c } } },
      { loot: { chances: Object.fromEntries(items.map((item, i) => [item, (a % 50) + i + 1])) } },
    ),
  )

/** What is gathered, without where it stands. */
const sense = (facts: ReturnType<typeof gathered>): unknown => ({
  offers: facts.offers.map(({ item, way, amount: is, count, cooldown }) => ({ item, way, is, count, cooldown })),
  streams: facts.streams.map(({ keys, name, way, amount: is, bound, cooldown, most, shareOf, isOnce }) => {
    return { keys, name, way, is, bound, cooldown, most, shareOf, isOnce }
  }),
  draws: facts.draws.map(({ entries, isByWeight }) => ({ isByWeight, entries: entries.map(({ name, weight }) => [name, weight]) })),
})

describe('names with points', () => {
  for (const [format, write] of Object.entries(WRITES))
    it(`say in ${format} what sections say`, () => {
      fc.assert(
        fc.property(economy, (data) => {
          const text = write(data)
          const facts = gathered(`A/a.${format}`, text)
          expect(sense(facts), text).toEqual(sense(gathered('A/a.yml', WRITE.yml(data))))
          // and every place that is told is one of the file, with the number there
          const document = parse(text, format as 'ini', UNSAID)
          const places = [
            ...facts.offers.map(({ pointer, from }) => ({ pointer, from })),
            ...facts.streams.map(({ pointer, from }) => ({ pointer, from })),
            ...facts.draws.flatMap(({ entries }) => entries.map(({ pointer, from }) => ({ pointer, from }))),
          ]
          expect(places.length).toBeGreaterThan(0)
          for (const { pointer, from } of places) expect(locate(document, parsePointer(pointer)!)?.entry.value.from, pointer).toBe(from)
        }),
        { numRuns: 120 },
      )
    })

  it('keep two bounds of one deed together, and those of others apart', () => {
    const { streams } = economyOf(gathered('A/a.properties', 'pay.a.min=1\npay.a.max=3\npay.b.min=10\npay.b.max=30\n'))
    expect(streams.map(({ name, bound }) => `${name} ${bound}`)).toEqual(['a least', 'a most', 'b least', 'b most'])
    expect(new Set(streams.map(({ activity }) => activity)).size).toBe(2)
  })

  it('belong together with what is in the same section, and in formats that have sections with nothing else', () => {
    const data = { payouts: { 'v1.5 haul': 3, 'v1.5 net': 5 }, pay: { 'day.1': { min: 2, max: 4 }, 'day.2': { min: 3, max: 6 } } }
    const groupsOf = (path: string, text: string): string[] =>
      economyOf(gathered(path, text)).streams.map(({ group, activity }) => `${group} ${activity.replace(/^.*#/, '')}`)
    expect(groupsOf('A/a.yml', WRITE.yml(data))).toEqual([
      'A payout payouts /payouts/v1.5 haul',
      'A payout payouts /payouts/v1.5 net',
      ...['/pay/day.1', '/pay/day.1', '/pay/day.2', '/pay/day.2'].map((at) => `A payout pay ${at}`),
    ])
    const tolls = WRITE.yml({ tolls: { 'north.gate': 5, lock: 3 } })
    expect(groupsOf('A/a.yml', tolls)).toEqual(['A price tolls /tolls/north.gate', 'A price tolls /tolls/lock'])
    const inNames = ['A payout payouts /payouts.dawn', 'A payout payouts /payouts.dusk']
    expect(groupsOf('A/a.properties', 'payouts.dawn=3\npayouts.dusk=4\n')).toEqual(inNames)
  })

  it('draw from tables in tables, as sections do', () => {
    const data = { loot: { chances: { rare: 1, clay: 3 } }, rare: { chances: { tin_bell: 1, net: 4 } } }
    const outcomes = (path: string, text: string): unknown =>
      drawTables(gathered(path, text)).map(({ name, outcomes: all }) => [name, all.map((one) => [one.name, one.chance])])
    const of = outcomes('A/a.yml', WRITE.yml(data))
    expect(of).toEqual([
      [
        'loot chances',
        [
          ['tin_bell', 0.05],
          ['net', 0.2],
          ['clay', 0.75],
        ],
      ],
      [
        'rare chances',
        [
          ['tin_bell', 0.2],
          ['net', 0.8],
        ],
      ],
    ])
    for (const [format, write] of Object.entries(WRITES)) expect(outcomes(`A/a.${format}`, write(data)), format).toEqual(of)
  })

  it.each([
    ['a setting that has others below its name', 'price=5\nprice.clay=10\nprice.eel=4\n'],
    ['points at the ends, and one behind the other', '.price=1\nprice.=2\nprice..clay=3\n'],
    ['versions', 'config.1.2=5\nfile-version=1.2.3\n'],
    ['nothing', ''],
  ])('are read with %s', (_what, text) => {
    expect(() => gathered('A/a.properties', text)).not.toThrow()
  })

  it('are no sections in formats that have them', () => {
    expect(gathered('A/a.yml', 'shop.clay.buy: 5\nshop.eel.buy: 6\n').offers).toEqual([])
  })
})

describe('what moves money', () => {
  it.each<[text: Data, sections: readonly string[]]>([
    [{ payouts: { dig: 4 } }, ['payouts']],
    [{ economy: { tolls: { lock: 3, weir: 4 } } }, ['tolls', 'tolls']],
    [{ settings: { hampers: { reed: { price: 4 } } } }, ['hampers']],
    [{ reed: { price: 4 }, clay: { price: 5 } }, ['', '']],
    [{ jobs: [{ name: 'miner', payout: 4 }] }, ['jobs']],
    [[{ name: 'miner', payout: 4 }], ['']],
    [{ pits: { kiln: { 'entry-fee': 4 }, bog: { 'entry-fee': 2 } } }, ['pits', 'pits']],
    [{ 'join-payout': 4 }, ['']],
  ])('in %j is shown by its sections: %j', (data, sections) => {
    const { streams } = economyOf(gathered('A/a.yml', WRITE.yml(data)))
    expect(streams.map(({ section }) => section)).toEqual(sections)
  })
})

describe('what may be money', () => {
  it.each([
    ['A/a.yml', 'rewards:\n  first-catch: 40\n  tenth-catch: 15\n', 'rewards', '/rewards/*'],
    ['A/a.properties', 'rewards.first-catch=40\nrewards.tenth-catch=15\n', 'rewards', '/rewards.*'],
    ['A/a.ini', '[quests]\nrewards.first-catch=40\nrewards.tenth-catch=15\n', 'rewards', '/quests/rewards.*'],
    ['A/a.yml', 'quests:\n  dig: { value: 4 }\n  sow: { value: 6 }\n', 'value', '/quests/*/value'],
    ['A/a.properties', 'quests.dig.value=4\nquests.sow.value=6\n', 'value', '/quests.*.value'],
  ])('of %s is said once for all: %s', (path, text, name, pattern) => {
    expect(factsFor(path, text).maybe).toMatchObject([{ name, count: 2, path: pattern }])
    const facts = factsFor(path, text, text, LISTS, [{ path: pattern, role: 'payout', source: 'yours' }])
    expect(facts.maybe).toEqual([])
    expect(economyFacts([facts]).streams).toHaveLength(2)
  })

  it.each([
    ['counts of items', 'rewards:\n  clay: 4\n  eel: 2\n'],
    ['sections with texts', 'rewards:\n  title: x\n  first: 4\n'],
    ['what is money already', 'payouts:\n  first: 4\n  second: 5\n'],
  ])('is none of %s', (_what, text) => expect(factsFor('A/a.yml', text).maybe).toEqual([]))
})
