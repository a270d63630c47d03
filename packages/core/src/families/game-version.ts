import { formatOf, parse, readingFor } from '../formats/registry'
import { getNode, parsePointer } from '../tree/pointer'
import { toJson } from '../tree/values'
import type { Family } from './family'

/** The version of the game, as the text of the file says that the family names for it; null where it does not. */
export function gameVersionIn(family: Family, text: string): string | null {
  const { file, at } = family['game-version']
  const format = formatOf(file)
  const keys = parsePointer(at)
  if (!format || !keys) return null
  const document = parse(text, format, readingFor(file, family))
  const node = getNode(document, keys)
  const version = node?.type === 'scalar' ? String(toJson(document, node)).trim() : ''
  return /\d/.test(version) ? version : null
}
