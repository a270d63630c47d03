import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LEAST_SAMPLES, SETTLES_WITHIN, WINDOW, costOf, type Cost, type LoadSample } from '../src/load/cost'

const AT = 1_000_000
const later = { at: AT, now: AT + WINDOW }
/** A sample a minute, with the players of a list in turn. */
const minutes = (from: number, count: number, players: readonly number[], ticks: (players: number) => number): LoadSample[] =>
  Array.from({ length: count }, (_, i) => {
    const here = players[i % players.length]!
    return { at: from + i * 60, players: here, ticks: ticks(here) }
  })

describe('what a change cost', () => {
  it('is what was taken away, whoever was there when, and however ticks fall with players', () => {
    const counts = fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 8 })
    fc.assert(
      fc.property(counts, counts, fc.integer({ min: 0, max: 40 }), fc.integer({ min: -50, max: 50 }), (quiet, busy, both, tenths) => {
        const change = tenths / 10
        const alone = (players: number): number => 20 - players * 0.07 - (players > 30 ? 1 : 0)
        const before = minutes(AT - WINDOW, 120, [...quiet, both], alone)
        const after = minutes(AT, 120, [...busy, both], (players) => alone(players) + change)
        const cost = costOf([...after, ...before], later) as Cost
        expect(cost.change).toBeCloseTo(change, 9)
        expect(cost.after - cost.before).toBeCloseTo(change, 9)
        const alike = [...new Set([...quiet, both])].filter((players) => players === both || busy.includes(players))
        expect(cost.players).toEqual([Math.min(...alike), Math.max(...alike)])
      }),
    )
  })

  it.each<[string, LoadSample[], Parameters<typeof costOf>[1], ReturnType<typeof costOf>]>([
    ['nothing was measured, and much time is left', [], { at: AT, now: AT + 60 }, 'too-early'],
    ['nothing was measured, and the time is over', [], later, 'too-few'],
    ['a change right after it leaves no time', minutes(AT - 600, 30, [5], () => 20), { ...later, next: AT + 300 }, 'too-few'],
    ['a change right before it leaves no time', minutes(AT - 600, 30, [5], () => 20), { ...later, previous: AT - 300 }, 'too-few'],
    [
      'never as many players as before',
      [...minutes(AT - 600, 10, [5], () => 20), ...minutes(AT + SETTLES_WITHIN, 10, [6], () => 19)],
      later,
      'not-alike',
    ],
    [
      'as many players as before too seldom',
      [
        ...minutes(AT - 600, LEAST_SAMPLES - 1, [5], () => 20),
        ...minutes(AT - 300, 5, [9], () => 20),
        ...minutes(AT + SETTLES_WITHIN, 10, [5], () => 19),
      ],
      later,
      'not-alike',
    ],
  ])('there is no number where %s', (_why, samples, window, expected) => {
    expect(costOf(samples, window)).toBe(expected)
  })

  it('leaves out what is too far away, of the start, or of another change', () => {
    const samples = [
      ...minutes(AT - WINDOW - 600, 10, [5], () => 1),
      ...minutes(AT - 600, 10, [5], () => 20),
      { at: AT + 1, players: 5, ticks: 3 },
      ...minutes(AT + SETTLES_WITHIN, 10, [5], () => 18),
      ...minutes(AT + 1200, 30, [5], () => 2),
    ]
    expect(costOf(samples, { ...later, next: AT + 1200, previous: AT - 600 - SETTLES_WITHIN })).toEqual({
      before: 20,
      after: 18,
      change: -2,
      players: [5, 5],
    })
  })
})
