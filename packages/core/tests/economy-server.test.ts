import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { factsOf } from '../src/checks/facts'
import { workspaceFile, workspaceOf } from '../src/checks/workspace'
import { NO_KNOWLEDGE } from '../src/checks'
import {
  NOTHING_ASSUMED,
  NOTHING_SEEN,
  accountsSeen,
  amountFor,
  balancesIn,
  doneADay,
  drawTables,
  economyFacts,
  economyOf,
  fitKinds,
  flowOf,
  hoursToAfford,
  mendsOf,
  movers,
  firstDayOf,
  firstGoals,
  groupedFlow,
  liveAll,
  priceFor,
  simulate,
  thingsOf,
  unpriced,
  valuedDeals,
  withAmount,
  withPart,
  worthIn,
  type Assumed,
  type Economy,
  type EconomyFacts,
  type Kind,
  type Stream,
} from '../src/economy'
import { UNSAID } from '../src/formats/reading'
import { parse, type FormatId } from '../src/formats/registry'

const ITEMS = new Set(['rope', 'lamp', 'clay', 'brick', 'eel', 'reed', 'bell', 'net'])
/** Facts of files as their plugins ship them: `Plugin/name.ext` and text. */
function gathered(files: Readonly<Record<string, string>>): EconomyFacts {
  const read = Object.entries(files).map(([path, text]) =>
    workspaceFile({ path, plugin: path.split('/')[0]!, text, factory: text, reading: UNSAID, known: { items: ITEMS } })!,
  )
  const workspace = workspaceOf(read, null, [], { ...NO_KNOWLEDGE, lists: { items: ITEMS } })
  return economyFacts(read.map((file) => factsOf(workspace, file)))
}
const PURSE = 'accounts:\n  # What a newcomer starts with, in marks.\n  start: 100\npayouts:\n  fire-kiln: 4\n  run-ferry: 8\n'
const STALLS = '# What items cost, in marks.\nprices:\n  rope: 10\n  lamp: 20\n  clay: 2\n  brick: 6\n  net: 12\n'
const SHARE = 'market:\n  # What stalls pay for goods, as a share of their price, 0 to 1.\n  buys-for: 0.5\n'
const LIVED = { 'Purse/settings.yml': PURSE, 'Stalls/prices.yml': STALLS, 'Stalls/settings.yml': SHARE }

const told = ({ streams }: Economy): string[] =>
  streams.map(({ doing, name, way, amount, settings }) => `${doing} ${name} ${way} ${Number(amount.toFixed(6))} of ${settings}`)

