import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parse as readYaml, stringify } from 'yaml'
import { UNSAID } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import { locate, parsePointer } from '../src/tree/pointer'
import { ITEMS, WRITE, gathered, offers, type Data } from './economy-written'

/* Files that say once what stands in several places: what is gathered of them is what is gathered of the same with all written out. */

const amount = fc.integer({ min: 2, max: 900 })
const items = fc.uniqueArray(fc.constantFrom(...ITEMS), { minLength: 2, maxLength: 7 })

const sense = (text: string, ending: string): unknown => {
  const facts = gathered(`A/a.${ending}`, text)
  return {
    offers: offers(facts),
    streams: facts.streams.map(({ name, way, amount: is, bound, isOnce }) => ({ name, way, is, bound, isOnce })),
    draws: facts.draws.map(({ entries }) => entries.map(({ name, weight, count }) => [name, weight, count])),
    deals: facts.deals.map((deal) => deal.items),
  }
}

describe('references', () => {
  it('mean what they refer to, wherever they stand', () => {
    // what is shared is written once, with an anchor, by a writer of others
    const shared = fc.tuple(
      items,
      fc.array(fc.tuple(amount, amount), { minLength: 1, maxLength: 3 }),
      fc.array(fc.nat(2), { minLength: 7 }),
    )
    fc.assert(
      fc.property(shared, ([names, pairs, picks]) => {
        const pool: Data[] = pairs.map(([buy, sell]) => ({ buy, sell }))
        const gifts: Data = ['clay 4', 'eel 2']
        const data: Data = {
          shop: Object.fromEntries(names.map((name, i) => [name, pool[picks[i]! % pool.length]!])),
          kits: { first: { price: 5, items: gifts }, second: { price: 9, items: gifts } },
        }
        const text = stringify(data)
        expect(text).toContain('*')
        expect(sense(text, 'yml'), text).toEqual(sense(WRITE.json(data), 'json'))
      }),
      { numRuns: 80 },
    )
  })

  it('give a section what it does not say itself, and patterns are nothing by themselves', () => {
    fc.assert(
      fc.property(items, amount, amount, amount, fc.array(fc.nat(3), { minLength: 7 }), (names, buy, sell, own, picks) => {
        const ways = ['<<: *usual', `<<: *usual\n    buy: ${own}`, `<<: [*cheap, *usual]`, `buy: ${own}\n    sell: 1`]
        // both patterns are referred to
        const wayOf = (i: number): string => ways[i === 0 ? 0 : i === 1 ? 2 : picks[i]!]!
        const text = [
          `patterns:\n  usual: &usual { buy: ${buy}, sell: ${sell} }\n  cheap: &cheap { sell: 2 }`,
          `shop:\n${names.map((name, i) => `  ${name}:\n    ${wayOf(i)}`).join('\n')}`,
          '',
        ].join('\n')
        const { shop } = readYaml(text, { merge: true }) as Record<string, Data>
        expect(sense(text, 'yml'), text).toEqual(sense(WRITE.json({ shop: shop! }), 'json'))
        const document = parse(text, 'yaml', UNSAID)
        for (const { pointer, from } of gathered('A/a.yml', text).offers)
          expect(locate(document, parsePointer(pointer)!)?.entry.value.from, pointer).toBe(from)
      }),
      { numRuns: 80 },
    )
  })

  it('change where they refer to: each offer is told by the place of its number', () => {
    const text = 'usual: &usual { buy: 12, sell: 6 }\nshop:\n  clay: *usual\n  eel:\n    <<: *usual\n    sell: 3\n'
    expect(gathered('A/a.yml', text).offers.map(({ item, way, pointer }) => `${item} ${way} ${pointer}`)).toEqual([
      'clay buy /usual/buy',
      'clay sell /usual/sell',
      'eel buy /usual/buy',
      'eel sell /shop/eel/sell',
    ])
  })

  it.each([
    ['to nothing', 'shop:\n  clay: *none\n  eel: { buy: 4, sell: 1 }\n  net: { buy: 5, sell: 1 }\n'],
    ['to what comes later', 'shop:\n  clay: *late\n  eel: &late { buy: 4, sell: 1 }\n  net: { buy: 5, sell: 1 }\n'],
    ['to what they are in', 'shop: &shop\n  clay: *shop\n  eel: { buy: 4, sell: 1 }\n  net: { buy: 5, sell: 1 }\n'],
  ])('%s are left as they are', (_what, text) => {
    expect(offers(gathered('A/a.yml', text))).toEqual(['buy 1 eel for 4', 'buy 1 net for 5', 'sell 1 eel for 1', 'sell 1 net for 1'])
  })

  it('that double again and again end', () => {
    const lines = Array.from({ length: 40 }, (_, i) => `a${i}: &a${i} [${i === 0 ? '1, 2' : `*a${i - 1}, *a${i - 1}`}]`)
    expect(() => gathered('A/a.yml', `${lines.join('\n')}\nprices:\n  clay: 4\n  eel: 5\n`)).not.toThrow()
  })
})
