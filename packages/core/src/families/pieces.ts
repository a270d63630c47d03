import picomatch from 'picomatch/posix.js'
import { formatOf } from '../formats/registry'
import { fillIn, type Family, type Piece } from './family'
import { wordsFor, type Placed } from './folders'

/** Whether a file of a package is one a piece speaks of. */
export const matchesPiece = (from: string, member: string): boolean => picomatch.isMatch(member, from, { dot: true })

/**
 * Files that several plugins share and this one has lines of its own in: there are its settings, too. Those of which the
 * place is not known, or that are of no format we read, are left out.
 */
export function sharedFilesOf(family: Family, plugin: Placed, pieces: readonly Piece[]): string[] {
  return [...family.pieces, ...pieces]
    .filter(({ kind }) => kind === 'block')
    .map(({ to }) => fillIn(to, wordsFor(family, plugin)))
    .filter((path) => !path.includes('{') && formatOf(path) !== null)
}

/**
 * Where a piece that is copied puts each of the files it speaks of: into a folder, each as it lies below the part of the
 * pattern without wildcards, or as the one file that is named.
 */
export function copiesOf(
  family: Family,
  piece: Piece,
  members: readonly string[],
  plugin: Placed,
  more: Readonly<Record<string, string>> = {},
): { readonly member: string; readonly path: string }[] {
  const to = fillIn(piece.to, { ...wordsFor(family, plugin), ...more })
  const { isGlob, base } = picomatch.scan(piece.from)
  const folder = isGlob ? base : piece.from.split('/').slice(0, -1).join('/')
  const skipped = folder === '' ? 0 : folder.length + 1
  return members
    .filter((member) => matchesPiece(piece.from, member))
    .map((member) => ({ member, path: to.endsWith('/') ? to + member.slice(skipped) : to }))
}
