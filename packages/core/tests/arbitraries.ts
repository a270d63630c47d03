import fc from 'fast-check'
import type { FormatId } from '../src/tree/nodes'

/** A settings file as a model: what it says, apart from how it is written. */
export type Scalar = string | number | boolean | null
export type ModelValue = Scalar | ModelValue[] | Section
export interface Section {
  readonly entries: readonly { readonly key: string; readonly comment: string | null; readonly value: ModelValue }[]
}

/** How a model is written down. */
export interface Style {
  readonly eol: '\n' | '\r\n'
  readonly indent: 2 | 4
  readonly quotes: 'plain' | 'single' | 'double'
  readonly flowLists: boolean
  readonly blankLines: boolean
  readonly comments: boolean
  readonly finalBreak: boolean
  readonly listIndent: boolean
}

const KEYS = [
  'save-every',
  'menuTitle',
  'price',
  'cooldown',
  'slots',
  'goods',
  'name',
  'enabled',
  'sound',
  'lines',
  'tax',
  'pause',
  'places',
  'icon',
  'note',
  'refund',
  'limit',
  'prefix',
  'weight',
  'rate',
  '12',
  'a b',
  'ключ',
  '__proto__',
]
const TEXTS = [
  'reed',
  'a longer text',
  'yes',
  'no',
  '012',
  '1_000',
  '12:30',
  '{player} opens',
  '[amber]x[/]',
  '',
  ' padded ',
  "it's",
  '"quoted"',
  'a: b',
  'a #b',
  '# no comment',
  '- dash',
  'tab\there',
  'two\nlines',
  '\\back',
  'ünïcode ✓',
  '@at',
  '%pct',
  'null',
  'true',
  '7700123456789012345',
  '*star',
  '&amp',
  '!bang',
  '|',
  '>',
  '?',
  'x:',
  ',',
  '[',
  '}',
  '=',
  '~',
  '🦆',
]

const scalar: fc.Arbitrary<Scalar> = fc.oneof(
  { weight: 3, arbitrary: fc.constantFrom(...TEXTS) },
  { weight: 2, arbitrary: fc.integer({ min: -5000, max: 5000 }) },
  { weight: 1, arbitrary: fc.constantFrom(0.5, 1.25, -0.05, 1e21, 1e-7) },
  { weight: 1, arbitrary: fc.boolean() },
  { weight: 1, arbitrary: fc.constant(null) },
  {
    weight: 1,
    arbitrary: fc
      .string({ maxLength: 12 })
      .filter((text) => !/[\ud800-\udfff\u0000-\u0008\u000b-\u001f\u007f-\u009f\ufeff\ufffe\uffff]/.test(text)),
  },
)
const comment = fc.option(fc.constantFrom('How often.', 'In seconds.', 'See the notes', 'Any of: reed, clay', 'off by default'), {
  nil: null,
})

export function valueArbitrary(depth: number): fc.Arbitrary<ModelValue> {
  if (depth <= 0) return scalar
  return fc.oneof(
    { weight: 6, arbitrary: scalar as fc.Arbitrary<ModelValue> },
    { weight: 2, arbitrary: fc.array(scalar, { maxLength: 5 }) as fc.Arbitrary<ModelValue> },
    { weight: 1, arbitrary: fc.array(sectionArbitrary(depth - 1), { minLength: 1, maxLength: 3 }) as fc.Arbitrary<ModelValue> },
    { weight: 3, arbitrary: sectionArbitrary(depth - 1) as fc.Arbitrary<ModelValue> },
  )
}

export function sectionArbitrary(depth: number): fc.Arbitrary<Section> {
  return fc
    .uniqueArray(fc.record({ key: fc.constantFrom(...KEYS), comment, value: valueArbitrary(depth) }), {
      selector: (entry) => entry.key,
      maxLength: 6,
    })
    .map((entries) => ({ entries }))
}

export const model = sectionArbitrary(3).filter((section) => section.entries.length > 0)

export const style: fc.Arbitrary<Style> = fc.record({
  eol: fc.constantFrom('\n' as const, '\r\n' as const),
  indent: fc.constantFrom(2 as const, 4 as const),
  quotes: fc.constantFrom('plain' as const, 'single' as const, 'double' as const),
  flowLists: fc.boolean(),
  blankLines: fc.boolean(),
  comments: fc.boolean(),
  finalBreak: fc.boolean(),
  listIndent: fc.boolean(),
})

/** A change to a model, steered by numbers so that it shrinks well. */
export interface Change {
  readonly pick: number
  readonly how: number
  readonly value: ModelValue
  readonly key: string
}

export const changes: fc.Arbitrary<Change[]> = fc.array(
  fc.record({
    pick: fc.nat(1000),
    how: fc.nat(5),
    value: valueArbitrary(1),
    key: fc.constantFrom('extra', 'second-price', 'added note', 'zeta'),
  }),
  { maxLength: 6 },
)

/** The model with changes: values set, entries added, removed or renamed, items added to lists. */
export function mutate(section: Section, list: readonly Change[]): Section {
  return list.reduce<Section>((current, change) => mutateOnce(current, change), section)
}

