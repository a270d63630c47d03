import { emptyScalar, type MapNode } from '../../tree/nodes'
import type { Parsed } from '../format'

/** Plain text has no settings: the whole file is one value, `/text`. */
export function parseText(text: string): Parsed {
  const root: MapNode = {
    type: 'map',
    flow: false,
    indent: 0,
    entries: [],
    tail: [],
    from: 0,
    to: text.length,
    outer: 0,
    anchor: null,
    tag: null,
  }
  const value = { ...emptyScalar(0), kind: 'text' as const, style: 'plain' as const, value: text, to: text.length }
  root.entries.push({ key: 'text', keyFrom: 0, keyTo: 0, value, from: 0, to: text.length, lead: [], trail: null, comma: -1 })
  return { root, findings: [] }
}
