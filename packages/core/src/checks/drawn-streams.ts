import { formatPointer, parsePointer } from '../tree/pointer'
import type { DrawFact } from './draw-facts'
import type { Drawn, StreamFact } from './stream-facts'

/**
 * Says of streams which table draws them. What a table draws of which one comes each time (by weights, or by chances that are all there is)
 * comes as often as its share.
 */
export function withTables(streams: readonly StreamFact[], draws: readonly DrawFact[]): StreamFact[] {
  const drawn = new Map(draws.flatMap(entriesOf))
  if (drawn.size === 0) return [...streams]
  return streams.map((stream) => {
    const keys = parsePointer(stream.pointer) ?? []
    const found = keys.map((_, up) => drawn.get(formatPointer(keys.slice(0, -1 - up)))).find(Boolean)
    if (!found || stream.way === 'out' || stream.shareOf !== null) return stream
    return { ...stream, chance: found.drawn.isOne ? found.share : stream.chance, drawn: found.drawn }
  })
}

/** Sections of a table that are entries of it, each by its place, with its share; none for a table of mere numbers. */
function entriesOf({ pointer, name, isOne, entries }: DrawFact): (readonly [at: string, of: { share: number; drawn: Drawn }])[] {
  const all = entries.reduce((sum, { weight }) => sum + weight, 0)
  if (all <= 0) return []
  return entries.flatMap((entry) => {
    const at = formatPointer((parsePointer(entry.pointer) ?? []).slice(0, -1))
    const drawn = { pointer, name, isOne, entry: { pointer: entry.pointer } }
    return at === pointer ? [] : [[at, { share: entry.weight / all, drawn }] as const]
  })
}
