import { formatPointer, getNode, isContainer, nameOfEntry, parsePointer, rowsIn, type Document } from '@pasticcio/core'

/** An entry that others can be made from. */
export interface EntryTemplate {
  readonly side: 'mine' | 'factory'
  readonly pointer: string
  readonly name: string
}

/** The entries of a section or list that others can be made from. @param group its JSON Pointer */
export function templatesIn(document: Document | null, side: EntryTemplate['side'], group: string): EntryTemplate[] {
  const keys = parsePointer(group) ?? []
  const node = document && getNode(document, keys)
  if (!node || !isContainer(node)) return []
  return rowsIn(node).map(({ key }) => {
    const at = [...keys, key]
    return { side, pointer: formatPointer(at), name: nameOfEntry(document, at) ?? key }
  })
}
