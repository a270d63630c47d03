import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assign, type Scored } from '../src/carry/assignment'
import { orderOf, reordered } from '../src/carry/list-order'

const pairs = fc.uniqueArray(fc.record({ from: fc.nat(4), to: fc.nat(4), score: fc.integer({ min: 1, max: 100 }).map((n) => n / 100) }), {
  selector: (item) => `${item.from}-${item.to}`,
  maxLength: 14,
})

/** The highest sum, by trying everything. */
function best(
  candidates: readonly Scored<number, number>[],
  from: ReadonlySet<number> = new Set(),
  to: ReadonlySet<number> = new Set(),
): number {
  return Math.max(
    0,
    ...candidates.map((item, i) =>
      from.has(item.from) || to.has(item.to)
        ? 0
        : item.score + best(candidates.slice(i + 1), new Set([...from, item.from]), new Set([...to, item.to])),
    ),
  )
}

describe('the best assignment', () => {
  it('is one to one, and no other has a higher sum', () => {
    fc.assert(
      fc.property(pairs, (candidates) => {
        const chosen = assign<number, number, Scored<number, number>>(candidates)
        expect(new Set(chosen.map((item) => item.from)).size).toBe(chosen.length)
        expect(new Set(chosen.map((item) => item.to)).size).toBe(chosen.length)
        expect(chosen.reduce((sum, item) => sum + item.score, 0)).toBeCloseTo(best(candidates), 9)
      }),
    )
  })

  it('does not let a better pair cost another one its own', () => {
    const candidates = [
      { from: 'a', to: 'B', score: 0.8 },
      { from: 'a', to: 'A', score: 0.79 },
      { from: 'b', to: 'B', score: 0.79 },
    ]
    expect(
      assign<string, string, Scored<string, string>>(candidates)
        .map((item) => item.from + item.to)
        .sort(),
    ).toEqual(['aA', 'bB'])
  })
})

describe('the order of a merged list', () => {
  it.each([
    ['behind the one it follows in mine', [{ f: 0, m: 0, u: 0 }, { m: 1 }, { f: 1, m: 2, u: 2 }, { u: 1 }], 3, [[1, 0]]],
    ['before the next one where nothing precedes it', [{ m: 0 }, { f: 0, m: 1, u: 1 }, { u: 0 }], 2, [[0, 0]]],
    ['in the place of what it replaces', [{ f: 0, m: 0, u: 0 }, { f: 1, u: 2 }, { m: 1 }, { f: 2, m: 2, u: 3 }, { u: 1 }], 4, [[1, 2]]],
    ['last where nothing of mine is there', [{ m: 0 }, { u: 0 }], 1, [[0, 0]]],
  ] as const)('%s', (_name, triples, length, after) => {
    expect([...orderOf(triples, length).after]).toEqual(after)
  })

  it('tells what I moved, took out and put in', () => {
    const order = orderOf([{ f: 0, m: 2, u: 0 }, { f: 1, m: 0, u: 1 }, { f: 2, m: 1, u: 2 }, { f: 3, u: 3 }, { m: 3 }, { m: 4 }], 4)
    expect([[...order.moved], order.takenOut, order.putIn]).toEqual([[2], 0, 1])
  })

  it.each([
    [
      3,
      [
        { at: 1, free: false },
        { at: 0, free: true },
      ],
      [1, 0, 2],
    ],
    [
      3,
      [
        { at: 2, free: true },
        { at: 0, free: false },
      ],
      [2, 0, 1],
    ],
    [2, [{ at: 1, free: true }], [1, 0]],
  ])('puts %i items in my order: %j', (length, mine, order) => expect(reordered(length, mine)).toEqual(order))
})