describe('what moves money on a server', () => {
  it('is put together from all plugins: trade as one of the middle of it, a tax with all that is paid', () => {
    const tax =
      'claims:\n  # The share of the price that goes to the chest.\n  tax: 0.1\nkits:\n  angler: { price: 30 }\n  lamps: { price: 50, cooldown: 3600 }\n'
    expect(told(economyOf(gathered({ ...LIVED, 'Kits/settings.yml': tax })))).toEqual([
      'once accounts in 100 of 1',
      'payout fire-kiln in 4 of 1',
      'payout run-ferry in 8 of 1',
      'price angler out 30 of 1',
      'price lamps out 50 of 1',
      // 10, 20, 2, 6 and 12, each as often as its root is small: 14.9622 over 1.94386; half of that is paid for them
      'buys Stalls out 7.69715 of 5',
      'sells Stalls in 3.848575 of 5',
      'tax claims out 3 of 1',
      'tax claims out 5 of 1',
    ])
  })
  it('a loop over two plugins is a stream of its own, at the pace of a walk', () => {
    const economy = economyOf(gathered({ ...LIVED, 'Wharf/a.yml': 'goods:\n  rope: { buy: 15, sell: 13 }\n  eel: { buy: 4, sell: 1 }\n' }))
    const loop = economy.streams.find(({ doing }) => doing === 'loop')
    expect(loop).toMatchObject({ name: 'rope', way: 'in', amount: 3, cooldown: 15, plugin: 'Wharf' })
    const [first, second] = mendsOf(economy.book.rows[0]!.loop!)
    expect([first!.file, first!.pointer, first!.amount]).toEqual(['Stalls/prices.yml', '/prices/rope', 13])
    expect([second!.file, second!.pointer, second!.amount]).toEqual(['Wharf/a.yml', '/goods/rope/sell', 10])
  })
  it('a loop through a share of the price is mended in the share, by as little as two decimals do', () => {
    const files = { ...LIVED, 'Wharf/a.yml': 'goods:\n  lamp: { buy: 7, sell: 1 }\n  eel: { buy: 4, sell: 1 }\n' }
    // lamps cost 7 at the wharf and bring half of 20 at the stalls
    const { loop } = economyOf(gathered(files)).book.rows[0]!
    expect(loop).toMatchObject({ item: 'lamp', gain: 3 })
    expect(mendsOf(loop!)[1]).toMatchObject({ file: 'Stalls/settings.yml', pointer: '/market/buys-for', amount: 0.35, gainARound: 0 })
  })
  it('what is paid in other money counts by its rate, and what nobody rates is left out and told', () => {
    const kits = 'kits:\n  a: { price: 3, currency: pearls }\n  b: { price: 5, currency: shells }\n  c: { price: 7 }\n'
    const economy = economyOf(gathered({ ...LIVED, 'Kits/a.yml': kits, 'Bank/a.yml': 'exchange:\n  pearls: 12\n' }))
    expect(told(economy).filter((one) => one.startsWith('price'))).toEqual(['price a out 36 of 1', 'price c out 7 of 1'])
    expect([...economy.foreign]).toEqual([['shells', 1]])
  })
  it('prices of categories move nothing by themselves', () => {
    const wharf = 'categories:\n  ropes: { buy: 8, sell: 3 }\ngoods:\n  rope: { category: ropes }\n  net: { category: ropes, buy: 9 }\n'
    const { streams, offers } = gathered({ 'Wharf/a.yml': wharf })
    expect(streams).toEqual([])
    expect(offers.map(({ item, way, amount, by }) => `${item} ${way} ${amount} ${by}`)).toEqual([
      'rope buy 8 category',
      'rope sell 3 category',
      'net buy 9 item',
      'net sell 3 category',
    ])
  })
  it.each<[string, string, string[]]>([
    [
      'list of sections',
      'shop:\n  - item: rope\n    buy: 9\n    amount: 3\n  - item: eel\n    buy: 4\n',
      ['rope buy 9 for 3', 'eel buy 4 for 1'],
    ],
    [
      'JSON',
      '{ "shop": [ { "id": "rope", "buy-price": 9, "sell": 2 }, { "id": "eel", "price": 4 } ] }',
      ['rope buy 9 for 1', 'rope sell 2 for 1', 'eel buy 4 for 1'],
    ],
    ['what stands for it in a menu is no item', 'tasks:\n  a: { icon: rope, reward-money: 9 }\n  b: { icon: eel, reward-money: 4 }\n', []],
  ])('goods are found in a %s', (_what, text, offers) => {
    const path = text.startsWith('{') ? 'Shop/a.json' : 'Shop/a.yml'
    expect(gathered({ [path]: text }).offers.map(({ item, way, amount, count }) => `${item} ${way} ${amount} for ${count}`)).toEqual(offers)
  })
  it('a price that somebody added to others of its list counts like them', () => {
    const text = STALLS.replace('  net: 12\n', '  net: 12\n  bell: 90\n')
    const file = workspaceFile({
      path: 'Stalls/prices.yml',
      plugin: 'Stalls',
      text,
      factory: STALLS,
      reading: UNSAID,
      known: { items: ITEMS },
    })!
    const facts = factsOf(workspaceOf([file], null, [], { ...NO_KNOWLEDGE, lists: { items: ITEMS } }), file)
    expect(economyFacts([facts]).offers.at(-1)).toMatchObject({ item: 'bell', amount: 90, isShipped: false })
  })
  it('a list of prices with a few that the game does not have is one none the less, and of a few names all have to be known', () => {
    const listed = (names: readonly string[]): number =>
      gathered({ 'Stalls/a.yml': `# What items cost.\nprices:\n${names.map((name, i) => `  ${name}: ${i + 1}\n`).join('')}` }).offers.length
    expect(listed(['rope', 'lamp', 'clay', 'brick', 'eel', 'harbour_pass'])).toBe(6)
    expect(listed(['rope', 'lamp', 'clay', 'brick', 'tide_pass', 'harbour_pass'])).toBe(0)
    expect(listed(['rope', 'lamp', 'clay', 'harbour_pass'])).toBe(0)
  })
  it('what an update has elsewhere is the same deed, with the price it has there', () => {
    const facts = gathered({ 'Kits/a.yml': 'kits:\n  a: { price: 30 }\n' })
    const moved = gathered({ 'Kits/a.yml': 'bundles:\n  a: { price: 45 }\n' })
    const was = { ...moved, streams: moved.streams.map((one) => ({ ...one, was: 'Kits/a.yml#/kits/a/price' })) }
    const [before, after] = [economyOf(facts), economyOf(withPart(facts, { plugins: ['Kits'], facts: was }))]
    expect(after.streams.map(({ id, activity, amount }) => [id, activity, amount])).toEqual([
      ['Kits/a.yml#/bundles/a/price', 'Kits/a.yml#/kits/a/price', 45],
    ])
    expect(thingsOf(after).map(({ id, price }) => [id, price])).toEqual([[thingsOf(before)[0]!.id, 45]])
  })
  it('some plugins can be had as they are elsewhere', () => {
    const [now, before] = [gathered(LIVED), gathered({ ...LIVED, 'Purse/settings.yml': PURSE.replace('8', '5') })]
    const purse = { plugins: ['Purse'], facts: { ...before, offers: [] } }
    expect(told(economyOf(withPart(now, purse))).filter((one) => one.includes('ferry'))).toEqual(['payout run-ferry in 5 of 1'])
  })
})

