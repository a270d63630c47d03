import type { Container, Document, Entry, ScalarNode } from '../../tree/nodes'
import { CodeText, NumberText, type Value } from '../../tree/values'
import { assignmentCopy, assignmentRename, assignmentReplace, assignmentSplice, standsAlone } from '../assignments'
import { OperationError } from '../error'
import { ANY_SECTION, indentText, neighbourStyle, type Place, type ScalarValue, type Writer } from '../writer'

const NAME = /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u
const NUMBER = /^[-+*/%().\d\sxXa-fA-FoObBnN_eE]+$/

function quoteOf(document: Document, container: Container | null, old: ScalarNode | null): '"' | "'" {
  if (old?.kind === 'text' && (old.style === 'single' || old.style === 'double')) return old.style === 'single' ? "'" : '"'
  const style = neighbourStyle(container)
  if (style !== 'plain') return style === 'single' ? "'" : '"'
  const text = document.text.slice(0, 20_000)
  return text.split("'").length > text.split('"').length ? "'" : '"'
}

function quoteText(text: string, quote: '"' | "'"): string {
  const body = JSON.stringify(text)
    .slice(1, -1)
    .replace(/[\u2028\u2029]/g, (char) => '\\u' + char.charCodeAt(0).toString(16))
  return quote === '"' ? `"${body}"` : `'${body.replace(/\\"/g, '"').replace(/'/g, "\\'")}'`
}

function literal(value: ScalarValue, quote: '"' | "'"): string {
  if (value instanceof CodeText) return value.format === 'script' ? value.text : quoteText(value.text, quote)
  if (value instanceof NumberText)
    return (!Number.isNaN(Number(value.text)) && value.text.trim() !== '' && !/^[-+]?0\d/.test(value.text)) ||
      (NUMBER.test(value.text) && /^[-\d.(]/.test(value.text) && /[-+*/]/.test(value.text))
      ? value.text
      : String(value.amount)
  return typeof value === 'string' ? quoteText(value, quote) : String(value)
}

function scalar(place: Place, value: ScalarValue): string {
  // arithmetic in the place of a number stays arithmetic
  if (typeof value === 'string' && place.old?.kind === 'number' && /\d\s*[-+*/%]/.test(value) && /^[-+*/%().\d\s]+$/.test(value))
    return value
  if (typeof value === 'string' && place.old?.style === 'long')
    return '`' + value.replace(/[\\`]|\$\{/g, '\\$&').replace(/\r/g, '\\r') + '`'
  return literal(value, quoteOf(place.document, place.container, place.old))
}

function fieldName(document: Document, container: Container, name: string): string {
  const all =
    container.entries.length > 0 && container.entries.every((entry) => /^["']/.test(document.text.slice(entry.keyFrom, entry.keyTo)))
  // as a name, __proto__ would set what an object inherits from; no bare form makes a field of it
  if (name === '__proto__') return '["__proto__"]'
  return NAME.test(name) && !all ? name : quoteText(name, quoteOf(document, container, null))
}

function key(document: Document, container: Container, name: string, old: Entry | null): string {
  return old?.names ? name : fieldName(document, container, name)
}

function head(document: Document, container: Container, name: string | null, alone: boolean): string {
  if (name === null) return ''
  if (!alone) return `${fieldName(document, container, name)}: `
  if (!NAME.test(name))
    throw new OperationError('cannot-hold', `“${name}” cannot name a constant: use letters, digits, $ and _ only, a letter first`)
  return `const ${name} = `
}

function inlineWith(document: Document, value: Value, quote: '"' | "'"): string {
  if (Array.isArray(value)) return '[' + (value as readonly Value[]).map((item) => inlineWith(document, item, quote)).join(', ') + ']'
  if (value instanceof Map) {
    const parts = [...(value as ReadonlyMap<string, Value>)].map(
      ([name, item]) => `${fieldName(document, ANY_SECTION, name)}: ${inlineWith(document, item, quote)}`,
    )
    return parts.length === 0 ? '{}' : '{ ' + parts.join(', ') + ' }'
  }
  return literal(value as ScalarValue, quote)
}

function valueLines(document: Document, value: Value): string[] {
  const step = indentText(document)
  if (value instanceof Map && value.size > 0)
    return [
      '{',
      ...[...(value as ReadonlyMap<string, Value>)].flatMap(([name, item]) => {
        const lines = valueLines(document, item)
        return [`${fieldName(document, ANY_SECTION, name)}: ${lines[0]!}`, ...lines.slice(1)].map(
          (line, i) => step + line + (i === lines.length - 1 ? ',' : ''),
        )
      }),
      '}',
    ]
  return [inlineWith(document, value, quoteOf(document, null, null))]
}

function entryLines(document: Document, container: Container, name: string | null, value: Value): string[] {
  const lines = value instanceof CodeText ? value.text.split(/\r\n|\r|\n/) : valueLines(document, value)
  const alone = standsAlone(container, name)
  const semicolon =
    alone && (container.entries.length === 0 || container.entries.some((entry) => document.text[entry.to] === ';')) ? ';' : ''
  return [head(document, container, name, alone) + lines[0]!, ...lines.slice(1)].map((line, i, all) =>
    i === all.length - 1 ? line + semicolon : line,
  )
}

function inline(document: Document, value: Value): string {
  return inlineWith(document, value, quoteOf(document, null, null))
}

export const scriptWriter: Writer = {
  scalar,
  key,
  entryLines,
  inline,
  portable: true,
  standsAlone,
  refuses: (_container, value) => (value instanceof CodeText && value.format !== 'script' ? 'is code of another language' : null),
  splice: assignmentSplice,
  rename: (document, container, entry, name) => assignmentRename(document, container, entry, name, key),
  replace: (document, _container, entry, value) => assignmentReplace(document, entry, inline(document, value)),
  copy: (source, entry, from, target, to, name) => assignmentCopy(source, entry, from, target, to, name, head, key),
}
