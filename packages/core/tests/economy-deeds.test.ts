import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { economyFacts, economyOf, fitKinds, NOTHING_ASSUMED, NOTHING_SEEN, type EconomyFacts } from '../src/economy'
import { ITEMS, WRITE, ending, factsFor, gathered, offers, type Data } from './economy-written'

/* What players do for money, and what tables pay, written as authors write it; what has to come of it is known from how it was made. */

const amount = fc.integer({ min: 1, max: 400 })
const said = ({ streams }: EconomyFacts): string[] => streams.map(({ way, name, amount: is }) => `${way} ${name} ${is}`)
const act = fc.constantFrom('break', 'kill', 'craft', 'catch', 'mining', 'fishing', 'harvest', 'smelt')
const items = fc.uniqueArray(fc.constantFrom(...ITEMS), { minLength: 1, maxLength: 5 })

describe('what is done with items for money', () => {
  const acts = fc.uniqueArray(fc.tuple(act, items, amount), { minLength: 1, maxLength: 4, selector: ([name]) => name })
  const shape = fc.constantFrom<(pay: number) => Data>(
    (pay) => pay,
    (pay) => ({ money: pay }),
    (pay) => ({ pay, xp: 5 }),
  )

  it('is paid for by what is done and with what, and sells nothing', () => {
    fc.assert(
      fc.property(acts, shape, fc.constantFrom('pay', 'income', 'money-for', 'wages'), ending, (all, entry, section, format) => {
        const list = all.map(([name, of, pay]) => [name, Object.fromEntries(of.map((item, i) => [item, entry(pay + i)]))] as const)
        const text = WRITE[format]({ [section]: Object.fromEntries(list) })
        const facts = gathered(`Guilds/a.${format}`, text)
        expect(said(facts), text).toEqual(all.flatMap(([name, of, pay]) => of.map((item, i) => `in ${name} ${item} ${pay + i}`)))
        expect(offers(facts), text).toEqual([])
      }),
      { numRuns: 120 },
    )
  })

  it('is sold where the section around it sells, by categories or not', () => {
    const dealt = (data: Data): string[] => offers(gathered('Stalls/a.yml', WRITE.yml(data)))
    const goods = { fish: { eel: 4, reed: 2 }, mining: { clay: 1, rope: 3 } }
    expect(dealt({ sell: goods })).toEqual(['sell 1 clay for 1', 'sell 1 eel for 4', 'sell 1 reed for 2', 'sell 1 rope for 3'])
    expect(dealt({ shop: { buy: goods } })).toEqual(['buy 1 clay for 1', 'buy 1 eel for 4', 'buy 1 reed for 2', 'buy 1 rope for 3'])
    // what comes for a price is counted there
    expect(dealt({ buy: { items: { eel: 4, rope: 2 }, gifts: { clay: 1, net: 2 } } })).toEqual([])
  })
})

