import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { stringify } from 'yaml'
import {
  accountsSeen,
  balancesIn,
  drawTables,
  economyFacts,
  economyOf,
  flowOf,
  mendsOf,
  movers,
  priceBook,
  type EconomyFacts,
  type Offer,
} from '../src/economy'
import { UNSAID } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import { ITEMS, WRITE, ending as format, factsFor, type Data, type Ending } from './economy-written'

/*
 * Economies that are generated: what they hold is known before any file is written, and has to be what is gathered from the files,
 * whatever their format and the shape of their lists.
 */

const FORMATS_BY = { yml: 'yaml', json: 'json', lua: 'lua' } as const
const write = (data: Data, format: Ending): string => WRITE[format](data)
const gather = (files: readonly (readonly [path: string, text: string])[]): EconomyFacts =>
  economyFacts(files.map(([path, text]) => factsFor(path, text)))

const amount = fc.integer({ min: 1, max: 9000 })
const name = fc.constantFrom('fire-kiln', 'run-ferry', 'dig-clay', 'keep-bees', 'cut-reed', 'mend-nets', 'light-lamps')
const named = <T>(value: fc.Arbitrary<T>, least = 2): fc.Arbitrary<Record<string, T>> =>
  fc
    .uniqueArray(name, { minLength: least, maxLength: 6 })
    .chain((names) => fc.tuple(...names.map(() => value)).map((all) => Object.fromEntries(names.map((key, i) => [key, all[i]!]))))
const someItems = fc.uniqueArray(fc.constantFrom(...ITEMS), { minLength: 2, maxLength: ITEMS.length })

const entry = fc.record({
  price: amount,
  cooldown: fc.option(fc.integer({ min: 1, max: 100_000 }), { nil: undefined }),
  chance: fc.option(fc.integer({ min: 2, max: 100 }), { nil: undefined }),
  limit: fc.option(fc.integer({ min: 1, max: 20 }), { nil: undefined }),
})

