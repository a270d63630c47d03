import type { Document, Node } from '../tree/nodes'
import { NumberText, readTyped, valueOf, type Value } from '../tree/values'

/**
 * A value on its way into another file: text that was a number or a switch in a format without kinds becomes one again.
 * `like` is what stands there now, whose kind decides; null where nothing does.
 */
export function convertedValue(source: Document, node: Node, target: Document, like: Node | null): Value {
  const value = valueOf(source, node)
  return source.traits.values === 'text' && target.traits.values === 'typed' ? typed(value, like) : value
}

function typed(value: Value, like: Node | null): Value {
  if (typeof value === 'string') {
    const meant = like?.type === 'scalar' && like.kind !== 'null' ? like.kind : null
    const known = readTyped(value)
    const fits =
      known instanceof NumberText
        ? meant === null || meant === 'number'
        : typeof known === 'boolean'
          ? meant === null || meant === 'bool'
          : false
    return fits ? known : value
  }
  if (Array.isArray(value)) return (value as readonly Value[]).map((item) => typed(item, null))
  return value instanceof Map ? new Map([...(value as ReadonlyMap<string, Value>)].map(([key, item]) => [key, typed(item, null)])) : value
}
