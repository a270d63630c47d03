import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readFamily } from '../src/families/family'
import { isOfInterest, readPackage } from '../src/families/package-info'
import { parse } from '../src/formats/registry'
import { UNSAID } from '../src/formats/reading'
import { checkRules } from '../src/rules/check'
import { isJsonSchema, rulesOfSchema } from '../src/rules/json-schema'

const of = (properties: Record<string, unknown>, more: Record<string, unknown> = {}) =>
  Object.fromEntries(rulesOfSchema({ properties, ...more }).map(({ path, source: _source, ...rule }) => [path, rule]))

describe('rules of a JSON Schema', () => {
  it.each([
    ['bounds', { type: 'number', minimum: 0, maximum: 1, multipleOf: 0.1 }, { kind: 'number', min: 0, max: 1, step: 0.1 }],
    [
      'bounds that do not count themselves',
      { type: 'integer', exclusiveMinimum: 0, exclusiveMaximum: 10 },
      { kind: 'number', min: 1, max: 9, wholeNumber: true },
    ],
    ['choices', { enum: ['low', 'high', null] }, { means: 'choice', choices: ['low', 'high'] }],
    [
      'choices with names',
      { oneOf: [{ const: 0, title: 'off' }, { const: 1 }] },
      { means: 'choice', choices: ['0', '1'], said: [{ value: '0', says: 'off' }] },
    ],
    ['a format', { type: 'string', format: 'uri' }, { kind: 'text', means: 'link' }],
    ['a secret', { type: 'string', writeOnly: true }, { kind: 'text', means: 'secret' }],
    [
      'words',
      { type: ['string', 'null'], title: 'T', description: 'D', maxLength: 9 },
      { kind: 'text', mayBeEmpty: true, title: 'T', says: 'D', maxLength: 9, countsCodes: true },
    ],
    [
      'a list',
      { type: 'array', maxItems: 3, items: { enum: ['a', 'b'] } },
      { kind: 'list', means: 'choice', choices: ['a', 'b'], maxItems: 3 },
    ],
    [
      'what a schema cannot say',
      { type: 'number', 'x-means': 'duration', 'x-unit': 'tick' },
      { kind: 'number', means: 'duration', unit: 'tick' },
    ],
  ])('%s', (_what, schema, rule) => expect(of({ a: schema })['/a']).toEqual(rule))

  it('reaches into sections, any names, items and references, also those that come back to themselves', () => {
    const rules = of(
      {
        'a/b': { properties: { c: { type: 'boolean' } } },
        stalls: { additionalProperties: { $ref: '#/$defs/stall' } },
        list: { type: 'array', items: { properties: { price: { allOf: [{ type: 'integer' }, { minimum: 2 }] } } } },
        tree: { $ref: '#/$defs/tree' },
      },
      {
        $defs: {
          stall: { properties: { fee: { type: 'number', minimum: 1 } } },
          tree: { properties: { leaf: { type: 'string' }, tree: { $ref: '#/$defs/tree' } } },
        },
      },
    )
    expect(rules['/a~1b/c']).toEqual({ kind: 'bool' })
    expect(rules['/stalls/*/fee']).toEqual({ kind: 'number', min: 1 })
    expect(rules['/list/*/price']).toEqual({ kind: 'number', min: 2, wholeNumber: true })
    expect(rules['/tree/tree/leaf']).toEqual({ kind: 'text' })
    expect(Object.keys(rules).length).toBeLessThan(60)
  })

  it('is told from a list of rules, and nonsense is refused', () => {
    expect([isJsonSchema({ properties: {} }), isJsonSchema({ $schema: 'x' }), isJsonSchema([]), isJsonSchema({ rules: [] })]).toEqual([
      true,
      true,
      false,
      false,
    ])
    expect(() => rulesOfSchema([])).toThrow(TypeError)
    expect(() => of({ a: { type: 'string', 'x-means': 'cheese' } })).toThrow(/“means” must be one of/)
  })

  it('what it declares is checked', () => {
    const rules = rulesOfSchema({ properties: { seats: { type: 'integer', maximum: 40 } } })
    const found = checkRules(parse('seats: 50\n', 'yaml', UNSAID), rules)
    expect(found.map(({ code }) => code)).toEqual(['out-of-range'])
  })
})

describe('schemas in a package', () => {
  const family = readFamily(readFileSync('families/archive.yml', 'utf8'))
  const files = (schema: string): ReadonlyMap<string, string> =>
    new Map([
      ['pack.yml', 'name: Eel\nversion: 1.0\n'],
      ['defaults/a.json', '{}'],
      ['schemas/a.json.json', schema],
    ])

  it('declare the settings of the file they are called after', () => {
    expect(isOfInterest('schemas/a.json.json', family, [])).toBe(true)
    expect(isOfInterest('schemas/.json', family, [])).toBe(false)
    const { rules } = readPackage(files('{ "properties": { "x": { "type": "integer" } } }'), family, 'Eel')
    expect(rules).toEqual({ 'a.json': [{ path: '/x', source: 'declared', kind: 'number', wholeNumber: true }] })
    const list = readPackage(files('[{ "path": "/x", "means": "port" }]'), family, 'Eel')
    expect(list.rules).toEqual({ 'a.json': [{ path: '/x', source: 'declared', means: 'port' }] })
  })

  it.each(['{', '[]', '{ "properties": { "x": { "x-means": "cheese" } } }', '3'])(
    '%s declares nothing, and keeps nothing back',
    (schema) => {
      expect(readPackage(files(schema), family, 'Eel')).toMatchObject({ name: 'Eel', defaults: { 'a.json': '{}' } })
      expect(readPackage(files(schema), family, 'Eel')).not.toHaveProperty('rules')
    },
  )
})
