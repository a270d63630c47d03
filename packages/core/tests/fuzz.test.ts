import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { carry } from '../src/carry/carry'
import { layer } from '../src/carry/layer'
import { parse } from '../src/formats/registry'
import type { FormatId } from '../src/tree/nodes'
import { model, render, style } from './arbitraries'

const runs = Number(process.env['FC_RUNS'] ?? 400)
const FORMATS: readonly FormatId[] = ['yaml', 'json', 'properties']
const NASTY = ['\0', '\ud800', '"', "'", '{', '[', ']', '}', ':', ',', '#', '//', '/*', '\t', '\r', '\n', '- ', '? ', '|', '>', '&a ', '*a', '<<: *a', '---\n', '...', '\\', '\ufeff', '__proto__', '%', '@', '\u2028']

const slips = fc.array(fc.record({ at: fc.nat(2000), cut: fc.nat(6), put: fc.constantFrom(...NASTY) }), { minLength: 1, maxLength: 12 })

function damage(text: string, list: readonly { at: number; cut: number; put: string }[]): string {
  return list.reduce((now, { at, cut, put }) => {
    const place = now.length === 0 ? 0 : at % now.length
    return now.slice(0, place) + put + now.slice(place + cut)
  }, text)
}

describe.each(FORMATS)('broken %s', (format) => {
  it('never throws, and every offset lies in the text', () => {
    fc.assert(fc.property(model, style, slips, (section, how, list) => {
      const text = damage(render(section, format === 'properties' ? 'yaml' : format, how), list)
      const document = parse(text, format)
      for (const finding of document.findings) {
        expect(finding.from).toBeGreaterThanOrEqual(0)
        expect(finding.to).toBeLessThanOrEqual(text.length + 3)
      }
    }), { numRuns: runs * 2 })
  })

  it('can be layered and carried, whatever it is', () => {
    fc.assert(fc.property(model, style, slips, slips, (section, how, first, second) => {
      const factory = render(section, format === 'properties' ? 'yaml' : format, how)
      const mine = damage(factory, first)
      const update = damage(factory, second)
      layer(parse(factory, format, { relaxed: true }), parse(mine, format, { relaxed: true }))
      expect(typeof carry({ factory, mine, update, format }).text).toBe('string')
    }), { numRuns: runs })
  })
})

describe('bombs', () => {
  const bombs: readonly (readonly [string, FormatId, string])[] = [
    ['a million nested brackets', 'json', '['.repeat(1_000_000)], ['a million nested brackets', 'yaml', '['.repeat(1_000_000)], ['a million braces', 'json', '{"a":'.repeat(200_000)],
    ['deep blocks', 'yaml', Array.from({ length: 2000 }, (_x, i) => ' '.repeat(i) + 'a:').join('\n')], ['deep dashes', 'yaml', '- '.repeat(100_000)],
    ['ten megabytes on one line', 'yaml', 'a: ' + 'x'.repeat(10_000_000)], ['ten megabytes on one line', 'json', `"${'x'.repeat(10_000_000)}"`],
    ['aliases of aliases', 'yaml', 'a: &a [x, x]\n' + Array.from({ length: 30 }, (_x, i) => `b${i}: &b${i} [*${i === 0 ? 'a' : `b${i - 1}`}, *${i === 0 ? 'a' : `b${i - 1}`}]`).join('\n')],
    ['NUL bytes', 'yaml', '\0'.repeat(1000)], ['open quotes', 'yaml', 'a: "\n'.repeat(20_000)], ['carriage returns', 'yaml', 'a: 1\r'.repeat(10_000)],
  ]
  it.each(bombs)('%s (%s)', (_name, format, text) => {
    expect(parse(text, format).text).toBe(text)
  })

  it('carries 20,000 entries in about the time of ten times 2,000', () => {
    const file = (count: number, price: number): string => 'entries:\n' + Array.from({ length: count }, (_x, i) => `  e${i}:\n    price: ${price + (i % 7)}\n`).join('')
    const result = carry({ factory: file(20_000, 1), mine: file(20_000, 1).replace('price: 3\n', 'price: 33\n'), update: file(20_000, 2), format: 'yaml' })
    expect(result.decisions.filter((item) => item.attention)).toHaveLength(1)
  })
})
