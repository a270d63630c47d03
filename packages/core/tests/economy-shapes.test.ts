import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NO_KNOWLEDGE } from '../src/checks'
import { factsOf } from '../src/checks/facts'
import { workspaceFile, workspaceOf } from '../src/checks/workspace'
import { economyFacts, type EconomyFacts } from '../src/economy'
import { ITEMS, LISTS, WRITE, ending, gathered, offers, type Data } from './economy-written'
import { UNSAID } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import { inferRules } from '../src/rules/infer'

/*
 * Authors say prices and payouts in many ways. Here are shops, tasks and banks as different authors would write them: what they hold is
 * known before a file is written, and the words, the nesting and the format are drawn by chance.
 */

const streams = (facts: EconomyFacts): string[] =>
  facts.streams.map(
    ({ name, way, amount, shareOf, isOnce }) => `${way} ${name} ${amount}${shareOf ? ` of ${shareOf}` : ''}${isOnce ? ' once' : ''}`,
  )

const CASES = {
  kebab: (words: string) => words.replaceAll(' ', '-'),
  snake: (words: string) => words.replaceAll(' ', '_'),
  camel: (words: string) => words.replace(/ (\w)/g, (_, letter: string) => letter.toUpperCase()),
  pascal: (words: string) => words.replace(/(?:^| )(\w)/g, (_, letter: string) => letter.toUpperCase()),
}
const inCase = fc.constantFrom(...Object.values(CASES))
const amount = fc.integer({ min: 2, max: 5000 })

interface Good {
  readonly item: string
  readonly buy: number
  readonly sell: number
  readonly buyCount: number
  readonly sellCount: number
}
const goods: fc.Arbitrary<readonly Good[]> = fc.uniqueArray(fc.constantFrom(...ITEMS), { minLength: 2, maxLength: 6 }).chain((items) =>
  fc.tuple(
    ...items.map((item) =>
      fc.record({
        item: fc.constant(item),
        buy: amount,
        sell: amount,
        buyCount: fc.constantFrom(2, 16, 64),
        sellCount: fc.constantFrom(2, 16, 64),
      }),
    ),
  ),
)
const NAMES = [
  ['price', 'sell'],
  ['buy', 'sell'],
  ['buy price', 'sell price'],
  ['price buy', 'price sell'],
  ['purchase price', 'selling price'],
  ['cost', 'sell value'],
  ['cost', 'worth'],
  ['buy cost', 'payout'],
] as const
/** How its author writes the ids of items. */
const spelled = fc.constantFrom<(id: string) => string>(
  (id) => id,
  (id) => id.toUpperCase(),
  (id) => `lands:${id}`,
)
const inWay = (list: readonly Good[], spell: (id: string) => string): Good[] => list.map((good) => ({ ...good, item: spell(good.item) }))
const within = fc.constantFrom<(data: Data) => Data>(
  (data) => ({ shop: data }),
  (data) => ({ market: { title: 'At the quay', stalls: data } }),
  (data) => ({ version: 3, categories: { earth: { icon: 'clay', items: data }, water: { icon: 'eel', items: {} } } }),
)
const keyed = (list: readonly Good[], entry: (good: Good) => Data): Data => Object.fromEntries(list.map((good) => [good.item, entry(good)]))

/** Ways to write a shop: what it is called, and how it looks with the names of both prices. */
const SHOPS: Readonly<Record<string, (list: readonly Good[], buy: string, sell: string) => Data>> = {
  'by items': (list, buy, sell) => keyed(list, (good) => ({ [buy]: good.buy, [sell]: good.sell })),
  'a list': (list, buy, sell) => list.map((good) => ({ item: good.item, [buy]: good.buy, [sell]: good.sell })),
  'slots of a menu': (list, buy, sell) =>
    Object.fromEntries(list.map((good, i) => [`${i + 1}`, { material: good.item, slot: i, [buy]: good.buy, [sell]: good.sell }])),
  'a list of names': (list, buy, sell) => list.map((good) => ({ name: good.item, stock: 5, [buy]: good.buy, [sell]: good.sell })),
  'a list of names, with a section of prices': (list, buy, sell) =>
    list.map((good) => ({ key: good.item, 'max-stack': 64, price: { [buy]: good.buy, [sell]: good.sell } })),
  'a section of prices in each': (list, buy, sell) => keyed(list, (good) => ({ stock: 5, price: { [buy]: good.buy, [sell]: good.sell } })),
}