describe('generated economies, in any format', () => {
  it('payouts are what they were made of', () => {
    fc.assert(
      fc.property(named(amount), format, (payouts, ending) => {
        const { streams } = gather([[`Purse/a.${ending}`, write({ title: 'Purse', payouts }, ending)]])
        expect(Object.fromEntries(streams.map((one) => [one.name, one.amount]))).toEqual(payouts)
        for (const one of streams)
          expect([one.way, one.shareOf, one.isOnce, one.cooldown, one.chance]).toEqual(['in', null, false, null, null])
      }),
      { numRuns: 60 },
    )
  })

  it('prices of entries come with when they may be paid', () => {
    fc.assert(
      fc.property(named(entry), format, (kits, ending) => {
        // what an entry does not say is not there at all
        const data = Object.fromEntries(
          Object.entries(kits).map(([key, own]) => [
            key,
            Object.fromEntries(Object.entries(own).filter(([, value]) => value !== undefined)),
          ]),
        )
        const { streams } = gather([[`Kits/a.${ending}`, write({ kits: data } as Data, ending)]])
        const told = Object.fromEntries(
          streams.map((one) => [
            one.name,
            {
              price: one.amount,
              cooldown: one.cooldown ?? undefined,
              chance: one.chance === null ? undefined : Math.round(one.chance * 100),
              limit: one.limit ?? undefined,
            },
          ]),
        )
        expect(told).toEqual(kits)
        expect(streams.every(({ way }) => way === 'out')).toBe(true)
      }),
      { numRuns: 60 },
    )
  })

  /** The same goods in every shape that shops are written in. */
  const SHAPES: Readonly<Record<string, (goods: readonly Good[]) => Data>> = {
    'by their names': (goods) => ({ goods: Object.fromEntries(goods.map(({ item, buy, sell }) => [item, { buy, sell }])) }),
    'in a list': (goods) => ({ goods: goods.map(({ item, buy, sell }) => ({ item, buy, sell })) }),
    'in a list, by id': (goods) => ({ shop: { stock: goods.map(({ item, buy, sell }) => ({ id: item, buy, sell })) } }),
    'by entries of any name': (goods) => ({
      offers: Object.fromEntries(goods.map(({ item, buy, sell }, i) => [`offer-${i}`, { material: item, buy, sell }])),
    }),
  }
  interface Good {
    readonly item: string
    readonly buy: number
    readonly sell: number
  }
  const goods = someItems.chain((items) =>
    fc.tuple(...items.map((item) => fc.record({ item: fc.constant(item), buy: amount, sell: amount }))),
  )
  it.each(Object.keys(SHAPES))('goods %s are bought and sold for what they were made with, and the best loop is the dearest', (shape) => {
    fc.assert(
      fc.property(goods, format, (all, ending) => {
        const facts = gather([[`Shop/a.${ending}`, write(SHAPES[shape]!(all), ending)]])
        const told = (way: string): Record<string, number> =>
          Object.fromEntries(facts.offers.filter((one) => one.way === way).map((one) => [one.item, one.amount]))
        expect(told('buy')).toEqual(Object.fromEntries(all.map(({ item, buy }) => [item, buy])))
        expect(told('sell')).toEqual(Object.fromEntries(all.map(({ item, sell }) => [item, sell])))
        // nothing is told twice, as a price of its own and as one of the book
        expect(facts.streams).toEqual([])
        const gains = all.map(({ buy, sell }) => sell - buy)
        const loops = economyOf(facts).book.rows.flatMap(({ loop }) => loop ?? [])
        expect(loops).toHaveLength(gains.filter((gain) => gain > 0).length)
        if (loops.length > 0) expect(loops[0]!.gain).toBe(Math.max(...gains))
      }),
      { numRuns: 40 },
    )
  })
  it('a flat list of prices under what says so, each with the share that is paid back', () => {
    fc.assert(
      fc.property(goods, format, fc.integer({ min: 1, max: 99 }), (all, ending, percent) => {
        const list = write({ prices: Object.fromEntries(all.map(({ item, buy }) => [item, buy])) }, ending)
        const share = `# What is paid for goods, as a share of their price.\nbuys-for: ${percent / 100}\n`
        const { offers } = gather([
          [`Shop/prices.${ending}`, list],
          ['Shop/settings.yml', share],
        ])
        expect(offers.filter(({ way }) => way === 'buy').map(({ item, amount: costs }) => [item, costs])).toEqual(
          all.map(({ item, buy }) => [item, buy]),
        )
        offers.filter(({ way }) => way === 'sell').forEach((one, i) => expect(one.amount).toBeCloseTo((all[i]!.buy * percent) / 100, 9))
      }),
      { numRuns: 40 },
    )
  })

  const TABLES: Readonly<Record<string, (weights: Readonly<Record<string, number>>) => Data>> = {
    'a section of weights': (weights) => ({ pit: { yields: weights } }),
    'a list with weights': (weights) => ({ pit: { loot: Object.entries(weights).map(([item, weight]) => ({ item, weight })) } }),
    'entries with weights': (weights) => ({
      pit: Object.fromEntries(Object.entries(weights).map(([item, weight], i) => [`draw-${i}`, { item, weight }])),
    }),
  }
  const weights = someItems.chain((items) =>
    fc
      .tuple(...items.map(() => fc.integer({ min: 1, max: 500 })))
      .map((all) => Object.fromEntries(items.map((item, i) => [item, all[i]!]))),
  )
  it.each(Object.keys(TABLES))('chances of %s are weights over their sum', (shape) => {
    fc.assert(
      fc.property(weights, format, (made, ending) => {
        const [table, ...others] = drawTables(gather([[`Pits/a.${ending}`, write(TABLES[shape]!(made), ending)]]))
        const sum = Object.values(made).reduce((all, weight) => all + weight, 0)
        expect(others).toEqual([])
        expect(table!.entries.map(({ name: item, weight }) => [item, weight])).toEqual(Object.entries(made))
        for (const { name: item, chance } of table!.entries) expect(chance).toBeCloseTo(made[item]! / sum, 12)
        expect(table!.outcomes.reduce((all, { chance }) => all + chance, 0)).toBeCloseTo(1, 9)
        for (const { chance, tries } of table!.outcomes) {
          // the least number of tries that does it: one less does not
          expect(1 - (1 - chance) ** tries!).toBeGreaterThanOrEqual(0.9 - 1e-12)
          if (tries! > 1) expect(1 - (1 - chance) ** (tries! - 1)).toBeLessThan(0.9)
        }
      }),
      { numRuns: 40 },
    )
  })

  const contents = someItems.chain((items) =>
    fc.tuple(...items.map(() => fc.integer({ min: 1, max: 64 }))).map((all) => items.map((item, i) => ({ item, count: all[i]! }))),
  )
  const BUNDLES: Readonly<Record<string, (items: readonly { item: string; count: number }[]) => Data>> = {
    lines: (items) => items.map(({ item, count }) => `${item} ${count}`),
    'lines with a sign': (items) => items.map(({ item, count }) => `${item}:${count}`),
    sections: (items) => items.map(({ item, count }) => ({ item, amount: count })),
    'counts by name': (items) => Object.fromEntries(items.map(({ item, count }) => [item, count])),
  }
  it.each(Object.keys(BUNDLES))('what is in a bundle, written as %s, comes to the sum of its prices', (shape) => {
    fc.assert(
      fc.property(contents, amount, format, (items, price, ending) => {
        const kits = {
          kits: { angler: { items: BUNDLES[shape]!(items), price }, other: { items: BUNDLES[shape]!(items), price: price + 1 } },
        }
        const { deals } = gather([[`Kits/a.${ending}`, write(kits, ending)]])
        expect(deals.map((deal) => [deal.name, deal.money?.amount, deal.isBought, deal.items])).toEqual([
          ['angler', price, true, items],
          ['other', price + 1, true, items],
        ])
      }),
      { numRuns: 40 },
    )
  })
})

