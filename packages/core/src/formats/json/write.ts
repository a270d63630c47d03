import type { Container, Document, Entry } from '../../tree/nodes'
import { type Value } from '../../tree/values'
import { indentStep, type Place, type Writer } from '../writer'

function literal(value: null | boolean | number | string | { readonly text: string }): string {
  if (value !== null && typeof value === 'object') return numberSource(value.text)
  if (typeof value === 'number' && !Number.isFinite(value)) return JSON.stringify(String(value))
  return JSON.stringify(value)
}

/** Numbers of other formats (`0x1F`, `.5`, `+1`) are spelt anew where JSON does not know them. */
function numberSource(text: string): string {
  if (/^-?(0|[1-9]\d*)(\.\d+)?([eE][+-]?\d+)?$/.test(text)) return text
  const value = Number(text)
  return Number.isFinite(value) ? String(value) : JSON.stringify(text)
}

function scalar(_place: Place, value: null | boolean | number | string | { readonly text: string }): string {
  return literal(value)
}

function key(_document: Document, _container: Container, name: string, _old: Entry | null): string {
  return JSON.stringify(name)
}

function inline(document: Document, value: Value): string {
  if (Array.isArray(value)) return '[' + (value as readonly Value[]).map((item) => inline(document, item)).join(', ') + ']'
  if (value instanceof Map) {
    const parts = [...(value as ReadonlyMap<string, Value>)].map(([name, item]) => JSON.stringify(name) + ': ' + inline(document, item))
    return parts.length === 0 ? '{}' : '{ ' + parts.join(', ') + ' }'
  }
  return literal(value as null | boolean | number | string)
}

function valueLines(document: Document, value: Value): string[] {
  const step = ' '.repeat(indentStep(document))
  if (Array.isArray(value) && value.length > 0) {
    const items = (value as readonly Value[]).map((item) => valueLines(document, item))
    return ['[', ...joinLines(items).map((line) => step + line), ']']
  }
  if (value instanceof Map && value.size > 0) {
    const items = [...(value as ReadonlyMap<string, Value>)].map(([name, item]) => {
      const lines = valueLines(document, item)
      return [JSON.stringify(name) + ': ' + lines[0]!, ...lines.slice(1)]
    })
    return ['{', ...joinLines(items).map((line) => step + line), '}']
  }
  return [inline(document, value)]
}

function joinLines(items: readonly (readonly string[])[]): string[] {
  return items.flatMap((lines, i) => lines.map((line, j) => (i < items.length - 1 && j === lines.length - 1 ? line + ',' : line)))
}

function entryLines(document: Document, _container: Container, name: string | null, value: Value): string[] {
  const lines = valueLines(document, value)
  return name === null ? lines : [JSON.stringify(name) + ': ' + lines[0]!, ...lines.slice(1)]
}

export const jsonWriter: Writer = { scalar, key, entryLines, inline }
