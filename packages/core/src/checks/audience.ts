import { lastWord } from '../carry/likeness'
import { formatPointer } from '../tree/pointer'
import type { FileLooks, PartLook } from './looks'

/** Players or places that are all a feature is for, as a list of its own entry says. */
export interface AudienceFact {
  /** The entry that it is for. */
  readonly of: string
  readonly pointer: string
  readonly from: number
  readonly kind: 'players' | 'places'
  readonly names: readonly string[]
}

const setOf = (words: string): ReadonlySet<string> => new Set(words.split(' '))
/** Last words of the names of lists, by whom or what they name. */
const PLAYERS = setOf('player players people member members staff user users owner owners')
const PLACES = setOf('place places world worlds area areas')

/** Lists of players or places; an empty one is for all, and is left out. */
export function audiencesIn({ parts, values }: FileLooks): AudienceFact[] {
  const lists = new Map<string, { readonly fact: AudienceFact; readonly names: string[] }>()
  for (const part of parts) {
    const kind = kindOf(part)
    if (kind === null) continue
    const pointer = formatPointer(part.keys)
    const names: string[] = []
    lists.set(pointer, { fact: { of: formatPointer(part.keys.slice(0, -1)), pointer, from: part.node.from, kind, names }, names })
  }
  if (lists.size === 0) return []
  for (const { keys, text } of values) if (text !== '') lists.get(formatPointer(keys.slice(0, -1)))?.names.push(text)
  return [...lists.values()].flatMap(({ fact, names }) => (names.length > 0 ? [fact] : []))
}

function kindOf({ keys, node }: PartLook): AudienceFact['kind'] | null {
  const last = lastWord(keys.at(-1) ?? '')
  if (node.type !== 'list' || keys.length < 2) return null
  return PLAYERS.has(last) ? 'players' : PLACES.has(last) ? 'places' : null
}