describe('what somebody added himself', () => {
  it('counts like the others of its list, whatever it is called and in any format', () => {
    fc.assert(
      fc.property(named(amount), amount, format, (payouts, own, ending) => {
        const factory = write({ payouts }, ending)
        const text = write({ payouts: { ...payouts, 'watch-the-tide': own } }, ending)
        const { streams } = economyFacts([factsFor(`Purse/a.${ending}`, text, factory)])
        expect(streams.at(-1)).toMatchObject({ name: 'watch-the-tide', amount: own, way: 'in', isShipped: false })
        expect(streams).toHaveLength(Object.keys(payouts).length + 1)
      }),
      { numRuns: 40 },
    )
  })
  it.each<[string, string, string]>([
    ['beside numbers of another kind', 'limits:\n  rows: 4\n  waiting: 6\n', 'limits:\n  rows: 4\n  waiting: 6\n  own: 9\n'],
    ['beside a single payout', 'payouts:\n  kiln: 4\n', 'payouts:\n  kiln: 4\nown: 9\n'],
    ['that is no number', 'payouts:\n  kiln: 4\n  ferry: 8\n', 'payouts:\n  kiln: 4\n  ferry: 8\n  note: none\n'],
  ])('a setting %s is none', (_what, factory, text) => {
    const before = economyFacts([factsFor('Purse/a.yml', factory)]).streams.length
    expect(economyFacts([factsFor('Purse/a.yml', text, factory)]).streams).toHaveLength(before)
  })
})

