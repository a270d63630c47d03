import { formatPointer } from '../tree/pointer'
import { safePattern } from './pattern'
import { readRule, type Meaning, type Rule } from './rule'

type Schema = Readonly<Record<string, unknown>>

const isSchema = (data: unknown): data is Schema => typeof data === 'object' && data !== null && !Array.isArray(data)

/** Whether data is a JSON Schema of a settings file, rather than a list of rules. */
export const isJsonSchema = (data: unknown): boolean =>
  isSchema(data) && !('rules' in data) && ('$schema' in data || isSchema(data['properties']) || isSchema(data['additionalProperties']))

/** So deep do schemas go that refer to themselves. */
const DEEPEST = 12

const KINDS: Readonly<Record<string, Rule['kind']>> = {
  object: 'map',
  array: 'list',
  string: 'text',
  number: 'number',
  integer: 'number',
  boolean: 'bool',
}

const FORMATS: Readonly<Record<string, Meaning>> = {
  uri: 'link',
  url: 'link',
  hostname: 'host',
  ipv4: 'host',
  ipv6: 'host',
  time: 'time',
  color: 'colour',
  colour: 'colour',
  password: 'secret',
}

/**
 * The rules that a JSON Schema (draft 7 to 2020-12, json-schema.org) declares: kinds, bounds, choices, lengths, formats, names and
 * explanations. What a rule has and a schema cannot say stands in keys of our own that begin with `x-`, as `x-unit: tick`.
 * References are followed within the schema only. What is not known is passed over.
 * @throws TypeError for a key of ours that is no rule's
 */
export function rulesOfSchema(data: unknown): readonly Rule[] {
  if (!isSchema(data)) throw new TypeError('a schema must be an object')
  const rules: Rule[] = []
  visit(data, data, [], rules, 0)
  return rules
}

/** What the section that a setting is in says of it: that it has to be there, and that all that may be there is listed. */
interface Listed {
  readonly present?: boolean
  readonly isClosed?: boolean
}

function visit(
  root: Schema,
  given: Schema,
  keys: readonly string[],
  rules: Rule[],
  depth: number,
  { present, isClosed }: Listed = {},
): void {
  const schema = whole(root, given, 0)
  if (depth > DEEPEST) return
  const closed = depth < DEEPEST ? closedBy(schema) : {}
  const said = keys.length > 0 ? ruleOf(root, schema, keys) : { path: '', source: 'declared' as const }
  const rule = { ...said, ...closed, ...(present ? { present } : {}) }
  // what says no more than where it is says nothing, but for its name
  if (Object.keys(rule).length > 2 || isClosed) rules.push(rule)
  const asked = Array.isArray(schema['required']) ? schema['required'].map(String) : []
  const properties = partOf(schema, 'properties')
  for (const name of new Set([...Object.keys(properties), ...asked])) {
    const below = properties[name]
    const listed = { present: asked.includes(name), isClosed: closed.closed === true }
    visit(root, isSchema(below) ? below : {}, [...keys, name], rules, depth + 1, listed)
  }
  const any = [schema['additionalProperties'], ...Object.values(partOf(schema, 'patternProperties'))].find(isSchema)
  if (any) visit(root, any, [...keys, '*'], rules, depth + 1)
  // items that are values have their rule with the list; sections have rules of their own
  const items = isSchema(schema['items']) ? whole(root, schema['items'], 0) : null
  if (items && isSchema(items['properties'])) visit(root, items, [...keys, '*'], rules, depth + 1)
}

/** Whether a section takes no names but those that are listed. */
const closedBy = (schema: Schema): Pick<Rule, 'closed'> =>
  schema['additionalProperties'] === false && Object.keys(partOf(schema, 'properties')).length > 0 && !('patternProperties' in schema)
    ? { closed: true }
    : {}

const partOf = (schema: Schema, key: string): Schema => (isSchema(schema[key]) ? schema[key] : {})

/** A schema with what it refers to, and all that it must be at once. */
function whole(root: Schema, schema: Schema, depth: number): Schema {
  if (depth > DEEPEST) return schema
  const reference = schema['$ref']
  const referred = typeof reference === 'string' ? at(root, reference) : null
  const parts = [...(referred ? [referred] : []), ...(Array.isArray(schema['allOf']) ? schema['allOf'].filter(isSchema) : [])]
  return parts.reduce<Schema>((known, part) => {
    const more = whole(root, part, depth + 1)
    return { ...more, ...known, properties: { ...partOf(more, 'properties'), ...partOf(known, 'properties') } }
  }, schema)
}

function at(root: Schema, reference: string): Schema | null {
  if (reference === '#') return root
  if (!reference.startsWith('#/')) return null
  let found: unknown = root
  for (const part of reference.slice(2).split('/')) {
    const key = decodeURIComponent(part).replaceAll('~1', '/').replaceAll('~0', '~')
    found = isSchema(found) && Object.hasOwn(found, key) ? found[key] : null
  }
  return isSchema(found) ? found : null
}

