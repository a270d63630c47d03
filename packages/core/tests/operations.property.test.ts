import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdits, invertEdits, type Edit } from '../src/text/edits'
import { fromJson } from '../src/tree/values'
import { addEntry, duplicateEntry, removeEntry, renameEntry, setValue } from '../src/formats/operations'
import { parse } from '../src/formats/registry'
import type { Document } from '../src/tree/nodes'
import { isSection, model, render, style, toData, valueArbitrary, type ModelValue, type Section } from './arbitraries'
import { normal, readOthers, readOurs } from './oracles'

const FORMATS = ['yaml', 'json'] as const
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
function checkEdit(document: Document, edits: readonly Edit[], expected: unknown, format: 'yaml' | 'json'): string {
  const text = applyEdits(document.text, edits)
  expect(readOurs(text, format), text).toEqual(normal(expected))
  for (const other of readOthers(text, format)) expect(other, text).toEqual(normal(expected))
  expect(applyEdits(text, invertEdits(document.text, edits))).toBe(document.text)
  return text
}

describe.each(FORMATS)('operations on %s', (format) => {
  const written = fc.record({ section: model, how: style }).map(({ section, how }) => ({ section, document: parse(render(section, format, how), format, { relaxed: true }) }))

  it('reads what was written, as others do', () => {
    fc.assert(fc.property(written, ({ section, document }) => {
      checkEdit(document, [], toData(section), format)
    }), { numRuns: runs })
  })

  it('sets any value anywhere', () => {
    fc.assert(fc.property(written, fc.nat(), valueArbitrary(2), ({ section, document }, pick, value) => {
      const all = paths(section).filter((path) => path.length > 0)
      const keys = all[pick % all.length]!
      const edits = setValue(document, keys, fromJson(toData(value)))
      checkEdit(document, edits, edited(toData(section), keys, (parent, key) => put(parent, key, toData(value))), format)
    }), { numRuns: runs })
  })

  it('setting what is there is no edit', () => {
    fc.assert(fc.property(written, fc.nat(), ({ section, document }, pick) => {
      const all = paths(section).filter((path) => path.length > 0)
      const keys = all[pick % all.length]!
      let value: unknown = toData(section)
      for (const key of keys) value = own(value, key)
      expect(setValue(document, keys, fromJson(value))).toEqual([])
    }), { numRuns: runs })
  })

  it('removes any entry', () => {
    fc.assert(fc.property(written, fc.nat(), ({ section, document }, pick) => {
      const all = paths(section).filter((path) => path.length > 0)
      const keys = all[pick % all.length]!
      fc.pre(!(keys.length === 1 && section.entries.length === 1))
      checkEdit(document, removeEntry(document, keys), edited(toData(section), keys, (parent: unknown, key) => {
        if (Array.isArray(parent)) parent.splice(Number(key), 1)
        else delete (parent as Record<string, unknown>)[key]
      }), format)
    }), { numRuns: runs })
  })

  it('adds an entry after any other, first, or last', () => {
    fc.assert(fc.property(written, fc.nat(), fc.nat(), valueArbitrary(2), ({ section, document }, pick, place, value) => {
      const sections = paths(section).filter((path) => isContainerAt(section, path))
      const keys = sections[pick % sections.length]!
      const target = at(section, keys)
      const names = Array.isArray(target) ? target.map((_item, i) => String(i)) : (target as Section).entries.map((entry) => entry.key)
      const after = [null, ...names][place % (names.length + 1)]!
      const edits = addEntry(document, keys, 'brand-new', fromJson(toData(value)), after)
      const text = applyEdits(document.text, edits)
      const expected = structuredClone(toData(section))
      let parent = expected
      for (const key of keys) parent = own(parent, key)
      if (Array.isArray(parent)) parent.splice(after === null ? 0 : Number(after) + 1, 0, toData(value))
      else put(parent as object, 'brand-new', toData(value))
      checkEdit(document, edits, expected, format)
      expect(text.length).toBeGreaterThan(document.text.length - 3)
    }), { numRuns: runs })
  })

  it('duplicates and renames any entry', () => {
    fc.assert(fc.property(written, fc.nat(), ({ section, document }, pick) => {
      const all = paths(section).filter((path) => path.length > 0 && !Array.isArray(at(section, path.slice(0, -1))))
      const keys = all[pick % all.length]!
      const parent = keys.slice(0, -1)
      let value: unknown = toData(section)
      for (const key of keys) value = own(value, key)
      checkEdit(document, duplicateEntry(document, keys, 'copy of it'), edited(toData(section), [...parent, 'copy of it'], (holder, key) => put(holder, key, value)), format)
      checkEdit(document, renameEntry(document, keys, 'new name'), edited(toData(section), [...parent, 'new name'], (holder: Record<string, unknown>, key) => {
        put(holder, key, value)
        delete holder[keys[keys.length - 1]!]
      }), format)
    }), { numRuns: runs })
  })
})

function at(section: Section, keys: readonly string[]): ModelValue {
  let value: ModelValue = section
  for (const key of keys) value = Array.isArray(value) ? value[Number(key)]! : (value as Section).entries.find((entry) => entry.key === key)!.value
  return value
}
function isContainerAt(section: Section, keys: readonly string[]): boolean {
  const value = at(section, keys)
  return typeof value === 'object' && value !== null
}
