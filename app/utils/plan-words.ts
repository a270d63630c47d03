import type { ShownPart } from './types'

/** The head of one part of a plan. */
export function partTitle(part: ShownPart): string {
  const files = part.actions.length
  switch (part.kind) {
    case 'package':
      return part.actions.some(({ kind }) => kind === 'put') && part.path.includes('/') && files > 1 ? 'Unpack' : 'Put in its place'
    case 'register':
      return 'Make known to the server'
    case 'copy':
      return files === 1 ? 'One file to its place' : `${files} files to their place`
    case 'entries':
      return files === 1 ? 'One entry' : `${files} entries`
    case 'block':
      return 'Some lines'
  }
}

/** What is to be known about a part, in a few words at its right. */
export function partNote(part: ShownPart): string {
  if (part.skipped !== '') return part.skipped
  if (part.kind === 'package' && part.from !== null) return `an outer folder, ${part.from.replace(/\/$/, '')}, is left out`
  const left = part.leftAsIs.length
  if (part.kind === 'copy' && left > 0)
    return left === part.actions.length ? 'there already, and left as it is' : `${left} of them are there already, and left as they are`
  if (part.kind === 'entries' && left > 0) return `${left} of them are there already, and left as they are`
  if (part.kind === 'entries' || part.kind === 'block') return part.because || 'taken out again on removal, unless changed'
  if (part.kind === 'register') return part.texts.length === 0 ? 'it is known already' : 'behind those it needs'
  return part.because
}
