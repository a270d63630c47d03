import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { stringify } from 'yaml'
import { economyFacts, economyOf, mendsOf, movedByAll, type Kind } from '../src/economy'
import { amountsInText } from '../src/rules/money-text'
import { ITEMS, WRITE, ending, factsFor, gathered, offers } from './economy-written'

/* Money that authors write as texts: in quotes, with its sign or its name, shortened, and from one amount to another. */

const amount = fc.integer({ min: 2, max: 9000 })
/** Ways to write an amount as a text. */
const written = fc.constantFrom<(amount: number) => string>(
  (one) => `${one}`,
  (one) => `$${one}`,
  (one) => `${one}€`,
  (one) => `${one} marks`,
  (one) => `${one} Coins`,
  (one) => one.toLocaleString('en-US'),
  (one) => `£ ${one.toLocaleString('en-US')}`,
  (one) => `${one / 1000}k`,
)
const between = fc.constantFrom('-', ' - ', '–', '..', ' to ', '~')

describe('amounts of money in texts', () => {
  it.each<[text: string, amounts: readonly number[]]>([
    ['250', [250]],
    ['$1,250.50', [1250.5]],
    ['10k', [10_000]],
    ['2.5M', [2_500_000]],
    ['40 marks', [40]],
    ['5-10', [5, 10]],
    ['$5 - $10', [5, 10]],
    ['1,000 to 2,000 coins', [1000, 2000]],
    ['10-5', []],
    ['5-10%', []],
    ['5%', []],
    ['10 clay', []],
    ['4 levels', []],
    ['10 km', []],
    ['5m 30s', []],
    ['1.2.3', []],
    ['12:30', []],
    ['1,5', []],
    ['-5', []],
    ['{price}', []],
    ['costs 5 marks', []],
    ['', []],
  ])('%j', (text, amounts) => {
    expect(amountsInText(text).map((one) => one.amount)).toEqual(amounts)
  })

  it('are there again with another amount in their place, and nothing else is', () => {
    const letters = (text: string): string => text.replace(/[\d.,]+k?/, '#')
    fc.assert(
      fc.property(amount, written, amount, (one, write, other) => {
        const [found] = amountsInText(write(one))
        expect(found!.amount).toBe(one)
        const text = `${found!.before}${other}${found!.after}`
        expect(amountsInText(text).map((next) => next.amount)).toEqual([other])
        expect(letters(text)).toBe(letters(write(one)))
      }),
    )
  })

  it('are prices like numbers', () => {
    const goods = fc.uniqueArray(fc.constantFrom(...ITEMS), { minLength: 2, maxLength: 5 })
    fc.assert(
      fc.property(goods, amount, written, ending, fc.boolean(), (items, first, write, format, areLists) => {
        const prices = items.map((item, i) => [item, write(first + i), write(first + 100 + i)] as const)
        const data = areLists
          ? {
              'sell-prices': Object.fromEntries(prices.map(([item, sell]) => [item, sell])),
              'buy-prices': Object.fromEntries(prices.map(([item, , buy]) => [item, buy])),
            }
          : { shop: Object.fromEntries(prices.map(([item, sell, buy]) => [item, { buy, sell, 'buy-message': 'It costs 5 marks' }])) }
        const text = WRITE[format](data)
        const expected = items.flatMap((item, i) => [`sell 1 ${item} for ${first + i}`, `buy 1 ${item} for ${first + 100 + i}`]).sort()
        expect(offers(gathered(`Shop/a.${format}`, text)), text).toEqual(expected)
      }),
      { numRuns: 120 },
    )
  })

  it('from one to another are one deed, paid by the middle of both', () => {
    fc.assert(
      fc.property(amount, amount, between, ending, fc.integer({ min: 1, max: 20 }), (least, more, sign, format, often) => {
        const text = WRITE[format]({ jobs: { miner: { pay: `${least}${sign}${least + more}` }, potter: { pay: 7 } } })
        const { streams } = economyOf(gathered(`Jobs/a.${format}`, text))
        const [own, other] = [true, false].map((isOwn) => streams.filter(({ name }) => (name === 'miner') === isOwn))
        expect(other).toHaveLength(1)
        expect(new Set(own!.map(({ activity }) => activity)).size).toBe(1)
        expect(new Set(own!.map(({ id }) => id)).size).toBe(2)
        const kinds: Kind[] = [{ name: 'all', players: 24, hours: 1, joins: 0, balance: 0, rates: { [own![0]!.activity]: often } }]
        expect(own!.reduce((sum, stream) => sum + movedByAll(stream, kinds), 0)).toBeCloseTo((least + more / 2) * often, 6)
      }),
      { numRuns: 80 },
    )
  })

  it('come out of a draw by the middle of both', () => {
    const text = stringify({
      prizes: [
        { chance: 40, money: '10-30' },
        { chance: 5, item: 'eel' },
      ],
    })
    expect(gathered('Fair/a.yml', text).draws[0]?.entries.map(({ money }) => money)).toEqual([20, null])
  })
})

describe('a loop over two kinds of money', () => {
  it('ends with either of its mends, each in the money of its own setting', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 40 }),
        fc.integer({ min: 2, max: 500 }),
        fc.integer({ min: 1, max: 900 }),
        (rate, pearls, more) => {
          const texts = (costs: number, pays: number): string[] => [
            `stalls:\n  - { item: eel, price: ${costs}, currency: pearls }\n  - { item: net, price: 3, currency: pearls }\n`,
            `shop:\n  eel: { sell: ${pays} }\n  clay: { sell: 1 }\n  reed: { sell: 1 }\n`,
            `exchange:\n  pearls: ${rate}\n`,
          ]
          const loopOf = (costs: number, pays: number) => {
            const facts = economyFacts(texts(costs, pays).map((text, i) => factsFor(`P${i}/a.yml`, text)))
            return economyOf(facts).book.rows.find(({ item }) => item === 'eel')!.loop
          }
          const pays = pearls * rate + more
          const mends = mendsOf(loopOf(pearls, pays)!)
          expect(mends.map(({ file }) => file)).toEqual(['P0/a.yml', 'P1/a.yml'])
          expect(loopOf(mends[0]!.amount, pays)).toBeNull()
          expect(loopOf(pearls, mends[1]!.amount)).toBeNull()
          // no more than it takes
          expect(loopOf(mends[0]!.amount - 1, pays)).not.toBeNull()
          expect(loopOf(pearls, mends[1]!.amount + 1)).not.toBeNull()
        },
      ),
      { numRuns: 60 },
    )
  })
})
