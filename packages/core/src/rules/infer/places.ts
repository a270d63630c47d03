import type { Container, MapNode, Node } from '../../tree/nodes'
import { endsWith, hasWord, type Detector } from './look'

const NAMED = [
  'location',
  'position',
  'pos',
  'start',
  'spawn',
  'coord',
  'coordinate',
  'place',
  'point',
  'at',
  'corner',
  'center',
  'centre',
  'from',
  'to',
  'offset',
  'teleport',
  'home',
  'origin',
]
const PARTS = new Set(['x', 'y', 'z', 'heading', 'yaw', 'pitch', 'world', 'place', 'w', 'h', 'rotation', 'dimension', 'angle', 'facing'])
const NUMBER = /^-?\d+(?:\.\d+)?$/

const isNumber = (node: Node): boolean => node.type === 'scalar' && node.kind === 'number'

/** Whether a section is one place: x, y and z, and nothing but what goes with them. */
export function isPlace(node: MapNode): boolean {
  const keys = node.entries.map(({ key }) => key.toLowerCase())
  const axes = ['x', 'y', 'z'].filter((axis) => keys.includes(axis))
  const numbers = node.entries.filter(({ key }) => ['x', 'y', 'z'].includes(key.toLowerCase()))
  return axes.length >= 2 && axes.includes('x') && keys.every((key) => PARTS.has(key)) && numbers.every(({ value }) => isNumber(value))
}

/** A place: a section of x, y and z, a list of three or four numbers, or a text of them. */
export const coordinates: Detector = (look) => {
  const { value } = look.entry
  if (value.type === 'map') return isPlace(value) ? { means: 'coordinates' } : null
  const named = hasWord(look, ...NAMED) || /\bx,? y,? z\b|\bcoordinates?\b/i.test(look.comment)
  if (value.type === 'list') {
    const numbers = value.entries.length >= 3 && value.entries.length <= 4 && value.entries.every((item) => isNumber(item.value))
    return numbers && (named || isVector(value)) && !endsWith(look, 'slot', 'size', 'colour', 'color') ? { means: 'coordinates' } : null
  }
  if (look.kind !== 'text') return null
  const parts = look.texts[0]!.trim().split(/[\s,;]+/)
  const rest = NUMBER.test(parts[0] ?? '') ? parts : parts.slice(1)
  return rest.length >= 3 && rest.length <= 5 && rest.every((part) => NUMBER.test(part)) && (named || parts.length !== rest.length)
    ? { means: 'coordinates' }
    : null
}

/** Calls that make a place of numbers, as `vec3(1, 2, 3)`. */
export const isVector = ({ tag }: Container): boolean => /^(?:vec|vector)[234]/i.test(tag ?? '')
