import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  EndlessDraw,
  boxOf,
  chancesIn,
  flowOf,
  hoursToAfford,
  isFar,
  mendsOf,
  movedBy,
  priceBook,
  quantile,
  randomFrom,
  drawShares,
  simulate,
  timesAnHour,
  triesUntil,
  unitPrice,
  valueFor,
  type Kind,
  type Offer,
  type Plan,
  type Stream,
} from '../src/economy'

const stream = (id: string, way: Stream['way'], amount: number, more: Partial<Stream> = {}): Stream => ({
  id,
  activity: id,
  way,
  amount,
  isShare: false,
  most: null,
  chance: 1,
  cooldown: null,
  limit: null,
  isOnce: false,
  ...more,
})
const kind = (name: string, players: number, hours: number, rates: Record<string, number>, more: Partial<Kind> = {}): Kind => ({
  name,
  players,
  hours,
  joins: 0,
  balance: 0,
  rates,
  ...more,
})

describe('chances', () => {
  it('are weights over their sum', () => {
    expect(
      drawShares([
        { name: 'clay', weight: 6 },
        { name: 'eel', weight: 3 },
        { name: 'bell', weight: 1 },
      ]).map(({ share }) => share),
    ).toEqual([0.6, 0.3, 0.1])
    expect(
      drawShares([
        { name: 'a', weight: 0 },
        { name: 'b', weight: 0 },
      ]).map(({ share }) => share),
    ).toEqual([0, 0])
    expect(
      drawShares([
        { name: 'a', weight: -2 },
        { name: 'b', weight: 4 },
      ]).map(({ share }) => share),
    ).toEqual([0, 1])
    expect(drawShares([])).toEqual([])
  })
  it('of tables in tables are the products of their shares, added up over all ways', () => {
    const tables = {
      pit: [
        { name: 'clay', weight: 3 },
        { name: 'rare', weight: 1 },
      ],
      rare: [
        { name: 'bell', weight: 1 },
        { name: 'clay', weight: 1 },
        { name: 'deep', weight: 2 },
      ],
      deep: [{ name: 'pearl', weight: 1 }],
    }
    // clay: 3/4 + 1/4 · 1/4; bell: 1/4 · 1/4; pearl: 1/4 · 2/4
    expect([...chancesIn(tables, 'pit')]).toEqual([
      ['clay', 0.8125],
      ['bell', 0.0625],
      ['pearl', 0.125],
    ])
    expect([...chancesIn(tables, 'nothing')]).toEqual([])
  })
  it('of a table that leads back to itself are told, not drawn for ever', () => {
    const round = {
      a: [{ name: 'b', weight: 1 }],
      b: [
        { name: 'x', weight: 1 },
        { name: 'a', weight: 1 },
      ],
    }
    expect(() => chancesIn(round, 'a')).toThrow(EndlessDraw)
    expect(() => chancesIn(round, 'a')).toThrow('a → b → a')
    // what is never drawn leads nowhere
    expect([
      ...chancesIn(
        {
          a: [
            { name: 'x', weight: 1 },
            { name: 'a', weight: 0 },
          ],
        },
        'a',
      ),
    ]).toEqual([['x', 1]])
  })
  it.each<[number, number, number | null]>([
    // 1 − 0.5⁴ = 0.9375
    [0.5, 0.9, 4],
    // 1 − 0.9²² = 0.9015, 1 − 0.9²¹ = 0.8906
    [0.1, 0.9, 22],
    [0.01, 0.9, 230],
    // 1 − 0.25² = 0.9375 exactly
    [0.75, 0.9375, 2],
    [0.5, 0.5, 1],
    [1, 0.9, 1],
    [0, 0.9, null],
    [0.5, 1, null],
    [0.5, 0, 0],
  ])('a chance of %d is had in %d of cases after %s tries', (chance, sure, tries) => expect(triesUntil(chance, sure)).toBe(tries))
  it('the tries are the fewest that do', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 0.999, noNaN: true }), fc.double({ min: 0.01, max: 0.999, noNaN: true }), (chance, sure) => {
        const tries = triesUntil(chance, sure)!
        expect(1 - (1 - chance) ** tries).toBeGreaterThanOrEqual(sure - 1e-12)
        if (tries > 1) expect(1 - (1 - chance) ** (tries - 1)).toBeLessThan(sure + 1e-12)
      }),
    )
  })
  it('whatever the tables, all chances together are one, or none', () => {
    const leaf = fc.record({ name: fc.constantFrom('x', 'y', 'z'), weight: fc.integer({ min: 0, max: 9 }) })
    const inner = fc.record({ name: fc.constantFrom('x', 'b', 'c'), weight: fc.integer({ min: 0, max: 9 }) })
    fc.assert(
      fc.property(fc.array(inner), fc.array(leaf), fc.array(leaf), (a, b, c) => {
        const all = [...chancesIn({ a, b, c }, 'a').values()].reduce((sum, one) => sum + one, 0)
        const dead = [b, c].some((table) => table.every(({ weight }) => weight === 0))
        if (!dead) expect(all).toBeCloseTo(a.some(({ weight }) => weight > 0) ? 1 : 0, 9)
        else expect(all).toBeLessThanOrEqual(1 + 1e-9)
      }),
    )
  })
})

