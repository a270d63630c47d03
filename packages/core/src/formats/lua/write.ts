import type { Container, Document, Entry, ScalarNode } from '../../tree/nodes'
import { CodeText, NumberText, type Value } from '../../tree/values'
import { assignmentCopy, assignmentRename, assignmentReplace, assignmentSplice, standsAlone } from '../assignments'
import { OperationError } from '../error'
import { ANY_SECTION, indentText, type Place, type ScalarValue, type Writer } from '../writer'
import { isLuaName } from './lexer'
import { luaNumber, quoteLua } from './literals'

/** The quotes this document uses most, of those around a place if they tell. */
function quoteOf(document: Document, container: Container | null, old: ScalarNode | null): '"' | "'" {
  if (old?.kind === 'text' && old.style === 'single') return "'"
  if (old?.kind === 'text' && old.style === 'double') return '"'
  let single = 0
  let double = 0
  for (const entry of container?.entries ?? []) {
    if (entry.value.type !== 'scalar') continue
    if (entry.value.style === 'single') single++
    if (entry.value.style === 'double') double++
  }
  if (single + double === 0) {
    single = document.text.slice(0, 20_000).split("'").length
    double = document.text.slice(0, 20_000).split('"').length
  }
  return single > double ? "'" : '"'
}

function numberSource(value: number): string {
  if (Number.isNaN(value)) return '0/0'
  return Number.isFinite(value) ? String(value) : value > 0 ? 'math.huge' : '-math.huge'
}

function literal(value: ScalarValue, quote: '"' | "'"): string {
  if (value === null) return 'nil'
  if (value instanceof CodeText) return value.format === 'lua' ? value.text : quoteLua(value.text, quote)
  if (value instanceof NumberText) return isNumberSource(value.text) ? value.text : numberSource(value.amount)
  if (typeof value === 'string') return quoteLua(value, quote)
  return typeof value === 'number' ? numberSource(value) : String(value)
}

/** Numerals, and constant arithmetic as it is written. */
function isNumberSource(text: string): boolean {
  return (
    (!Number.isNaN(luaNumber(text.replace(/^-/, ''))) ||
      (/^[-+*/%^().\d\sxXa-fA-FeEpP]+$/.test(text) && /\d/.test(text) && !/--/.test(text))) &&
    !/\n/.test(text)
  )
}

function scalar(place: Place, value: ScalarValue): string {
  const { old } = place
  // arithmetic in the place of a number stays arithmetic
  if (typeof value === 'string' && old?.kind === 'number' && /\d\s*[-+*/%]/.test(value) && isNumberSource(value)) return value
  if (typeof value === 'string' && old?.style === 'long') {
    const long = longSource(place.document.text.slice(old.from, old.to), value)
    if (long !== null) return long
  }
  return literal(value, quoteOf(place.document, place.container, old))
}

