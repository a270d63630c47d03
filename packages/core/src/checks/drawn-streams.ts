import { formatPointer, parsePointer } from '../tree/pointer'
import type { DrawFact } from './draw-facts'
import type { StreamFact } from './stream-facts'

/** Of chances that leave out no more than this, one always comes. */
const ROUNDED = 0.005

/**
 * What a table draws in money is paid by one deed, each as often as its share of all: weights, or chances that are all there is.
 * @returns the same streams, those of such tables with the table they are of
 */
export function withTables(streams: readonly StreamFact[], draws: readonly DrawFact[]): StreamFact[] {
  const drawn = new Map(draws.flatMap((draw) => entriesOf(draw).map((entry) => [entry.at, { ...entry, draw }] as const)))
  if (drawn.size === 0) return [...streams]
  return streams.map((stream) => {
    const keys = parsePointer(stream.pointer) ?? []
    const found = keys.map((_, up) => drawn.get(formatPointer(keys.slice(0, -1 - up)))).find(Boolean)
    if (!found || stream.way === 'out' || stream.shareOf !== null) return stream
    const { pointer, name } = found.draw
    return { ...stream, chance: found.share, drawn: { pointer, name } }
  })
}

/** Sections of a table each of which is one of what may come, with its share; none for a table that draws several at once. */
function entriesOf({ pointer, isByWeight, entries }: DrawFact): { readonly at: string; readonly share: number }[] {
  const all = entries.reduce((sum, { weight }) => sum + weight, 0)
  if (all <= 0 || !(isByWeight || Math.abs(all - 1) < ROUNDED)) return []
  return entries.flatMap((entry) => {
    const at = formatPointer((parsePointer(entry.pointer) ?? []).slice(0, -1))
    return at === pointer ? [] : [{ at, share: entry.weight / all }]
  })
}
