import { describe, expect, it } from 'vitest'
import { NOTHING_SEEN, economyFacts, reckonedOf, type Assumed, type EconomyFacts } from '../src/economy'
import { gathered } from './economy-written'

/* A small town whose numbers are worked out by hand: ten players of 2.4 hours a day, so that one is there at any hour. */

const TOWN = (pay: number): string => `accounts:
  starting-balance: 100
jobs:
  potter: { salary: ${pay} }
  ferryman: { salary: 8 }
stalls:
  rope: { buy: 10, sell: 4 }
  eel: { buy: 6, sell: 9 }
tax: 10%
berths:
  small: { price: 40 }
  large: { price: 100 }
pits:
  clay: { item: rope, weight: 3, amount: 2 }
  eels: { item: eel, weight: 1, amount: 4 }
kits:
  angler: { items: [rope 2, eel 3], price: 20, cooldown: 1h }
  other: { items: [eel 1, rope 1], price: 9, cooldown: 1h }
`
const PATH = 'Town/a.yml'
const at = (pointer: string): string => `${PATH}#${pointer}`
const POTTER = at('/jobs/potter/salary')
const SMALL = at('/berths/small/price')
const ASSUMED: Assumed = {
  kinds: [{ id: 'all', name: 'All', like: 'regular', players: 10, hours: 2.4 }],
  rates: {
    [POTTER]: { all: 6 },
    [at('/jobs/ferryman/salary')]: { all: 2 },
    [SMALL]: { all: 0.5 },
    [at('/berths/large/price')]: { all: 0 },
    [at('/kits/angler/price')]: { all: 0 },
    [at('/kits/other/price')]: { all: 0 },
    'loop eel': { all: 1 },
    'buys Town': { all: 0 },
    'sells Town': { all: 0 },
  },
  goals: null,
}
const reckon = (facts: EconomyFacts, before: EconomyFacts | null = null) =>
  reckonedOf({
    facts,
    standing: before && { plugins: ['Town'], facts: before },
    kinds: { rope: 'ropes', eel: 'fish' },
    assumed: ASSUMED,
    seen: NOTHING_SEEN,
  })

describe('all that is reckoned of an economy, as scripts have it', () => {
  const town = reckon(gathered(PATH, TOWN(5)))
  const streamOf = (name: string, all = town) => all.flow.streams.find((stream) => stream.name === name)

  it('has the people with what they do, and where each number comes from', () => {
    const [all] = town.people
    expect([all!.players, all!.hours, all!.online, all!.from]).toEqual([10, 2.4, 1, { players: 'typed', hours: 'typed' }])
    expect([all!.rates[POTTER], all!.rates['loop eel']]).toEqual([6, 1])
  })
  it('has money an hour, of each stream and in all', () => {
    // 6 × 5 and 2 × 8 come in, and the loop's 3; half a berth of 40 goes out, with a tenth on top
    expect([streamOf('potter')!.today, streamOf('ferryman')!.today, streamOf('eel')!.today]).toEqual([30, 16, 3])
    expect(streamOf('small')!.today).toBe(20)
    expect(town.flow.streams.find(({ doing, activity }) => doing === 'tax' && activity === SMALL)!.today).toBeCloseTo(2, 9)
    expect([town.flow.today.comesIn, town.flow.today.goesOut, town.flow.today.stays].map((sum) => Number(sum.toFixed(9)))).toEqual([
      49, 22, 27,
    ])
    expect(town.flow.draft).toEqual(town.flow.today)
  })
  it('has prices with what one costs and brings, and loops with what ends them', () => {
    const rows = Object.fromEntries(town.prices.map((row) => [row.item, row]))
    expect(rows['rope']).toMatchObject({ category: 'ropes', spread: 6, margin: 0.6, loop: null })
    expect(rows['rope']!.buys.map(({ each, pointer }) => [each, pointer])).toEqual([[10, '/stalls/rope/buy']])
    const { loop } = rows['eel']!
    // bought for 6, sold for 9, at least 15 seconds each time
    expect([loop!.gainARound, loop!.seconds, loop!.gainAnHour]).toEqual([3, 15, 720])
    for (const { pointer, amount, gainARound } of loop!.mends) {
      expect(['/stalls/eel/buy', '/stalls/eel/sell']).toContain(pointer)
      expect(amount).toBe(pointer.endsWith('buy') ? 9 : 6)
      expect(gainARound).toBeLessThanOrEqual(0)
    }
  })
  it('has tables with true chances and what a draw is worth', () => {
    const [pits] = town.tables
    expect(pits!.outcomes.map(({ name, chance, count }) => [name, chance, count])).toEqual([
      ['rope', 0.75, 1.5],
      ['eel', 0.25, 1],
    ])
    // one and a half ropes at 4, and an eel at 9
    expect(pits!.worth).toBeCloseTo(1.5 * 4 + 9, 9)
  })
  it('has bundles as the sum of what is in them', () => {
    const angler = town.deals.find(({ name }) => name === 'angler')!
    expect([angler.brings, angler.costs, angler.gain, angler.gainAnHour]).toEqual([2 * 4 + 3 * 9, 2 * 10 + 3 * 6, 15, 15])
  })
  it('tells what a tenth more of each setting changes', () => {
    const change = (pointer: string): number => Number(town.movers.find((mover) => mover.pointer === pointer)!.change.toFixed(9))
    expect([change('/jobs/potter/salary'), change('/jobs/ferryman/salary')]).toEqual([3, 1.6])
    // a price takes its tax along
    expect(change('/berths/small/price')).toBe(-2.2)
    expect(change('/tax')).toBe(-0.2)
  })
  it('has today’s and the draft’s where they differ', () => {
    const both = reckon(gathered(PATH, TOWN(7)), gathered(PATH, TOWN(5)))
    expect([streamOf('potter', both)!.today, streamOf('potter', both)!.draft]).toEqual([30, 42])
    expect(both.flow.draft.stays - both.flow.today.stays).toBeCloseTo(12, 9)
  })
  it('has nothing of nothing, and can be sent', () => {
    const none = reckon(economyFacts([]))
    expect([none.prices, none.tables, none.deals, none.flow.today]).toEqual([[], [], [], { comesIn: 0, goesOut: 0, stays: 0 }])
    expect(JSON.parse(JSON.stringify(town))).toEqual(town)
  })
})