describe('tables that pay', () => {
  const outcomes = fc.array(fc.tuple(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 0, max: 300 })), { minLength: 2, maxLength: 6 })
  const shape = fc.constantFrom<(chance: Data, payout: number) => Data>(
    (chance, payout) => ({ ...(chance as object), payout }),
    (chance, payout) => ({ reward: { money: payout }, ...(chance as object) }),
  )
  /** What a draw pays on average, by all that was gathered. */
  const paid = (facts: EconomyFacts): number => economyOf(facts).streams.reduce((sum, stream) => sum + stream.amount * stream.chance, 0)

  it('pay one of what they draw each time, by weights', () => {
    fc.assert(
      fc.property(outcomes, shape, fc.boolean(), ending, (list, entry, isList, format) => {
        const entries = list.map(([weight, payout], i) => [`prize_${i}`, entry({ weight }, payout)] as const)
        const data = isList ? entries.map(([name, one]) => ({ name, ...(one as object) })) : Object.fromEntries(entries)
        const text = WRITE[format]({ wheel: data })
        const facts = gathered(`Fair/a.${format}`, text)
        const all = list.reduce((sum, [weight]) => sum + weight, 0)
        const mean = list.reduce((sum, [weight, payout]) => sum + (weight / all) * payout, 0)
        expect(paid(facts), text).toBeCloseTo(mean, 9)
        const deeds = new Set(economyOf(facts).streams.map(({ activity, deed }) => `${activity} ${deed}`))
        expect([...deeds], text).toEqual(mean > 0 ? [`Fair/a.${format}#/wheel wheel`] : [])
      }),
      { numRuns: 120 },
    )
  })

  it('of chances pay one each time where these are all there is, and else each by itself', () => {
    const of = (chances: readonly number[]): ReturnType<typeof economyOf>['streams'] =>
      economyOf(gathered('Fair/a.yml', WRITE.yml({ bells: chances.map((chance, i) => ({ name: `b${i}`, chance, payout: 100 })) }))).streams
    expect(of([2, 10, 88]).map(({ chance, deed }) => [chance, deed])).toEqual([0.02, 0.1, 0.88].map((chance) => [chance, 'bells']))
    expect(of([2, 10]).map(({ chance, deed }) => [chance, deed])).toEqual([
      [0.02, 'b0'],
      [0.1, 'b1'],
    ])
  })

  it('are drawn from as often as a deed that pays the same', () => {
    const rates = (data: Data): number[][] => {
      const economy = economyOf(gathered('Fair/a.yml', WRITE.yml(data)))
      return fitKinds(economy, economy.streams, NOTHING_ASSUMED, NOTHING_SEEN).map(({ rates: of }) =>
        Object.values(of).map(({ value }) => value),
      )
    }
    const deed = { payouts: { haul: 8, dig: 8 } }
    const wheel = [
      { name: 'much', weight: 1, payout: 800 },
      { name: 'none', weight: 99, payout: 0 },
    ]
    expect(rates({ ...deed, wheel })).toEqual(rates({ ...deed, wheel: [{ name: 'all', payout: 8 }] }))
  })

  it('bring money by commands, and one thing by a line', () => {
    const text = WRITE.yml({
      crates: {
        common: {
          rewards: {
            1: { chance: 25, commands: ['money give {player} 100', 'say {player} won'] },
            2: { chance: 70, items: ['clay 32'] },
            3: { chance: 5, commands: ['satchel add {player} 2500'] },
          },
        },
      },
    })
    const satchel = factsFor('Satchel/a.yml', 'start-balance: 5\n')
    const { draws, streams } = economyFacts([satchel, factsFor('Crates/a.yml', text)])
    expect(draws[0]!.entries.map(({ name, count, money }) => [name, count, money])).toEqual([
      ['1', 1, 100],
      ['clay', 32, null],
      ['3', 1, 2500],
    ])
    expect([draws[0]!.isOne, streams.map(({ name }) => name)]).toEqual([true, ['start-balance', 'common 1', 'common 3']])
    // nobody keeps money who is called so
    expect(economyFacts([factsFor('Crates/a.yml', text)]).draws[0]!.entries[2]!.money).toBeNull()
  })

  it('know what comes by the list of the server, whatever the setting is called', () => {
    const data = { catch: ['eel', 'clay'].map((fish, i) => ({ fish, weight: 40 - i, icon: 'rope' })) }
    expect(gathered('Nets/a.yml', WRITE.yml(data)).draws.map(({ entries }) => entries.map(({ name }) => name))).toEqual([['eel', 'clay']])
    // an order, and no draw
    expect(gathered('Nets/a.yml', WRITE.yml({ ranks: { a: { weight: 10, icon: 'rope' }, b: { weight: 20, icon: 'eel' } } })).draws).toEqual(
      [],
    )
  })
})