describe('bundles and rewards', () => {
  const text = `kits:\n  a:\n    # item and how many\n    items: [rope 2, clay 10]\n    price: 12\n    cooldown: 3600\n  b:\n    items: [lamp 1, reed 4]\n    price: 30\n    cooldown: 7200\n`
  const facts = gathered({ ...LIVED, 'Kits/settings.yml': text })
  it('are worth what is in them', () => {
    const { book } = economyOf(facts)
    expect(
      valuedDeals(facts, book).map(({ name, brings, costs, gain, gainAnHour, unknown }) => [
        name,
        brings,
        costs,
        gain,
        gainAnHour,
        unknown,
      ]),
    ).toEqual([
      // two ropes at 5 and ten clay at 1
      ['a', 20, 40, 8, 8, []],
      ['b', 10, 20, -20, -10, ['reed']],
    ])
    expect([worthIn(book).of('rope'), worthIn(book).of('reed')]).toEqual([5, null])
  })
})

describe('tables', () => {
  it('within tables are drawn in turn, and single chances stand for themselves', () => {
    const text =
      'loot:\n  chances:\n    rare: 1\n    clay: 3\nrare:\n  chances:\n    bell: 1\n    lamp: 4\nextra:\n  - item: eel\n    chance: 25\n  - item: net\n    chance: 5\n'
    const tables = drawTables(gathered({ 'Pits/a.yml': text }))
    expect(tables.map(({ name, isByWeight }) => [name, isByWeight])).toEqual([
      ['loot chances', true],
      ['rare chances', true],
      ['extra', false],
    ])
    expect(tables[0]!.entries.map(({ name, chance, table }) => [name, chance, table !== null])).toEqual([
      ['rare', 0.25, true],
      ['clay', 0.75, false],
    ])
    // a twentieth of a quarter … and 45 draws for nine of ten cases: 1 − 0.95⁴⁵ = 0.9006
    expect(tables[0]!.outcomes.map(({ name, chance, tries }) => [name, Number(chance.toFixed(6)), tries])).toEqual([
      ['bell', 0.05, 45],
      ['lamp', 0.2, 11],
      ['clay', 0.75, 2],
    ])
    expect(tables[2]!.outcomes.map(({ name, chance }) => [name, chance])).toEqual([
      ['eel', 0.25],
      ['net', 0.05],
    ])
  })
  it('that lead back to themselves say so', () => {
    const [table] = drawTables(gathered({ 'Pits/a.yml': 'a:\n  chances:\n    b: 1\n    clay: 1\nb:\n  chances:\n    a: 1\n    eel: 1\n' }))
    expect(table).toMatchObject({ outcomes: [], circle: ['Pits/a.yml#/a/chances', 'Pits/a.yml#/b/chances', 'Pits/a.yml#/a/chances'] })
  })
  it('a weight that says an order is none', () => {
    expect(
      gathered({ 'Ranks/a.yml': 'groups:\n  warden: { name: Warden, weight: 10 }\n  ferryman: { name: Ferryman, weight: 20 }\n' }).draws,
    ).toEqual([])
    expect(
      gathered({ 'Pits/a.yml': 'loot:\n  - { item: eel, weight: 3 }\n  - { item: net, weight: 1 }\n' }).draws[0]!.entries.map(
        ({ name, weight }) => [name, weight],
      ),
    ).toEqual([
      ['eel', 3],
      ['net', 1],
    ])
  })
})

