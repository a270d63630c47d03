import { PackageError, isSettingsFile, readPackage, type Family, type PackageInfo } from '@pasticcio/core'
import { Archive, ArchiveError, type ArchiveLimits } from './archive'

export { Archive, ArchiveError, type ArchiveLimits } from './archive'

/** Limits of an archive that is a package. */
export interface PackageLimits extends ArchiveLimits {
  /** The descriptor. */
  readonly descriptor: number
  /** All default settings together. */
  readonly defaults: number
}

/** What the thread is asked: what a package says of itself, or one file of it. */
export type Request =
  | { readonly kind: 'package'; readonly bytes: Uint8Array; readonly family: Family; readonly limits: PackageLimits }
  | { readonly kind: 'member'; readonly bytes: Uint8Array; readonly name: string; readonly limits: PackageLimits }

export type Answer =
  | { readonly kind: 'package'; readonly info: PackageInfo }
  | { readonly kind: 'member'; readonly bytes: Uint8Array | null }
  /** `reason` ends a sentence that begins with the package's name. */
  | { readonly kind: 'refused'; readonly reason: string }

export async function answer(request: Request): Promise<Answer> {
  try {
    const archive = await Archive.open(request.bytes, request.limits)
    if (request.kind === 'member') return { kind: 'member', bytes: await archive.read(request.name) }
    const info = readPackage(await textsOf(archive, request.family, request.limits), request.family)
    await archive.verify()
    return { kind: 'package', info }
  } catch (error) {
    if (error instanceof PackageError || error instanceof ArchiveError) return { kind: 'refused', reason: error.message }
    throw error
  }
}

async function textsOf(archive: Archive, family: Family, limits: PackageLimits): Promise<Map<string, string>> {
  const { file, defaults } = family.descriptor
  const texts = new Map<string, string>()
  let room = limits.defaults
  for (const name of archive.names) {
    if (name !== file && !(defaults !== undefined && name.startsWith(defaults) && isSettingsFile(name, family))) continue
    const size = archive.size(name)
    if (name === file && size > limits.descriptor) throw new ArchiveError(`${file} in it is too large to be a description`)
    if (name !== file && (room -= size) < 0)
      throw new ArchiveError(`the settings in it have more than ${limits.defaults / 1048576} MB together`)
    const text = decode((await archive.read(name))!)
    // a default in another encoding is none we could compare with; what the plugin writes of it is kept when it does
    if (text !== null) texts.set(name, text)
    else if (name === file) throw new ArchiveError(`${file} in it is not UTF-8 text`)
  }
  return texts
}

function decode(bytes: Buffer): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes)
  } catch {
    return null
  }
}
