import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NOTHING_ASSUMED, NOTHING_SEEN, economyOf, fitKinds, groupedFlow, liveAll } from '@pasticcio/core'
import { STAYS, flowPicture, flowTraces, roomFor } from '../../app/charts/flow'
import { dayTicks, daysTraces } from '../../app/charts/days'
import {
  activityWords,
  amountWords,
  asWords,
  changeWords,
  groupWords,
  hoursWords,
  largeWords,
  percentWords,
  rangeWords,
  tableWords,
} from '../../app/utils/economy-words'
import { factsFrom, PURSE, STALLS } from './economy-world'

describe('words of the economy', () => {
  it.each<[(value: never) => string, unknown, string]>([
    [amountWords, 1470, '1,470'],
    [amountWords, 12.345, '12.3'],
    [amountWords, 2.475, '2.48'],
    [amountWords, -0.5, '−0.5'],
    [amountWords, 0, '0'],
    [changeWords, 4, '+4'],
    [changeWords, -230, '−230'],
    [largeWords, 8_437_990, '8.44 M'],
    [largeWords, 585_400, '585 k'],
    [largeWords, 9_990, '9,990'],
    [largeWords, 999_700, '1 M'],
    [percentWords, 0.05, '5 %'],
    [percentWords, 0.7619, '76.2 %'],
    [percentWords, 0.00123, '0.12 %'],
    [percentWords, 0, '0 %'],
    [hoursWords, 12, '12 h'],
    [hoursWords, 0, 'at once'],
    [hoursWords, null, 'never'],
    [asWords, 'fire-kiln', 'Fire kiln'],
    [asWords, 'lightChances', 'Light Chances'],
    [tableWords, { name: 'low-bank yields' }, 'Low bank'],
    [tableWords, { name: 'yields' }, 'Yields'],
    [activityWords, { doing: 'buys', deed: 'Stalls', plugin: 'Stalls' }, 'Buy at Stalls'],
  ])('%o of %j is %s', (of, value, words) => expect(of(value as never)).toBe(words))

  it.each<[doing: string, section: string, activities: readonly string[], title: string, under: string]>([
    ['payout', 'crew', ['pilot'], 'Pilot', 'Skippers'],
    // at least and at most
    ['payout', 'crew', ['pilot', 'pilot'], 'Pilot', 'Skippers'],
    ['payout', 'crew', ['pilot', 'pilot', 'stoker'], 'Crew', 'Skippers, 2 payouts'],
    ['payout', '', ['pilot', 'stoker'], 'Payouts', 'Skippers, 2 payouts'],
    ['price', 'crew', ['pilot', 'stoker'], 'Crew for a price', 'Skippers, 2 prices'],
    ['price', '', ['pilot', 'stoker'], 'Prices', 'Skippers, 2 prices'],
    ['fee', 'crew', ['pilot'], 'Fee of pilot', 'Skippers'],
    ['fee', 'crew', ['pilot', 'stoker'], 'Crew: fees', 'Skippers, 2 fees'],
    ['fee', '', ['pilot', 'stoker'], 'Fees', 'Skippers, 2 fees'],
  ])('a group of %s in “%s” of %j is called %s, %s', (doing, section, activities, title, under) => {
    const streams = activities.map((activity) => ({
      doing,
      section,
      activity,
      name: 'pilot',
      deed: 'pilot',
      plugin: 'Skippers',
      keys: [],
      settings: 1,
    }))
    expect(groupWords({ streams } as never)).toEqual({ title, under })
  })
  it('a range says its letter once', () => {
    expect([rangeWords(8_370_000, 8_660_000), rangeWords(9_000, 12_000)]).toEqual(['8.37–8.66 M', '9,000–12 k'])
  })
})