function mutateOnce(section: Section, change: Change): Section {
  const { entries } = section
  if (entries.length === 0 || change.how === 0) {
    if (entries.some((entry) => entry.key === change.key)) return section
    const at = change.pick % (entries.length + 1)
    return { entries: [...entries.slice(0, at), { key: change.key, comment: null, value: change.value }, ...entries.slice(at)] }
  }
  const at = change.pick % entries.length
  const entry = entries[at]!
  if (isSection(entry.value) && entry.value.entries.length > 0 && change.how !== 1) {
    const inner = mutateOnce(entry.value, { ...change, pick: Math.floor(change.pick / entries.length) })
    return { entries: entries.map((item, i) => (i === at ? { ...item, value: inner } : item)) }
  }
  if (change.how === 1 && entries.length > 1) return { entries: entries.filter((_item, i) => i !== at) }
  if (Array.isArray(entry.value) && change.how === 2) {
    const items = entry.value
    const place = change.pick % (items.length + 1)
    const item: ModelValue = isSection(items[0] ?? null)
      ? { entries: [{ key: 'name', comment: null, value: 'new one' }] }
      : isScalar(change.value)
        ? change.value
        : 'new item'
    const value = change.pick % 2 === 0 ? [...items.slice(0, place), item, ...items.slice(place)] : items.filter((_x, i) => i !== place)
    return { entries: entries.map((other, i) => (i === at ? { ...other, value } : other)) }
  }
  const value = isScalar(change.value) || change.how === 5 ? change.value : 'changed'
  return { entries: entries.map((item, i) => (i === at ? { ...item, value } : item)) }
}

export function isSection(value: ModelValue): value is Section {
  return typeof value === 'object' && value !== null && !Array.isArray(value)
}
function isScalar(value: ModelValue): value is Scalar {
  return typeof value !== 'object' || value === null
}

/** The plain data a model stands for. */
export function toData(value: ModelValue): unknown {
  if (Array.isArray(value)) return value.map(toData)
  if (!isSection(value)) return value
  const result: Record<string, unknown> = {}
  for (const entry of value.entries)
    Object.defineProperty(result, entry.key, { value: toData(entry.value), enumerable: true, configurable: true, writable: true })
  return result
}

/** Writes a model in a format, by code that shares nothing with the product's own writers. */
export function render(section: Section, format: FormatId, how: Style): string {
  const lines = format === 'json' ? renderJson(section, how) : renderYaml(section, how, 0)
  const text = lines.join(how.eol)
  return how.finalBreak ? text + how.eol : text
}

function yamlScalar(value: Scalar, how: Style): string {
  if (typeof value !== 'string') return String(value)
  const safe = /^[A-Za-zü][A-Za-z0-9 üï✓/._-]*$/.test(value) && !/\s$/.test(value) && !/^(y|n|yes|no|on|off|true|false|null)$/i.test(value)
  if (how.quotes === 'plain' && safe) return value
  if (how.quotes !== 'double' && !/[\n\t\u0000-\u001f\u007f-\u009f\u2028\u2029]/.test(value)) return `'${value.replaceAll("'", "''")}'`
  return JSON.stringify(value).replace(/[\u007f-\u009f\u2028\u2029]/g, (c) => '\\u' + c.charCodeAt(0).toString(16).padStart(4, '0'))
}

function yamlKey(key: string): string {
  return /^[\w-]+$/.test(key) && !/^\d/.test(key) ? key : `"${key}"`
}

function renderYaml(section: Section, how: Style, depth: number): string[] {
  if (section.entries.length === 0) return ['{}']
  return section.entries.flatMap((entry, i) => {
    const lines: string[] = []
    if (how.blankLines && depth === 0 && i > 0) lines.push('')
    if (how.comments && entry.comment) lines.push(`# ${entry.comment}`)
    const head = yamlKey(entry.key) + ':'
    const { value } = entry
    const trail = how.comments && entry.comment === 'In seconds.' ? '   # trailing' : ''
    if (isScalar(value)) return [...lines, value === null && how.flowLists ? head + trail : `${head} ${yamlScalar(value, how)}${trail}`]
    const nested = Array.isArray(value) ? yamlList(value, how, depth) : renderYaml(value, how, depth + 1)
    if (nested.length === 1 && /^[[{]/.test(nested[0]!)) return [...lines, `${head} ${nested[0]}${trail}`]
    const pad = Array.isArray(value) && !how.listIndent ? '' : ' '.repeat(how.indent)
    return [...lines, head + trail, ...nested.map((line) => (line === '' ? '' : pad + line))]
  })
}

function yamlList(items: readonly ModelValue[], how: Style, depth: number): string[] {
  if (items.length === 0) return ['[]']
  if (how.flowLists && items.every(isScalar))
    return [
      `[${items.map((item) => (typeof item === 'string' ? yamlScalar(item, { ...how, quotes: 'double' }) : String(item))).join(', ')}]`,
    ]
  return items.flatMap((item) => {
    if (isScalar(item)) return [`- ${yamlScalar(item, how)}`]
    const nested = Array.isArray(item) ? yamlList(item, how, depth + 1) : renderYaml(item, how, depth + 1)
    return nested.map((line, i) => (i === 0 ? '- ' + line : line === '' ? '' : '  ' + line))
  })
}

function renderJson(value: ModelValue, how: Style): string[] {
  if (isScalar(value)) return [JSON.stringify(value)]
  const pad = ' '.repeat(how.indent)
  const list = Array.isArray(value)
  const parts = list
    ? value.map((item) => ({ comment: null as string | null, lines: renderJson(item, how) }))
    : value.entries.map((entry) => {
        const [first, ...rest] = renderJson(entry.value, how)
        return { comment: entry.comment, lines: [`${JSON.stringify(entry.key)}: ${first}`, ...rest] }
      })
  if (parts.length === 0) return [list ? '[]' : '{}']
  if (list && how.flowLists && value.every(isScalar)) return [`[${parts.map((part) => part.lines[0]).join(', ')}]`]
  const body = parts.flatMap((part, i) => {
    const lines = part.lines.map((line, j) => pad + line + (j === part.lines.length - 1 && i < parts.length - 1 ? ',' : ''))
    return how.comments && part.comment ? [`${pad}// ${part.comment}`, ...lines] : lines
  })
  return [list ? '[' : '{', ...body, list ? ']' : '}']
}