const DAY = 86_400
describe('how often something is paid', () => {
  it.each<[what: string, data: Data, cooldowns: readonly (number | null)[]]>([
    ['a wait in words', { quests: { dig: { reward: { marks: 5 }, wait: '12h' } } }, [DAY / 2]],
    [
      'what is done but once',
      { quests: { dig: { reward: { marks: 5 }, once: true }, sow: { reward: { marks: 5 }, once: false } } },
      [30 * DAY, null],
    ],
    ['what does not repeat', { quests: { dig: { reward: { marks: 5 }, repeatable: false } } }, [30 * DAY]],
    ['a pause beside it counts for more', { quests: { dig: { reward: { marks: 5 }, once: true, cooldown: '1h' } } }, [3600]],
    ['how often of all wages around', { interval: '1h', tiers: { low: { interest: '0.5%' }, high: { interest: '0.8%' } } }, [3600, 3600]],
    ['how often beside a fee', { claim: { upkeep: { 'per-plot': 2, every: '1d' } } }, [DAY]],
    ['the delay of a kit', { kits: { angler: { delay: 3600, price: 5 }, miner: { delay: -1, price: 9 } } }, [3600, 30 * DAY]],
    ['a delay before something', { warps: { delay: 5, fee: 3 } }, [null]],
    ['a tax that comes round', { tax: { rate: 0.05, interval: '24h' } }, [DAY]],
    ['of nothing else', { interval: '1h', boats: { skiff: { price: 2 }, punt: { price: 3 } } }, [null, null]],
  ])('%s: %j', (_what, data, cooldowns) => {
    expect(gathered('A/a.yml', WRITE.yml(data)).streams.map(({ cooldown }) => cooldown)).toEqual(cooldowns)
  })
})

describe('what is money', () => {
  it.each<[data: Data, streams: readonly string[]]>([
    [{ repair: { 'cost-per-durability': 0.5, minimum: 1, maximum: 90 } }, ['out cost-per-durability 0.5']],
    [{ enchant: { 'price-per-level': 40, 'xp-per-level': 3 } }, ['out price-per-level 40']],
    [{ 'mob-money': { eel: { min: 1, max: 5, chance: 50 } } }, ['in eel 1', 'in eel 5']],
    [{ coins: { gold: { value: 100, weight: 2 }, tin: { value: 1, weight: 1 } } }, []],
    [{ crafts: { potter: { dig: { clay: { income: 2 } }, smelt: { clay: { income: 4 } } } } }, ['in dig clay 2', 'in smelt clay 4']],
    [{ quests: { dig: { reward: { money: 5 } }, sow: { reward: { money: 6 } } } }, ['in dig 5', 'in sow 6']],
    [{ bounty: { minimum: 20, tax: 10 } }, []],
    [
      { levels: { 5: { rewards: ['money give {player} 100'] }, 10: { rewards: ['money give {player} 300'] } } },
      ['in levels 5 100', 'in levels 10 300'],
    ],
    [
      {
        routes: [
          { from: 'quay', to: 'isle', fare: 12 },
          { from: 'isle', to: 'quay', fare: 8 },
        ],
      },
      ['out routes 1 12', 'out routes 2 8'],
    ],
  ])('in %j is %j', (data, streams) => expect(said(gathered('A/a.yml', WRITE.yml(data)))).toEqual(streams))

  it('is what a comment says is paid to take part', () => {
    expect(said(gathered('A/a.yml', 'contest:\n  entry: 50 # in marks\n  seats: 8\n'))).toEqual(['out contest 50'])
    expect(said(gathered('A/a.yml', 'contest:\n  entry: 50\n  seats: 8\n'))).toEqual([])
  })

  it('may be prizes, which people are asked of', () => {
    const text = WRITE.yml({ contest: { prizes: { 1: 500, 2: 250, 3: 100 } } })
    expect(factsFor('A/a.yml', text).maybe.map(({ path, count }) => [path, count])).toEqual([['/contest/prizes/*', 3]])
  })
})