describe('shops as different authors write them', () => {
  for (const [shape, write] of Object.entries(SHOPS))
    it(`${shape}`, () => {
      fc.assert(
        fc.property(
          goods,
          spelled,
          fc.constantFrom(...NAMES),
          inCase,
          within,
          ending,
          (list, spell, [buy, sell], named, around, format) => {
            const text = WRITE[format](around(write(inWay(list, spell), named(buy), named(sell))))
            const expected = list.flatMap((good) => [`buy 1 ${good.item} for ${good.buy}`, `sell 1 ${good.item} for ${good.sell}`]).sort()
            expect(offers(gathered(`Shop/a.${format}`, text)), text).toEqual(expected)
          },
        ),
        { numRuns: 60 },
      )
    })

  it('a section for each way, with how many', () => {
    fc.assert(
      fc.property(goods, inCase, within, ending, fc.boolean(), (list, named, around, format, isList) => {
        const one = (good: Good): Data => ({
          [named('item')]: good.item,
          [named('buy')]: { [named('price')]: good.buy, [named('amount')]: good.buyCount },
          [named('sell')]: { [named('price')]: good.sell, [named('amount')]: good.sellCount },
        })
        const data = isList ? list.map(one) : Object.fromEntries(list.map((good, i) => [`trade-${i}`, one(good)]))
        const text = WRITE[format](around(data))
        const expected = list
          .flatMap((good) => [`buy ${good.buyCount} ${good.item} for ${good.buy}`, `sell ${good.sellCount} ${good.item} for ${good.sell}`])
          .sort()
        expect(offers(gathered(`Shop/a.${format}`, text)), text).toEqual(expected)
      }),
      { numRuns: 60 },
    )
  })

  it('lists of prices by way', () => {
    const ways = fc.constantFrom(['buy', 'sell'], ['buy prices', 'sell prices'], ['prices', 'worth'], ['costs', 'sell worth'])
    fc.assert(
      fc.property(goods, spelled, ways, inCase, ending, (list, spell, [buy, sell], named, format) => {
        const text = WRITE[format]({
          [named(buy!)]: keyed(inWay(list, spell), (good) => good.buy),
          [named(sell!)]: keyed(inWay(list, spell), (good) => good.sell),
        })
        const expected = list.flatMap((good) => [`buy 1 ${good.item} for ${good.buy}`, `sell 1 ${good.item} for ${good.sell}`]).sort()
        expect(offers(gathered(`Shop/a.${format}`, text)), text).toEqual(expected)
      }),
      { numRuns: 60 },
    )
  })

  it('where the server keeps no list of items, what has both prices is a thing by itself', () => {
    fc.assert(
      fc.property(goods, fc.constantFrom(...NAMES), inCase, ending, (list, [buy, sell], named, format) => {
        const text = WRITE[format]({ shop: keyed(list, (good) => ({ [named(buy)]: good.buy, [named(sell)]: good.sell })) })
        const expected = list.flatMap((good) => [`buy 1 ${good.item} for ${good.buy}`, `sell 1 ${good.item} for ${good.sell}`]).sort()
        expect(offers(gathered(`Shop/a.${format}`, text, {})), text).toEqual(expected)
      }),
      { numRuns: 40 },
    )
  })

  it('what is below nothing is not to be had, and what is switched off neither', () => {
    const text =
      'stalls:\n  a:\n    clay: { buy: 10, sell: -1 }\n    eel: { buy: -1, sell: 12 }\n  b:\n    enabled: false\n    reed: { buy: 4, sell: 1 }\n'
    expect(offers(gathered('Shop/a.yml', text))).toEqual(['buy 1 clay for 10', 'sell 1 eel for 12'])
  })
})

const upTo = (count: number): number[] => Array.from({ length: count }, (_, i) => i + 1)

