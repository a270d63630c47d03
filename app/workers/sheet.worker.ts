import { expose, transfer } from 'comlink'
import { SheetEngine, type SheetQuery, type SheetSnapshot } from '../drafts/engine'

/** The engine of one draft, off the main thread; long arrays go over without a copy. */
class WorkerEngine extends SheetEngine {
  override sheet(query: SheetQuery): SheetSnapshot {
    const snapshot = super.sheet(query)
    const { shapes, mineLines, updateLines } = snapshot
    return transfer(
      snapshot,
      [shapes, mineLines, updateLines].flatMap((array) => (array ? [array.buffer] : [])),
    )
  }
}

expose(WorkerEngine)