describe('gifts, rewards, taxes and other money', () => {
  const told = (text: string): string[] =>
    gather([['A/a.yml', text]]).deals.map(({ pointer, name: what, items, money, isBought, cooldown }) =>
      [
        pointer,
        what,
        items.map(({ item, count }) => `${count} ${item}`).join('+'),
        money?.amount ?? 'free',
        isBought ? 'given' : 'asked',
        cooldown ?? '-',
      ].join(' '),
    )
  it.each<[string, string, string[]]>([
    ['a gift of a greeting', 'first-join:\n  gift: [reed 16, eel 4]\n', ['/first-join/gift gift 16 reed+4 eel free given -']],
    [
      'rewards of a task that pays',
      'tasks:\n  a:\n    # what to bring\n    stages: [clay 16, eel 2]\n    # marks, the reward\n    marks: 20\n  b:\n    stages: [reed 8]\n    marks: 5\n',
      ['/tasks/a a 16 clay+2 eel 20 asked -', '/tasks/b b 8 reed 5 asked -'],
    ],
    [
      'what is free in words of its own',
      '# price: in marks, 0 is free\nkits:\n  a: { items: [eel 2], price: 0 }\n  b: { items: [eel 4], price: 8 }\n',
      ['/kits/a a 2 eel free given -', '/kits/b b 4 eel 8 given -'],
    ],
    [
      'a pause in minutes',
      'kits:\n  a:\n    items: [eel 2]\n    price: 9\n    # minutes until it can be had again\n    cooldown: 30\n  b:\n    items: [eel 1]\n    price: 4\n    cooldown: 60\n',
      ['/kits/a a 2 eel 9 given 1800', '/kits/b b 1 eel 4 given 3600'],
    ],
    [
      'two lists of one entry',
      'kits:\n  a: { items: [eel 2], extra-items: [reed 1], price: 9 }\n  b: { items: [clay 2], extra-items: [reed 3], price: 9 }\n',
      ['/kits/a a 2 eel+1 reed 9 given -', '/kits/b b 2 clay+3 reed 9 given -'],
    ],
    ['a list of what is kept is no gift', 'keep: [reed 16, eel 4]\n', []],
    ['items without a count', 'kits:\n  a: { items: [reed, eel], price: 3 }\n  b: { items: [clay, eel], price: 3 }\n', []],
  ])('%s', (_what, text, deals) => expect(told(text)).toEqual(deals))

  it.each<[string, string, string[]]>([
    ['a section of rates', 'exchange:\n  pearls: 12\n  shells: 0.5\n', ['pearls 12', 'shells 0.5']],
    ['a rate of each entry', 'money:\n  pearls:\n    exchange-rate: 12\n  shells:\n    exchange-rate: 0.5\n', ['pearls 12', 'shells 0.5']],
    ['nothing that only sounds like it', 'exchange-open: 1\nstock:\n  exchange: true\n', []],
    ['nothing below nothing', 'exchange:\n  pearls: 0\n  shells: -2\n', []],
  ])('exchange: %s', (_what, text, rates) => {
    expect(gather([['A/a.yml', text]]).exchange.map(({ currency, rate }) => `${currency} ${rate}`)).toEqual(rates)
  })

  it('amounts of any money come to the same whichever of them they are told in', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 50 }), amount, (rate, price) => {
        const bank = ['Bank/a.yml', `exchange:\n  pearls: ${rate}\n`] as const
        const kits = (costs: number, currency: string): (typeof bank)[] => [
          ['Kits/a.yml', `kits:\n  a: { price: ${costs}${currency} }\n  b: { price: 7 }\n  c: { price: 9 }\n`] as never,
        ]
        const costOf = (files: readonly (readonly [string, string])[]): number | undefined =>
          economyOf(gather(files)).streams.find(({ name: what }) => what === 'a')?.amount
        expect(costOf([...kits(price, ', currency: pearls'), bank])).toBe(price * rate)
        expect(costOf([...kits(price * rate, ''), bank])).toBe(price * rate)
        expect(costOf(kits(price, ', currency: pearls'))).toBeUndefined()
      }),
      { numRuns: 30 },
    )
  })
  it.each<[string, string, string[]]>([
    ['of the balance, below one', 'bank:\n  interest: 0.02\n', ['in 0.02 balance']],
    ['in percent', 'bank:\n  # in percent\n  interest: 2\n', ['in 0.02 balance']],
    ['of a hundred, where a whole balance would be given', 'bank:\n  interest: 4\n', ['in 0.04 balance']],
    ['of prices', 'claims:\n  # of the price\n  tax: 0.1\n', ['out 0.1 price']],
    ['nothing at all', 'claims:\n  tax: 0\n', []],
  ])('shares %s', (_what, text, streams) => {
    expect(gather([['A/a.yml', text]]).streams.map(({ way, amount: share, shareOf }) => `${way} ${share} ${shareOf}`)).toEqual(streams)
  })
})

