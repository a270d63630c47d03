import { load } from 'js-yaml'
import luaparse from 'luaparse'
import { parse as parseIniText } from 'ini'
import sax from 'sax'
import { runInNewContext } from 'node:vm'
import { parseDocument } from 'yaml'
import { readAlike } from '../src/carry/lists'
import { LENIENT } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import { toJson } from '../src/tree/values'
import type { FormatId } from '../src/tree/nodes'
import { isSection, render, type ModelValue, type Section, type Style } from './arbitraries'

/**
 * A way settings files are written, for the property tests: what of a model it can hold, how that is written by code
 * of the tests' own, and what another implementation reads in it.
 */
export interface Dialect {
  readonly name: string
  readonly format: FormatId
  /** Names in front of every pointer into the model. */
  readonly wrap: readonly string[]
  restrict(section: Section): Section
  restrictValue(value: ModelValue): ModelValue
  /** A value inside a list. */
  restrictItem(value: ModelValue): ModelValue
  /** The name an entry gets in this format for a name of the model. */
  nameOf(key: string): string
  render(section: Section, how: Style): string
  others(text: string): unknown[]
  /** What a file of the dialect gives back for data it cannot tell from others. */
  readsAs(data: unknown): unknown
}

const same = <T>(value: T): T => value
const nested = (value: unknown, wrap: readonly string[]): unknown => wrap.reduceRight<unknown>((inner, key) => ({ [key]: inner }), value)

// ---- what formats can hold ----------------------------------------------------------------------------------------

type Fit = (value: ModelValue) => ModelValue

/** A model with every name and value fitted; entries whose value becomes undefined go. */
function fitSection(section: Section, nameOf: (key: string) => string, fit: (value: ModelValue) => ModelValue | undefined): Section {
  const seen = new Set<string>()
  return {
    entries: section.entries.flatMap((entry) => {
      const key = nameOf(entry.key)
      const value = fit(entry.value)
      if (value === undefined || seen.has(key)) return []
      seen.add(key)
      return [{ ...entry, key, value }]
    }),
  }
}

/** In Lua an empty list and an empty section are both `{}`. */
const fitLua: Fit = (value) => {
  if (Array.isArray(value)) return value.length === 0 ? { entries: [] } : value.map(fitLua)
  return isSection(value) ? fitSection(value, same, fitLua) : value
}

const xmlName = (key: string): string => (/^[\p{L}_][\p{L}\p{N}_.-]*$/u.test(key) ? key : 'n-' + key.replace(/[^\p{L}\p{N}]+/gu, '-'))
const words = (value: ModelValue): string => (value === null ? '' : String(value).replace(/[\u0000-\u001f\ufffe\uffff]/g, ' '))
const fitXmlValue = (value: ModelValue): ModelValue | undefined => {
  if (Array.isArray(value)) {
    const items = value.map((item) => (Array.isArray(item) ? undefined : fitXmlValue(item))).filter((item) => item !== undefined)
    return items.length >= 2 ? (items as ModelValue[]) : undefined
  }
  if (!isSection(value)) return words(value)
  const fitted = fitSection(value, xmlName, fitXmlValue)
  return fitted.entries.length > 0 ? fitted : undefined
}