describe('players who are assumed', () => {
  const economy = economyOf(gathered(LIVED))
  const fit = (assumed: Partial<Assumed> = {}, seen = {}): ReturnType<typeof fitKinds> =>
    fitKinds(economy, economy.streams, { ...NOTHING_ASSUMED, ...assumed }, { ...NOTHING_SEEN, ...seen })
  it('are 64 where nobody says, else as many as have accounts, and somebody’s number counts', () => {
    expect(fit().map(({ players }) => [players.value, players.from])).toEqual([
      [20, 'inferred'],
      [36, 'inferred'],
      [8, 'inferred'],
    ])
    expect(fit({}, { players: 128 }).map(({ players }) => [players.value, players.from])).toEqual([
      [40, 'records'],
      [72, 'records'],
      [16, 'records'],
    ])
    const kinds = NOTHING_ASSUMED.kinds.map((kind) => (kind.id === 'trader' ? { ...kind, players: 28 } : kind))
    // the 100 that are left are 36 newcomers and 64 regulars
    expect(fit({ kinds }, { players: 128 }).map(({ players }) => players.value)).toEqual([36, 64, 28])
  })
  it('begin as newcomers, of whom there are as many as come in three days', () => {
    expect(fit().map(({ kind }) => kind.joins)).toEqual([20 / 3, 0, 0])
  })
  it('play for so long that as many are online as were measured', () => {
    const kinds = fit({}, { players: 128, online: 22.1 })
    const online = kinds.reduce((sum, { players, hours }) => sum + (players.value * hours.value) / 24, 0)
    expect(online).toBeCloseTo(22.1, 0)
    expect(kinds.map(({ hours }) => hours.from)).toEqual(['records', 'records', 'records'])
  })
  it('do what pays little more often, spend a part of what they earn, and what is typed or recorded counts', () => {
    const [, regular] = fit()
    const rate = (name: string): number => regular!.rates[`Purse/settings.yml#/payouts/${name}`]!.value
    // the middle of 4 and 8 is 8 here: 6 ferries, and the root of two times as many kilns
    expect([rate('run-ferry'), rate('fire-kiln')]).toEqual([6, 8.5])
    const income = 6 * 8 + 8.5 * 4 + 8 * 3.85
    expect(regular!.rates['buys Stalls']!.value * 7.697).toBeCloseTo(0.7 * income, -1)
    const typed = fit({ rates: { 'buys Stalls': { regular: 3 } } }, { times: { 'Purse/settings.yml#/payouts/run-ferry': 4.8 } })[1]!
    expect(typed.rates['buys Stalls']).toEqual({ value: 3, from: 'typed' })
    expect(typed.rates['Purse/settings.yml#/payouts/run-ferry']).toEqual({ value: 2, from: 'records' })
  })
  it('pay for what is dear less often, by the root of how much dearer it is', () => {
    const ranks = 'ranks:\n  mate: { cost: 25 }\n  bosun: { cost: 100 }\n  captain: { cost: 10000 }\n'
    const of = economyOf(gathered({ 'Purse/settings.yml': PURSE, 'Ranks/settings.yml': ranks }))
    const [, regular] = fitKinds(of, of.streams, NOTHING_ASSUMED, NOTHING_SEEN)
    const rate = (name: string): number => regular!.rates[`Ranks/settings.yml#/ranks/${name}/cost`]!.value
    expect([rate('mate') / rate('bosun'), rate('bosun') / rate('captain')].map((times) => Number(times.toPrecision(1)))).toEqual([2, 10])
    const spent = 25 * rate('mate') + 100 * rate('bosun') + 10_000 * rate('captain')
    expect(spent).toBeCloseTo(0.7 * (6 * 8 + 8.5 * 4), -1)
  })
  it('all prices and payouts of any scale leave what they do as it is', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 5000 }), (times) => {
        const scaled = { ...economy, streams: economy.streams.map((one) => ({ ...one, amount: one.amount * times })) }
        const rates = (of: Economy): unknown => fitKinds(of, of.streams, NOTHING_ASSUMED, NOTHING_SEEN).map((kind) => kind.rates)
        expect(rates(scaled)).toEqual(rates(economy))
      }),
      { numRuns: 30 },
    )
  })
  it('sums close, for any kinds', () => {
    const kinds = fit().map(({ kind }) => kind)
    const { comesIn, goesOut, stays, ribbons } = flowOf(economy.streams, kinds)
    expect(comesIn).toBeCloseTo(goesOut + stays, 9)
    expect(ribbons.reduce((sum, { way, amount }) => sum + (way === 'in' ? amount : 0), 0)).toBeCloseTo(comesIn, 9)
  })
  it('what moves most is told of settings, a loop by both its sides', () => {
    const looped = economyOf(gathered({ ...LIVED, 'Wharf/a.yml': 'goods:\n  rope: { buy: 15, sell: 13 }\n  eel: { buy: 4, sell: 1 }\n' }))
    const kind: Kind = {
      name: 'trader',
      players: 24,
      hours: 1,
      joins: 0,
      balance: 0,
      rates: { 'loop rope': 60, 'Purse/settings.yml#/payouts/run-ferry': 10 },
    }
    const found = movers(looped, [kind]).map(({ id, change }) => [id, Number(change.toFixed(6))])
    // one is online: 60 rounds of a tenth of 13, or of 10; ten ferries of a tenth of 8
    expect(found).toEqual([
      ['sell Wharf/a.yml#/goods/rope/sell', 78],
      ['buy Stalls/prices.yml#/prices/rope', -60],
      ['Purse/settings.yml#/payouts/run-ferry', 8],
    ])
  })
})

