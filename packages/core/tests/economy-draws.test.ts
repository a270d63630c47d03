import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  NOTHING_ASSUMED,
  NOTHING_SEEN,
  drawTables,
  economyOf,
  fitKinds,
  flowOf,
  mendsOf,
  timesAnHour,
  withAmount,
  worthOfDraw,
  type DrawTable,
  type Kind,
} from '../src/economy'
import { ITEMS, WRITE, ending, gathered, type Data } from './economy-written'

/* Tables that are drawn from, and what is asked for and given, as different authors write them; what they hold is known before. */

interface Prize {
  readonly item: string
  readonly weight: number
  readonly count: number
}
const prizes: fc.Arbitrary<readonly Prize[]> = fc
  .uniqueArray(fc.constantFrom(...ITEMS), { minLength: 2, maxLength: 6 })
  .chain((items) =>
    fc.tuple(
      ...items.map((item) =>
        fc.record({ item: fc.constant(item), weight: fc.integer({ min: 1, max: 90 }), count: fc.integer({ min: 1, max: 64 }) }),
      ),
    ),
  )

/** Tables with their counts in them. */
const COUNTED: Readonly<Record<string, (list: readonly Prize[]) => Data>> = {
  'a list of sections': (list) => ({ loot: list.map(({ item, weight, count }) => ({ item, weight, amount: count })) }),
  'entries of a group': (list) => ({
    prizes: Object.fromEntries(list.map(({ item, weight, count }, i) => [`prize-${i}`, { material: item, count, weight, icon: 'reed' }])),
  }),
  'from how many to how many': (list) => ({
    digs: list.map(({ item, weight, count }) => ({ item, weight, min: count - 1, max: count + 1 })),
  }),
  'how many, for those of some levels': (list) => ({
    digs: list.map(({ item, weight, count }) => ({ item, weight, 'min-level': 3, 'max-level': 40, count })),
  }),
  'by names of bounds': (list) => ({
    digs: list.map(({ item, weight, count }) => ({ item, weight, minAmount: count - 1, maxAmount: count + 1, 'max-level': 40 })),
  }),
  'from how many to how many, in a text': (list) => ({
    digs: list.map(({ item, weight, count }) => ({ item, weight, amount: `${count - 1}-${count + 1}` })),
  }),
  'things in sections of their own': (list) => ({
    chest: { rewards: list.map(({ item, weight, count }) => ({ item: { id: item, amount: count }, weight })) },
  }),
}
/** Tables of one of each. */
const BARE: Readonly<Record<string, (list: readonly Prize[]) => Data>> = {
  'numbers by their names': (list) => ({ drops: Object.fromEntries(list.map(({ item, weight }) => [item, weight])) }),
  'sections by their names': (list) => ({ odds: Object.fromEntries(list.map(({ item, weight }) => [item, { weight, rare: false }])) }),
}
const only = (tables: readonly DrawTable[], text: string): DrawTable => {
  expect(tables.length, text).toBe(1)
  return tables[0]!
}
const near = (a: number, b: number): boolean => Math.abs(a - b) < 1e-9

