import { isVector, readColour, readClock, readDuration, readPlace, type Document, type Entry, type Rule } from '@pasticcio/core'

/** The controls there are; each is a component of components/sheet/controls/. */
export type ControlKind =
  | 'switch'
  | 'number'
  | 'duration'
  | 'time'
  | 'times'
  | 'text'
  | 'choice'
  | 'id'
  | 'ids'
  | 'colour'
  | 'place'
  | 'angle'
  | 'port'
  | 'link'
  | 'secret'
  | 'host'
  | 'picture'
  | 'file'
  | 'slot'
  | 'weight'
  | 'tokens'
  | 'lines'
  | 'slots'
  | 'block'
  | 'code'
  | 'reference'

/** The control for a value, by what it is and what its rule says: one that cannot show the value gives way to a plainer one. */
export function controlFor(document: Document, entry: Entry, rule: Rule | null): ControlKind {
  const { value } = entry
  if (value.type === 'alias') return 'reference'
  if (value.type === 'map') return rule?.means === 'coordinates' ? 'place' : 'block'
  if (value.type === 'list') return listControl(document, entry, rule)
  // code is shown, and changed in the source view only
  if (value.kind === 'code') return 'code'
  if (value.kind === 'bool') return 'switch'
  const source = value.kind === 'text' ? String(value.value) : document.text.slice(value.from, value.to)
  return meant(rule, source, value.kind === 'number' ? (value.value as number) : undefined) ?? plain(value.kind, source, rule)
}

function plain(kind: string, source: string, rule: Rule | null): ControlKind {
  if (kind === 'number' || rule?.kind === 'number') return 'number'
  if (rule?.choices && kind === 'text') return 'choice'
  return source.includes('\n') ? 'block' : 'text'
}

const SWITCH = /^(?:0|1|yes|no|on|off|true|false|enabled|disabled)$/i

/** The control of a meaning, where the value is of it. */
function meant(rule: Rule | null, source: string, amount?: number): ControlKind | null {
  switch (rule?.means) {
    case 'switch':
      return SWITCH.test(source) ? 'switch' : null
    case 'duration':
      return readDuration(source, rule.unit ?? null, amount) ? 'duration' : null
    case 'time':
      return readClock(source) || source === '' ? 'time' : null
    case 'choice':
      return rule.choices ? 'choice' : null
    case 'id':
    case 'amount':
    case 'node':
      return 'id'
    case 'colour':
      return readColour(source) ? 'colour' : null
    case 'coordinates':
      return readPlace(source) ? 'place' : null
    case 'angle':
    case 'port':
    case 'slot':
    case 'weight':
      return amount === undefined ? null : rule.means
    case 'link':
    case 'host':
    case 'secret':
    case 'picture':
    case 'file':
      return rule.means
    default:
      return null
  }
}

function listControl(document: Document, { key, value }: Entry, rule: Rule | null): ControlKind {
  const items = value.type === 'list' ? value.entries.map((entry) => entry.value) : []
  const scalars = items.map((item) => (item.type === 'scalar' ? item : null))
  // a call that makes no place is a sum to be worked out, as `math.min(1, 0.5)`
  if (value.type === 'list' && value.tag !== null && document.traits.tags === 'meaning' && !isVector(value)) return 'code'
  if (scalars.some((item) => item === null)) return 'tokens'
  const areNumbers = scalars.length > 0 && scalars.every((item) => item!.kind === 'number')
  if (rule?.means === 'coordinates' && areNumbers) return 'place'
  if (rule?.means === 'colour' && areNumbers) return 'colour'
  const areSlots =
    areNumbers && scalars.every((item) => Number.isInteger(item!.value) && (item!.value as number) >= 0 && (item!.value as number) < 108)
  if (areSlots && (rule?.means === 'slot' || /slot/i.test(key))) return 'slots'
  if (rule?.means === 'time') return 'times'
  if (rule?.means === 'id' || rule?.means === 'amount' || rule?.means === 'node') return 'ids'
  return scalars.some((item) => String(item!.value ?? '').includes(' ')) ? 'lines' : 'tokens'
}

/** The list of the server's that a value is picked from; its nodes are one, too. */
export const pickedFrom = (rule: Rule | null): string => (rule?.means === 'node' ? 'nodes' : (rule?.registry ?? 'items'))