describe('the picture of the flow', () => {
  const files = {
    [PURSE]: 'accounts:\n  # What a newcomer starts with, in marks.\n  start: 100\npayouts:\n  fire-kiln: 4\n  run-ferry: 8\n',
    [STALLS]: '# What items cost, in marks.\nprices:\n  rope: 10\n  lamp: 20\n  clay: 2\n  brick: 6\n',
  }
  const { streams, ...rest } = economyOf(factsFrom(files))
  const kinds = fitKinds({ streams, ...rest }, streams, NOTHING_ASSUMED, NOTHING_SEEN)
  const people = kinds.map(({ kind }) => kind)

  it('has all that comes in on the left, all that goes out or stays on the right, and sums that close', () => {
    const flow = groupedFlow(streams, streams, people)
    const { nodes, links } = flowPicture(flow, kinds, 255)
    const sum = (column: string): number => nodes.reduce((all, node) => all + (node.column === column ? node.amount : 0), 0)
    expect(sum('in')).toBeCloseTo(flow.now.comesIn, 6)
    expect(sum('out')).toBeCloseTo(sum('kind'), 6)
    expect(nodes.find(({ id }) => id === STAYS)!.amount).toBeCloseTo(flow.now.stays, 6)
    for (const { id, column, amount } of nodes) {
      const [comes, goes] = [links.filter(({ to }) => to === id), links.filter(({ from }) => from === id)].map((own) =>
        own.reduce((all, link) => all + link.amount, 0),
      )
      if (column !== 'in') expect(comes).toBeCloseTo(amount, 6)
      if (column !== 'out') expect(goes).toBeCloseTo(amount, 6)
    }
    expect(flow.groups.map((group) => groupWords(group).title)).toEqual(['Payouts', 'Buying', 'Newcomers’ start'])
  })
  it('puts small ones together where there is no room, and nothing lies outside or on another', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.integer({ min: 1, max: 900 }), fc.constant(40_000)), { minLength: 1, maxLength: 30 }),
        fc.integer({ min: 140, max: 600 }),
        (amounts, height) => {
          const many = amounts.map((amount, i) => ({
            ...streams.find(({ doing }) => doing === 'payout')!,
            id: `s${i}`,
            activity: `s${i}`,
            group: `g${i}`,
            amount,
          }))
          const own = people.map((kind) => ({ ...kind, rates: Object.fromEntries(many.map(({ id }) => [id, 2])) }))
          const { nodes, gap } = flowPicture(groupedFlow(many, many, own), kinds, height)
          const left = nodes.filter(({ column }) => column === 'in')
          expect(left.length).toBeLessThanOrEqual(roomFor(height))
          left.forEach((node, i) => {
            expect(node.at).toBeLessThanOrEqual(height)
            if (i > 0) expect(node.at - left[i - 1]!.at).toBeGreaterThan(25)
          })
          // the library works its scale out of the gap by itself, and takes no more than two thirds of the height for gaps
          const columns = (['in', 'kind', 'out'] as const).map((which) => nodes.filter(({ column }) => column === which))
          const most = Math.max(...columns.map(({ length }) => length))
          const pad = Math.min(gap, ((2 / 3) * height) / (most - 1))
          const sumOf = (list: typeof nodes): number => list.reduce((all, { amount }) => all + amount, 0)
          const scale = Math.min(...columns.map((list) => (height - (list.length - 1) * pad) / sumOf(list)))
          for (const node of nodes) {
            expect(Math.abs(node.amount * scale - node.height)).toBeLessThan(1)
            expect(node.at - (node.amount * scale) / 2).toBeGreaterThan(-1)
            expect(node.at + (node.amount * scale) / 2).toBeLessThan(height + 1)
          }
        },
      ),
      { numRuns: 60 },
    )
  })
  it('gives way to what is looked at', () => {
    const picture = flowPicture(groupedFlow(streams, streams, people), kinds, 255)
    const size = { width: 740, height: 255, columns: [208, 366, 540] as const, focus: `kind ${kinds[0]!.id}` }
    const [trace] = flowTraces(picture, size as never, () => '#102030').traces as [{ link: { color: string[] } }]
    const dim = picture.links.filter(({ from, to }) => from !== size.focus && to !== size.focus).length
    expect(trace.link.color.filter((colour) => colour === '#10203066')).toHaveLength(dim)
  })
  it('days have a line and a band for each version, and ticks that do not touch', () => {
    const plan = { streams, kinds: people, goals: [], days: 14, seed: 1 }
    const [outlook] = liveAll([plan], 3)
    const { traces } = daysTraces([{ version: 'today', outlook: outlook! }], { width: 400, height: 118 }, () => '#000000')
    expect(traces).toHaveLength(3)
    expect(outlook!.supply).toHaveLength(15)
    for (const { low, middle, high } of outlook!.supply) expect(low <= middle && middle <= high).toBe(true)
    expect([7, 14, 30, 60, 90].map((days) => dayTicks(days))).toEqual([
      [0, 2, 4, 6, 7],
      [0, 7, 14],
      [0, 7, 14, 21, 30],
      [0, 14, 28, 42, 60],
      [0, 28, 56, 90],
    ])
  })
})