describe('tables as different authors write them', () => {
  for (const [name, write] of Object.entries({ ...COUNTED, ...BARE }))
    it(`${name}: true shares, and what a draw is worth`, () => {
      fc.assert(
        fc.property(prizes, ending, (list, format) => {
          const text = WRITE[format](write(list))
          const { outcomes } = only(drawTables(gathered(`Pit/a.${format}`, text)), text)
          const sum = list.reduce((all, { weight }) => all + weight, 0)
          const counts = name in COUNTED
          for (const { item, weight, count } of list) {
            const found = outcomes.find((one) => one.name === item)!
            expect(
              [near(found.chance, weight / sum), near(found.count, ((counts ? count : 1) * weight) / sum)],
              `${item}\n${text}`,
            ).toEqual([true, true])
          }
          const worth = list.reduce((all, { weight, count }) => all + (7 * (counts ? count : 1) * weight) / sum, 0)
          expect(worthOfDraw(outcomes, () => 7)).toBeCloseTo(worth, 6)
        }),
        { numRuns: 40 },
      )
    })

  it('chances of one, of a hundred, and in texts of percent', () => {
    const ways: readonly ((chance: number) => Data)[] = [(chance) => chance / 100, (chance) => chance, (chance) => `${chance}%`]
    fc.assert(
      fc.property(prizes, ending, fc.constantFrom(...ways), (list, format, say) => {
        const text = WRITE[format]({ fishing: Object.fromEntries(list.map(({ item, weight }) => [item, { chance: say(weight + 1) }])) })
        const { entries, isByWeight } = only(drawTables(gathered(`Fish/a.${format}`, text)), text)
        expect(isByWeight).toBe(false)
        expect(entries.map(({ name, chance }) => [name, Math.round(chance * 100)])).toEqual(
          list.map(({ item, weight }) => [item, weight + 1]),
        )
        for (const { around, weight } of entries.filter((entry) => entry.around))
          expect(`${around!.before}${weight}${around!.after}`).toBe(`${Math.round(weight)}%`)
      }),
      { numRuns: 60 },
    )
  })
  it('a section of percents by the names of what comes', () => {
    const { entries } = only(drawTables(gathered('Pit/a.yml', 'drops:\n  clay: 50%\n  eel: 30%\n  reed: 20 %\n')), '')
    expect(entries.map(({ name, chance, weight, around }) => [name, chance, weight, around?.after])).toEqual([
      ['clay', 0.5, 50, '%'],
      ['eel', 0.3, 30, '%'],
      ['reed', 0.2, 20, ' %'],
    ])
  })
  it('money among what comes is worth itself, whatever it is called', () => {
    const text =
      'chests:\n  tin:\n    key-cost: 50\n    prizes:\n      - { item: clay, amount: 10, weight: 3 }\n      - { money: 400, weight: 1 }\n'
    const table = only(drawTables(gathered('Chests/a.yml', text)), text)
    expect(table.entries.map(({ name, count, money }) => [name, count, money])).toEqual([
      ['clay', 10, null],
      ['money', 1, 400],
    ])
    // three times in four ten of clay at 2, once 400
    expect(worthOfDraw(table.outcomes, (item) => (item === 'clay' ? 2 : null))).toBe(0.75 * 10 * 2 + 0.25 * 400)
  })
  it('the same thing in several numbers, and in a table within, is added up', () => {
    const text =
      'pits:\n  rich:\n    - { item: clay, weight: 1, amount: 8 }\n    - { item: clay, weight: 1, amount: 2 }\n    - { table: poor, weight: 2 }\n  poor:\n    - { item: clay, weight: 3 }\n    - { item: eel, weight: 1 }\n'
    const rich = drawTables(gathered('Pits/a.yml', text)).find(({ pointer }) => pointer === '/pits/rich')!
    const outcomes = Object.fromEntries(rich.outcomes.map(({ name, chance, count }) => [name, [chance, count]]))
    expect(outcomes).toEqual({ clay: [0.25 + 0.25 + 0.375, 0.25 * 8 + 0.25 * 2 + 0.375], eel: [0.125, 0.125] })
  })
  it('what is switched off is not drawn', () => {
    const text = 'pits:\n  a:\n    enabled: false\n    loot: { clay: 3, eel: 1 }\n  b:\n    enabled: true\n    loot: { clay: 1, eel: 1 }\n'
    expect(drawTables(gathered('Pits/a.yml', text)).map(({ pointer }) => pointer)).toEqual(['/pits/b/loot'])
  })
})

