import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LENIENT } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import { model, style } from './arbitraries'
import { DIALECTS } from './dialects'
import { judge, slipsIn, type Judged } from './slips'

const runs = Number(process.env['FC_RUNS'] ?? 120)
const random = (): (() => number) => {
  let state = 20261123
  return () => (state = (state * 1103515245 + 12345) & 0x7fffffff) / 0x7fffffff
}

describe('diagnosis', () => {
  it.each(DIALECTS.map((dialect) => [dialect.name, dialect] as const))('no alarm on intact files: %s', (_name, dialect) => {
    fc.assert(
      fc.property(model, style, (section, how) => {
        const text = dialect.render(dialect.restrict(section), how)
        expect(
          parse(text, dialect.format, LENIENT).findings.filter((finding) => finding.severity !== 'note'),
          text,
        ).toEqual([])
      }),
      { numRuns: runs },
    )
  })

  it.each(['yaml', 'json', 'lua: a returned table', 'xml'])('finds slips where they are, once each: %s', (name) => {
    const dialect = DIALECTS.find((item) => item.name === name)!
    const judged: Judged[] = []
    const next = random()
    fc.assert(
      fc.property(model, style, (section, how) => {
        const text = dialect.render(dialect.restrict(section), { ...how, eol: '\n', quotes: 'double' })
        judged.push(...slipsIn(text, dialect.format, 2, next).map((slip) => judge(slip, dialect.format)))
      }),
      { numRuns: runs },
    )
    const share = (test: (item: Judged) => boolean): number => judged.filter(test).length / judged.length
    const missed = judged
      .filter((item) => !item.exact)
      .slice(0, 5)
      .map((item) => `${item.kind}, line ${item.line}: ${item.said}\n${item.text}`)
      .join('\n---\n')
    expect(judged.length).toBeGreaterThan(80)
    expect(
      share((item) => item.found),
      missed,
    ).toBeGreaterThan(0.99)
    expect(
      share((item) => item.exact),
      missed,
    ).toBeGreaterThan(0.93)
    expect(
      share((item) => item.single),
      missed,
    ).toBeGreaterThan(0.9)
  })
})
