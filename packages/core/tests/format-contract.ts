import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdits, invertEdits, type Edit } from '../src/text/edits'
import { fromJson } from '../src/tree/values'
import { addEntry, duplicateEntry, removeEntry, renameEntry, setValue } from '../src/formats/operations'
import { LENIENT } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import type { Document } from '../src/tree/nodes'
import { isSection, model, style, toData, valueArbitrary, type ModelValue, type Section } from './arbitraries'
import { normal, readOthers, readOurs, wrapped, type Dialect } from './dialects'

const runs = Number(process.env['FC_RUNS'] ?? 300)

/** All places of a model, as lists of keys. */
function paths(value: ModelValue, at: readonly string[] = []): string[][] {
  if (Array.isArray(value)) return [[...at], ...value.flatMap((item, i) => paths(item, [...at, String(i)]))]
  if (isSection(value)) return [[...at], ...value.entries.flatMap((entry) => paths(entry.value, [...at, entry.key]))]
  return [[...at]]
}

function edited(data: unknown, keys: readonly string[], change: (parent: never, key: string) => void): unknown {
  const copy = structuredClone(data)
  let at = copy as Record<string, unknown>
  for (const key of keys.slice(0, -1)) at = own(at, key) as Record<string, unknown>
  change(at as never, keys[keys.length - 1]!)
  return copy
}
const own = (object: unknown, key: string): unknown => Object.getOwnPropertyDescriptor(object, key)?.value
const put = (object: object, key: string, value: unknown): void => {
  Object.defineProperty(object, key, { value, enumerable: true, configurable: true, writable: true })
}

/** All our laws about one edit: it reads as expected, to us and to others, and taking it back restores the bytes. */
function checkEdit(document: Document, edits: readonly Edit[], data: unknown, dialect: Dialect): string {
  const text = applyEdits(document.text, edits)
  const expected = wrapped(dialect, data)
  expect(readOurs(text, dialect.format), text).toEqual(normal(expected))
  for (const other of readOthers(text, dialect)) expect(other, text).toEqual(normal(expected))
  expect(applyEdits(text, invertEdits(document.text, edits))).toBe(document.text)
  return text
}

/** The laws every format keeps, tried on files of one dialect that the tests' own code writes and other readers read. */
export function formatContract(dialect: Dialect): void {
  describe(`operations on ${dialect.name}`, () => {
    const written = fc
      .record({ section: model, how: style })
      .map(({ section, how }) => ({ section: dialect.restrict(section), how }))
      .filter(({ section }) => section.entries.length > 0)
      .map(({ section, how }) => ({ section, document: parse(dialect.render(section, how), dialect.format, LENIENT) }))
    const values = valueArbitrary(2).map(dialect.restrictValue)
    const keysOf = (keys: readonly string[]): string[] => [...dialect.wrap, ...keys]

    it('reads what was written, as others do', () => {
      fc.assert(
        fc.property(written, ({ section, document }) => {
          checkEdit(document, [], toData(section), dialect)
        }),
        { numRuns: runs },
      )
    })

    it('sets any value anywhere', () => {
      fc.assert(
        fc.property(written, fc.nat(), values, ({ section, document }, pick, given) => {
          const all = paths(section).filter((path) => path.length > 0)
          const keys = all[pick % all.length]!
          const value = Array.isArray(at(section, keys.slice(0, -1))) ? dialect.restrictItem(given) : given
          const edits = setValue(document, keysOf(keys), fromJson(toData(value)))
          checkEdit(
            document,
            edits,
            edited(toData(section), keys, (parent, key) => put(parent, key, toData(value))),
            dialect,
          )
        }),
        { numRuns: runs },
      )
    })

    it('setting what is there is no edit', () => {
      fc.assert(
        fc.property(written, fc.nat(), ({ section, document }, pick) => {
          const all = paths(section).filter((path) => path.length > 0)
          const keys = all[pick % all.length]!
          let value: unknown = toData(section)
          for (const key of keys) value = own(value, key)
          expect(setValue(document, keysOf(keys), fromJson(value))).toEqual([])
        }),
        { numRuns: runs },
      )
    })

    it('removes any entry', () => {
      fc.assert(
        fc.property(written, fc.nat(), ({ section, document }, pick) => {
          const all = paths(section).filter((path) => path.length > 0)
          const keys = all[pick % all.length]!
          fc.pre(!(keys.length === 1 && section.entries.length === 1))
          checkEdit(
            document,
            removeEntry(document, keysOf(keys)),
            edited(toData(section), keys, (parent: unknown, key) => {
              if (Array.isArray(parent)) parent.splice(Number(key), 1)
              else delete (parent as Record<string, unknown>)[key]
            }),
            dialect,
          )
        }),
        { numRuns: runs },
      )
    })

    it('adds an entry after any other, first, or last', () => {
      fc.assert(
        fc.property(written, fc.nat(), fc.nat(), values, ({ section, document }, pick, place, given) => {
          const sections = paths(section).filter((path) => isContainerAt(section, path))
          const keys = sections[pick % sections.length]!
          const target = at(section, keys)
          const value = Array.isArray(target) ? dialect.restrictItem(given) : given
          const names = Array.isArray(target) ? target.map((_item, i) => String(i)) : (target as Section).entries.map((entry) => entry.key)
          const after = [null, ...names][place % (names.length + 1)]!
          const edits = addEntry(document, keysOf(keys), 'brand-new', fromJson(toData(value)), after)
          const text = applyEdits(document.text, edits)
          const expected = structuredClone(toData(section))
          let parent = expected
          for (const key of keys) parent = own(parent, key)
          if (Array.isArray(parent)) parent.splice(after === null ? 0 : Number(after) + 1, 0, toData(value))
          else put(parent as object, 'brand-new', toData(value))
          checkEdit(document, edits, expected, dialect)
          expect(text.length).toBeGreaterThan(document.text.length - 3)
        }),
        { numRuns: runs },
      )
    })

    it('duplicates and renames any entry', () => {
      fc.assert(
        fc.property(written, fc.nat(), ({ section, document }, pick) => {
          const all = paths(section).filter((path) => path.length > 0 && !Array.isArray(at(section, path.slice(0, -1))))
          const keys = all[pick % all.length]!
          const parent = keys.slice(0, -1)
          let value: unknown = toData(section)
          for (const key of keys) value = own(value, key)
          checkEdit(
            document,
            duplicateEntry(document, keysOf(keys), dialect.nameOf(dialect.nameOf('copy of it'))),
            edited(toData(section), [...parent, dialect.nameOf(dialect.nameOf('copy of it'))], (holder, key) => put(holder, key, value)),
            dialect,
          )
          checkEdit(
            document,
            renameEntry(document, keysOf(keys), dialect.nameOf(dialect.nameOf('new name'))),
            edited(toData(section), [...parent, dialect.nameOf(dialect.nameOf('new name'))], (holder: Record<string, unknown>, key) => {
              put(holder, key, value)
              delete holder[keys[keys.length - 1]!]
            }),
            dialect,
          )
        }),
        { numRuns: runs },
      )
    })
  })
}

function at(section: Section, keys: readonly string[]): ModelValue {
  let value: ModelValue = section
  for (const key of keys)
    value = Array.isArray(value) ? value[Number(key)]! : (value as Section).entries.find((entry) => entry.key === key)!.value
  return value
}
function isContainerAt(section: Section, keys: readonly string[]): boolean {
  const value = at(section, keys)
  return typeof value === 'object' && value !== null
}
