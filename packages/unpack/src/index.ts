import {
  PackageError,
  arrangementOf,
  isLeftOver,
  isOfInterest,
  looksLike,
  packagesIn,
  readAbout,
  readPackage,
  readSingleFile,
  type Family,
  type PackageInfo,
  type Piece,
} from '@pasticcio/core'
import { Archive, ArchiveError, type ArchiveLimits } from './archive'

export { Archive, ArchiveError, type ArchiveLimits } from './archive'

/** Limits of an archive that is a package. */
export interface PackageLimits extends ArchiveLimits {
  /** The descriptor. */
  readonly descriptor: number
  /** All default settings together. */
  readonly defaults: number
}

/** A package in a download. */
export interface Described {
  readonly info: PackageInfo
  /** Where in the download it begins; empty for all of it. */
  readonly root: string
  /** Its own bytes, where it lay in the download as a file; null where the download is its bytes. */
  readonly bytes: Uint8Array | null
  /** The file it lay in, in the download. */
  readonly member: string | null
}

/** A file of a package, and how large it is. */
export interface Member {
  readonly name: string
  readonly size: number
}

/** A file that may be a package, or hold some. */
export interface Download {
  readonly bytes: Uint8Array
  readonly fileName: string
}

/** What the thread is asked: which packages each of some downloads holds, what files one has, or some of them. */
export type Request =
  | {
      readonly kind: 'packages'
      readonly downloads: readonly Download[]
      readonly family: Family
      /** Families it may be a package of instead, to be named where it is none of this one. */
      readonly others: readonly Family[]
      readonly limits: PackageLimits
    }
  | { readonly kind: 'listing'; readonly bytes: Uint8Array; readonly limits: PackageLimits }
  | { readonly kind: 'members'; readonly bytes: Uint8Array; readonly names: readonly string[]; readonly limits: PackageLimits }

/** `reason` ends a sentence that begins with the package's name. */
export interface Refused {
  readonly kind: 'refused'
  readonly reason: string
}

/** What one download holds. */
export type Opened = { readonly kind: 'opened'; readonly packages: readonly Described[] } | Refused

export type Answer =
  /** As many as there were downloads, in their order. */
  | { readonly kind: 'packages'; readonly downloads: readonly Opened[] }
  | { readonly kind: 'listing'; readonly members: readonly Member[] }
  | { readonly kind: 'members'; readonly bytes: ReadonlyMap<string, Uint8Array> }
  | Refused

export async function answer(request: Request): Promise<Answer> {
  if (request.kind !== 'packages') return orRefused(() => fromArchive(request))
  const downloads: Opened[] = []
  for (const download of request.downloads)
    downloads.push(await orRefused(async () => ({ kind: 'opened', packages: await packages({ ...request, ...download }) })))
  return { kind: 'packages', downloads }
}

async function orRefused<T>(work: () => Promise<T>): Promise<T | Refused> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof PackageError || error instanceof ArchiveError) return { kind: 'refused', reason: error.message }
    throw error
  }
}

async function fromArchive(request: Exclude<Request, { kind: 'packages' }>): Promise<Answer> {
  const archive = await Archive.open(request.bytes, request.limits)
  if (request.kind === 'listing') return { kind: 'listing', members: archive.names.map((name) => ({ name, size: archive.size(name) })) }
  const bytes = new Map<string, Uint8Array>()
  for (const name of request.names) {
    const member = await archive.read(name)
    if (!member) throw new ArchiveError(`it holds no ${name}`)
    bytes.set(name, member)
  }
  return { kind: 'members', bytes }
}

type PackagesRequest = Extract<Request, { kind: 'packages' }> & Download

