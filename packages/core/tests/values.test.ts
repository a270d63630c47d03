import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  explainSum,
  inZone,
  nextFree,
  nextShift,
  pastedPlace,
  rackOf,
  readClock,
  readColour,
  readDuration,
  readPlace,
  seenLength,
  sharesOf,
  writeClock,
  writeColour,
  writeDuration,
  writePlace,
} from '../src/values'

describe('durations', () => {
  it.each([
    ['1800', 'tick', undefined, 90, '90 second'],
    ['15 * 60 * 1000', 'millisecond', 900_000, 900, '15 minute'],
    ['3d', null, undefined, 259_200, '3 day'],
    ['0.5', 'second', undefined, 0.5, '500 millisecond'],
    ['1810', 'tick', undefined, 90.5, '90.5 second'],
    ['5400', 'second', undefined, 5400, '90 minute'],
  ])('%s of %s is so many seconds', (source, unit, amount, seconds, readable) => {
    const shown = readDuration(source, unit, amount)!
    expect(shown.seconds).toBe(seconds)
    expect(`${shown.readable.amount} ${shown.readable.unit}`).toBe(readable)
  })

  it.each([
    ['', 'second'],
    ['soon', 'second'],
    ['5', null],
    ['5', 'mark'],
  ])('“%s” in %s is none', (source, unit) => expect(readDuration(source, unit)).toBeNull())

  it.each([
    [90, 'tick', '20', '1800'],
    [90, 'second', '1.5', '90.0'],
    [1.5, 'second', '2.0', '1.5'],
    [7200, null, '3d', '2h'],
    [0.3, 'second', '1', '0.3'],
  ])('%s seconds in %ss, where %s stood, are written %s', (seconds, unit, like, text) =>
    expect(writeDuration(seconds, unit, like)).toBe(text),
  )

  it('sums are told in the largest unit they are made of', () => {
    expect(explainSum('15 * 60 * 1000', 'millisecond')).toBe('15 minutes')
    expect(explainSum('2 * 60 * 60', 'second')).toBe('2 hours')
    expect(explainSum('7 * 13', 'second')).toBeNull()
    expect(explainSum('900', 'second')).toBeNull()
  })
})

describe('times of day', () => {
  const time = fc.record({ hour: fc.nat(23), minute: fc.nat(59), second: fc.constant(0) })
  const shapes = fc.constantFrom('07:30', '7:30', '19:30', '07:30:00', '7:30 pm', '07:30AM')

  it('written like another, they read the same', () => {
    fc.assert(fc.property(time, shapes, (at, like) => void expect(readClock(writeClock(at, like))).toEqual(at)))
  })

  it.each([
    ['7:05', '8:30', '7:05'],
    ['7:05', '08:30', '07:05'],
    ['19:05', '8:30 am', '7:05 pm'],
    ['0:05', '12:00 PM', '12:05 AM'],
    ['7:05', '22:00:00', '07:05:00'],
  ])('%s, where %s stood, is written %s', (at, like, text) => expect(writeClock(readClock(at)!, like)).toBe(text))

  it.each(['25:00', '24:01', '7:60', '13:00 pm', '0:10 am', 'noon', '730'])('%s is none', (text) => expect(readClock(text)).toBeNull())

  it('in another zone and back they are the same, whatever the day', () => {
    const zones = fc.constantFrom('UTC', 'Europe/Paris', 'America/New_York', 'Asia/Kolkata', 'Pacific/Auckland')
    const day = fc.date({ min: new Date('2026-06-01'), max: new Date('2026-07-30'), noInvalidDate: true })
    fc.assert(
      fc.property(time, zones, zones, day, (at, from, to, on) => void expect(inZone(inZone(at, from, to, on), to, from, on)).toEqual(at)),
    )
  })

  it('a change of clocks is told before it comes', () => {
    const at = readClock('17:30')!
    expect(inZone(at, 'UTC', 'Europe/Paris', new Date('2026-11-26T12:00Z'))).toEqual(readClock('18:30'))
    const shift = nextShift(at, 'UTC', 'Europe/Paris', new Date('2026-11-26T12:00Z'))!
    expect(shift.on.toISOString().slice(0, 10)).toBe('2027-03-28')
    expect(shift.becomes).toEqual(readClock('19:30'))
    expect(nextShift(at, 'UTC', 'Asia/Kolkata', new Date('2026-11-26T12:00Z'))).toBeNull()
  })
})