describe('what players can afford', () => {
  const stream = (id: string, way: Stream['way'], amount: number, more: Partial<Stream> = {}): Stream => {
    const bare = { isShare: false, most: null, chance: 1, cooldown: null, limit: null, isOnce: false }
    return { id, activity: id, way, amount, ...bare, ...more }
  }
  const kind: Kind = { name: 'regular', players: 1, hours: 2, joins: 0, balance: 0, rates: { work: 10, buy: 2 } }
  it.each<[string, Stream[], number, number | null]>([
    ['at 50 an hour', [stream('work', 'in', 5)], 600, 12],
    // of 100 a day 80 are spent: after five days there are 100, and on the sixth there are 200 with what is earned
    ['less what is spent', [stream('work', 'in', 5), stream('buy', 'out', 20)], 200, 12],
    ['with what one begins with', [stream('work', 'in', 5), stream('start', 'in', 300, { isOnce: true })], 600, 6],
    ['at once', [stream('start', 'in', 300, { isOnce: true })], 300, 0],
    ['never without income', [stream('start', 'in', 300, { isOnce: true })], 301, null],
    ['never where more is spent than earned', [stream('work', 'in', 5), stream('buy', 'out', 100)], 200, null],
    // 100 on the first day and a tenth of it: 110, 231, and on the third day 231 + 100
    ['with interest', [stream('work', 'in', 5), stream('bank', 'in', 0.1, { isShare: true })], 331, 6],
    ['with interest of 5 at most', [stream('work', 'in', 5), stream('bank', 'in', 0.1, { isShare: true, most: 5 })], 310, 6],
  ])('%s', (_what, streams, price, hours) => {
    const found = hoursToAfford(streams, kind, price)
    if (hours === null) expect(found).toBeNull()
    else expect(found).toBeCloseTo(hours, 9)
  })
  it('a setting is found for the hours that are wanted', () => {
    const streams = [stream('work', 'in', 5), stream('start', 'in', 100, { isOnce: true })]
    expect(amountFor(streams, 'work', kind, 600, 10)).toBeCloseTo(5, 6)
    expect(amountFor(streams, 'work', kind, 600, 5)).toBeCloseTo(10, 6)
    expect(amountFor(streams, 'nothing', kind, 600, 5)).toBeNull()
  })
  it('found settings bring the hours, whatever is wanted', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 50 }),
        fc.integer({ min: 100, max: 5000 }),
        fc.integer({ min: 1, max: 60 }),
        (pay, price, hours) => {
          const streams = [stream('work', 'in', pay), stream('start', 'in', 50, { isOnce: true })]
          const amount = amountFor(streams, 'work', kind, price, hours)
          if (amount !== null) expect(hoursToAfford(withAmount(streams, 'work', amount), kind, price)).toBeCloseTo(hours, 3)
        },
      ),
    )
  })
  // days differ, so that a good one comes to it a little earlier
  it('lived days come to the reckoned hours, on average', () => {
    const streams = [stream('work', 'in', 5), stream('buy', 'out', 20)]
    const kinds = [{ ...kind, players: 400 }]
    const run = simulate({ streams, kinds, goals: [{ name: 'boat', price: 400 }], days: 60, seed: 3 })
    const reckoned = hoursToAfford(streams, kind, 400)!
    expect(Math.abs(run.reached[0]!.hours! - reckoned) / reckoned).toBeLessThan(0.25)
  })
  it('what takes days is done now and then, as often as its pause lets', () => {
    const streams = [stream('work', 'in', 90, { cooldown: 3 * 86_400 })]
    const run = simulate({ streams, kinds: [{ ...kind, players: 300 }], goals: [], days: 60, seed: 9 })
    // every third day of sixty is twenty times
    expect(run.days.at(-1)!.supply / 300 / 90).toBeGreaterThan(18)
    expect(run.days.at(-1)!.supply / 300 / 90).toBeLessThan(22)
  })
})