describe('numbers as a box', () => {
  it.each([
    [[1, 2, 3, 4], 0.5, 2.5],
    [[1, 2, 3, 4, 5], 0.25, 2],
    [[1, 2, 3, 4], 0.25, 1.75],
    [[7], 0.9, 7],
    [[10, 20], 0.9, 19],
  ])('%j at %d: %d', (sorted, share, expected) => expect(quantile(sorted, share)).toBeCloseTo(expected, 12))
  it('has whiskers at 5 and 95 of 100; what is one and a half boxes away is far', () => {
    const box = boxOf([8, 2, 4, 6, 10])!
    expect(box).toEqual({ low: 2.4, quarter: 4, middle: 6, threeQuarters: 8, high: 9.6 })
    // the box is 4 high, so that 6 more are far: below -2 and above 14
    expect([isFar(box, 14), isFar(box, 14.1), isFar(box, -2), isFar(box, -2.1)]).toEqual([false, true, false, true])
    expect(boxOf([1, 2, 3, 4])).toBeNull()
  })
})

const offer = (item: string, way: Offer['way'], amount: number, more: Partial<Offer> = {}): Offer => ({
  item,
  category: null,
  where: way === 'buy' ? 'the quay' : 'errands',
  file: `${way}.yml`,
  pointer: `/${item}`,
  way,
  amount,
  count: 1,
  cooldown: null,
  ...more,
})