describe('what is asked for and given, as different authors write it', () => {
  const contents = prizes.filter((list) => list.length > 1)
  const told = (text: string, format = 'yml'): string[] =>
    gathered(`Tasks/a.${format}`, text).deals.map(
      ({ name, items, money, isBought }) =>
        `${name} ${isBought ? (money ? `for ${money.amount} gives` : 'gives') : `pays ${money?.amount} for`} ${items.map(({ item, count }) => `${count} ${item}`).join(' + ')}`,
    )
  const LISTS: readonly ((list: readonly Prize[]) => Data)[] = [
    (list) => list.map(({ item, count }) => `${item} ${count + 1}`),
    (list) => list.map(({ item, count }) => ({ item, amount: count + 1 })),
    (list) => Object.fromEntries(list.map(({ item, count }) => [item, count + 1])),
  ]
  const inWords = (list: readonly Prize[]): string => list.map(({ item, count }) => `${count + 1} ${item}`).join(' + ')

  it('tasks that ask for things and pay', () => {
    const asks = fc.constantFrom('need', 'requires', 'bring', 'deliver', 'required-items', 'turn-in')
    const pays = fc.constantFrom<(money: number) => Readonly<Record<string, Data>>>(
      (money) => ({ reward: { money, experience: 5 } }),
      (money) => ({ 'reward-money': money }),
      (coins) => ({ rewards: { coins } }),
      (payout) => ({ payout }),
    )
    fc.assert(
      fc.property(
        contents,
        asks,
        pays,
        fc.integer({ min: 2, max: 900 }),
        fc.constantFrom(...LISTS),
        ending,
        (list, ask, pay, money, write, format) => {
          const task = () => ({ title: 'A task', [ask]: write(list), ...pay(money) })
          const text = WRITE[format]({ tasks: { lamps: task(), nets: task() } })
          expect(told(text, format), text).toEqual(['lamps', 'nets'].map((name) => `${name} pays ${money} for ${inWords(list)}`))
        },
      ),
      { numRuns: 80 },
    )
  })
  it('bundles for a price', () => {
    fc.assert(
      fc.property(
        contents,
        fc.constantFrom('price', 'cost'),
        fc.integer({ min: 2, max: 900 }),
        fc.constantFrom(...LISTS),
        ending,
        (list, price, money, write, format) => {
          const text = WRITE[format]({
            kits: { angler: { items: write(list), [price]: money }, potter: { items: write(list), [price]: money } },
          })
          expect(told(text, format), text).toEqual(['angler', 'potter'].map((name) => `${name} for ${money} gives ${inWords(list)}`))
        },
      ),
      { numRuns: 60 },
    )
  })
  it.each([
    [
      'things beside money are given with it',
      'daily:\n  day-1: { money: 100, items: [clay 16] }\n  day-2: { money: 50, items: [eel 4] }\n',
      ['day-1 gives 16 clay', 'day-2 gives 4 eel'],
    ],
    [
      'what is drawn is not given',
      'chest:\n  price: 50\n  rewards:\n    - { item: clay, amount: 16, chance: 60 }\n    - { item: eel, amount: 2, chance: 30 }\n',
      [],
    ],
    [
      'what is switched off is not given',
      'kits:\n  a: { enabled: false, price: 5, items: [clay 4] }\n  b: { enabled: true, price: 5, items: [eel 4] }\n',
      ['b for 5 gives 4 eel'],
    ],
  ])('%s', (_what, text, deals) => expect(told(text)).toEqual(deals))

  it('one thing that is asked for is sold there, and closes a loop with a stall', () => {
    const facts = gathered(
      'Tasks/a.yml',
      'tasks:\n  ropes:\n    need: { rope: 4 }\n    reward: { money: 40 }\n    cooldown: 60\n  eels:\n    need: { eel: 2 }\n    reward: { money: 8 }\n    cooldown: 60\n',
    )
    expect(facts.offers.map(({ item, way, amount, count, cooldown, by }) => [item, way, amount, count, cooldown, by])).toEqual([
      ['rope', 'sell', 40, 4, 60, 'deal'],
      ['eel', 'sell', 8, 2, 60, 'deal'],
    ])
    // and it is still a task that is done for its reward
    expect(facts.streams.map(({ name, amount }) => [name, amount])).toEqual([
      ['ropes', 40],
      ['eels', 8],
    ])
  })
})

