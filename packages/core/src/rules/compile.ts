import { number, string, ValidationError, type NumberSchema, type StringSchema } from 'yup'
import type { FindingCode } from '../tree/nodes'
import { seenLength } from '../values/length'
import type { Markup } from '../values/markup'
import { MOST_MATCHED, safePattern } from './pattern'
import type { Rule } from './rule'

/** A part of a rule that a value does not keep. */
export interface BrokenRule {
  readonly part: keyof Rule
  readonly code: FindingCode
  /** What is wrong and the next step, to go behind the name of the setting. @param who says so, as “the author” */
  readonly says: (who: string) => string
}

/** A rule as Yup schemas, for values that are numbers and for those that are texts; null where it asks nothing of such. */
export interface CompiledRule {
  readonly number: NumberSchema | null
  readonly text: StringSchema | null
}

interface Failed {
  readonly value: unknown
}

const CODES: Readonly<Partial<Record<keyof Rule, FindingCode>>> = {
  min: 'out-of-range',
  max: 'out-of-range',
  wholeNumber: 'out-of-range',
  step: 'out-of-range',
  choices: 'unknown-choice',
  maxLength: 'too-long',
  pattern: 'wrong-form',
  required: 'is-missing',
}

type Words = (value: string, who: string) => string

/** Words of one part, for Yup to tell with the value. */
const told =
  (part: keyof Rule, words: Words) =>
  ({ value }: Failed): BrokenRule => ({ part, code: CODES[part]!, says: (who) => words(String(value), who) })
// Yup passes on whatever a message function gives; its types know of texts only
const message = (part: keyof Rule, words: Words): never => told(part, words) as never

/** A rule compiled to Yup, so that the browser, the server and the command line hold values against the same. */
export function compileRule(rule: Rule, texts: Pick<Markup, 'codes'> | null = null): CompiledRule {
  return { number: numberSchema(rule), text: textSchema(rule, texts) }
}

function numberSchema({ min, max, wholeNumber, step, choices }: Rule): NumberSchema | null {
  if (min === undefined && max === undefined && !wholeNumber && !step && !choices) return null
  let schema: NumberSchema = number().strict()
  if (min !== undefined)
    schema = schema.min(
      min,
      message('min', (value, who) => `is ${value}, and ${who} says at least ${min}. Raise it.`),
    )
  if (max !== undefined)
    schema = schema.max(
      max,
      message('max', (value, who) => `is ${value}, and ${who} says at most ${max}. Lower it.`),
    )
  if (wholeNumber) schema = schema.integer(message('wholeNumber', (value) => `takes whole numbers only, and this is ${value}.`))
  if (step)
    schema = schema.test(
      'step',
      message('step', (value) => `goes in steps of ${step}, and this is ${value}.`),
      (value) => value === undefined || isStep(value, step),
    )
  if (choices) schema = schema.test('choices', choicesSay(choices), (value) => choices.includes(String(value)))
  return schema
}

/** Steps are counted from zero, as `multipleOf` of a JSON Schema counts them. */
const isStep = (amount: number, step: number): boolean => Math.abs(amount / step - Math.round(amount / step)) < 1e-9

const choicesSay = (choices: readonly string[]): never =>
  message('choices', (value) => `has no choice “${value}”. Pick one of ${choices.join(', ')}.`)

function textSchema(rule: Rule, texts: Pick<Markup, 'codes'> | null): StringSchema | null {
  const { choices, maxLength, required, countsCodes } = rule
  const pattern = rule.pattern === undefined ? null : safePattern(rule.pattern)
  if (!choices && maxLength === undefined && !pattern && !required) return null
  let schema: StringSchema = string().strict()
  if (required)
    schema = schema.test(
      'required',
      message('required', () => 'is empty, and it has to say something.'),
      (value) => value !== '',
    )
  if (choices) schema = schema.test('choices', choicesSay(choices), (value) => choices.includes(value ?? ''))
  if (maxLength !== undefined) {
    const codes = texts?.codes ? new RegExp(texts.codes, 'g') : null
    const length = (value: string): number => (countsCodes ? [...value].length : seenLength(value, codes))
    const words = (value: string, who: string): string =>
      `has ${length(value)} characters, and ${who} says at most ${maxLength}. Shorten it.`
    schema = schema.test('maxLength', message('maxLength', words), (value) => length(value ?? '') <= maxLength)
  }
  if (pattern)
    schema = schema.test(
      'pattern',
      message('pattern', (value) => `must be ${rule.patternSays ?? `of the form ${rule.pattern}`}, and this is “${value}”.`),
      (value) => (value ?? '').length > MOST_MATCHED || pattern.test(value ?? ''),
    )
  return schema
}

/** What of its rule a value does not keep. @param value a number, or the text that stands there */
export function brokenBy(compiled: CompiledRule, value: number | string): readonly BrokenRule[] {
  const schema = typeof value === 'number' ? compiled.number : compiled.text
  if (!schema) return []
  try {
    schema.validateSync(value, { abortEarly: false })
    return []
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error
    return error.errors as unknown as BrokenRule[]
  }
}
