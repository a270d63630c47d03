import type { Economy, Moving } from './derive'
import { movedByAll } from './flow'
import type { Kind } from './model'
import { unitPrice } from './prices'

/** A setting with what a little more of it does to what stays. */
export interface Mover {
  readonly id: string
  /** What moves it; of a loop, the item. */
  readonly stream: Moving
  /** Of a loop: the side it is. */
  readonly side: 'buy' | 'sell' | null
  readonly file: string
  readonly pointer: string
  readonly isShipped: boolean
  /** Money an hour. */
  readonly change: number
}

/** What a tenth more of each setting changes of what stays an hour, the most first; what changes nothing is left out. */
export function movers({ streams, book }: Economy, kinds: readonly Kind[], more = 0.1): readonly Mover[] {
  const loops = new Map(book.rows.map(({ item, loop }) => [item, loop]))
  const changes = new Map<string, Mover>()
  const add = (mover: Mover): void => {
    const before = changes.get(mover.id)
    changes.set(mover.id, before ? { ...before, change: before.change + mover.change } : mover)
  }
  for (const stream of streams) {
    const { id, file, pointer, isShipped } = stream
    if (stream.doing === 'loop') continue
    const change = movedByAll(stream, kinds) * more * (stream.way === 'in' ? 1 : -1)
    add({ id, stream, side: null, file, pointer, isShipped, change })
    // a price takes its taxes along
    const along = stream.doing === 'tax' ? streams.find((paid) => paid.activity === stream.activity && paid.doing !== 'tax') : undefined
    if (along)
      add({ id: along.id, stream: along, side: null, file: along.file, pointer: along.pointer, isShipped: along.isShipped, change })
  }
  for (const stream of streams) if (stream.doing === 'loop') sidesOf(stream).forEach(add)
  return [...changes.values()].filter(({ change }) => change !== 0).sort((a, b) => Math.abs(b.change) - Math.abs(a.change))

  /** A loop is not gone where it does not gain any more. */
  function sidesOf(stream: Moving): Mover[] {
    const loop = loops.get(stream.name)
    if (!loop) return []
    const rounds = movedByAll(stream, kinds) / stream.amount
    return (['sell', 'buy'] as const).map((side): Mover => {
      const { file, pointer } = loop[side]
      const change = unitPrice(loop[side]) * more * loop.count
      const gained = side === 'sell' ? change : -Math.min(change, loop.gainARound)
      return { id: `${side} ${file}#${pointer}`, stream, side, file, pointer, isShipped: false, change: gained * rounds }
    })
  }
}
