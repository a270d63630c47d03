import { access, constants, lstat, open, readFile, readdir, realpath, stat, unlink } from 'node:fs/promises'
import { dirname, isAbsolute, join, posix, sep } from 'node:path'
import { object, string, type InferType } from 'yup'
import { claimFolder } from './folder-claim'
import { absentAsNull, told } from './local-errors'
import { dropKept, makeFolders, moveAway, replaceFile, takeOwner, temporaryBeside } from './local-replace'
import {
  PlaceError,
  outside,
  tooLarge,
  type PassedOver,
  type Place,
  type PlaceDriver,
  type PlaceFile,
  type Replaced,
  type Staged,
  type Still,
} from './place'

const schema = object({ folder: string().required() }).noUnknown()

/** Files in a folder of this machine. */
export const localDriver: PlaceDriver<InferType<typeof schema>> = {
  type: 'local',
  schema,
  secrets: [],
  open: ({ folder }) => new LocalPlace(folder),
}

const TEMPORARY = /^\.[0-9a-f]{16}\.tmp$/

const ROOT_COUNTS_MS = 1000

class LocalPlace implements Place {
  readonly can = { replaceInOneStep: true, sync: true, modes: true }

  private known: { readonly root: string; readonly until: number } | null = null

  constructor(private readonly folder: string) {}

  async claim(): Promise<() => void> {
    const root = await this.root()
    const claim = await told(this.folder, async () => claimFolder(root))
    return () => claim.release()
  }

  async probe(): Promise<string> {
    if (!isAbsolute(this.folder)) throw new PlaceError('failed', `${this.folder}: give the full path of the folder, beginning at the root.`)
    const info = await told(this.folder, () => stat(this.folder))
    if (!info.isDirectory()) throw new PlaceError('failed', `${this.folder}: this is a file. Give the folder it lies in.`)
    await told(this.folder, () => access(this.folder, constants.R_OK | constants.W_OK | constants.X_OK))
    return this.root()
  }

  /** The real path of the folder. Asked for with every file, and looked up once a second. */
  private async root(): Promise<string> {
    if (!this.known || performance.now() > this.known.until) {
      const root = await told(this.folder, () => realpath(this.folder))
      this.known = { root, until: performance.now() + ROOT_COUNTS_MS }
    }
    return this.known.root
  }

  /** The full path of a file. @throws PlaceError `outside` for one that leads out, also through links */
  private async resolve(path: string): Promise<string> {
    const clean = posix.normalize(path)
    if (path.includes('\0') || posix.isAbsolute(clean) || clean === '..' || clean.startsWith('../')) throw outside(path)
    const root = await this.root()
    const full = join(root, clean)
    const real = await told(path, () => nearestReal(full))
    if (real !== root && !real.startsWith(root + sep)) throw outside(path)
    return full
  }

  async stat(path: string): Promise<PlaceFile | null> {
    const full = await this.resolve(path)
    const info = await told(path, () => absentAsNull(stat(full)))
    return info?.isFile() ? { path, size: info.size, changed: info.mtimeMs } : null
  }

  async read(path: string, most: number): Promise<Buffer | null> {
    const full = await this.resolve(path)
    return told(path, async () => {
      const info = await absentAsNull(stat(full))
      if (!info?.isFile()) return null
      if (info.size > most) throw tooLarge(path, info.size, most)
      return absentAsNull(readFile(full))
    })
  }

  async list(path: string, depth: number, passedOver?: PassedOver): Promise<PlaceFile[]> {
    const root = await this.root()
    const start = await this.resolve(path)
    // all of a folder at once: one after the other, each would wait for everything else that goes on
    const visit = async (at: string, left: number): Promise<PlaceFile[]> => {
      const names = (await named(nameBelow(root, at), passedOver, () => absentAsNull(readdir(at)))) ?? []
      const here = names.sort().filter((name) => !name.endsWith('.tmp') && !name.startsWith('.pasticcio'))
      return (await Promise.all(here.map((name) => look(join(at, name), left)))).flat()
    }
    const look = async (full: string, left: number): Promise<PlaceFile[]> => {
      const below = nameBelow(root, full)
      const info = await named(below, passedOver, () => absentAsNull(lstat(full)))
      if (info?.isDirectory()) return left > 0 ? visit(full, left - 1) : []
      if (info?.isFile()) return [{ path: below, size: info.size, changed: info.mtimeMs }]
      return info?.isSymbolicLink() ? ((await named(below, passedOver ?? ignore, () => this.linked(below))) ?? []) : []
    }
    return told(path, () => visit(start, depth))
  }

