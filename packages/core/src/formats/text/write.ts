import { CodeText, NumberText, type Value } from '../../tree/values'
import type { Writer } from '../writer'

function textOf(value: Value): string {
  return value instanceof NumberText || value instanceof CodeText ? value.text : typeof value === 'string' ? value : JSON.stringify(value)
}

/** Plain text holds one value and nothing else. */
export const textWriter: Writer = {
  scalar: (_place, value) => textOf(value),
  key: () => '',
  entryLines: (_document, _container, _name, value) => [textOf(value)],
  inline: (_document, value) => textOf(value),
  onlyValues: true,
  splice: () => [],
  refuses: (_container, value) =>
    Array.isArray(value) || value instanceof Map ? 'is more than one text, and a plain text file holds only that' : null,
}