describe('the price book', () => {
  it('has what is lost by buying and selling again', () => {
    const { rows } = priceBook([offer('lamp', 'buy', 12), offer('lamp', 'buy', 20, { where: 'the kiln' }), offer('lamp', 'sell', 9)])
    expect(rows[0]).toMatchObject({ item: 'lamp', spread: 3, margin: 0.25, loop: null })
    expect(rows[0]!.buy!.amount).toBe(12)
    expect(unitPrice(offer('rope', 'buy', 90, { count: 10 }))).toBe(9)
  })
  it('shows a loop with its gain, a round and an hour', () => {
    const { rows } = priceBook([
      offer('honey', 'buy', 9),
      offer('rope', 'buy', 18, { count: 1 }),
      offer('rope', 'sell', 22, { cooldown: 15 }),
      offer('brick', 'buy', 60, { count: 10 }),
      offer('brick', 'sell', 32, { count: 5, cooldown: 60 }),
    ])
    expect(rows.map(({ item }) => item)).toEqual(['rope', 'brick', 'honey'])
    expect(rows[0]!.loop).toMatchObject({ gain: 4, count: 1, gainARound: 4, seconds: 15, gainAnHour: 960 })
    // ten bricks cost 60 and are sold in two deals of a minute each for 64
    expect(rows[1]!.loop).toMatchObject({ count: 10, seconds: 120 })
    expect(rows[1]!.loop!.gainAnHour).toBeCloseTo(120, 9)
    expect(rows[1]!.loop!.gainARound).toBeCloseTo(4, 9)
  })
  it('mends a loop from either side by as little as the setting’s decimals allow', () => {
    const [row] = priceBook([offer('rope', 'buy', 18), offer('rope', 'sell', 22.5)]).rows
    expect(mendsOf(row!.loop!).map(({ amount, gainARound }) => [amount, gainARound])).toEqual([
      [23, -0.5],
      [18, 0],
    ])
    const [many] = priceBook([offer('brick', 'buy', 60, { count: 10 }), offer('brick', 'sell', 32, { count: 5 })]).rows
    expect(mendsOf(many!.loop!).map(({ amount, gainARound }) => [amount, gainARound])).toEqual([
      [64, 0],
      [30, 0],
    ])
  })
  it('no mend leaves a loop, whatever the prices', () => {
    const price = fc.integer({ min: 1, max: 5000 }).map((cents) => cents / 100)
    const count = fc.integer({ min: 1, max: 64 })
    fc.assert(
      fc.property(price, count, price, count, (buys, buyCount, sells, sellCount) => {
        const offers = [offer('x', 'buy', buys, { count: buyCount }), offer('x', 'sell', sells, { count: sellCount })]
        const { loop } = priceBook(offers).rows[0]!
        expect(loop !== null).toBe(sells / sellCount > buys / buyCount)
        for (const { offer: changed, amount, gainARound } of loop ? mendsOf(loop) : []) {
          expect(gainARound).toBeLessThanOrEqual(0)
          const mended = offers.map((one) => (one.way === changed.way ? { ...one, amount } : one))
          expect(priceBook(mended).rows[0]!.loop?.gain ?? 0).toBeLessThan(1e-9)
        }
      }),
    )
  })
  it('tells what is far from its kind, where there is a kind to speak of', () => {
    const tools = [10, 11, 12, 13, 14, 200].map((amount, i) => offer(`tool-${i}`, 'buy', amount, { category: 'tools' }))
    const { rows, boxes } = priceBook([...tools, offer('eel', 'sell', 900, { category: 'food' })])
    expect(rows.filter((row) => row.isFar).map(({ item }) => item)).toEqual(['tool-5'])
    expect([...boxes.keys()]).toEqual(['tools'])
  })
})

describe('money an hour', () => {
  it.each<[Partial<Stream>, number, number, number]>([
    [{}, 8, 2, 8],
    // a pause of ten minutes lets six an hour
    [{ cooldown: 600 }, 8, 2, 6],
    [{ cooldown: 0 }, 8, 2, 8],
    // three a day in two hours are one and a half an hour
    [{ limit: 3 }, 8, 2, 1.5],
    [{ limit: 3, cooldown: 3600 }, 8, 2, 1],
    [{ limit: 30 }, 8, 2, 8],
    // a pause longer than what is played in a day is waited for once, and one of two days every other day
    [{ cooldown: 43_200 }, 8, 2, 0.5],
    [{ cooldown: 172_800 }, 8, 2, 0.25],
    [{}, 8, 0, 0],
  ])('with %j, %d wanted in an hour of %d a day are %d', (more, rate, hours, times) =>
    expect(timesAnHour(stream('x', 'in', 1, more), rate, hours)).toBe(times),
  )
  const regulars = kind('regulars', 72, 2, { kiln: 8, stall: 4, rare: 1, tide: 2 }, { joins: 3, balance: 1000 })
  it.each<[Stream, number]>([
    // 72 players are 6 at any hour, who fire 8 kilns for 5 each
    [stream('kiln', 'in', 5), 240],
    [stream('stall', 'out', 10), 240],
    [stream('rare', 'in', 100, { chance: 0.25 }), 150],
    [stream('nobody', 'in', 100), 0],
    // three newcomers a day with 80 each
    [stream('start', 'in', 80, { isOnce: true }), 10],
    // a hundredth of 72 purses of 1,000, once a day
    [stream('interest', 'in', 0.01, { isShare: true }), 30],
    // no more than 4 at once, and twice a day
    [stream('interest', 'in', 0.01, { isShare: true, most: 4 }), 12],
    [stream('tide', 'in', 0.01, { isShare: true }), 60],
  ])('%j moves %d', (one, moved) => expect(movedBy(one, regulars)).toBeCloseTo(moved, 9))

  it('what comes in is what goes out and what stays', () => {
    const streams = [stream('kiln', 'in', 5), stream('stall', 'out', 10), stream('interest', 'in', 0.01, { isShare: true })]
    const flow = flowOf(streams, [regulars, kind('traders', 24, 1, { stall: 2 })])
    expect(flow).toMatchObject({ comesIn: 270, goesOut: 260, stays: 10 })
    expect(flow.ribbons.map(({ stream: id, kind: who, amount }) => [id, who, amount])).toEqual([
      ['kiln', 'regulars', 240],
      ['stall', 'regulars', 240],
      ['stall', 'traders', 20],
      ['interest', 'regulars', 30],
    ])
  })
})

