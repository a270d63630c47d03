import fc from 'fast-check'
import { load } from 'js-yaml'
import { describe, expect, it } from 'vitest'
import { RuleSheetError, readRuleSheet, writeRuleSheet, type RuleSheet } from '../src/rules/sheet'
import type { Rule } from '../src/rules/rule'

const text = fc.string({ unit: fc.constantFrom('a', 'ü', '"', "'", '#', ':', ' ', '\\', '-', '\n', '{', '*', '&'), maxLength: 12 })
const rule = fc.record(
  {
    path: text.map((words) => `/${words.replaceAll('~', '')}`),
    min: fc.integer(),
    max: fc.double({ min: -1e9, max: 1e9, noNaN: true }).map((amount) => (Object.is(amount, -0) ? 0 : amount)),
    wholeNumber: fc.boolean(),
    choices: fc.array(text, { maxLength: 4 }),
    says: text,
    said: fc.array(fc.record({ value: text, says: text }), { maxLength: 2 }),
    means: fc.constantFrom('id' as const, 'duration' as const),
  },
  { requiredKeys: ['path'] },
)
const sheets = fc.record({
  plugin: text.filter((name) => name !== ''),
  versions: fc.constantFrom('*', '>=1.2 <3'),
  files: fc.dictionary(
    text.filter((name) => name !== '' && name !== '__proto__'),
    fc.array(rule, { minLength: 1, maxLength: 4 }),
    { maxKeys: 3 },
  ),
})
const byPath = (rules: readonly Rule[]): Rule[] => [...rules].sort((a, b) => (a.path < b.path ? -1 : 1))

describe('a rule sheet', () => {
  it('says what it was made of, to another reader of YAML and to its own', () => {
    fc.assert(
      fc.property(sheets, (sheet) => {
        const written = writeRuleSheet(sheet as RuleSheet)
        const sorted = Object.fromEntries(Object.entries(sheet.files).map(([file, rules]) => [file, byPath(rules as Rule[])]))
        expect(load(written)).toEqual({ plugin: sheet.plugin, versions: sheet.versions, files: sorted })
        const read = readRuleSheet(written)
        expect({
          ...read,
          files: Object.fromEntries(
            Object.entries(read.files).map(([file, rules]) => [file, rules.map(({ source: _source, ...rest }) => rest)]),
          ),
        }).toEqual({
          plugin: sheet.plugin,
          versions: sheet.versions,
          files: sorted,
        })
        expect(writeRuleSheet(read)).toBe(written)
      }),
    )
  })

  it('that says no versions is for all of them', () => {
    expect(readRuleSheet('plugin: A\nfiles: {}\n')).toEqual({ plugin: 'A', versions: '*', files: {} })
  })

  it.each([
    ['plugin: [', 1, /./],
    ['plugin: A\nfiles:\n  a.yml:\n    - { path: x }\n', 4, /JSON Pointer/],
    ['plugin: A\nfiles:\n  a.yml:\n    - { path: /x, means: cheese }\n', 4, /one of switch/],
    ['plugin: A\nfiles:\n  a.yml: 5\n', 3, /array/],
    ['plugin: A\nmore: 1\nfiles: {}\n', 1, /more/],
    ['versions: "*"\nfiles: {}\n', 1, /plugin/],
    ['plugin: A\n', 1, /files is missing/],
  ])('%j is none, since of line %i', (source, line, words) => {
    const read = (): unknown => readRuleSheet(source)
    expect(read).toThrow(RuleSheetError)
    expect(read).toThrow(words)
    try {
      read()
    } catch (error) {
      expect((error as RuleSheetError).line).toBe(line)
    }
  })
})