describe('colours', () => {
  const amount = fc.nat(255)

  it('written like another, they read the same', () => {
    fc.assert(
      fc.property(
        amount,
        amount,
        amount,
        fc.constantFrom('#c98a0b', '#C98A0B', '0xffffff', '<#d9930d>', '1,2,3', '1 2 3', '1, 2, 3'),
        (red, green, blue, like) =>
          void expect(readColour(writeColour({ red, green, blue, alpha: 1 }, like))).toEqual({ red, green, blue, alpha: 1 }),
      ),
    )
  })

  it.each([
    ['#AABBCC', '#112233'],
    ['<#d9930d>', '<#112233>'],
    ['0xffffff', '0x112233'],
    ['201, 138, 11', '17, 34, 51'],
    ['#abcdef80', '#112233ff'],
  ])('where %s stood, %s is written', (like, text) => expect(writeColour(readColour('#112233')!, like)).toBe(text))

  it.each(['', 'amber', '300, 0, 0', '#12', '12, 13'])('“%s” is none', (text) => expect(readColour(text)).toBeNull())
})

describe('places', () => {
  it('what stands around the numbers stays', () => {
    const number = fc.integer({ min: -9999, max: 9999 }).map(String)
    fc.assert(
      fc.property(
        fc.array(number, { minLength: 3, maxLength: 4 }),
        fc.array(number, { minLength: 4, maxLength: 4 }),
        fc.constantFrom(' ', ', ', ','),
        (before, after, between) => {
          const place = readPlace(`saltpans2 ${before.join(between)}`)!
          expect(place.numbers).toEqual(before)
          expect(writePlace(after.slice(0, before.length), place)).toBe(`saltpans2 ${after.slice(0, before.length).join(between)}`)
        },
      ),
    )
  })

  it('are pasted however they are written', () => {
    for (const text of ['1204.5 18 -377', 'x: 1204.5, y: 18, z: -377', 'vec3(1204.5, 18, -377)', '(1204.5;18;-377)'])
      expect(pastedPlace(text, 3)).toEqual(['1204.5', '18', '-377'])
    expect(pastedPlace('12 13', 3)).toBeNull()
    expect(readPlace('delta')).toBeNull()
  })
})

describe('shares and slots', () => {
  it('shares of any weights come to 100.0, and are nowhere a tenth off', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(5000), { minLength: 1, maxLength: 40 }), (weights) => {
        const sum = weights.reduce((a, b) => a + b, 0)
        const shares = sharesOf(weights)
        if (sum === 0) return void expect(shares).toBeNull()
        expect(Math.round(shares!.reduce((a, b) => a + b, 0) * 10)).toBe(1000)
        shares!.forEach((share, i) => expect(Math.abs(share - (100 * weights[i]!) / sum)).toBeLessThan(0.1))
      }),
    )
    expect(sharesOf([1, -1])).toBeNull()
  })

  it('racks are whole rows of nine that hold all, each once named or more', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 53 })), fc.constantFrom(0, 1), (numbers, first) => {
        const shifted = numbers.map((number) => number + first)
        const slots = rackOf(shifted, first)
        expect(slots.length % 9).toBe(0)
        expect(slots[0]!.number).toBe(first)
        for (const { number, items } of slots) expect(items).toEqual(shifted.flatMap((own, i) => (own === number ? [i] : [])))
      }),
    )
    expect(nextFree(rackOf([0, 1, 3], 0), 1)).toBe(2)
    expect(nextFree(rackOf([0, 1, 2, 3, 4, 5, 6, 7, 8], 0), 1)).toBeNull()
  })

  it('texts are as long as players see them', () => {
    expect(seenLength('[b]The delta[/b]', /\[[^\]]*\]/g)).toBe(9)
    expect(seenLength('e\u0301🛶', null)).toBe(2)
  })
})
