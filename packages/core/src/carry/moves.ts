import type { Document } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { align } from './align'
import { TreeIndex } from './index-tree'
import { Prints } from './pairing/prints'

/** Settings of one factory copy that the next one has under another name or place: old JSON Pointer to new. */
export function findMoves(factory: Document, update: Document): Map<string, string> {
  const [old, next] = [new TreeIndex(factory), new TreeIndex(update)]
  const { forward, found } = align(old, next, [{ factory, update }], new Prints([factory, update]))
  return new Map([...found.keys()].map((entry) => [formatPointer(old.keys(entry)), formatPointer(next.keys(forward.get(entry)!))]))
}
