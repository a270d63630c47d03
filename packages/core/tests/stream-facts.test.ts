import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { looksOf } from '../src/checks/looks'
import { moneyIn } from '../src/checks/money-facts'
import { drawsIn } from '../src/checks/draw-facts'
import { streamsIn } from '../src/checks/stream-facts'
import { workspaceFile, type WorkspaceFile } from '../src/checks/workspace'
import { chancesIn, offersOf, priceBook } from '../src/economy'
import { UNSAID } from '../src/formats/reading'

const fileOf = (path: string, text: string, known = {}): WorkspaceFile =>
  workspaceFile({ path, plugin: 'Purse', text, factory: text, reading: UNSAID, known })!
const shipped = (path: string): string => readFileSync(`packages/standin/demo/${path}`, 'utf8')
const streams = (path: string, text: string): string[] => {
  const file = fileOf(path, text)
  return streamsIn(file, looksOf(file)).map(({ name, way, amount, shareOf, isOnce, chance, cooldown, limit, most, from, to }) => {
    expect(Number(text.slice(from, to))).toBeCloseTo(text.slice(from, to).includes('.') || amount >= 1 ? amount : amount * 100, 9)
    const when = [isOnce && 'once', shareOf && `of ${shareOf}`, chance, cooldown, limit, most && `most ${most}`].filter(
      (one) => one !== false && one !== null,
    )
    return [way, amount, name, ...when].join(' ')
  })
}

describe('settings that move money by themselves', () => {
  it('are payouts, starting money, interest, prices of entries and fees, each with when', () => {
    expect(streams('settings.yml', shipped('purse-1.8/defaults/settings.yml'))).toEqual([
      'in 250 accounts once',
      'in 0.01 bank of balance most 50',
      'in 2 dig-clay',
      'in 1 cut-reed',
      'in 4 fire-kiln',
      'in 3 keep-bees',
      'in 5 run-ferry',
    ])
    // hampers are claimed again after so many minutes; what costs nothing moves nothing
    expect(streams('settings.yml', shipped('hampers-2.4/defaults/settings.yml'))).toEqual([
      'out 50 kilnkeeper 43200',
      'out 30 angler 21600',
      'out 120 mudlark 604800',
    ])
  })
  it.each<[string, string, string[]]>([
    [
      'a.json',
      '{ "errands": { "lamps": { "reward-money": 40, "cooldown": 600, "chance": 25, "limit": 3 }, "ropes": { "reward-money": 12, "chance": 0.5 } } }',
      ['in 40 lamps 0.25 600 3', 'in 12 ropes 0.5'],
    ],
    ['a.lua', 'return { passage = { price = 8 }, dock = { fee = 2 } }', ['out 8 passage', 'out 2 dock']],
    // no money, a share above one, and a limit of something else
    ['a.yml', 'pace: 4\ntax: 12\nlimit: 3\n', []],
    ['a.yml', 'market:\n  tax: 0.05\n', ['out 0.05 market of price']],
    ['a.yml', 'wealth:\n  # Taken of the balance each night.\n  tax: 0.02\n', ['out 0.02 wealth of balance']],
    ['a.yml', 'fair:\n  # Of the stake, 0-100%.\n  tax: 5\n', ['out 0.05 fair of price']],
  ])('%s %s', (path, text, expected) => expect(streams(path, text)).toEqual(expected))

  it('prices of items are left to the price book', () => {
    const text = '# What items cost, in marks.\nprices:\n  rope: 4\n  lamp: 12\n  clay: 2\n'
    const known = { items: new Set(['rope', 'lamp', 'clay']) }
    const file = fileOf('prices.yml', text, known)
    const looks = looksOf(file)
    expect(streamsIn(file, looks)).toEqual([])
    const facts = { path: 'prices.yml', plugin: 'Stallholder', ...moneyIn(file, looks) }
    expect(offersOf([facts]).map(({ item, way, amount }) => `${item} ${way} ${amount}`)).toEqual([
      'rope buy 4',
      'lamp buy 12',
      'clay buy 2',
    ])
  })
})

describe('offers of several files', () => {
  const ONE = { without: [], count: 1, soldCount: 1, cooldown: null }
  const money = (pointer: string, amount: number, more = {}) => ({
    pointer,
    from: 0,
    to: 1,
    amount,
    isShipped: false,
    shipped: null,
    currency: null,
    around: null,
    ...more,
  })
  const file = (plugin: string, more: Partial<Parameters<typeof offersOf>[0][number]>) => ({
    plugin,
    path: `${plugin}.yml`,
    goods: [],
    categories: [],
    resale: null,
    ...more,
  })
  it('say themselves what they cost, or their category does, or a share of the price is paid', () => {
    const stalls = file('Stalls', {
      goods: [
        { item: 'rope', category: null, costs: money('/rope/buy', 18), pays: null, ...ONE },
        { item: 'lamp', category: 'light', costs: null, pays: money('/lamp/sell', 3), ...ONE },
      ],
      categories: [{ item: 'light', category: null, costs: money('/light/buy', 9), pays: money('/light/sell', 2), ...ONE }],
      resale: money('/share', 0.5),
    })
    const errands = file('Errands', { goods: [{ item: 'rope', category: null, costs: null, pays: money('/rope', 22), ...ONE }] })
    const offers = offersOf([stalls, errands])
    expect(offers.map(({ item, way, amount, plugin, pointer }) => [item, way, amount, plugin, pointer])).toEqual([
      ['rope', 'buy', 18, 'Stalls', '/rope/buy'],
      ['rope', 'sell', 9, 'Stalls', '/rope/buy'],
      ['lamp', 'buy', 9, 'Stalls', '/light/buy'],
      ['lamp', 'sell', 3, 'Stalls', '/lamp/sell'],
      ['rope', 'sell', 22, 'Errands', '/rope'],
    ])
    expect(priceBook(offers).rows.map(({ item, loop, spread }) => [item, loop?.gain ?? null, spread])).toEqual([
      ['rope', 4, -4],
      ['lamp', null, 6],
    ])
  })
  it('a share above one counts as it was shipped', () => {
    const goods = [{ item: 'rope', category: null, costs: money('/rope', 10), pays: null, ...ONE }]
    const paid = (amount: number, was: number | null): number =>
      offersOf([file('Stalls', { goods, resale: money('/share', amount, { shipped: was }) })])[1]!.amount
    expect([paid(0.5, null), paid(5, 0.4), paid(5, null)]).toEqual([5, 4, 10])
  })
})

describe('tables that are drawn from', () => {
  it('are told with their weights, and what they come to', () => {
    const file = fileOf('settings.yml', shipped('clayworks-1.2/defaults/settings.yml'))
    const draws = drawsIn(file, looksOf(file))
    expect(draws.map(({ name, pointer, entries }) => [name, pointer, entries.map(({ weight }) => weight)])).toEqual([
      ['low-bank yields', '/pits/low-bank/yields', [80, 12, 6, 2]],
      ['weir yields', '/pits/weir/yields', [50, 30, 15, 5]],
      ['kiln yields', '/pits/kiln/yields', [60, 25, 10, 5]],
    ])
    const tables = Object.fromEntries(draws.map(({ pointer, entries }) => [pointer, entries]))
    expect(chancesIn(tables, '/pits/weir/yields').get('crayfish')).toBe(0.15)
  })
})
