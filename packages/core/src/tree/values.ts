import { isNameless, type Document, type FormatId, type Node, type ScalarNode } from './nodes'

/** A number with the spelling it shall have, so that `1.50` or a 17-digit id survives. */
export class NumberText {
  /** `amount` is what the text stands for, where JavaScript would not read it so (`15 * 60`, `0x1p4`). */
  constructor(
    readonly text: string,
    readonly amount: number = Number(text),
  ) {}
}

/** Source of a program that stands where a value could; only files of the same format can hold it. */
export class CodeText {
  constructor(
    readonly text: string,
    readonly format: FormatId,
  ) {}
}

/** A value on its way into a file. Sections are Maps, so that no key has a meaning of its own (`__proto__`). */
export type Value = null | boolean | number | string | NumberText | CodeText | readonly Value[] | ReadonlyMap<string, Value>

/** What a node says, with numbers in their own spelling. Aliases give their written form. */
export function valueOf(document: Document, node: Node): Value {
  switch (node.type) {
    case 'map':
      return new Map(node.entries.filter((entry) => !isNameless(entry)).map((entry) => [entry.key, valueOf(document, entry.value)]))
    case 'list':
      return node.entries.map((entry) => valueOf(document, entry.value))
    case 'alias':
      return '*' + node.name
    case 'scalar':
      return scalarValue(document, node)
  }
}

function scalarValue(document: Document, node: ScalarNode): Value {
  if (node.kind === 'number') return new NumberText(document.text.slice(node.from, node.to), node.value as number)
  return node.kind === 'code' ? new CodeText(document.text.slice(node.from, node.to), document.format) : node.value
}

/** Plain JSON data of a node, for reports; unsafe whole numbers become text so that no digit is lost. */
export function toJson(document: Document, node: Node): unknown {
  switch (node.type) {
    case 'map': {
      const result: Record<string, unknown> = {}
      for (const entry of node.entries)
        if (!isNameless(entry))
          Object.defineProperty(result, entry.key, {
            value: toJson(document, entry.value),
            enumerable: true,
            configurable: true,
            writable: true,
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
  if (node.kind === 'code') return document.text.slice(node.from, node.to)
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
    const { amount } = value
    return Number.isSafeInteger(amount) || !Number.isInteger(amount) ? `n${Number.isNaN(amount) ? value.text : amount}` : `n${value.text}`
  }
  if (value instanceof CodeText) return 'c' + value.text
  if (Array.isArray(value)) return '[' + (value as readonly Value[]).map(printValue).join(',') + ']'
  if (value instanceof Map)
    return (
      '{' +
      [...(value as ReadonlyMap<string, Value>)]
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([key, item]) => JSON.stringify(key) + ':' + printValue(item))
        .join(',') +
      '}'
    )
  return JSON.stringify(value)
}
