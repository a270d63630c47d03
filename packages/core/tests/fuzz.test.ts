import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { carry } from '../src/carry/carry'
import { layer } from '../src/carry/layer'
import { LENIENT } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import type { FormatId } from '../src/tree/nodes'
import { model, style } from './arbitraries'
import { DIALECTS } from './dialects'

const runs = Number(process.env['FC_RUNS'] ?? 400)
const NASTY = [
  '<',
  '>',
  '&',
  '<!--',
  '<![CDATA[',
  '--[[',
  ']]',
  '=',
  ';',
  'end',
  'function(',
  '`',
  '\0',
  '\ud800',
  '"',
  "'",
  '{',
  '[',
  ']',
  '}',
  ':',
  ',',
  '#',
  '//',
  '/*',
  '\t',
  '\r',
  '\n',
  '- ',
  '? ',
  '|',
  '>',
  '&a ',
  '*a',
  '<<: *a',
  '---\n',
  '...',
  '\\',
  '\ufeff',
  '__proto__',
  '%',
  '@',
  '\u2028',
]

const slips = fc.array(fc.record({ at: fc.nat(2000), cut: fc.nat(6), put: fc.constantFrom(...NASTY) }), { minLength: 1, maxLength: 12 })

function damage(text: string, list: readonly { at: number; cut: number; put: string }[]): string {
  return list.reduce((now, { at, cut, put }) => {
    const place = now.length === 0 ? 0 : at % now.length
    return now.slice(0, place) + put + now.slice(place + cut)
  }, text)
}

describe.each(DIALECTS.map((dialect) => [dialect.name, dialect] as const))('broken %s', (_name, dialect) => {
  const { format } = dialect
  it('never throws, and every offset lies in the text', () => {
    fc.assert(
      fc.property(model, style, slips, (section, how, list) => {
        const text = damage(dialect.render(dialect.restrict(section), how), list)
        const document = parse(text, format)
        for (const finding of document.findings) {
          expect(finding.from).toBeGreaterThanOrEqual(0)
          expect(finding.to).toBeLessThanOrEqual(text.length + 3)
        }
      }),
      { numRuns: runs * 2 },
    )
  })

  it('can be layered and carried, whatever it is', () => {
    fc.assert(
      fc.property(model, style, slips, slips, (section, how, first, second) => {
        const factory = dialect.render(dialect.restrict(section), how)
        const mine = damage(factory, first)
        const update = damage(factory, second)
        layer(parse(factory, format, LENIENT), parse(mine, format, LENIENT))
        expect(typeof carry({ factory, mine, update, format }).text).toBe('string')
      }),
      { numRuns: runs },
    )
  })
})

describe('bombs', () => {
  const bombs: readonly (readonly [string, FormatId, string])[] = [
    ['a million nested brackets', 'json', '['.repeat(1_000_000)],
    ['a million nested brackets', 'yaml', '['.repeat(1_000_000)],
    ['a million braces', 'json', '{"a":'.repeat(200_000)],
    ['deep blocks', 'yaml', Array.from({ length: 2000 }, (_x, i) => ' '.repeat(i) + 'a:').join('\n')],
    ['deep dashes', 'yaml', '- '.repeat(100_000)],
    ['ten megabytes on one line', 'yaml', 'a: ' + 'x'.repeat(10_000_000)],
    ['ten megabytes on one line', 'json', `"${'x'.repeat(10_000_000)}"`],
    [
      'aliases of aliases',
      'yaml',
      'a: &a [x, x]\n' +
        Array.from({ length: 30 }, (_x, i) => `b${i}: &b${i} [*${i === 0 ? 'a' : `b${i - 1}`}, *${i === 0 ? 'a' : `b${i - 1}`}]`).join(
          '\n',
        ),
    ],
    ['a million nested tables', 'lua', 'x = ' + '{'.repeat(1_000_000)],
    ['a million minus signs', 'lua', 'x = ' + '- '.repeat(1_000_000) + '1'],
    ['a long chain of dots', 'lua', 'x = ' + 'a..'.repeat(200_000) + 'a'],
    ['many functions', 'lua', 'function f() '.repeat(100_000)],
    ['many parentheses', 'lua', 'x = ' + '('.repeat(500_000)],
    ['ten megabytes on one line', 'lua', `x = "${'x'.repeat(10_000_000)}"`],
    ['a million open elements', 'xml', '<a>'.repeat(1_000_000)],
    ['many attributes', 'xml', `<a ${Array.from({ length: 20_000 }, (_x, i) => `b${i}="1"`).join(' ')}/>`],
    ['ten megabytes on one line', 'xml', `<a>${'x'.repeat(10_000_000)}</a>`],
    ['entities of entities', 'xml', '<!DOCTYPE a [<!ENTITY b "&c;&c;"><!ENTITY c "&b;&b;">]><a>&b;</a>'],
    ['many headings', 'ini', '[a'.repeat(300_000)],
    ['ten megabytes on one line', 'ini', `a = ${'x'.repeat(10_000_000)}`],
    ['ten megabytes on one line', 'properties', `a=${'x'.repeat(10_000_000)}`],
    ['backslashes', 'properties', '\\'.repeat(1_000_000)],
    ['many continued lines', 'properties', 'a=' + 'x\\\n'.repeat(200_000)],
    ['nested lists', 'script', `const A = ${'['.repeat(200_000)}`],
    ['a long sum', 'script', `const A = ${'1+'.repeat(50_000)}1`],
    ['many broken lines', 'script', 'const A = [;\n'.repeat(20_000)],
    ['lone surrogates', 'yaml', 'a: \ud800\nb: "\udfff"\n'.repeat(1000)],
    ['replacement characters', 'yaml', '\ufffd: \ufffd\n'.repeat(1000)],
    ['NUL bytes', 'yaml', '\0'.repeat(1000)],
    ['open quotes', 'yaml', 'a: "\n'.repeat(20_000)],
    ['carriage returns', 'yaml', 'a: 1\r'.repeat(10_000)],
  ]
  it.each(bombs)('%s (%s)', (_name, format, text) => {
    expect(parse(text, format).text).toBe(text)
  })

  it('carries 20,000 entries in about the time of ten times 2,000', () => {
    const file = (count: number, price: number): string =>
      'entries:\n' + Array.from({ length: count }, (_x, i) => `  e${i}:\n    price: ${price + (i % 7)}\n`).join('')
    const result = carry({
      factory: file(20_000, 1),
      mine: file(20_000, 1).replace('price: 3\n', 'price: 33\n'),
      update: file(20_000, 2),
      format: 'yaml',
    })
    expect(result.decisions.filter((item) => item.attention)).toHaveLength(1)
  })
})
