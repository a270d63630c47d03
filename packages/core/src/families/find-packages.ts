import { arrangementOf } from './arrangements'
import type { Family } from './family'
import { PackageError } from './package-info'

/** Where in a download a package is. */
export interface PackageSpot {
  /** The folder it begins at, with a slash at the end; empty for the top. */
  readonly root: string
  /** A file in the download that is the package by itself; null where the download, or a folder of it, is. */
  readonly member: string | null
}

/**
 * The packages in an archive, told by the names of its files: one at the top or in an outer folder, several side by side,
 * or files that are packages themselves. @throws PackageError saying why there is none
 */
export function packagesIn(all: readonly string[], family: Family): PackageSpot[] {
  const names = all.filter((name) => !isLeftOver(name))
  const { ending } = family.plugins
  const file = family.descriptor.file ?? ''
  const arrives = arrangementOf(family).arrives
  const roots = names.filter((name) => name === file || name.endsWith('/' + file)).map((name) => name.slice(0, name.length - file.length))
  if (arrives === 'folder') {
    const outer = roots.filter((root) => !roots.some((other) => other !== root && root.startsWith(other)))
    if (outer.length > 0) return outer.map((root) => ({ root, member: null }))
    throw new PackageError(`it holds no ${file}, which packages of the family ${family.id} have`)
  }
  if (arrives === 'archive' && roots.includes('')) return [{ root: '', member: null }]
  const members = names.filter((name) => name.endsWith(`.${ending ?? ''}`))
  if (members.length > 0) return members.map((member) => ({ root: '', member }))
  if (roots.length > 0)
    throw new PackageError(
      `its ${file} lies in the folder ${roots[0]!.slice(0, -1)}, and must be at the top; servers would not find it there`,
    )
  throw new PackageError(`it holds no ${arrives === 'text' ? `.${ending} file` : file}, which packages of the family ${family.id} have`)
}

/** Whether a file in an archive is only what the system it was packed on left there. */
export const isLeftOver = (name: string): boolean => /^__MACOSX\/|(^|\/)(\.DS_Store|Thumbs\.db|desktop\.ini)$/.test(name)

/** The other family a download looks like a package of; null for none. */
export function looksLike(names: readonly string[], families: readonly Family[]): Family | null {
  const fits = (family: Family): boolean => {
    try {
      return packagesIn(names, family).length > 0
    } catch {
      return false
    }
  }
  return families.find(fits) ?? null
}