describe('goals', () => {
  /** Hours until somebody who has so much and earns so much an hour, or loses it, can pay. */
  const hoursUntil = (price: number, has: number, anHour: number): number | null =>
    hoursToAfford(
      [stream('start', 'in', has, { isOnce: true }), stream('work', anHour < 0 ? 'out' : 'in', Math.abs(anHour))],
      kind('one', 1, 1, { work: 1 }),
      price,
    )
  it.each<[number, number, number, number | null]>([
    [300, 60, 20, 12],
    [300, 300, 0, 0],
    [300, 10, 0, null],
    [300, 10, -5, null],
    [0, 0, 0, 0],
  ])('a price of %d with %d and %d an hour takes %s hours', (price, has, anHour, hours) =>
    expect(hoursUntil(price, has, anHour)).toBe(hours),
  )
  it('the setting for which something comes to a goal is found, and none where there is none', () => {
    // 8 kilns an hour pay for a boat of 480 in 12 hours where each pays 5
    expect(valueFor((pays) => hoursUntil(480, 0, 8 * pays)!, 12, 1, 50)).toBeCloseTo(5, 6)
    expect(valueFor((pays) => 3 * pays, 30, 0, 20)).toBeCloseTo(10, 6)
    expect(valueFor((pays) => 3 * pays, 61, 0, 20)).toBeNull()
    expect(valueFor((pays) => 3 * pays, 60, 0, 20)).toBe(20)
    expect(valueFor((pays) => -pays, -4, 0, 20)).toBeCloseTo(4, 6)
  })
  it('is found for whatever grows or falls', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 99 }),
        fc.boolean(),
        fc.double({ min: 0.01, max: 0.99, noNaN: true }),
        (slope, falls, share) => {
          const outcome = (value: number): number => (falls ? -1 : 1) * slope * value ** 3
          const goal = outcome(100 * share)
          expect(outcome(valueFor(outcome, goal, 0, 100)!)).toBeCloseTo(goal, 3)
        },
      ),
    )
  })
})

describe('numbers by chance', () => {
  it('are the same for the same seed, and spread as they should', () => {
    const [a, b, c] = [7700, 7700, 7701].map((seed) => {
      const random = randomFrom(seed)
      return Array.from({ length: 20_000 }, () => random.next())
    })
    expect(a).toEqual(b)
    expect(a).not.toEqual(c)
    const mean = a!.reduce((sum, one) => sum + one, 0) / a!.length
    expect(mean).toBeGreaterThan(0.49)
    expect(mean).toBeLessThan(0.51)
    expect(Math.min(...a!)).toBeGreaterThanOrEqual(0)
    expect(Math.max(...a!)).toBeLessThan(1)
  })
  it.each([0.3, 4, 30, 75.5])('happen %d times on average, and as often above as the theory says', (mean) => {
    const random = randomFrom(1)
    const all = Array.from({ length: 20_000 }, () => random.poisson(mean))
    const average = all.reduce((sum, one) => sum + one, 0) / all.length
    const variance = all.reduce((sum, one) => sum + (one - average) ** 2, 0) / all.length
    // four standard errors
    expect(Math.abs(average - mean)).toBeLessThan(4 * Math.sqrt(mean / all.length))
    expect(variance / mean).toBeGreaterThan(0.93)
    expect(variance / mean).toBeLessThan(1.07)
  })
  it('never and always are just that', () => {
    const random = randomFrom(1)
    expect([random.poisson(0), random.successes(9, 0), random.successes(9, 1), random.successes(0, 0.5)]).toEqual([0, 0, 9, 0])
  })
})

