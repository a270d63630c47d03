import type { Container, Document, Entry } from '../../tree/nodes'
import { NumberText, type Value } from '../../tree/values'
import type { Place, Writer } from '../writer'

/** Escapes a value: leading blanks, backslashes and line ends. Other characters stand as they are, as in today's files. */
export function escapeProperty(text: string): string {
  return text
    .replaceAll('\\', '\\\\')
    .replaceAll('\n', '\\n')
    .replaceAll('\r', '\\r')
    .replaceAll('\f', '\\f')
    .replaceAll('\t', '\\t')
    .replace(/^ /, '\\ ')
    .replace(/[\u0000-\u0008\u000b\u000e-\u001f]/g, (char) => '\\u' + char.charCodeAt(0).toString(16).padStart(4, '0'))
}

function textOf(value: Value): string {
  if (value === null) return ''
  if (value instanceof NumberText) return value.text
  if (Array.isArray(value)) return (value as readonly Value[]).map(textOf).join(',')
  return String(value)
}

function scalar(_place: Place, value: null | boolean | number | string | { readonly text: string }): string {
  return escapeProperty(value !== null && typeof value === 'object' ? value.text : textOf(value))
}

function key(_document: Document, _container: Container, name: string, _old: Entry | null): string {
  return escapeProperty(name)
    .replace(/(?<!\\)[\s=:]/g, '\\$&')
    .replace(/^[#!]/, '\\$&')
}

function entryLines(document: Document, container: Container, name: string | null, value: Value): string[] {
  const mark = container.entries[0] ? document.text.slice(container.entries[0].keyTo, container.entries[0].value.from) : '='
  return [key(document, container, name ?? '', null) + (mark === '' ? '=' : mark) + escapeProperty(textOf(value))]
}

export const propertiesWriter: Writer = {
  scalar,
  key,
  entryLines,
  inline: (_document, value) => escapeProperty(textOf(value)),
}
