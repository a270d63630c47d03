import type { FileAction } from '../actions'
import type { Family } from '../family'
import type { Placed } from '../folders'

/** A package to be put on a server. */
export interface PackageToPlace {
  /** SHA-256 of its bytes. */
  readonly sha: string
  /** Where in those bytes it begins, with a slash at the end; empty for all of it. */
  readonly root: string
  /** Its files below that; none for packages that stay one file. */
  readonly members: readonly string[]
  /** Where the version it replaces lies. */
  readonly replaces?: string
}

/** A plugin found on a server. */
export interface FoundPlugin {
  /** The file that says what it is: its package, or the description in its folder. */
  readonly path: string
  /** The name of the folder it was unpacked into, and that folder; null where it stays one file. */
  readonly unpacked: { readonly folder: string; readonly home: string } | null
  readonly isOff: boolean
}

/** A way packages are kept on a server. A new one is a module here, an entry in index.ts and its name in ../schema.ts. */
export interface Arrangement {
  /** What a package is when it arrives: an archive, a text with a description in its first lines, or an archive to unpack. */
  readonly arrives: 'archive' | 'text' | 'folder'
  /** Where to look for packages: folders, and how deep below them. */
  roots(family: Family): readonly { readonly folder: string; readonly depth: number }[]
  /** The packages among the files below those folders. */
  find(family: Family, listing: readonly string[]): readonly FoundPlugin[]
  /** Where a package of this name goes, and what its folder is called unless somebody wants it otherwise. */
  placeNew(family: Family, name: string, folder?: string): Placed
  /** What puts a package in its place. */
  install(family: Family, plugin: Placed, what: PackageToPlace): readonly FileAction[]
  /** The path that says what an installed one is. */
  mainPath(family: Family, plugin: Placed): string
  /** Whether writing this path changes what is installed. */
  isPackage(family: Family, path: string): boolean
}
