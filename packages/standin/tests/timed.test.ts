import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parse } from 'yaml'
import { dueIn, type Due } from '../src/behaviours/timed'
import { withLater } from '../src/demo/later'
import { GameClock } from '../src/server/clock'

describe('what falls due', () => {
  const at = (dues: readonly Due[]): number[] => dues.map((due) => due.at)

  it('is each moment once, however time is cut up', () => {
    const timed = [{ every: 'every', warnings: 'warnings', says: ['now'] }]
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 30 }),
        fc.uniqueArray(fc.integer({ min: 1, max: 59 }), { maxLength: 3 }),
        fc.array(fc.integer({ min: 1, max: 2000 }), { minLength: 1, maxLength: 12 }),
        (every, before, steps) => {
          const used = { every, warnings: Object.fromEntries(before.map((seconds) => [seconds, 'soon'])) }
          const end = steps.reduce((sum, step) => sum + step, 0)
          const whole = at(dueIn(timed, used, { after: 0, until: end, dayAt: 0 }))
          let after = 0
          const parts = steps.flatMap((step) => {
            const part = at(dueIn(timed, used, { after, until: after + step, dayAt: 0 }))
            after += step
            return part
          })
          expect(parts).toEqual(whole)
          // counted by hand: a moment each `every` minutes, and each warning before it
          const step = every * 60
          const expected: number[] = []
          for (let moment = step; moment - 60 <= end; moment += step)
            for (const due of [moment, ...before.map((seconds) => moment - seconds)]) if (due > 0 && due <= end) expected.push(due)
          expect([...whole].sort((a, b) => a - b)).toEqual(expected.sort((a, b) => a - b))
        },
      ),
    )
  })

  it.each([
    ['03:40', 3 * 3600, 0, 2400, [2400]],
    ['03:40', 3 * 3600, 2400, 86_400, []],
    ['03:40, 15:40', 3 * 3600, 0, 86_400, [2400, 2400 + 12 * 3600]],
    ['00:00', 23 * 3600, 0, 3600, [3600]],
    ['never', 0, 0, 86_400, []],
  ])('at %s, begun at %d s of the day', (hours, dayAt, after, until, expected) => {
    expect(at(dueIn([{ at: 'hours', says: ['now'] }], { hours }, { after, until, dayAt }))).toEqual(expected)
  })

  it('the clock goes on, is set on and never back, and hands out each span once', () => {
    let time = 0
    const clock = new GameClock(() => time, new Date('2026-11-26T23:59:00Z'))
    time = 30
    expect(clock.passed()).toEqual({ after: 0, until: 30, dayAt: 86_340 })
    clock.setOnBy(90)
    clock.setOnBy(-500)
    clock.setOnBy(NaN)
    expect(clock.passed()).toMatchObject({ after: 30, until: 120 })
    expect(clock.timeOfDay).toBe('00:01:00')
  })
})

describe('later versions of the demo', () => {
  it('are what they come from with what is different, and nothing is left behind', () => {
    const sources = mkdtempSync(join(tmpdir(), 'later-'))
    mkdirSync(join(sources, 'a-1'))
    mkdirSync(join(sources, 'scripts'))
    writeFileSync(join(sources, 'a-1', 'pack.yml'), 'version: 1\n')
    writeFileSync(join(sources, 'scripts', 's-1.tide'), '#: version: 1\n')
    const later = (of: string): void =>
      writeFileSync(
        join(sources, 'later.yml'),
        `a-2: { of: ${of}, changes: { pack.yml: [{ from: "1", to: "2" }] } }\ns-2.tide: { of: s-1.tide, changes: { "": [{ from: "1", to: "2" }] } }\n`,
      )
    later('a-1')
    let folder = ''
    withLater(sources, (all) => {
      folder = all
      expect([readFileSync(join(all, 'a-2/pack.yml'), 'utf8'), readFileSync(join(all, 'scripts/s-2.tide'), 'utf8')]).toEqual([
        'version: 2\n',
        '#: version: 2\n',
      ])
      expect(readFileSync(join(all, 'a-1/pack.yml'), 'utf8')).toBe('version: 1\n')
    })
    expect(() => readFileSync(folder)).toThrow('no such file')
    later('b-1')
    expect(() => withLater(sources, () => undefined)).toThrow('there is no b-1')
    rmSync(sources, { recursive: true })
  })

  it('have wharves that ask more than stalls and pay less, but for two things', () => {
    const read = (path: string): unknown => parse(readFileSync(path, 'utf8'))
    const paidMore = new Set<string>()
    withLater('packages/standin/demo', (all) => {
      const stalls = Object.assign(
        {},
        ...Object.values(read(join(all, 'stallholder-2.1/defaults/prices.yml')) as Record<string, Record<string, number>>),
      ) as Record<string, number>
      const { categories } = read(join(all, 'wharfside-1.0/defaults/settings.yml')) as {
        categories: Record<string, { buy: number; sell: number }>
      }
      for (const file of readdirSync(join(all, 'wharfside-1.0/defaults/goods'))) {
        const { goods } = read(join(all, 'wharfside-1.0/defaults/goods', file)) as {
          goods: Record<string, { category: string; buy?: number; sell?: number }>
        }
        for (const [id, { category, buy = categories[category]!.buy, sell = categories[category]!.sell }] of Object.entries(goods)) {
          if (buy >= 0) expect(buy, id).toBeGreaterThan(sell - (id in stalls ? 0 : 1))
          if (!(id in stalls)) continue
          if (sell > stalls[id]!) paidMore.add(id)
          // people sell at stalls for about half of what things cost there
          if (buy >= 0) expect(buy, id).toBeGreaterThanOrEqual(stalls[id]! * 0.6)
        }
      }
      // the other is paid more for since people of the demo lowered its price
      expect([...paidMore]).toEqual(['rope_coil'])
      expect(stalls['lantern']).toBeGreaterThan(24)
    })
  })
})
