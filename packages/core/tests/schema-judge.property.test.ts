import Ajv from 'ajv'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NO_KNOWLEDGE } from '../src/checks'
import { rulesOfSchema } from '../src/rules/json-schema'
import { found } from './delta'

/*
 * What a schema allows is told by a validator that is not ours: for any schema of the parts we read, and any data, something is an error
 * here exactly where that validator refuses the data.
 */

type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json }
type Schema = Readonly<Record<string, unknown>>

const WORDS = ['reed', 'clay', 'eel', 'tin bell', 'oak', '', 'Weir', '12', 'true']
const word = fc.constantFrom(...WORDS)
const whole = fc.integer({ min: -20, max: 20 })
const amount = fc.oneof(
  whole,
  whole.map((one) => one / 2),
)

const numbers: fc.Arbitrary<Schema> = fc
  .record(
    {
      type: fc.constantFrom<unknown>('number', 'integer', ['number', 'null'], ['integer', 'null'], ['integer', 'number']),
      minimum: whole,
      exclusiveMinimum: whole,
      maximum: whole,
      exclusiveMaximum: whole,
      multipleOf: fc.integer({ min: 1, max: 4 }),
    },
    { requiredKeys: ['type'] },
  )
  // an empty range refuses everything, which no author means
  .filter(({ minimum, maximum, exclusiveMaximum, exclusiveMinimum }) => {
    const [least, most] = [minimum ?? exclusiveMinimum ?? -99, maximum ?? exclusiveMaximum ?? 99]
    return (
      least + 2 < most &&
      !(minimum !== undefined && exclusiveMinimum !== undefined) &&
      !(maximum !== undefined && exclusiveMaximum !== undefined)
    )
  })
const texts: fc.Arbitrary<Schema> = fc.record(
  {
    type: fc.constantFrom<unknown>('string', ['string', 'null']),
    minLength: fc.constantFrom(0, 1),
    maxLength: fc.integer({ min: 0, max: 6 }),
    pattern: fc.constantFrom('^[a-z]+$', 'e', '^[A-Z]', '[0-9]{2}', '^$'),
    enum: fc.uniqueArray(fc.constantFrom('reed', 'clay', 'oak'), { minLength: 1 }),
  },
  { requiredKeys: ['type'] },
)
/** Of what may be of several kinds our rules say nothing. */
const OPEN = { type: ['string', 'number'] }
const values: fc.Arbitrary<Schema> = fc.oneof(
  numbers,
  texts,
  fc.constant({ type: 'boolean' }),
  fc.constant({}),
  fc.constant(OPEN),
  fc.uniqueArray(word, { minLength: 1 }).map((choices) => ({ type: 'string', oneOf: choices.map((one) => ({ const: one })) })),
)
const schemas: fc.Arbitrary<Schema> = fc.letrec<{ section: Schema; any: Schema }>((tie) => ({
  any: fc.oneof(
    { maxDepth: 2, depthSize: 'small' },
    values,
    fc.record({ type: fc.constant('array'), items: values, maxItems: fc.integer({ min: 0, max: 3 }) }, { requiredKeys: ['type', 'items'] }),
    tie('section'),
  ),
  section: fc
    .record(
      {
        type: fc.constant('object'),
        properties: fc.dictionary(fc.constantFrom('rows', 'price', 'open', 'goods'), tie('any'), { minKeys: 1 }),
        required: fc.uniqueArray(fc.constantFrom('rows', 'price', 'other')),
        additionalProperties: fc.constant(false),
      },
      { requiredKeys: ['type', 'properties'] },
    )
    // what has to be there and may not be is asked by nobody
    .filter(
      ({ properties, required, additionalProperties }) =>
        additionalProperties === undefined || (required ?? []).every((name) => name in properties),
    ),
})).section

const json: fc.Arbitrary<Json> = fc.letrec<{ value: Json; section: Json }>((tie) => ({
  value: fc.oneof(
    { maxDepth: 2, depthSize: 'small' },
    fc.constant(null),
    fc.boolean(),
    amount,
    word,
    fc.array(fc.oneof(amount, word, fc.boolean()), { maxLength: 4 }),
    tie('section'),
  ),
  section: fc.dictionary(fc.constantFrom('rows', 'price', 'open', 'goods', 'other'), tie('value')),
})).section

/** Whole numbers within the bounds of a schema. */
function numbersFor({ minimum, exclusiveMinimum, maximum, exclusiveMaximum, multipleOf }: Schema): number[] {
  const all = Array.from({ length: 41 }, (_one, i) => i - 20)
  const [least, most] = [Number(minimum ?? exclusiveMinimum ?? -99), Number(maximum ?? exclusiveMaximum ?? 99)]
  return all.filter((one) => one > least && one < most && one % Number(multipleOf ?? 1) === 0)
}

/** Data that fits a schema more often than any would. */
function fitting(schema: Schema): fc.Arbitrary<Json> {
  const types = [schema['type']].flat()
  if (schema['oneOf']) return fc.constantFrom(...(schema['oneOf'] as { const: string }[]).map((one) => one.const))
  if (schema['enum']) return fc.constantFrom(...(schema['enum'] as string[]))
  if (types.includes('object')) {
    const properties = Object.entries(schema['properties'] as Record<string, Schema>)
    return fc.record(Object.fromEntries(properties.map(([name, one]) => [name, fitting(one)])), { noNullPrototype: true } as never)
  }
  if (types.includes('array')) return fc.array(fitting(schema['items'] as Schema), { maxLength: 3 })
  if (types.includes('boolean')) return fc.boolean()
  return types.includes('string') ? word : fc.constantFrom(...numbersFor(schema), 0.5, -3)
}

/** Puts another value at one place. */
const spoiled = (data: Json): fc.Arbitrary<Json> =>
  typeof data === 'object' && data !== null && !Array.isArray(data) && Object.keys(data).length > 0
    ? fc
        .constantFrom(...Object.keys(data))
        .chain((key) =>
          fc
            .oneof(json, amount, word, fc.boolean(), fc.constant(null), spoiled((data as Record<string, Json>)[key]!))
            .map((value) => ({ ...data, [key]: value })),
        )
    : fc.constant(data)

const cases = schemas.chain((schema) =>
  fc.record({
    schema: fc.constant(schema),
    tries: fc.array(
      fitting(schema).chain((data) => fc.oneof(fc.constant(data), spoiled(data), json)),
      { minLength: 12, maxLength: 12 },
    ),
  }),
)

const ajv = new Ajv({ allErrors: true })

describe('what a JSON Schema allows', () => {
  it('is told as another validator tells it', () => {
    const told = { refused: 0, allowed: 0 }
    fc.assert(
      fc.property(cases, ({ schema, tries }) => {
        const rules = rulesOfSchema(schema)
        const isAllSaid = !JSON.stringify(schema).includes(JSON.stringify(OPEN))
        const allows = ajv.compile(schema)
        for (const data of tries) {
          const isAllowed = allows(data) as boolean
          told[isAllowed ? 'allowed' : 'refused']++
          const all = found({ 'A/a.json': JSON.stringify(data, null, 2) }, { rules, knowledge: NO_KNOWLEDGE })
          const errors = all.filter(({ severity }) => severity === 'error')
          if (isAllowed ? errors.length > 0 : errors.length === 0 && isAllSaid)
            throw new Error([schema, data, allows.errors, errors].map((one) => JSON.stringify(one)).join('\n'))
        }
      }),
      { numRuns: 150 },
    )
    // either answer is tried often
    expect(Math.min(told.allowed, told.refused)).toBeGreaterThan(60)
  })
})
