import { NumberText, type Value } from '@pasticcio/core'

/**
 * A value as it travels to a worker, which knows no classes: numbers that keep their spelling are `{ number }`,
 * sections `{ section }`. */
export type WireValue =
  | null
  | boolean
  | number
  | string
  | { readonly number: string }
  | { readonly section: readonly (readonly [string, WireValue])[] }
  | readonly WireValue[]

export function toWire(value: Value): WireValue {
  if (value instanceof NumberText) return { number: value.text }
  if (Array.isArray(value)) return (value as readonly Value[]).map(toWire)
  if (value instanceof Map) return { section: [...(value as ReadonlyMap<string, Value>)].map(([key, item]) => [key, toWire(item)]) }
  if (typeof value === 'object' && value !== null) throw new TypeError('code does not travel')
  return value
}

export function fromWire(value: WireValue): Value {
  if (Array.isArray(value)) return (value as readonly WireValue[]).map(fromWire)
  if (typeof value === 'object' && value !== null && 'section' in value)
    return new Map(value.section.map(([key, item]) => [key, fromWire(item)]))
  if (typeof value === 'object' && value !== null) return new NumberText((value as { number: string }).number)
  return value as Value
}
