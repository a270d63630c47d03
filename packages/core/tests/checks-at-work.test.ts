import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NO_KNOWLEDGE, type Knowledge } from '../src/checks'
import { applyEdits } from '../src/text/edits'
import { DELTA, found } from './delta'

const ITEMS = [...DELTA.lists['items']!]

describe('ids, misspelt in every place a list of them is known', () => {
  const factory = (items: readonly string[]): string =>
    `# Any item of the game.\nicon: ${items[0]}\ngoods: [${items.join(', ')}]\nprices:\n${items.map((item, i) => `  ${item}: ${i + 1}\n`).join('')}gift:\n${items.map((item) => `  - ${item} 4\n`).join('')}`
  const twoItems = fc.shuffledSubarray(ITEMS, { minLength: 2, maxLength: 4 })

  it('are found where they stand, each once, and the fix gives back what was there', () => {
    fc.assert(
      fc.property(twoItems, fc.nat(), fc.nat(), (items, which, letter) => {
        const shipped = factory(items)
        const places = [...shipped.matchAll(new RegExp(`\\b(?:${items.join('|')})\\b`, 'g'))]
        const place = places[which % places.length]!
        const word = place[0]
        const at = letter % (word.length - 1)
        // two neighbours are swapped, as hands do; where they are the same, one is put in
        const misspelt =
          word[at] === word[at + 1]
            ? `${word.slice(0, at)}x${word.slice(at)}`
            : word.slice(0, at) + word[at + 1]! + word[at]! + word.slice(at + 2)
        const mine = shipped.slice(0, place.index) + misspelt + shipped.slice(place.index + word.length)
        const told = found({ 'A/a.yml': mine }, { factories: { 'A/a.yml': shipped } }).filter(({ severity }) => severity !== 'note')
        expect(told.map(({ code, from }) => [code, from])).toEqual([['unknown-id', place.index]])
        expect(applyEdits(mine, told[0]!.fix!.edits)).toBe(shipped)
      }),
    )
  })
})

describe('slots', () => {
  const stall = (rows: number, slots: readonly number[]): string =>
    `# The stalls.\n#   rows   rows of nine slots, 1 to 6\n#   slots  where they stand, counted from 0\nstalls:\n  a: { rows: ${rows}, slots: [${slots.join(', ')}] }\n  b: { rows: 1, slots: [1] }\n`
  it('that are taken or not there are found, and no others', () => {
    const numbers = fc.array(fc.integer({ min: -1, max: 30 }), { minLength: 1, maxLength: 8 })
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 3 }), numbers, (rows, slots) => {
        const factory = stall(1, [0])
        const told = found({ 'A/a.yml': stall(rows, slots) }, { factories: { 'A/a.yml': factory } }).filter(
          ({ check }) => check === 'fits-slots',
        )
        const outside = slots.filter((slot) => slot < 0 || slot >= rows * 9)
        const inside = slots.filter((slot) => slot >= 0 && slot < rows * 9)
        const twice = inside.filter((slot, i) => inside.indexOf(slot) < i)
        const count = (code: string): number => told.filter((one) => one.code === code).length
        expect([count('slot-outside'), count('slot-taken')]).toEqual([outside.length, twice.length])
      }),
    )
  })
})

describe('ports', () => {
  it('that two listen at are told of both, and those of other machines of none', () => {
    const port = fc.integer({ min: 41_000, max: 41_004 })
    fc.assert(
      fc.property(fc.array(port, { minLength: 2, maxLength: 6 }), (ports) => {
        const files = Object.fromEntries(ports.map((number, i) => [`P${i}/a.yml`, `port: ${number}\nremote:\n  port: ${number}\n`]))
        const factories = Object.fromEntries(
          ports.map((_number, i) => [`P${i}/a.yml`, `port: ${50_000 + i}\nremote:\n  port: ${51_000 + i}\n`]),
        )
        const told = found(files, { factories, knowledge: NO_KNOWLEDGE })
        const shared = ports.flatMap((number, i) => (ports.filter((other) => other === number).length > 1 ? [`P${i}/a.yml`] : []))
        expect(told.map(({ file }) => file).sort()).toEqual(shared.sort())
        expect(told.every(({ code, from }) => code === 'port-twice' && from === 6)).toBe(true)
      }),
    )
  })
})

describe('what a setting needs', () => {
  const knowledge = (...plugins: string[]): Knowledge => ({ ...DELTA, plugins: plugins.map((name) => ({ ...DELTA.plugins[0]!, name })) })
  const look = (mine: string, ...plugins: string[]): string[] =>
    found(
      { 'A/a.yml': mine },
      {
        factories: { 'A/a.yml': '# In marks (needs Kiln House).\nbonus: 0\nauth: game # One of: game, gate. gate needs Gatehouse\n' },
        knowledge: knowledge(...plugins),
      },
    ).map(({ code }) => code)
  it.each<[string, readonly string[], readonly string[]]>([
    ['bonus: 5\nauth: game\n', ['A'], ['needs-plugin']],
    ['bonus: 5\nauth: game\n', ['A', 'KilnHouse'], []],
    ['bonus: 0\nauth: game\n', ['A'], []],
    ['bonus: 0\nauth: gate\n', ['A'], ['needs-plugin']],
    ['bonus: 0\nauth: gate\n', ['A', 'Gatehouse'], []],
    // of a server of which nothing is known nothing is missing
    ['bonus: 5\nauth: gate\n', [], []],
  ])('%j with %j', (mine, plugins, expected) => expect(look(mine, ...plugins)).toEqual(expected))
})
