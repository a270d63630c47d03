import type { Document, Node, ScalarNode } from './nodes'

/** A number with the spelling it shall have, so that `1.50` or a 17-digit id survives. */
export class NumberText {
  constructor(readonly text: string) {}
}

/** A value on its way into a file. Sections are Maps, so that no key has a meaning of its own (`__proto__`). */
export type Value = null | boolean | number | string | NumberText | readonly Value[] | ReadonlyMap<string, Value>

/** What a node says, with numbers in their own spelling. Aliases give their written form. */
export function valueOf(document: Document, node: Node): Value {
  switch (node.type) {
    case 'map':
      return new Map(node.entries.map((entry) => [entry.key, valueOf(document, entry.value)]))
    case 'list':
      return node.entries.map((entry) => valueOf(document, entry.value))
    case 'alias':
      return '*' + node.name
    case 'scalar':
      return node.kind === 'number' ? new NumberText(document.text.slice(node.from, node.to)) : node.value
  }
}

/** Plain JSON data of a node, for reports; unsafe whole numbers become text so that no digit is lost. */
export function toJson(document: Document, node: Node): unknown {
  switch (node.type) {
    case 'map': {
      const result: Record<string, unknown> = {}
      for (const entry of node.entries)
        Object.defineProperty(result, entry.key, {
          value: toJson(document, entry.value), enumerable: true, configurable: true, writable: true,
        })
      return result
    }
    case 'list':
      return node.entries.map((entry) => toJson(document, entry.value))
    case 'alias':
      return '*' + node.name
    case 'scalar':
      return scalarJson(document, node)
  }
}

function scalarJson(document: Document, node: ScalarNode): unknown {
  if (node.kind !== 'number') return node.value
  const value = node.value as number
  const lossy = !Number.isFinite(value) || (Number.isInteger(value) && !Number.isSafeInteger(value))
  return lossy ? document.text.slice(node.from, node.to) : value
}

/** The value given as JSON data, as a `Value`. */
export function fromJson(data: unknown): Value {
  if (Array.isArray(data)) return data.map(fromJson)
  if (data !== null && typeof data === 'object') return new Map(Object.entries(data).map(([key, value]) => [key, fromJson(value)]))
  if (typeof data === 'string' || typeof data === 'number' || typeof data === 'boolean') return data
  return null
}

/**
 * Reads a value typed by a person: a JSON scalar, else text. Numbers keep their spelling.
 */
export function readTyped(text: string): Value {
  if (text === 'null') return null
  if (text === 'true' || text === 'false') return text === 'true'
  if (/^-?(0|[1-9]\d*)(\.\d+)?([eE][+-]?\d+)?$/.test(text)) return new NumberText(text)
  if (text.length > 1 && text.startsWith('"') && text.endsWith('"')) {
    try {
      return JSON.parse(text) as string
    } catch {
      return text
    }
  }
  return text
}

/** A text that is the same for values that read the same. */
export function printValue(value: Value): string {
  if (value instanceof NumberText) {
    const amount = Number(value.text)
    return Number.isSafeInteger(amount) || !Number.isInteger(amount) ? `n${Number.isNaN(amount) ? value.text : amount}` : `n${value.text}`
  }
  if (Array.isArray(value)) return '[' + (value as readonly Value[]).map(printValue).join(',') + ']'
  if (value instanceof Map) return '{' + [...(value as ReadonlyMap<string, Value>)].sort(([a], [b]) => (a < b ? -1 : 1)).map(([key, item]) => JSON.stringify(key) + ':' + printValue(item)).join(',') + '}'
  return JSON.stringify(value)
}