describe('goals and first days', () => {
  const economy = economyOf(gathered(LIVED))
  const kinds = fitKinds(economy, economy.streams, NOTHING_ASSUMED, NOTHING_SEEN)
  it('are for what is dear, and for so many that they take an hour at least', () => {
    const goals = firstGoals(economy, kinds)
    expect(goals.map(({ thing, kind }) => [thing, kind])).toEqual([
      ['item lamp', 'regular'],
      ['item net', 'newcomer'],
    ])
    for (const { thing, count, kind, hours } of goals) {
      const price = thingsOf(economy).find(({ id }) => id === thing)!.price * count
      const takes = hoursToAfford(economy.streams, kinds.find(({ id }) => id === kind)!.kind, price)
      expect([Math.round(takes!), takes! >= 1]).toEqual([hours, true])
    }
  })
  it('a first day begins with what is given, and brings what is earned', () => {
    const kind: Kind = {
      name: 'new',
      players: 1,
      hours: 2,
      joins: 0,
      balance: 0,
      rates: { 'Purse/settings.yml#/payouts/run-ferry': 1, 'buys Stalls': 0.5 },
    }
    // 100 to begin with, two ferries for 8 each, one purchase of what things cost on average
    expect(firstDayOf(economy.streams, kind, [{ price: 20 }, { price: 110 }, { price: 500 }])).toEqual({
      start: 100,
      earns: 16,
      spends: expect.closeTo(7.697, 3) as number,
      atOnce: 1,
      after: 2,
      things: 3,
    })
  })
  it('the price for so many hours is what is saved by then', () => {
    const kind: Kind = { name: 'x', players: 1, hours: 2, joins: 0, balance: 0, rates: { 'Purse/settings.yml#/payouts/run-ferry': 5 } }
    // 100 and 40 an hour
    expect(priceFor(economy.streams, kind, 10, 20)).toBeCloseTo(500, 3)
  })
  it('items that are given and cost nothing anywhere are told, others of no list are not', () => {
    const facts = gathered({ ...LIVED, 'Pits/a.yml': 'bank:\n  yields:\n    clay: 3\n    eel: 1\n    mystery: 2\n' })
    expect(unpriced(facts, economyOf(facts).book, (name) => ITEMS.has(name))).toEqual(['eel'])
  })
})