describe('days that are lived', () => {
  const STREAMS = [
    stream('start', 'in', 80, { isOnce: true }),
    stream('kiln', 'in', 5, { cooldown: 60 }),
    stream('errand', 'in', 50, { limit: 2 }),
    stream('luck', 'in', 20, { chance: 0.25 }),
    stream('stall', 'out', 12),
    stream('interest', 'in', 0.01, { isShare: true }),
    stream('tax', 'out', 0.02, { isShare: true }),
  ]
  const KINDS = [
    kind('newcomers', 20, 1, { kiln: 3, errand: 1, stall: 2 }),
    kind('regulars', 30, 2.5, { kiln: 8, errand: 2, luck: 2, stall: 4 }),
  ]
  const plan = (more: Partial<Plan> = {}): Plan => ({
    streams: STREAMS,
    kinds: KINDS,
    goals: [
      { name: 'boat', price: 480 },
      { name: 'rope', price: 60 },
    ],
    days: 20,
    seed: 7700,
    ...more,
  })

  it('come to the same for the same seed, and to something else for another', () => {
    expect(simulate(plan())).toEqual(simulate(plan()))
    expect(simulate(plan()).days).not.toEqual(simulate(plan({ seed: 7701 })).days)
  })

  it('by hand: two kilns a day for sure, and a stall that takes what it can', () => {
    // a rate far above what the limit lets makes chance sure
    const sure = [
      stream('start', 'in', 10, { isOnce: true }),
      stream('kiln', 'in', 5, { limit: 2 }),
      stream('stall', 'out', 8, { limit: 1 }),
    ]
    const run = simulate(
      plan({ streams: sure, kinds: [kind('one', 1, 2, { kiln: 400, stall: 400 })], goals: [{ name: 'x', price: 22 }], days: 3 }),
    )
    expect(run.start).toBe(10)
    // 10 + 10 − 8, and again
    expect(run.days.map(({ supply }) => supply)).toEqual([12, 14, 16])
    expect(run.days.map(({ comesIn, goesOut }) => [comesIn, goesOut])).toEqual([
      [10, 8],
      [10, 8],
      [10, 8],
    ])
    expect(run.days[2]).toMatchObject({ balances: [16, 16, 16], richest: 1 })
    // 12 + 10 is 22 at the end of the second day, four at most three hours long
    expect(run.reached[0]!.hours).toBeGreaterThan(2)
    expect(run.reached[0]!.hours).toBeLessThan(6)
    const poor = simulate(
      plan({ streams: [stream('stall', 'out', 8)], kinds: [kind('one', 1, 2, { stall: 400 })], goals: [{ name: 'x', price: 1 }], days: 2 }),
    )
    expect(poor.days.map(({ supply, goesOut }) => [supply, goesOut])).toEqual([
      [0, 0],
      [0, 0],
    ])
    expect(poor.reached).toEqual([{ goal: 'x', kind: 'one', hours: null }])
  })

  it('what there is, is what there was with what came in and without what went out, and nobody owes', () => {
    const amount = fc.integer({ min: 0, max: 60 })
    const rate = fc.double({ min: 0, max: 12, noNaN: true })
    fc.assert(
      fc.property(amount, amount, amount, rate, rate, fc.integer(), fc.integer({ min: 0, max: 12 }), (a, b, c, r, s, seed, count) => {
        const streams = [stream('start', 'in', a, { isOnce: true }), stream('x', 'in', b), stream('y', 'out', c), STREAMS[5]!, STREAMS[6]!]
        const run = simulate(plan({ streams, kinds: [kind('all', count, 3, { x: r, y: s })], seed, days: 6 }))
        let supply = run.start
        for (const day of run.days) {
          expect(day.supply).toBeCloseTo(supply + day.comesIn - day.goesOut, 6)
          expect(day.balances[0]).toBeGreaterThanOrEqual(-1e-9)
          expect(day.richest).toBeLessThanOrEqual(1 + 1e-9)
          supply = day.supply
        }
      }),
    )
  })

  it('all prices and payouts doubled, no hours change and all money doubles', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const doubled = STREAMS.map((one) => (one.isShare ? one : { ...one, amount: one.amount * 2 }))
        const [run, twice] = [
          simulate(plan({ seed })),
          simulate(plan({ seed, streams: doubled, goals: plan().goals.map((goal) => ({ ...goal, price: goal.price * 2 })) })),
        ]
        expect(twice.reached).toEqual(run.reached)
        run.days.forEach((day, i) => {
          expect(twice.days[i]!.supply).toBeCloseTo(day.supply * 2, 6)
          expect(twice.days[i]!.richest).toBeCloseTo(day.richest, 9)
        })
      }),
      { numRuns: 20 },
    )
  })

  it('nothing is done oftener than its pause and its limit let, whatever somebody wants', () => {
    const pause = fc.option(fc.integer({ min: 60, max: 400_000 }), { nil: null })
    const limit = fc.option(fc.integer({ min: 1, max: 12 }), { nil: null })
    fc.assert(
      fc.property(pause, limit, fc.integer({ min: 1, max: 4 }), fc.integer(), (cooldown, most, hours, seed) => {
        const streams = [stream('claim', 'in', 1, { cooldown, limit: most })]
        const days = 20
        const run = simulate(plan({ streams, kinds: [kind('one', 1, hours, { claim: 1000 })], goals: [], seed, days }))
        for (const { comesIn } of run.days) {
          // a day is at most one and a half times as long as usual
          if (most !== null) expect(comesIn).toBeLessThanOrEqual(most)
          if (cooldown !== null) expect(comesIn).toBeLessThanOrEqual(Math.max(1, (hours * 1.5 * 3600) / cooldown))
        }
      }),
      { numRuns: 60 },
    )
  })

  it('a share brings no more than its most, as often as its rate says', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 1, max: 6 }), fc.integer(), (most, times, seed) => {
        const streams = [stream('start', 'in', 1000, { isOnce: true }), stream('bank', 'in', 0.1, { isShare: true, most })]
        const run = simulate(plan({ streams, kinds: [kind('one', 3, 2, { bank: times })], goals: [], seed, days: 4 }))
        for (const { comesIn } of run.days) expect(comesIn).toBeLessThanOrEqual(3 * times * most + 1e-9)
        expect(run.days[0]!.comesIn).toBeCloseTo(3 * times * Math.min(100, most), 6)
      }),
      { numRuns: 60 },
    )
  })

  it('come on average to what the flow reckons', () => {
    const streams = [STREAMS[1]!, STREAMS[3]!]
    const kinds = [kind('regulars', 400, 2.5, { kiln: 8, luck: 2 })]
    const run = simulate(plan({ streams, kinds, days: 30 }))
    const anHour = run.days.reduce((sum, { comesIn }) => sum + comesIn, 0) / 30 / 24
    const { comesIn } = flowOf(streams, kinds)
    expect(Math.abs(anHour / comesIn - 1)).toBeLessThan(0.02)
  })

  it('a dearer boat is never had earlier, and who is told can end it', () => {
    const hours = (price: number): number =>
      simulate(plan({ goals: [{ name: 'boat', price }], days: 60 })).reached[1]!.hours ?? Number.POSITIVE_INFINITY
    const all = [100, 200, 400, 800].map(hours)
    expect([...all].sort((a, b) => a - b)).toEqual(all)
    const told: number[] = []
    const cut = simulate(plan(), (day) => {
      told.push(day)
      return day < 4
    })
    expect([told, cut.days.length]).toEqual([[1, 2, 3, 4], 4])
    expect(cut.days).toEqual(simulate(plan()).days.slice(0, 4))
    expect(simulate(plan({ kinds: [] })).days[0]).toMatchObject({ supply: 0, balances: [0, 0, 0], richest: 0 })
  })
})