/** The packages of a download, all of it looked at. @throws PackageError, ArchiveError */
async function packages(request: PackagesRequest): Promise<Described[]> {
  const { bytes, family, fileName, limits } = request
  if (arrangementOf(family).arrives === 'text' && !isArchive(bytes)) return [describeText(bytes, family, fileName)]
  const archive = await Archive.open(bytes, limits)
  const found: Described[] = []
  for (const { root, member } of spotsIn(archive, request))
    if (member === null) found.push({ info: await describeFolder(archive, root, request), root, bytes: null, member: null })
    else found.push(await describeMember(archive, member, request))
  await archive.verify()
  return found
}

function spotsIn(archive: Archive, { family, others }: PackagesRequest): ReturnType<typeof packagesIn> {
  try {
    return packagesIn(archive.names, family)
  } catch (error) {
    const other = looksLike(archive.names, others)
    if (!(error instanceof PackageError) || !other) throw error
    throw new PackageError(`it looks like a package for ${other.id} servers (${other.title}), and this is one for ${family.id}`, {
      cause: error,
    })
  }
}

/** A local header of a ZIP, or the end of an empty one (APPNOTE.TXT 4.3). */
const isArchive = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b && [3, 5].includes(bytes[2] ?? 0)

function describeText(bytes: Uint8Array, family: Family, fileName: string): Described {
  const text = decode(bytes)
  if (text === null) throw new PackageError('it is not UTF-8 text')
  return { info: readSingleFile(text, family, fileName), root: '', bytes: null, member: null }
}

async function describeFolder(archive: Archive, root: string, { family, fileName, limits }: PackagesRequest): Promise<PackageInfo> {
  const outer =
    root.split('/').at(-2) ??
    fileName
      .split('/')
      .pop()!
      .replace(/\.[^.]+$/, '')
  return readPackage(await textsOf(archive, root, family, limits), family, outer)
}

/** A file in the download that is a package by itself. */
async function describeMember(archive: Archive, member: string, request: PackagesRequest): Promise<Described> {
  const bytes = (await archive.read(member))!
  const { family, limits } = request
  try {
    if (arrangementOf(family).arrives === 'text') return { ...describeText(bytes, family, member), bytes, member }
    const inner = await Archive.open(bytes, limits)
    const info = await describeFolder(inner, '', { ...request, fileName: member })
    await inner.verify()
    return { info, root: '', bytes, member }
  } catch (error) {
    if (error instanceof PackageError || error instanceof ArchiveError)
      throw new PackageError(`${member} in it cannot be used: ${error.message}`, { cause: error })
    throw error
  }
}

async function textsOf(archive: Archive, root: string, family: Family, limits: PackageLimits): Promise<Map<string, string>> {
  const { file } = family.descriptor
  const texts = new Map<string, string>()
  const pieces = await piecesOf(archive, root, family, limits)
  let room = limits.defaults
  for (const path of archive.names) {
    const name = path.slice(root.length)
    if (!path.startsWith(root) || isLeftOver(path) || !isOfInterest(name, family, pieces)) continue
    const size = archive.size(path)
    if (name !== file && (room -= size) < 0)
      throw new ArchiveError(`the settings in it have more than ${limits.defaults / 1048576} MB together`)
    const text = decode((await archive.read(path))!)
    // a default in another encoding is none we could compare with; what the plugin writes of it is kept when it does
    if (text !== null) texts.set(name, text)
    else if (name === file) throw new ArchiveError(`${path} in it is not UTF-8 text`)
  }
  return texts
}

/** What the package says belongs elsewhere, which must be read too. */
async function piecesOf(archive: Archive, root: string, family: Family, limits: PackageLimits): Promise<readonly Piece[]> {
  const path = root + (family.descriptor.file ?? '')
  if (archive.size(path) > limits.descriptor) throw new ArchiveError(`${path} in it is too large to be a description`)
  const bytes = await archive.read(path)
  const text = bytes && decode(bytes)
  return text === null ? [] : readAbout(text, family, { file: path, named: 'package', notes: '' }).pieces
}

function decode(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes)
  } catch {
    return null
  }
}