describe('payouts, prices and shares as different authors write them', () => {
  const deeds = fc.uniqueArray(fc.constantFrom('miner', 'ferryman', 'beekeeper', 'potter', 'eel-catcher'), { minLength: 2, maxLength: 5 })
  const paid = fc.constantFrom(
    'salary',
    'wage',
    'income',
    'payout',
    'reward money',
    'money',
    'coins',
    'bounty',
    'money reward',
    'daily pay',
  )
  it('payouts of entries', () => {
    const shape = fc.constantFrom<(name: string, pay: number) => Data>(
      (name, pay) => ({ [name]: pay, experience: 3 }),
      (name, pay) => ({ level: 2, reward: { [name]: pay, experience: 3 } }),
      (name, pay) => ({ level: 2, payout: { [name]: pay } }),
    )
    fc.assert(
      fc.property(deeds, amount, paid, shape, inCase, ending, fc.boolean(), (names, pay, word, entry, named, format, isList) => {
        const one = (i: number): Data => entry(named(word), pay + i)
        const data = isList
          ? names.map((name, i) => ({ name, ...(one(i) as object) }))
          : Object.fromEntries(names.map((name, i) => [name, one(i)]))
        const text = WRITE[format]({ jobs: data })
        expect(streams(gathered(`Jobs/a.${format}`, text)), text).toEqual(names.map((name, i) => `in ${name} ${pay + i}`))
      }),
      { numRuns: 120 },
    )
  })
  it('at least and at most are one deed of the middle', () => {
    const shape = fc.constantFrom<(least: number, most: number) => Data>(
      (min, max) => ({ money: { min, max } }),
      (least, most) => ({ 'min-money': least, 'max-money': most }),
      (from, to) => ({ coins: { from, to } }),
      (minimum, maximum) => ({ coinsMinimum: minimum, coins_maximum: maximum }),
      (low, high) => ({ 'low-pay': low, 'high-pay': high }),
      (min, most) => ({ min_payout: min, mostPayout: most }),
    )
    fc.assert(
      fc.property(deeds, amount, amount, shape, ending, (names, least, more, entry, format) => {
        const text = WRITE[format]({ 'money for beasts': Object.fromEntries(names.map((name) => [name, entry(least, least + more)])) })
        const facts = gathered(`Beasts/a.${format}`, text)
        for (const name of names) {
          const own = facts.streams.filter((stream) => stream.name === name)
          expect(
            own.map((stream) => [stream.amount, stream.bound]),
            text,
          ).toEqual([
            [least, 'least'],
            [least + more, 'most'],
          ])
        }
      }),
      { numRuns: 60 },
    )
  })

  it.each<[string, string, readonly string[]]>([
    ['starting-balance', 'starting-balance: 100\n', ['in starting-balance 100 once']],
    ['startMoney', 'startMoney: 100\n', ['in startMoney 100 once']],
    ['default balance', 'accounts:\n  default-balance: 100\n', ['in default-balance 100 once']],
    ['initial', 'economy:\n  initial: 100\n  symbol: m\n', ['in initial 100 once']],
    ['new players', 'new-players:\n  money: 100\n  message: Welcome\n', ['in new-players 100 once']],
    [
      'those who come for the first time, and all',
      'first-join:\n  money: 100\njoin:\n  money: 1\n',
      ['in first-join 100 once', 'in join 1'],
    ],
    ['costs of deeds', 'economy:\n  enabled: true\n  costs:\n    set-home: 50\n    warp: 10\n', ['out set-home 50', 'out warp 10']],
    ['a cost with its section', 'teleport:\n  cost: 25\n  warmup: 3\n', ['out teleport 25']],
    ['by how many', 'claims:\n  cost-per-block: 2\n', ['out cost-per-block 2']],
    [
      'money that is asked for',
      'boats:\n  skiff:\n    cost: { money: 500 }\n  punt:\n    cost: { money: 90 }\n',
      ['out skiff 500', 'out punt 90'],
    ],
    [
      'rent',
      'houses:\n  small: { price: 500, rent: 20 }\n  big: { price: 900, rent: 50 }\n',
      ['out small 500', 'out small 20', 'out big 900', 'out big 50'],
    ],
    [
      'ranks with a wage, one price of them in short',
      'ranks:\n  - { name: Deckhand, cost: 500, paycheck: 20 }\n  - { name: Captain, cost: 10k, paycheck: 45 }\n',
      ['out Deckhand 500', 'in Deckhand 20', 'out Captain 10000', 'in Captain 45'],
    ],
    [
      'pay that some say in words',
      'jobs:\n  warden: { pay: none }\n  potter: { pay: 7 }\n  miner: { pay: 5 marks }\n',
      ['in potter 7', 'in miner 5'],
    ],
    ['a command among gifts', 'vote:\n  rewards:\n    - money give {player} 250\n    - give {player} clay 10\n', ['in vote 250']],
    [
      'names in a list that are no items',
      'crew:\n  - { name: eel, price: 5 }\n  - { name: Bosun, price: 9 }\n',
      ['out eel 5', 'out Bosun 9'],
    ],
    ['tolls', 'tolls:\n  bridge: 3\n  lock: 4\n', ['out bridge 3', 'out lock 4']],
    ['what the dead lose', 'death:\n  money-penalty: 20\n', ['out money-penalty 20']],
    ['a part of what the dead have', 'death:\n  lose-money-percent: 10\n', ['out lose-money-percent 0.1 of balance']],
    ['a tax in a text', 'trade:\n  sales-tax: 5%\n', ['out sales-tax 0.05 of price']],
    ['a tax of a hundred by its name', 'auction:\n  tax-percent: 5\n', ['out auction 0.05 of price']],
    ['a fee of a hundred', 'auction:\n  fee-percentage: 2.5\n', ['out auction 0.025 of price']],
    ['interest by its section', 'bank:\n  interest:\n    rate: 2.5\n    max: 1000\n', ['in bank 0.025 of balance']],
    ['interest as a part', 'interest_rate: 0.015\n', ['in interest_rate 0.015 of balance']],
    ['interest that is off', 'bank:\n  enabled: false\n  interest: 0.02\n', []],
    [
      'pay for what is done with items',
      'jobs:\n  potter:\n    break:\n      clay: { income: 2, experience: 1 }\n      reed: { income: 3, experience: 1 }\n',
      ['in break clay 2', 'in break reed 3'],
    ],
    ['a list of pay by items', 'income:\n  clay: 2\n  reed: 3\n', ['in clay 2', 'in reed 3']],
  ])('%s', (_what, text, expected) => expect(streams(gathered('A/a.yml', text))).toEqual(expected))

  it.each<[string, string, number | null]>([
    ['a paycheck each hour', 'paycheck:\n  amount: 50\n  interval-minutes: 60\n', 3600],
    ['interest each day, in words', 'bank:\n  interest:\n    rate: 2.5\n    interval: 24h\n', 86_400],
    ['pay of ranks, for all', 'ranks:\n  mate: { paycheck: 20 }\n  bosun: { paycheck: 45 }\npaycheck-interval: 30m\n', 1800],
    ['pay by another word for it', 'paycheckMinutes: 15\nranks:\n  a: { salary: 20 }\n  b: { salary: 45 }\n', 900],
    ['pay of ranks, in general settings', 'settings:\n  salary-interval: 2h\nranks:\n  a: { salary: 20 }\n  b: { salary: 45 }\n', 7200],
    ['a gift of each day', 'gifts:\n  daily:\n    money: 20\n  weekly:\n    money: 50\n', 86_400],
    ['days that only some have', 'streak:\n  day-3: { money: 20 }\n  day-30: { money: 90 }\n', 30 * 86_400],
    ['levels are no days', 'levels:\n  1: { money: 20 }\n  2: { money: 90 }\n', null],
    ['another time is not of it', 'ranks:\n  a: { salary: 20 }\n  b: { salary: 45 }\nsave-interval: 5m\nrent-interval: 2h\n', null],
    ['upkeep by its name', 'claims:\n  upkeep-per-day: 5\n', 86_400],
    ['a weekly rent', 'houses:\n  small: { price: 500, rent-days: 7, rent: 20 }\n  big: { price: 500, rent-days: 7, rent: 20 }\n', null],
    ['what is given daily', 'rewards:\n  daily-bonus-money: 100\n', 86_400],
    [
      'a pause of the entry around the reward',
      'tasks:\n  a:\n    cooldown: 2h\n    reward: { money: 5 }\n  b:\n    cooldown: 2h\n    reward: { money: 7 }\n',
      7200,
    ],
    ['how often all is saved is no pause', 'accounts:\n  start-money: 5\n  money: 5\n  save-every: 60s\n', null],
  ])('%s', (_what, text, seconds) => expect(gathered('A/a.yml', text).streams[0]!.cooldown).toBe(seconds))

  it('of a calendar one comes each day, or week, and each again after all of them', () => {
    const shapes = fc.constantFrom<readonly [seconds: number, write: (days: number, pay: number) => Data]>(
      [86_400, (days, pay) => ({ login: Object.fromEntries(upTo(days).map((day) => [`day-${day}`, { money: pay + day }])) })],
      [86_400, (days, pay) => ({ streak: Object.fromEntries(upTo(days).map((day) => [`Day ${day}`, { reward: { money: pay + day } }])) })],
      [86_400, (days, pay) => ({ daily: upTo(days).map((day) => ({ coins: pay + day })) })],
      [604_800, (days, pay) => ({ 'weekly-gifts': Object.fromEntries(upTo(days).map((week) => [`${week}`, { money: pay + week }])) })],
    )
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 31 }), amount, shapes, ending, (days, pay, [seconds, write], format) => {
        const text = WRITE[format](write(days, pay))
        const { streams } = gathered(`Gifts/a.${format}`, text)
        expect(
          streams.map((stream) => stream.amount).sort((a, b) => a - b),
          text,
        ).toEqual(upTo(days).map((day) => pay + day))
        expect(streams.map(({ cooldown }) => cooldown)).toEqual(upTo(days).map(() => days * seconds))
      }),
      { numRuns: 60 },
    )
  })

  it('a weekly rent comes round with its own days', () => {
    const text = 'houses:\n  small: { rent: 20, rent-days: 7 }\n  big: { rent: 50, rent-days: 14 }\n'
    expect(gathered('A/a.yml', text).streams.map(({ cooldown }) => cooldown)).toEqual([604_800, 1_209_600])
  })
})