/** A line of text that INI can hold: no line ends, and not both kinds of quotes. */
const line = (value: ModelValue): string => words(value).replace(/["\\]/g, '').trim()
const flatName = (key: string): string => key.replace(/\s/g, '-')
const fitIniSection = (section: Section): Section => {
  const leaf = (value: ModelValue): ModelValue | undefined => (isSection(value) || Array.isArray(value) ? undefined : line(value))
  const top = fitSection(section, flatName, (value) => (isSection(value) ? fitSection(value, flatName, leaf) : leaf(value)))
  // single values stand above the first section
  return { entries: [...top.entries.filter((entry) => !isSection(entry.value)), ...top.entries.filter((entry) => isSection(entry.value))] }
}
const fitProperties = (section: Section): Section =>
  fitSection(section, flatName, (value) => (isSection(value) || Array.isArray(value) ? undefined : value === null ? '' : String(value)))

// ---- how they are written -------------------------------------------------------------------------------------------

const eolJoin = (lines: readonly string[], how: Style): string => lines.join(how.eol) + (how.finalBreak ? how.eol : '')
const tidy = (text: string): string => text.replace(/[\u0000-\u001f\u007f]/g, (char) => '\\' + String(char.charCodeAt(0)).padStart(3, '0'))

function luaText(text: string, how: Style): string {
  if (how.quotes === 'plain' && /\n/.test(text) && !/[\]\r\u0000]/.test(text) && how.eol === '\n')
    return `[[${text.startsWith('\n') ? '\n' : ''}${text}]]`
  const quote = how.quotes === 'single' ? "'" : '"'
  return quote + tidy(text.replaceAll('\\', '\\\\').replaceAll(quote, '\\' + quote)) + quote
}

function luaScalar(value: ModelValue, how: Style): string {
  if (value === null) return 'nil'
  return typeof value === 'string' ? luaText(value, how) : String(value)
}

const luaName = (key: string): string => (/^[A-Za-z_]\w*$/.test(key) ? key : `["${key}"]`)

/** A table or object over several lines; lists of single values on one where the style says so. */
function bracketed(value: ModelValue, how: Style, lua: boolean): string[] {
  if (!isSection(value) && !Array.isArray(value)) return [lua ? luaScalar(value, how) : scriptScalar(value, how)]
  const pad = ' '.repeat(how.indent)
  const list = Array.isArray(value)
  const [open, close] = lua || !list ? ['{', '}'] : ['[', ']']
  const parts = list
    ? value.map((item) => ({ comment: null as string | null, lines: bracketed(item, how, lua) }))
    : value.entries.map((entry) => {
        const [first, ...rest] = bracketed(entry.value, how, lua)
        return { comment: entry.comment, lines: [lua ? `${luaName(entry.key)} = ${first}` : `${scriptName(entry.key)}: ${first}`, ...rest] }
      })
  if (parts.length === 0) return [open + close]
  if (list && how.flowLists && value.every((item) => !isSection(item) && !Array.isArray(item)))
    return [`${open} ${parts.map((part) => part.lines[0]).join(', ')} ${close}`]
  const mark = lua ? '--' : '//'
  return [
    open,
    ...parts.flatMap((part, i) => {
      const lines = part.lines.map(
        (text, j) =>
          pad + text + (j === part.lines.length - 1 && (i < parts.length - 1 || how.listIndent) ? (lua && how.blankLines ? ';' : ',') : ''),
      )
      return how.comments && part.comment ? [`${pad}${mark} ${part.comment}`, ...lines] : lines
    }),
    close,
  ]
}

const scriptName = (key: string): string => (key === '__proto__' ? '["__proto__"]' : /^[A-Za-z_]\w*$/.test(key) ? key : JSON.stringify(key))

function scriptScalar(value: ModelValue, how: Style): string {
  if (typeof value !== 'string') return String(value)
  if (how.quotes === 'plain' && !/[\\`$\r]/.test(value) && how.eol === '\n') return '`' + value + '`'
  return how.quotes === 'single'
    ? `'${JSON.stringify(value).slice(1, -1).replaceAll('\\"', '"').replaceAll("'", "\\'")}'`
    : JSON.stringify(value)
}

function renderAssignments(section: Section, how: Style): string {
  const lines = ['-- Settings.', 'Config = {}']
  for (const entry of section.entries) {
    if (how.blankLines) lines.push('')
    if (how.comments && entry.comment) lines.push(`-- ${entry.comment}`)
    const name = /^[A-Za-z_]\w*$/.test(entry.key) ? `Config.${entry.key}` : `Config["${entry.key}"]`
    const statements =
      isSection(entry.value) &&
      entry.value.entries.length > 0 &&
      how.flowLists &&
      entry.value.entries.every((inner) => /^[A-Za-z_]\w*$/.test(inner.key))
    if (statements)
      for (const inner of (entry.value as Section).entries)
        lines.push(...prefixed(`${name}.${inner.key} = `, bracketed(inner.value, how, true)))
    else lines.push(...prefixed(`${name} = `, bracketed(entry.value, how, true)))
  }
  return eolJoin(lines, how)
}

const prefixed = (head: string, lines: readonly string[]): string[] => [head + lines[0]!, ...lines.slice(1)]

function renderXml(section: Section, how: Style): string {
  const pad = ' '.repeat(how.indent)
  const escape = (text: string): string =>
    how.quotes === 'double' && /[<&]/.test(text) && !text.includes(']]>')
      ? `<![CDATA[${text}]]>`
      : text
          .replaceAll('&', '&amp;')
          .replaceAll('<', '&lt;')
          .replaceAll('>', '&gt;')
          .replace(/^ +| +$/g, (blanks) => '&#32;'.repeat(blanks.length))
  const element = (name: string, value: ModelValue): string[] => {
    if (Array.isArray(value)) return value.flatMap((item) => element(name, item))
    if (!isSection(value)) return [value === '' && how.flowLists ? `<${name}/>` : `<${name}>${escape(String(value))}</${name}>`]
    return [`<${name}>`, ...inside(value).map((text) => (text === '' ? '' : pad + text)), `</${name}>`]
  }
  const inside = (value: Section): string[] =>
    value.entries.flatMap((entry, i) => [
      ...(how.blankLines && i > 0 ? [''] : []),
      ...(how.comments && entry.comment ? [`<!-- ${entry.comment} -->`] : []),
      ...element(entry.key, entry.value),
    ])
  return eolJoin(
    ['<?xml version="1.0"?>', '<settings>', ...inside(section).map((text) => (text === '' ? '' : pad + text)), '</settings>'],
    how,
  )
}

function renderIni(section: Section, how: Style): string {
  const mark = how.flowLists ? '=' : ' = '
  const value = (text: string): string => (how.quotes === 'double' || /^["']|\s[;#]|^[;#]/.test(text) ? `"${text}"` : text)
  return eolJoin(
    section.entries.flatMap((entry, i) => {
      const head = [...(how.blankLines && i > 0 ? [''] : []), ...(how.comments && entry.comment ? [`; ${entry.comment}`] : [])]
      if (isSection(entry.value))
        return [...head, `[${entry.key}]`, ...entry.value.entries.map((inner) => inner.key + mark + value(String(inner.value)))]
      return [...head, entry.key + mark + value(String(entry.value))]
    }),
    how,
  )
}

function renderProperties(section: Section, how: Style): string {
  const mark = how.flowLists ? '=' : how.listIndent ? ': ' : ' = '
  const escape = (text: string): string =>
    text
      .replaceAll('\\', '\\\\')
      .replaceAll('\n', '\\n')
      .replaceAll('\t', '\\t')
      .replaceAll('\r', '\\r')
      .replace(/^ /, '\\ ')
      .replace(/\f/g, '\\f')
  return eolJoin(
    section.entries.flatMap((entry) => [
      ...(how.comments && entry.comment ? [`# ${entry.comment}`] : []),
      entry.key.replace(/[#!=:]/g, '\\$&') + mark + escape(String(entry.value)),
    ]),
    how,
  )
}

// ---- what others read ----------------------------------------------------------------------------------------------

const put = (object: object, key: string, value: unknown): void =>
  void Object.defineProperty(object, key, { value, enumerable: true, configurable: true, writable: true })

/** What luaparse's tree says, as data; assignments to paths of names are followed. */
export function readLua(text: string): unknown {
  // Lua knows bytes, not characters: the text goes in as its bytes, and texts come out as theirs
  const bytes = Buffer.from(text.replace(/^\ufeff/, ''), 'utf8').toString('latin1')
  const chunk = luaparse.parse(bytes, { luaVersion: '5.3', encodingMode: 'pseudo-latin1' })
  const root = {}
  let result: unknown = root
  const value = (node: luaparse.Expression): unknown => {
    switch (node.type) {
      case 'NilLiteral':
        return null
      case 'StringLiteral':
        return fromBytes(node.value)
      case 'NumericLiteral':
      case 'BooleanLiteral':
        return node.value
      case 'UnaryExpression':
        return -(value(node.argument) as number)
      case 'TableConstructorExpression':
        return table(node)
      default:
        throw new Error(`no value: ${node.type}`)
    }
  }
  const table = (node: luaparse.TableConstructorExpression): unknown => {
    if (node.fields.length > 0 && node.fields.every((field) => field.type === 'TableValue'))
      return node.fields.map((field) => value(field.value))
    const map = {}
    node.fields.forEach((field) =>
      put(map, field.type === 'TableKeyString' ? field.key.name : String(value((field as luaparse.TableKey).key)), value(field.value)),
    )
    return map
  }
  const path = (node: luaparse.Expression): string[] => {
    if (node.type === 'Identifier') return [node.name]
    if (node.type === 'MemberExpression') return [...path(node.base), node.identifier.name]
    if (node.type === 'IndexExpression') return [...path(node.base), String(value(node.index))]
    throw new Error(`no path: ${node.type}`)
  }
  for (const statement of chunk.body) {
    if (statement.type === 'ReturnStatement') result = value(statement.arguments[0]!)
    else if (statement.type === 'AssignmentStatement') {
      const names = path(statement.variables[0]!)
      let at = root as Record<string, unknown>
      for (const name of names.slice(0, -1)) {
        if (!Object.hasOwn(at, name)) put(at, name, {})
        at = Object.getOwnPropertyDescriptor(at, name)!.value as Record<string, unknown>
      }
      put(at, names[names.length - 1]!, value(statement.init[0]!))
    }
  }
  return result
}

function fromBytes(bytes: string): string {
  return Buffer.from(bytes, 'latin1').toString('utf8')
}

function readXml(text: string): unknown {
  interface Element {
    readonly children: [string, Element][]
    text: string
  }
  const parser = sax.parser(true, { trim: false })
  const root: Element = { children: [], text: '' }
  const stack = [root]
  parser.onopentag = (tag: { name: string }) => {
    const element: Element = { children: [], text: '' }
    stack[stack.length - 1]!.children.push([tag.name, element])
    stack.push(element)
  }
  parser.onclosetag = () => void stack.pop()
  // references by number are blanks that count; those between elements do not
  parser.ontext = parser.oncdata = (part: string) => void (stack[stack.length - 1]!.text += part)
  parser.onerror = (error: Error) => {
    throw error
  }
  parser.write(text.replace(/^\ufeff/, '').replaceAll('\r\n', '\n')).close()
  const value = (element: Element): unknown => {
    // blanks and line ends between tags alone are no text
    if (element.children.length === 0) return element.text.includes('\n') && element.text.trim() === '' ? '' : element.text
    const map = {}
    for (const [name, child] of element.children) {
      const known = Object.getOwnPropertyDescriptor(map, name)?.value as unknown
      put(
        map,
        name,
        known === undefined ? value(child) : Array.isArray(known) ? [...(known as unknown[]), value(child)] : [known, value(child)],
      )
    }
    return map
  }
  return value(root)
}

/** A second reading of `.properties`, line by line. */
function readProperties(text: string): unknown {
  const result = {}
  const unescape = (part: string): string =>
    part.replace(/\\(u[0-9a-fA-F]{4}|.)/g, (_all, code: string) =>
      code.length === 5
        ? String.fromCharCode(parseInt(code.slice(1), 16))
        : (({ n: '\n', t: '\t', r: '\r', f: '\f' } as Record<string, string>)[code] ?? code),
    )
  for (const raw of text.split(/\r\n|\r|\n/)) {
    const text_ = raw.trimStart()
    if (text_ === '' || /^[#!]/.test(text_)) continue
    const parts = /^((?:[^\\\s=:]|\\.)*)[ \t\f]*(?:[=:][ \t\f]*)?(.*)$/.exec(text_)!
    put(result, unescape(parts[1]!), unescape(parts[2]!))
  }
  return result
}

function readIniOthers(text: string): unknown[] {
  if (/^\s*[^;[\n]*[.[\]"'\\;#]/m.test(text) || text.includes('__proto__') || /^\s*=/m.test(text)) return [] // where the two have different dialects
  const strings = (value: unknown): unknown =>
    typeof value === 'object' && value !== null
      ? Object.fromEntries(Object.entries(value).map(([key, item]) => [key, strings(item)]))
      : value === null
        ? 'null'
        : String(value)
  return [strings(parseIniText(text.replace(/^\ufeff/, '')))]
}

// ---- the dialects ---------------------------------------------------------------------------------------------------

const free = {
  wrap: [] as string[],
  restrict: same<Section>,
  restrictValue: same<ModelValue>,
  restrictItem: same<ModelValue>,
  nameOf: same<string>,
  readsAs: same<unknown>,
}

function readYamlOthers(text: string): unknown[] {
  const document = parseDocument(text, { uniqueKeys: false })
  if (document.errors.length > 0) throw document.errors[0]!
  return [document.toJS() ?? {}, ...(text.includes('__proto__') || document.contents === null ? [] : [load(text) ?? {}])]
}

const fitLuaSection = (section: Section): Section => fitLua(section) as Section
const someText =
  (fit: (value: ModelValue) => ModelValue | undefined, otherwise: ModelValue) =>
  (value: ModelValue): ModelValue =>
    fit(value) ?? otherwise

export const DIALECTS: readonly Dialect[] = [
  { ...free, name: 'yaml', format: 'yaml', render: (section, how) => render(section, 'yaml', how), others: readYamlOthers },
  {
    ...free,
    name: 'json',
    format: 'json',
    render: (section, how) => render(section, 'json', how),
    others: (text) => [
      JSON.parse(
        text
          .split(/\r?\n/)
          .filter((part) => !/^\s*\/\//.test(part))
          .join('\n'),
      ) as unknown,
    ],
  },
  {
    ...free,
    name: 'lua: a returned table',
    format: 'lua',
    restrict: fitLuaSection,
    restrictValue: fitLua,
    readsAs: asTables,
    render: (section, how) =>
      eolJoin([...(how.comments ? ['-- Settings.'] : []), ...prefixed('return ', bracketed(section, how, true))], how),
    others: (text) => [readLua(text)],
  },
  {
    ...free,
    name: 'lua: assignments',
    format: 'lua',
    wrap: ['Config'],
    restrict: fitLuaSection,
    restrictValue: fitLua,
    readsAs: asTables,
    render: renderAssignments,
    others: (text) => [readLua(text)],
  },
  {
    ...free,
    name: 'script',
    format: 'script',
    wrap: ['SETTINGS'],
    render: (section, how) =>
      eolJoin(
        [
          ...(how.comments ? ['// Settings.'] : []),
          ...prefixed('const SETTINGS = ', bracketed(section, how, false)),
          'module.exports = SETTINGS',
        ],
        how,
      ),
    others: (text) => [
      { SETTINGS: JSON.parse(runInNewContext(`${text}\n;JSON.stringify(module.exports)`, { module: {} }) as string) as unknown },
    ],
  },
  {
    ...free,
    name: 'xml',
    format: 'xml',
    wrap: ['settings'],
    nameOf: xmlName,
    restrict: (section) => fitSection(section, xmlName, fitXmlValue),
    restrictValue: someText(fitXmlValue, 'text'),
    restrictItem: (value) => (Array.isArray(value) ? 'text' : value),
    readsAs: asElements,
    render: renderXml,
    others: (text) => [readXml(text)],
  },
  {
    ...free,
    name: 'ini',
    format: 'ini',
    nameOf: flatName,
    restrict: fitIniSection,
    restrictValue: (value) => (isSection(value) || Array.isArray(value) ? 'text' : line(value)),
    render: renderIni,
    others: readIniOthers,
  },
  {
    ...free,
    name: 'properties',
    format: 'properties',
    nameOf: flatName,
    restrict: fitProperties,
    restrictValue: (value) => (isSection(value) || Array.isArray(value) ? 'text' : value === null ? '' : String(value)),
    render: renderProperties,
    others: (text) => [readProperties(text)],
  },
]

/** What we read in a text, as plain data. */
export function readOurs(text: string, format: FormatId): unknown {
  const document = parse(text, format, LENIENT)
  const errors = document.findings.filter((finding) => finding.severity === 'error')
  if (errors.length > 0) throw new Error(`unexpected finding: ${JSON.stringify(errors[0])} in\n${text}`)
  return normal(toJson(document, document.root))
}

/** The same for several versions of one file, each read in the light of the others. */
export function readAlikeOurs(texts: readonly string[], format: FormatId): unknown[] {
  return readAlike(texts.map((text) => parse(text, format, LENIENT))).map((document) => normal(toJson(document, document.root)))
}

/** What other implementations read in it. */
export function readOthers(text: string, dialect: Dialect): unknown[] {
  return dialect.others(text).map(normal)
}

/** The data of a model as a file of the dialect gives it. */
export function wrapped(dialect: Dialect, data: unknown): unknown {
  return dialect.readsAs(nested(data, dialect.wrap))
}

/** One element is no list, and none is nothing. */
function asElements(data: unknown): unknown {
  if (Array.isArray(data)) return data.length === 1 ? asElements(data[0]) : data.map(asElements)
  if (typeof data !== 'object' || data === null) return data
  const entries = Object.entries(data).filter(([, value]) => !(Array.isArray(value) && value.length === 0))
  if (entries.length === 0) return ''
  const result = {}
  for (const [key, value] of entries) put(result, key, asElements(value))
  return result
}

/** A table without fields is neither list nor section. */
function asTables(data: unknown): unknown {
  if (Array.isArray(data)) return data.length === 0 ? {} : data.map(asTables)
  if (typeof data !== 'object' || data === null) return data
  const result = {}
  for (const [key, value] of Object.entries(data)) put(result, key, asTables(value))
  return result
}

/** Numbers beyond the safe range as text, as in reports; everything else unchanged. */
export function normal(data: unknown): unknown {
  return JSON.parse(
    JSON.stringify(data, (_key, value: unknown) =>
      typeof value === 'number' && Number.isInteger(value) && !Number.isSafeInteger(value)
        ? `big:${value}`
        : typeof value === 'string' && /^-?\d{17,}$|^\d(\.\d+)?e\+?\d+$/.test(value) && !Number.isSafeInteger(Number(value))
          ? `big:${Number(value)}`
          : value,
    ),
  ) as unknown
}