describe('many runs', () => {
  const economy = economyOf(gathered(LIVED))
  const kinds = fitKinds(economy, economy.streams, NOTHING_ASSUMED, NOTHING_SEEN).map(({ kind }) => kind)
  const plan = { streams: economy.streams, kinds, goals: [{ name: 'boat', price: 900 }], days: 10, seed: 7 }
  it('come to the same each time, with the middle between both ends, and tell how far they are', () => {
    const told: number[] = []
    const [first, again] = [liveAll([plan], 5, (done) => told.push(done)), liveAll([plan], 5)]
    expect(first).toEqual(again)
    expect(told).toEqual([1, 2, 3, 4, 5])
    expect(first[0]!.supply).toHaveLength(11)
    for (const { low, middle, high } of first[0]!.supply) expect([low <= middle, middle <= high]).toEqual([true, true])
    const ends = [7, 8, 9, 10, 11].map((seed) => simulate({ ...plan, seed }).days.at(-1)!.supply).sort((a, b) => a - b)
    expect(first[0]!.supply.at(-1)!.middle).toBe(ends[2])
  })
  it('groups of the flow are the sums of their streams, today and in the draft', () => {
    const draft = economy.streams.map((one) => (one.doing === 'payout' ? { ...one, amount: one.amount * 2 } : one))
    const { groups, now, draft: then } = groupedFlow(economy.streams, draft, kinds)
    const payouts = groups.find(({ id }) => id.includes('payout'))!
    expect(payouts.draft).toBeCloseTo(payouts.now * 2, 6)
    expect(payouts.by.reduce((sum, { amount }) => sum + amount, 0)).toBeCloseTo(payouts.now, 6)
    expect(then.stays - now.stays).toBeCloseTo(payouts.now, 6)
    expect(now.comesIn).toBeCloseTo(flowOf(economy.streams, kinds).comesIn, 6)
  })
})

describe('records of the server', () => {
  const read = (format: string, text: string): ReturnType<typeof parse> => parse(text, format as FormatId, UNSAID)
  it.each<[string, string, number[]]>([
    ['yaml', 'accounts: { maren: 12, tobiah: 30.5 }\nversion: 2\n', [12, 30.5]],
    ['json', '{ "7700": { "name": "maren", "balance": 12, "joined": 99 }, "7701": { "balance": 4 } }', [12, 4]],
    ['json', '{ "players": [ { "id": "7700", "coins": 3 }, { "id": "7701", "coins": 5 }, { "id": "7702" } ] }', [3, 5]],
    ['yaml', 'a: b\n', []],
  ])('%s %s', (format, text, balances) => expect(balancesIn(read(format, text))).toEqual(balances))
  it('say how many have accounts, and what one in the middle has', () => {
    expect(accountsSeen([5, 1, 9, 3])).toEqual({ players: 4, balance: 4 })
    expect(accountsSeen([])).toEqual({ players: null, balance: null })
  })
  it.each<[string, string]>([
    ['names with a stroke', 'maren/kiln: 1000000\nwenna/kiln: 990000\ncorley/kiln: 800000\nwenna/boat: 500000\n'],
    ['below one another', 'maren: { kiln: 1000000 }\nwenna: { kiln: 990000, boat: 500000 }\ncorley: { kiln: 800000 }\n'],
    [
      'things first, in milliseconds',
      'kiln: { maren: 1700000000000, wenna: 1699990000000, corley: 1699800000000 }\nboat: { wenna: 1699500000000 }\n',
    ],
  ])('say who did what in the last day: %s', (_what, text) => {
    expect(Object.fromEntries(doneADay(read('yaml', text), new Set(['kiln', 'boat']), 4))).toEqual({ kiln: 0.5, boat: 0 })
  })
})