/** Long brackets of the level they have; null where the text holds their end, or what they would not give back. */
function longSource(old: string, value: string): string | null {
  const level = '='.repeat(Math.max(0, old.indexOf('[', 1) - 1))
  if (value.includes(`]${level}]`) || (value + ']').includes(`]${level}]`) || /[\r\u0000]/.test(value)) return null
  const opensBelow = /^\[=*\[\r?\n/.test(old)
  return `[${level}[${opensBelow || value.startsWith('\n') ? '\n' : ''}${value}]${level}]`
}

/** A name inside a table: bare where it can be, else in brackets. */
function fieldName(document: Document, container: Container, name: string): string {
  const beside = bracketsBeside(document, container)
  if (isLuaName(name)) return beside ? `[${quoteLua(name, beside)}]` : name
  if (/^\[[^]*\]$/.test(name)) return name
  const numbered = container.entries.some((entry) => /^\[\s*-?\d/.test(document.text.slice(entry.keyFrom, entry.keyTo)))
  if (/^-?\d+$/.test(name) && numbered) return `[${name}]`
  return `[${quoteLua(name, quoteOf(document, container, null))}]`
}

/** The quotes inside the brackets that all names beside stand in; null where some stand bare. */
function bracketsBeside({ text }: Document, { entries }: Container): '"' | "'" | null {
  const marks = entries
    .filter((entry) => !entry.names && entry.keyTo > entry.keyFrom)
    .map((entry) => /^\[\s*(["'])/.exec(text.slice(entry.keyFrom, entry.keyTo))?.[1])
  return marks.length > 0 && marks.every(Boolean) ? (marks[0] as '"' | "'") : null
}

function key(document: Document, container: Container, name: string, old: Entry | null): string {
  if (!old?.names) return fieldName(document, container, name)
  return isLuaName(name) ? name : fieldName(document, container, name)
}

function head(document: Document, container: Container, name: string | null, alone: boolean): string {
  if (name === null) return ''
  if (!alone) return `${fieldName(document, container, name)} = `
  const prefix = (container.type === 'map' ? container.prefix : null) ?? ''
  if (prefix === '' && !isLuaName(name))
    throw new OperationError('cannot-hold', `“${name}” cannot name a variable: use letters, digits and _ only, a letter first`)
  if (prefix === '') return `${usesLocals(document, container) ? 'local ' : ''}${name} = `
  return `${prefix}${isLuaName(name) ? '.' + name : fieldName(document, container, name)} = `
}

function usesLocals(document: Document, container: Container): boolean {
  const plain = container.entries.filter((entry) => entry.names?.length === 1)
  return plain.filter((entry) => document.text.startsWith('local', entry.from)).length * 2 > plain.length
}

function inline(document: Document, value: Value): string {
  return inlineWith(document, value, quoteOf(document, null, null))
}

function inlineWith(document: Document, value: Value, quote: '"' | "'"): string {
  if (Array.isArray(value))
    return value.length === 0 ? '{}' : '{ ' + (value as readonly Value[]).map((item) => inlineWith(document, item, quote)).join(', ') + ' }'
  if (value instanceof Map) {
    const parts = [...(value as ReadonlyMap<string, Value>)].map(
      ([name, item]) => `${fieldName(document, ANY_SECTION, name)} = ${inlineWith(document, item, quote)}`,
    )
    return parts.length === 0 ? '{}' : '{ ' + parts.join(', ') + ' }'
  }
  return literal(value as ScalarValue, quote)
}

function valueLines(document: Document, value: Value, container: Container): string[] {
  const step = indentText(document)
  const block = (items: readonly (readonly string[])[]): string[] => [
    '{',
    ...items.flatMap((lines) => lines.map((line, i) => step + line + (i === lines.length - 1 ? ',' : ''))),
    '}',
  ]
  if (value instanceof Map && value.size > 0)
    return block(
      [...(value as ReadonlyMap<string, Value>)].map(([name, item]) => {
        const lines = valueLines(document, item, ANY_SECTION)
        return [`${fieldName(document, ANY_SECTION, name)} = ${lines[0]!}`, ...lines.slice(1)]
      }),
    )
  if (Array.isArray(value) && (value as readonly Value[]).some((item) => Array.isArray(item) || item instanceof Map))
    return block((value as readonly Value[]).map((item) => valueLines(document, item, ANY_SECTION)))
  if (typeof value === 'string') return [literal(value, quoteOf(document, container, null))]
  return [inline(document, value)]
}

function entryLines(document: Document, container: Container, name: string | null, value: Value): string[] {
  const lines = value instanceof CodeText ? value.text.split(/\r\n|\r|\n/) : valueLines(document, value, container)
  return [head(document, container, name, standsAlone(container, name)) + lines[0]!, ...lines.slice(1)]
}

function refuses(_container: Container, value: Value): string | null {
  return value instanceof CodeText && value.format !== 'lua' ? 'is code of another language' : null
}

export const luaWriter: Writer = {
  scalar,
  key,
  entryLines,
  inline,
  portable: true,
  refuses,
  standsAlone,
  splice: assignmentSplice,
  rename: (document, container, entry, name) => assignmentRename(document, container, entry, name, key),
  replace: (document, _container, entry, value) => assignmentReplace(document, entry, inline(document, value)),
  copy: (source, entry, from, target, to, name) => assignmentCopy(source, entry, from, target, to, name, head, key),
}
