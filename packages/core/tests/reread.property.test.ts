import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdits, type Edit } from '../src/text/edits'
import { readsAlone, reread, rereadInPlace } from '../src/formats/reread'
import { duplicateEntry, removeEntry, renameEntry, setValue } from '../src/formats/operations'
import { fromJson } from '../src/tree/values'
import { LENIENT } from '../src/formats/reading'
import { formatById, parse } from '../src/formats/registry'
import type { Document } from '../src/tree/nodes'
import { checkRules, recheckRules } from '../src/rules/check'
import { inferRules } from '../src/rules/infer'
import { isSection, model, style, toData, valueArbitrary, type ModelValue } from './arbitraries'
import { DIALECTS } from './dialects'

const runs = Number(process.env['FC_RUNS'] ?? 300)

function paths(value: ModelValue, at: readonly string[] = []): string[][] {
  if (Array.isArray(value)) return [[...at], ...value.flatMap((item, i) => paths(item, [...at, String(i)]))]
  if (isSection(value)) return [[...at], ...value.entries.flatMap((entry) => paths(entry.value, [...at, entry.key]))]
  return [[...at]]
}

/** A document without what its reader noted about comments for itself. */
function plain(document: Document): unknown {
  return JSON.parse(JSON.stringify(document, (key, value: unknown) => (key === 'line' || key === 'column' ? undefined : value)))
}

describe.each(DIALECTS.filter((dialect) => formatById(dialect.format).parts).map((dialect) => [dialect.name, dialect] as const))(
  'reading %s again after an edit',
  (_name, dialect) => {
    const read = (text: string) => parse(text, dialect.format, LENIENT)

    /** The law: reading what the edits touched gives what reading everything gives, findings and offsets too. */
    function checkReread(text: string, edits: readonly Edit[]): void {
      const rules = inferRules(read(text))
      const before = read(text)
      const findings = checkRules(before, rules)
      const given = read(text)
      const untouched = plain(given)
      const again = reread(given, edits)
      expect(plain(given), 'the document that was given').toEqual(untouched)
      expect(plain(rereadInPlace(read(text), edits).document)).toEqual(plain(again.document))
      const full = read(applyEdits(text, edits))
      const errors = (of: Document): number => of.findings.filter((finding) => finding.severity === 'error').length
      if (readsAlone(given, edits)) expect(errors(full), 'what reads alone').toBe(errors(given))
      expect(plain(again.document), `after ${JSON.stringify(edits)} in\n${text}`).toEqual(plain(full))
      const rechecked = recheckRules(again.document, rules, findings, again.changes)
      expect(new Set(rechecked.map((item) => JSON.stringify(item)))).toEqual(
        new Set(checkRules(full, rules).map((item) => JSON.stringify(item))),
      )
    }

    it('an operation, then another', () => {
      fc.assert(
        fc.property(model, style, fc.nat(), fc.nat(3), valueArbitrary(2), (section, how, pick, kind, value) => {
          const fitted = dialect.restrict(section)
          fc.pre(fitted.entries.length > 0)
          const text = dialect.render(fitted, how)
          const all = paths(fitted).filter((path) => path.length > 0)
          const path = all[pick % all.length]!
          const keys = [...dialect.wrap, ...path]
          const document = read(text)
          const named = !/^\d+$/.test(path[path.length - 1]!)
          const edits =
            kind === 0
              ? removeEntry(document, keys)
              : kind === 1 && named
                ? renameEntry(document, keys, 'new-name')
                : kind === 2 && named
                  ? duplicateEntry(document, keys, 'twice')
                  : setValue(document, keys, fromJson(toData(dialect.restrictValue(value))))
          checkReread(text, edits)
        }),
        { numRuns: runs },
      )
    })

    it('any letters typed anywhere', () => {
      fc.assert(
        fc.property(
          model,
          style,
          fc.nat(),
          fc.nat(4),
          fc.constantFrom('x', ' ', '\n', ': ', '# c\n', '"', '5', '- ', ',', '\n  y: 1', '{', '--', '&a ', '\r\n'),
          (section, how, place, cut, put) => {
            const text = dialect.render(dialect.restrict(section), how)
            const from = place % (text.length + 1)
            checkReread(text, [{ from, to: Math.min(text.length, from + cut), insert: put }])
          },
        ),
        { numRuns: runs * 2 },
      )
    })

    it('several edits at once', () => {
      fc.assert(
        fc.property(model, style, fc.array(fc.nat(), { minLength: 2, maxLength: 4 }), (section, how, places) => {
          const text = dialect.render(dialect.restrict(section), how)
          const edits = [...new Set(places.map((place) => place % (text.length + 1)))].map((from) => ({ from, to: from, insert: '7' }))
          checkReread(text, edits)
        }),
        { numRuns: runs },
      )
    })
  },
)

it('reads the whole file where edits are many, so that time stays linear', () => {
  const text = Array.from({ length: 400 }, (_x, i) => `k${i}: 1\n`).join('')
  const edits = (count: number): Edit[] =>
    Array.from({ length: count }, (_x, i) => text.indexOf(`k${i}: `)).map((from) => ({ from, to: from, insert: 'x' }))
  expect(reread(parse(text, 'yaml'), edits(5)).changes).not.toBeNull()
  const many = reread(parse(text, 'yaml'), edits(300))
  expect(many.changes).toBeNull()
  expect(many.document.root).toEqual(parse(applyEdits(text, edits(300)), 'yaml').root)
})

it('shares what stands in front of an edit', () => {
  const text = Array.from({ length: 40 }, (_x, i) => `k${i}:\n  a: ${i}\n`).join('')
  const before = parse(text, 'yaml')
  const { document } = reread(before, [{ from: text.indexOf('k30') + 10, to: text.indexOf('k30') + 10, insert: '5' }])
  const entries = (of: Document) => (of.root.type === 'map' ? of.root.entries : [])
  const shared = entries(document).filter((entry, i) => entry === entries(before)[i])
  expect(shared.map((entry) => entry.key)).toEqual(Array.from({ length: 30 }, (_x, i) => `k${i}`))
})