function ruleOf(root: Schema, schema: Schema, keys: readonly string[]): Rule {
  const types = typesOf(schema)
  const type = types.length === 1 ? types[0] : undefined
  const items = isSchema(schema['items']) ? whole(root, schema['items'], 0) : {}
  // what each item of a list is, the list says
  const value = type === 'array' ? { ...items, title: schema['title'], description: schema['description'] } : schema
  const kind = KINDS[String(type)]
  const itemKind = kind === 'list' && typesOf(items).length === 1 && !includesNull(items) ? KINDS[typesOf(items)[0]!] : undefined
  const mayBeEmpty = kind !== undefined && includesNull(schema)
  const listed = choicesOf(value)
  const means = FORMATS[String(value['format'])] ?? (value['writeOnly'] === true ? 'secret' : listed ? 'choice' : undefined)
  return readRule(
    {
      path: formatPointer(keys),
      source: 'declared',
      ...(kind ? { kind } : {}),
      ...(mayBeEmpty ? { mayBeEmpty } : {}),
      ...(itemKind ? { items: itemKind } : {}),
      ...(means ? { means } : {}),
      ...listed,
      ...boundsOf(value, type === 'integer' || items['type'] === 'integer'),
      ...textsOf(value),
      ...(typeof schema['maxItems'] === 'number' ? { maxItems: schema['maxItems'] } : {}),
      ...ours(schema),
    },
    `the schema of ${formatPointer(keys)}`,
  )
}

const includesNull = ({ type, enum: choices }: Schema): boolean =>
  Array.isArray(type) && type.includes('null') && (!Array.isArray(choices) || choices.includes(null))

/** What a value may be, but for nothing at all; a whole number is a number. */
function typesOf({ type }: Schema): readonly string[] {
  const types = (Array.isArray(type) ? type : [type]).filter((one): one is string => typeof one === 'string' && one !== 'null')
  return types.includes('number') ? types.filter((one) => one !== 'integer') : types
}

function boundsOf(schema: Schema, isWhole: boolean): Partial<Rule> {
  const number = (key: string): number | undefined => (typeof schema[key] === 'number' ? schema[key] : undefined)
  // beyond a bound that does not count itself, the next whole number does
  const beyond = (key: string, by: number): number | undefined => {
    const bound = number(key)
    return bound === undefined ? undefined : isWhole ? bound + by : bound
  }
  const [min, max] = [number('minimum') ?? beyond('exclusiveMinimum', 1), number('maximum') ?? beyond('exclusiveMaximum', -1)]
  const step = number('multipleOf')
  return {
    ...(min === undefined ? {} : { min }),
    ...(max === undefined ? {} : { max }),
    ...(step === undefined ? {} : { step }),
    ...(isWhole ? { wholeNumber: true } : {}),
  }
}

function textsOf(schema: Schema): Partial<Rule> {
  const [title, says, maxLength, pattern] = [schema['title'], schema['description'], schema['maxLength'], schema['pattern']]
  const least = schema['minLength']
  return {
    ...(typeof title === 'string' ? { title } : {}),
    ...(typeof says === 'string' ? { says } : {}),
    // a schema counts all characters, codes too
    ...(typeof maxLength === 'number' ? { maxLength, countsCodes: true } : {}),
    ...(typeof least === 'number' && least > 0 ? { required: true } : {}),
    ...(typeof pattern === 'string' && safePattern(pattern) ? { pattern } : {}),
  }
}

/** Values of an `enum`, or constants to choose from, which may have names. */
function choicesOf(schema: Schema): Pick<Rule, 'choices' | 'said'> | null {
  const known = Array.isArray(schema['enum']) ? schema['enum'] : null
  if (known) return { choices: known.filter((one) => one !== null).map(String) }
  const options = [schema['oneOf'], schema['anyOf']].find(Array.isArray)
  if (!options?.length || !options.every((one) => isSchema(one) && 'const' in one)) return null
  const constants = options as Schema[]
  const said = constants
    .filter(({ title }) => typeof title === 'string')
    .map((one) => ({ value: String(one['const']), says: String(one['title']) }))
  return { choices: constants.map((one) => String(one['const'])), ...(said.length > 0 ? { said } : {}) }
}

/** Keys of our own: those of a rule, after `x-`. */
const ours = (schema: Schema): Schema =>
  Object.fromEntries(
    [
      'means',
      'unit',
      'zone',
      'registry',
      'keys',
      'first',
      'width',
      'height',
      'endings',
      'folder',
      'emptyMeans',
      'needs',
      'leave',
      'countsCodes',
      'patternSays',
      'required',
      'mayBeEmpty',
      'role',
      'sameAs',
      'applies',
    ].flatMap((key) => (`x-${key}` in schema ? [[key, schema[`x-${key}`]]] : [])),
  )