describe('what is reckoned of generated economies', () => {
  const price = fc.integer({ min: 1, max: 500 })
  const offer = (way: 'buy' | 'sell', unit: number, count: number, more: Partial<Offer> = {}): Offer => ({
    item: 'rope',
    category: null,
    where: way,
    file: `${way}.yml`,
    pointer: `/${way}`,
    way,
    amount: unit,
    count,
    cooldown: null,
    ...more,
  })
  /** What one of the item brings more than it costs, by hand. */
  const gainOf = (buy: Offer, sell: Offer): number => sell.amount / sell.count - buy.amount / buy.count
  it('each mend of a loop ends it, and a step less would not', () => {
    fc.assert(
      fc.property(price, price, fc.integer({ min: 1, max: 16 }), fc.integer({ min: 1, max: 16 }), (costs, pays, bought, sold) => {
        const [buy, sell] = [offer('buy', costs, bought), offer('sell', pays, sold)]
        const { loop } = priceBook([buy, sell]).rows[0]!
        expect(loop !== null).toBe(gainOf(buy, sell) > 0)
        if (!loop) return
        const [dearer, less] = mendsOf(loop)
        expect([dearer!.pointer, less!.pointer]).toEqual(['/buy', '/sell'])
        expect(gainOf({ ...buy, amount: dearer!.amount }, sell)).toBeLessThanOrEqual(1e-9)
        expect(gainOf({ ...buy, amount: dearer!.amount - 1 }, sell)).toBeGreaterThan(0)
        expect(gainOf(buy, { ...sell, amount: less!.amount })).toBeLessThanOrEqual(1e-9)
        expect(gainOf(buy, { ...sell, amount: less!.amount + 1 })).toBeGreaterThan(0)
      }),
    )
  })
  it('a share that is mended ends the loop, and a hundredth more would not', () => {
    fc.assert(
      fc.property(price, price, fc.integer({ min: 1, max: 100 }), (costs, whole, percent) => {
        const share = { file: 'sell.yml', pointer: '/share', amount: percent / 100 }
        const [buy, sell] = [offer('buy', costs, 1), offer('sell', (whole * percent) / 100, 1, { share })]
        const { loop } = priceBook([buy, sell]).rows[0]!
        if (!loop) return
        const mend = mendsOf(loop)[1]!
        expect(mend.pointer).toBe('/share')
        expect(whole * mend.amount).toBeLessThanOrEqual(costs + 1e-6)
        expect(whole * (mend.amount + 0.01)).toBeGreaterThan(costs - 1e-6)
      }),
    )
  })
  it('what a tenth more of a setting moves is what the flow tells when it is a tenth more', () => {
    fc.assert(
      fc.property(named(amount), named(entry), fc.integer({ min: 1, max: 12 }), (payouts, kits, often) => {
        const paid = Object.fromEntries(Object.entries(kits).map(([key, { price: costs }]) => [key, { price: costs }]))
        const economy = economyOf(
          gather([
            ['Purse/a.yml', stringify({ payouts })],
            ['Kits/a.yml', `# of the price\ntax: 0.1\n${stringify({ kits: paid })}`],
          ]),
        )
        const rates = Object.fromEntries(economy.streams.map(({ activity }) => [activity, often]))
        const kinds = [{ name: 'all', players: 7, hours: 2, joins: 0, balance: 0, rates }]
        const stays = flowOf(economy.streams, kinds).stays
        for (const { id, change } of movers(economy, kinds)) {
          const more = economy.streams.filter(
            (one) => one.id === id || economy.streams.some((own) => own.id === id && own.activity === one.activity && own.doing !== 'tax'),
          )
          const changed = economy.streams.map((one) => (more.includes(one) ? { ...one, amount: one.amount * 1.1 } : one))
          expect(flowOf(changed, kinds).stays - stays).toBeCloseTo(change, 4)
        }
      }),
      { numRuns: 30 },
    )
  })
  const purses = fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 9_999_999 }), amount), {
    minLength: 2,
    maxLength: 30,
    selector: ([id]) => id,
  })
  const ACCOUNTS: Readonly<Record<string, (all: readonly (readonly [number, number])[]) => Data>> = {
    'by name': (all) => ({ version: 3, accounts: Object.fromEntries(all.map(([id, has]) => [`p${id}`, has])) }),
    'as sections': (all) => Object.fromEntries(all.map(([id, has]) => [`p${id}`, { joined: 17, balance: has, level: 4 }])),
    'in a list': (all) => ({ players: all.map(([id, has]) => ({ name: `p${id}`, coins: has })) }),
  }
  it.each(Object.keys(ACCOUNTS))('accounts %s say how many there are, and what one in the middle has', (shape) => {
    fc.assert(
      fc.property(purses, format, (all, ending) => {
        const found = FORMATS_BY[ending]
        const balances = balancesIn(parse(write(ACCOUNTS[shape]!(all), ending), found, UNSAID))
        expect([...balances].sort((a, b) => a - b)).toEqual(all.map(([, has]) => has).sort((a, b) => a - b))
        const { players, balance } = accountsSeen(balances)
        const sorted = all.map(([, has]) => has).sort((a, b) => a - b)
        const half = sorted.length / 2
        expect([players, balance]).toEqual([
          all.length,
          Number.isInteger(half) ? (sorted[half - 1]! + sorted[half]!) / 2 : sorted[Math.floor(half)],
        ])
      }),
      { numRuns: 40 },
    )
  })
})
