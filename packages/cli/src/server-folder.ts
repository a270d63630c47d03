import { lstat, readFile, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { imageSize } from 'image-size'
import pLimit from 'p-limit'
import { coerce, satisfies, valid } from 'semver'
import {
  PackageError,
  arrangementOf,
  readAbout,
  type Family,
  type PackageInfo,
  type PictureFacts,
  type ServerSource,
} from '@pasticcio/core'
import { CliError, EXIT } from './errors'
import { answer, type Described, type Opened, type PackageLimits } from '@pasticcio/unpack'

const MB = 1024 * 1024
const LIMITS: PackageLimits = {
  entries: 4000,
  entry: 64 * MB,
  total: 256 * MB,
  ratio: 100,
  free: 16 * MB,
  descriptor: MB,
  defaults: 16 * MB,
}
/** Files of a server that are named at all, and how deep they are looked for. */
const MOST_FILES = 200_000
const DEEPEST = 12
const AT_ONCE = 16
const LARGEST_TEXT = 16 * MB

/** A server's folder as it lies on this machine. @param packages a folder of packages as their authors gave them out */
export async function serverInFolder(folder: string, family: Family, packages?: string): Promise<ServerSource> {
  const paths = new Set(await pathsBelow(folder))
  const known = packages === undefined ? new Map<string, PackageInfo>() : await packagesIn(packages, family)
  return {
    paths,
    read: (path) => readWhole(join(folder, path)),
    describe: async (path) => {
      const info = await describe(join(folder, path), path, family)
      return info && 'name' in info ? (known.get(`${info.name} ${info.version}`) ?? info) : info
    },
    pictureAt: (path) => sizeOf(join(folder, path)),
    satisfies: (version, range) => satisfies(valid(version) ?? coerce(version)?.version ?? '0.0.0', range),
  }
}

async function pathsBelow(folder: string): Promise<string[]> {
  const found: string[] = []
  const turns = pLimit(AT_ONCE)
  const visit = async (at: string, depth: number): Promise<void> => {
    const entries = await turns(() => readdir(join(folder, at), { withFileTypes: true }))
    const below: Promise<void>[] = []
    for (const entry of entries) {
      const path = at === '' ? entry.name : `${at}/${entry.name}`
      if (entry.isFile() && found.length < MOST_FILES) found.push(path)
      else if (entry.isDirectory() && !entry.name.startsWith('.') && depth < DEEPEST) below.push(visit(path, depth + 1))
    }
    await Promise.all(below)
  }
  await visit('', 0)
  return found.sort()
}

async function readWhole(path: string): Promise<string | null | { problem: string }> {
  const info = await lstat(path).catch(() => null)
  if (!info?.isFile()) return null
  if (info.size > LARGEST_TEXT) return { problem: `It has more than ${LARGEST_TEXT / MB} MB, which no settings file has.` }
  const bytes = await readFile(path)
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes)
  } catch {
    return { problem: 'It is not UTF-8 text. Save it as UTF-8 first.' }
  }
}

type Unopened = { readonly problem: string }

/** What a package says, or why it is none. */
async function describe(path: string, name: string, family: Family): Promise<PackageInfo | null | Unopened> {
  if (arrangementOf(family).arrives === 'folder') {
    const text = await readWhole(path)
    return typeof text === 'string' ? aboutFolder(text, name, family) : null
  }
  const found = await opened(path, family)
  if (found.kind === 'opened') return found.packages[0]?.info ?? null
  return { problem: `${name} is no package for this server: ${found.reason}. Download it again, or check that it is meant for this game.` }
}

/** What was unpacked says what it is; what it shipped is not known from it. */
function aboutFolder(text: string, name: string, family: Family): PackageInfo | Unopened {
  try {
    const named = name.split('/').at(-2) ?? name
    return { ...readAbout(text, family, { file: name, named, notes: '' }), defaults: {}, readme: '', changelog: '' }
  } catch (error) {
    if (error instanceof PackageError) return { problem: `${name} describes no plugin: ${error.message}. Install it anew.` }
    throw error
  }
}

async function opened(path: string, family: Family): Promise<Opened> {
  const bytes = await readFile(path)
  const found = await answer({ kind: 'packages', downloads: [{ bytes, fileName: path }], family, others: [], limits: LIMITS })
  if (found.kind === 'packages') return found.downloads[0]!
  return found.kind === 'refused' ? found : { kind: 'refused', reason: 'it was read as something else' }
}

async function described(path: string, family: Family): Promise<readonly Described[]> {
  const found = await opened(path, family)
  return found.kind === 'opened' ? found.packages : []
}

/** Packages of a folder by name and version. */
async function packagesIn(folder: string, family: Family): Promise<Map<string, PackageInfo>> {
  const found = await readdir(folder).catch((error: unknown) => {
    throw new CliError(EXIT.misuse, `${folder} cannot be read: ${(error as Error).message}`, { cause: error })
  })
  const names = found.filter((name) => name.endsWith('.' + (family.plugins.ending ?? '')))
  const all = await Promise.all(names.sort().map((name) => described(join(folder, name), family)))
  return new Map(all.flat().map(({ info }) => [`${info.name} ${info.version}`, info]))
}

async function sizeOf(path: string): Promise<PictureFacts | null> {
  try {
    const { width, height } = imageSize(await readFile(path))
    return { width, height }
  } catch {
    return null
  }
}
