import { arrangementOf, isLeftOver, matchesPiece, type PackageContent, type Piece } from '@pasticcio/core'
import type { Member } from '@pasticcio/unpack'
import { hashOf } from '../db/repositories/blobs'
import type { PackageRow } from '../db/repositories/packages'
import type { Context, Server } from './context'

/** What packages hold, by their hash: they never change, and listing a large one each time is dear. */
export class PackageListings {
  private readonly known = new Map<string, readonly Member[]>()

  async get(context: Context, sha: string): Promise<readonly Member[]> {
    const there = this.known.get(sha)
    if (there) return there
    const members = await context.unpacker.listing(await context.blobs.requireBytes(sha), 'The package')
    if (this.known.size >= MOST_KNOWN) this.known.delete(this.known.keys().next().value!)
    this.known.set(sha, members)
    return members
  }
}

const MOST_KNOWN = 50

/** The files of a package below where it begins; none for one that is a single text. */
export async function membersOf(context: Context, server: Server, { sha, root }: Pick<PackageRow, 'sha' | 'root'>): Promise<Member[]> {
  if (arrangementOf(server.family).arrives === 'text') return []
  return (await context.listings.get(context, sha)).flatMap(({ name, size }) =>
    name.startsWith(root) && !isLeftOver(name) ? [{ name: name.slice(root.length), size }] : [],
  )
}

/** What must be known of a package to place it. */
export async function contentOf(context: Context, server: Server, row: PackageRow): Promise<PackageContent> {
  const members = (await membersOf(context, server, row)).map(({ name }) => name)
  const pieces = [...server.family.pieces, ...row.info.pieces].filter(({ kind }) => kind !== 'copy')
  return { sha: row.sha, root: row.root, members, texts: await textsFor(context, row, members, pieces) }
}

async function textsFor(
  context: Context,
  { sha, root }: PackageRow,
  members: readonly string[],
  pieces: readonly Piece[],
): Promise<ReadonlyMap<string, string>> {
  if (pieces.length === 0) return new Map()
  const wanted = members.filter((member) => pieces.some(({ from }) => matchesPiece(from, member)))
  if (wanted.length === 0) return new Map()
  const bytes = await context.unpacker.members(
    await context.blobs.requireBytes(sha),
    wanted.map((name) => root + name),
    'The package',
  )
  return new Map([...bytes].map(([name, content]) => [name.slice(root.length), Buffer.from(content).toString('utf8')]))
}

/** The hashes of files of a package, by their names in it. */
export async function hashesOf(context: Context, sha: string, names: readonly string[]): Promise<ReadonlyMap<string, string>> {
  if (names.length === 0) return new Map()
  const bytes = await context.unpacker.members(await context.blobs.requireBytes(sha), names, 'The package')
  return new Map([...bytes].map(([name, content]) => [name, hashOf(content)]))
}

/** What a package has for people to read; empty texts for nothing. */
export interface PackageDocuments {
  readonly readme: string
  readonly changelog: string
}

export async function documentsOf(context: Context, server: Server, row: PackageRow): Promise<PackageDocuments> {
  const { readme, changelog } = server.family.descriptor
  const members = new Set((await membersOf(context, server, row)).map(({ name }) => name))
  const first = (names: readonly string[]): string | null => names.find((name) => members.has(name)) ?? null
  const wanted = [first(readme), first(changelog)]
  const names = wanted.flatMap((name) => (name === null ? [] : [row.root + name]))
  const bytes = names.length === 0 ? null : await context.unpacker.members(await context.blobs.requireBytes(row.sha), names, 'The package')
  const text = (name: string | null): string => (name === null ? '' : Buffer.from(bytes!.get(row.root + name)!).toString('utf8'))
  return { readme: text(wanted[0]!), changelog: text(wanted[1]!) }
}