describe('numbers that are no money', () => {
  it.each([
    ...['max-money', 'min-balance', 'max-price', 'money-decimals', 'price-decimals', 'buy-limit', 'sell-limit', 'xp-cost', 'mana-cost'],
    ...['reward-count', 'cost-multiplier', 'rent-limit', 'starting-level', 'default-rows', 'shop-rows', 'coin-slot', 'level-reward'],
    ...['limit', 'times', 'slot', 'count'],
    ...['tax-slot', 'experience-reward', 'energy-price', 'interest-limit', 'payout-count'],
  ])('%s', (name) => {
    const text = `title: x\n${name}: 20\nstall:\n  ${name}: 20\n  other: 3\npaid:\n  payouts:\n    ${name}: 20\n    others: three\n`
    expect(inferRules(parse(text, 'yaml', UNSAID), LISTS).filter(({ role }) => role !== undefined)).toEqual([])
  })
})

it.each(['need', 'worth', 'value', 'bonus'])('%s alone says nothing of money', (name) => {
  const text = `stall:\n  ${name}: 20\n  other: three\n`
  expect(inferRules(parse(text, 'yaml', UNSAID), LISTS).filter(({ role }) => role !== undefined)).toEqual([])
})

describe('money that commands move', () => {
  const player = fc.constantFrom('{player}', '%{player}', '<player>', '%player_name%', '@p')
  it('is what they say, and what stands around it is kept', () => {
    const words = fc.constantFrom(['money', 'give'], ['economy', 'add'], ['coins', 'grant'], ['/bank', 'deposit'])
    const taking = fc.constantFrom(['money', 'take'], ['economy', 'remove'], ['bank', 'withdraw'])
    fc.assert(
      fc.property(words, taking, player, amount, amount, ending, (give, take, who, more, less, format) => {
        const commands = [
          `${give.join(' ')} ${who} ${more}`,
          `give ${who} clay 16`,
          `${take.join(' ')} ${who} ${less} silent`,
          `say ${who} has 5`,
        ]
        const text = WRITE[format]({ rewards: { angler: { title: 'Angler', commands } } })
        const facts = gathered(`Tasks/a.${format}`, text)
        expect(streams(facts), text).toEqual([`in angler ${more}`, `out angler ${less}`])
        for (const { around, says } of facts.streams) expect(commands).toContain(`${around!.before}${says}${around!.after}`)
      }),
      { numRuns: 60 },
    )
  })
  it('by the name of the plugin that keeps it counts where it is there', () => {
    const tasks = 'rewards:\n  angler:\n    commands: ["tidechest pay {player} 30", "kit give {player} 5"]\n'
    const file = (path: string, text: string) =>
      workspaceFile({ path, plugin: path.split('/')[0]!, text, factory: text, reading: UNSAID, known: LISTS })!
    const all = [file('Tasks/a.yml', tasks), file('Tidechest/a.yml', 'accounts:\n  starting-balance: 10\n')]
    const facts = (files: typeof all) => files.map((one) => factsOf(workspaceOf(files, null, [], NO_KNOWLEDGE), one))
    expect(streams(economyFacts(facts(all)))).toEqual(['in angler 30', 'in starting-balance 10 once'])
    expect(streams(economyFacts(facts(all.slice(0, 1))))).toEqual([])
  })
})

