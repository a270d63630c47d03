import type { FileAction } from '../actions'
import type { Family } from '../family'

/** A package to be put on a server. */
export interface PackageToPlace {
  readonly name: string
  /** SHA-256 of its bytes. */
  readonly sha: string
  /** Where the version it replaces lies. */
  readonly replaces?: string
}

/** A way packages are kept on a server. A new one is a module here and an entry in index.ts. */
export interface Arrangement {
  readonly id: string
  /** How deep below the plugins' folder packages can lie. */
  readonly depth: number
  /** The packages among the files below the plugins' folder. */
  find(family: Family, listing: readonly string[]): readonly string[]
  /** What puts a package in its place. */
  install(family: Family, what: PackageToPlace): readonly FileAction[]
  /** What takes one away, unless it was changed. */
  remove(family: Family, what: PackageToPlace & { readonly path: string }): readonly FileAction[]
  /** Whether writing this path changes what is installed. */
  isPackage(family: Family, path: string): boolean
}