describe('what is reckoned of them', () => {
  const people = (rates: Readonly<Record<string, number>>, balance = 0): Kind => ({
    name: 'all',
    players: 10,
    hours: 2.4,
    joins: 0,
    balance,
    rates,
  })

  it('two bounds of a payout come to their middle, each time it is done', () => {
    const { streams } = economyOf(
      gathered('Beasts/a.yml', 'beasts:\n  heron: { money: { min: 4, max: 10 } }\n  otter: { money: { min: 20, max: 20 } }\n'),
    )
    const [least, most] = streams.filter(({ name }) => name === 'heron')
    expect(least!.activity).toBe(most!.activity)
    // ten players of 2.4 hours are one at any hour; five times an hour 7 on average
    expect(flowOf(streams, [people({ [least!.activity]: 5 })]).comesIn).toBeCloseTo(35, 9)
    // one of them changed leaves the other as it is
    expect(
      withAmount(streams, most!.id, 30)
        .filter(({ name }) => name === 'heron')
        .map(({ amount }) => amount),
    ).toEqual([4, 30])
  })
  it('interest comes as often as it says, of what is there', () => {
    const text = 'bank:\n  interest:\n    rate: 2.5\n    interval: 12h\n    max: 40\n'
    const { streams } = economyOf(gathered('Bank/a.yml', text))
    // and where nobody says how often, as often as its interval lets
    const [kind] = fitKinds(economyOf(gathered('Bank/a.yml', text)), streams, NOTHING_ASSUMED, NOTHING_SEEN)
    expect(kind!.rates[streams[0]!.activity]).toEqual({ value: 2, from: 'inferred' })
    const twice = people({ [streams[0]!.activity]: 2 }, 1000)
    // 25 of 1,000 twice a day, for ten players, over 24 hours
    expect(flowOf(streams, [twice]).comesIn).toBeCloseTo((25 * 2 * 10) / 24, 9)
    expect(flowOf(streams, [{ ...twice, balance: 10_000 }]).comesIn).toBeCloseTo((40 * 2 * 10) / 24, 9)
    // no oftener than each twelve hours
    expect(flowOf(streams, [people({ [streams[0]!.activity]: 24 }, 1000)]).comesIn).toBeCloseTo((25 * 2 * 10) / 24, 9)
  })
  it('a task that asks for a thing and a stall that sells it close a loop, which its mends end', () => {
    const facts = gathered(
      'Town/a.yml',
      'stalls:\n  rope: { buy: 8, sell: 3 }\n  eel: { buy: 5, sell: 2 }\ntasks:\n  ropes: { need: { rope: 4 }, reward: { money: 60 }, cooldown: 2h }\n  eels: { need: { eel: 4 }, reward: { money: 10 }, cooldown: 2h }\n',
    )
    const { book, streams } = economyOf(facts)
    const loops = book.rows.flatMap(({ loop }) => loop ?? [])
    // four ropes cost 32 and bring 60, each two hours
    expect(loops.map(({ item, count, gainARound, seconds, gainAnHour }) => [item, count, gainARound, seconds, gainAnHour])).toEqual([
      ['rope', 4, 28, 7200, 14],
    ])
    for (const mend of mendsOf(loops[0]!)) expect(mend.gainARound).toBeLessThanOrEqual(0)
    // the task is one of them that are done for money, and no stall that buys by the day
    expect(streams.filter(({ doing }) => doing === 'payout').map(({ name, amount }) => [name, amount])).toEqual([
      ['ropes', 60],
      ['eels', 10],
    ])
    // of 3 and 2, each as often as its root is small
    expect(streams.find(({ doing }) => doing === 'sells')!.amount).toBeCloseTo(Math.sqrt(6), 9)
    expect(
      timesAnHour(
        streams.find(({ name }) => name === 'ropes')!,
        100,
        2.4,
      ),
    ).toBeCloseTo(1.2 / 2.4, 9)
  })
  it('a tax in a text goes along with all that is paid to its plugin', () => {
    const { streams } = economyOf(gathered('Dock/a.yml', 'tax: 5%\nberths:\n  small: { price: 40 }\n  large: { price: 100 }\n'))
    expect(streams.filter(({ doing }) => doing === 'tax').map(({ amount, says, around }) => [amount, says, around!.after])).toEqual([
      [2, 5, '%'],
      [5, 5, '%'],
    ])
  })
  it('what a thing brings in parts of its own is told of one', () => {
    const { book } = economyOf(
      gathered(
        'Fair/a.yml',
        'trades:\n  a: { item: eel, buy: { price: 30, amount: 16 }, sell: { price: 100, amount: 64 } }\n  b: { item: net, buy: { price: 9, amount: 3 }, sell: { price: 2, amount: 1 } }\n',
      ),
    )
    expect(book.rows.map(({ item, spread }) => [item, spread]).sort()).toEqual([
      ['eel', 30 / 16 - 100 / 64],
      ['net', 1],
    ])
  })
})