describe('a pause for all entries', () => {
  it.each<[string, string, number | null]>([
    [
      'in a section of rules',
      'rules:\n  # hours until it can be done again\n  again-after: 20\ntasks:\n  a: { marks: 5 }\n  b: { marks: 7 }\n',
      72_000,
    ],
    ['around them', 'jobs:\n  cooldown: 2h\n  list:\n    a: { salary: 5 }\n    b: { salary: 7 }\n', 7200],
    ['of the whole file', 'cooldown: 30m\ntasks:\n  a: { coins: 5 }\n  b: { coins: 7 }\n', 1800],
    ['its own counts before', 'cooldown: 30m\ntasks:\n  a: { coins: 5, cooldown: 10m }\n  b: { coins: 7, cooldown: 20m }\n', 600],
    ['of something else is none', 'menu:\n  cooldown: 2s\ntasks:\n  a: { coins: 5 }\n  b: { coins: 7 }\n', null],
    ['what stands alone has none of it', 'settings:\n  cooldown: 30m\npaid:\n  coins: 5\n', null],
  ])('%s', (_what, text, seconds) => expect(gathered('A/a.yml', text).streams[0]!.cooldown).toBe(seconds))

  it('is that of what is asked for, too', () => {
    const text =
      'rules:\n  # hours until it can be done again\n  again-after: 2\ntasks:\n  a: { need: [clay 4, eel 2], marks: 5 }\n  b: { need: [reed 4, eel 2], marks: 7 }\n'
    expect(gathered('A/a.yml', text).deals.map(({ cooldown, hasPause }) => [cooldown, hasPause])).toEqual([
      [7200, true],
      [7200, true],
    ])
  })
})