  /** A link to a file counts as one; links to folders are not followed, since they may lead around in a ring. */
  private async linked(path: string): Promise<PlaceFile[]> {
    const file = await this.stat(path)
    if (file) return [file]
    throw new PlaceError(
      'failed',
      `${path} is a link to a folder, or to nothing, and such links are not followed. Put the folder itself there.`,
    )
  }

  async stage(path: string, bytes: Uint8Array): Promise<Staged> {
    const resolved = await this.resolve(path)
    return told(path, async () => {
      const full = await realTarget(resolved)
      await makeFolders(dirname(full))
      const like = await absentAsNull(stat(full))
      const mode = (like?.mode ?? 0o644) & 0o7777
      const temporary = temporaryBeside(full)
      const file = await open(temporary, 'wx', mode)
      try {
        await file.writeFile(bytes)
        await takeOwner(file, like ?? (await stat(dirname(full))))
        await file.chmod(mode)
        await file.sync()
      } catch (error) {
        await absentAsNull(unlink(temporary))
        throw error
      } finally {
        await file.close()
      }
      return { path, temporary }
    })
  }

  async commit({ path, temporary }: Staged, still: Still = () => true): Promise<Replaced> {
    const resolved = await this.resolve(path)
    return told(path, async () => ({ path, kept: await replaceFile(path, await realTarget(resolved), temporary, still) }))
  }

  async before({ path, kept }: Replaced): Promise<Buffer | null> {
    return kept === null ? null : told(path, () => readFile(kept))
  }

  async release({ path, kept }: Replaced): Promise<void> {
    await told(path, () => dropKept(kept))
  }

  async discard({ path, temporary }: Staged): Promise<void> {
    await told(path, () => absentAsNull(unlink(temporary)))
  }

  async remove(path: string, still: Still = () => true): Promise<Replaced | null> {
    const full = await this.resolve(path)
    const kept = await told(path, () => moveAway(path, full, still))
    return kept === null ? null : { path, kept }
  }

  async sweep(paths: readonly string[]): Promise<void> {
    for (const folder of new Set(paths.map((path) => posix.dirname(path)))) {
      const full = await this.resolve(folder)
      await told(folder, async () => {
        for (const name of (await absentAsNull(readdir(full))) ?? []) if (TEMPORARY.test(name)) await absentAsNull(unlink(join(full, name)))
      })
    }
  }

  async close(): Promise<void> {}
}

/** The real path of a file, or that of the nearest folder above it that is there, with the rest behind. */
async function nearestReal(full: string): Promise<string> {
  const real = await absentAsNull(realpath(full))
  return real ?? join(await nearestReal(dirname(full)), full.slice(dirname(full).length))
}

/** A link stays a link: what it points to is written. */
async function realTarget(full: string): Promise<string> {
  return (await absentAsNull(realpath(full))) ?? full
}

/** What is below the root as we write it; `full` was made from it. */
const nameBelow = (root: string, full: string): string => {
  const below = full.slice(root.endsWith(sep) ? root.length : root.length + 1)
  return sep === '/' ? below : below.replaceAll(sep, '/')
}

/** A link that is none of ours is nothing to fail for, where nobody wants to hear of it. */
const ignore = (): void => undefined

/** Does something for one name of a listing; what goes wrong is told of that name, and the others go on. */
async function named<T>(path: string, passedOver: PassedOver | undefined, work: () => Promise<T>): Promise<T | null> {
  try {
    return await told(path || 'the folder itself', work)
  } catch (error) {
    if (!(error instanceof PlaceError) || !passedOver) throw error
    passedOver(error, path)
    return null
  }
}