describe('what may be money, and nothing says so of', () => {
  const maybe = (text: string): string[] =>
    gathered('A/a.yml', text).maybe.map(({ path, name, count, values }) => `${path} ${name} ×${count}: ${values.join(', ')}`)

  it.each<[string, string, string[]]>([
    [
      'in entries, once for all',
      'jobs:\n  a: { bonus: 4 }\n  b: { bonus: 6 }\n  c: { bonus: 7 }\n  d: { bonus: 9 }\n',
      ['/jobs/*/bonus bonus ×4: 4, 6, 7'],
    ],
    ['by itself', 'door:\n  deposit: 9\n', ['/door/deposit deposit ×1: 9']],
    ['nothing that is known', 'jobs:\n  a: { salary: 4 }\n  b: { salary: 6 }\n', []],
    ['nothing that is something else', 'door:\n  xp-bonus: 4\n  max-deposit: 9\n  deposit: many\n  bonus: 0\n', []],
  ])('%s', (_what, text, expected) => expect(maybe(text)).toEqual(expected))

  it('is no more where somebody said what it is, or that it is a mere number', () => {
    const text = 'jobs:\n  a: { bonus: 4 }\n  b: { bonus: 6 }\ndoor:\n  deposit: 9\n'
    const file = workspaceFile({
      path: 'A/a.yml',
      plugin: 'A',
      text,
      factory: text,
      reading: UNSAID,
      known: LISTS,
      rules: [
        { path: '/jobs/*/bonus', source: 'yours', role: 'payout' },
        { path: '/door/deposit', source: 'yours', means: 'number' },
      ],
    })!
    const facts = economyFacts([factsOf(workspaceOf([file], null, [], NO_KNOWLEDGE), file)])
    expect([facts.maybe, streams(facts)]).toEqual([[], ['in a 4', 'in b 6']])
  })
})
