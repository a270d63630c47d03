import { randomBytes } from 'node:crypto'
import { access, constants, lstat, mkdir, open, readFile, readdir, realpath, rename, stat, unlink } from 'node:fs/promises'
import { dirname, isAbsolute, join, posix, relative, sep } from 'node:path'
import { object, string, type InferType } from 'yup'
import { PlaceError, outside, tooLarge, type Place, type PlaceDriver, type PlaceErrorCode, type PlaceFile, type Staged } from './place'

const schema = object({ folder: string().required() }).noUnknown()

/** Files in a folder of this machine. */
export const localDriver: PlaceDriver<InferType<typeof schema>> = {
  type: 'local',
  schema,
  secrets: [],
  open: ({ folder }) => new LocalPlace(folder),
}

const TEMPORARY = /^\.[0-9a-f]{16}\.tmp$/

class LocalPlace implements Place {
  readonly can = { replaceInOneStep: true, sync: true, modes: true }

  constructor(private readonly folder: string) {}

  async probe(): Promise<string> {
    if (!isAbsolute(this.folder)) throw new PlaceError('failed', `${this.folder}: give the full path of the folder, beginning at the root.`)
    const info = await told(this.folder, () => stat(this.folder))
    if (!info.isDirectory()) throw new PlaceError('failed', `${this.folder}: this is a file. Give the folder it lies in.`)
    await told(this.folder, () => access(this.folder, constants.R_OK | constants.W_OK | constants.X_OK))
    return this.root()
  }

  private async root(): Promise<string> {
    return told(this.folder, () => realpath(this.folder))
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
    const info = await this.stat(path)
    if (!info) return null
    if (info.size > most) throw tooLarge(path, info.size, most)
    const full = await this.resolve(path)
    return told(path, () => absentAsNull(readFile(full)))
  }

  async list(path: string, depth: number): Promise<PlaceFile[]> {
    const root = await this.root()
    const start = await this.resolve(path)
    const found: PlaceFile[] = []
    const visit = async (at: string, left: number): Promise<void> => {
      for (const name of ((await absentAsNull(readdir(at))) ?? []).sort()) {
        const full = join(at, name)
        const info = await absentAsNull(lstat(full))
        if (info?.isDirectory() && left > 0) await visit(full, left - 1)
        else if (info?.isFile() && !name.endsWith('.tmp'))
          found.push({ path: relative(root, full).split(sep).join('/'), size: info.size, changed: info.mtimeMs })
      }
    }
    await told(path, () => visit(start, depth))
    return found
  }

  async stage(path: string, bytes: Uint8Array): Promise<Staged> {
    const resolved = await this.resolve(path)
    return told(path, async () => {
      const full = await realTarget(resolved)
      await mkdir(dirname(full), { recursive: true })
      const mode = ((await absentAsNull(stat(full)))?.mode ?? 0o644) & 0o7777
      const temporary = join(dirname(full), `.${randomBytes(8).toString('hex')}.tmp`)
      const file = await open(temporary, 'wx', mode)
      try {
        await file.writeFile(bytes)
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

  async commit({ path, temporary }: Staged): Promise<void> {
    const resolved = await this.resolve(path)
    await told(path, async () => {
      const full = await realTarget(resolved)
      await rename(temporary, full)
      await syncFolder(dirname(full))
    })
  }

  async discard({ path, temporary }: Staged): Promise<void> {
    await told(path, () => absentAsNull(unlink(temporary)))
  }

  async remove(path: string): Promise<boolean> {
    const full = await this.resolve(path)
    return told(path, async () => {
      if ((await absentAsNull(unlink(full).then(() => true))) === null) return false
      await syncFolder(dirname(full))
      return true
    })
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

const WORDS: Readonly<Record<string, readonly [PlaceErrorCode, string]>> = {
  EACCES: ['denied', 'Pasticcio may not read or write it. Give its account the right to, as the game server has it'],
  EPERM: ['denied', 'Pasticcio may not change it. Give its account the right to, as the game server has it'],
  EROFS: ['read-only', 'the disk is mounted read-only'],
  ENOSPC: ['full', 'the disk is full'],
  EDQUOT: ['full', 'the room allowed for it is used up'],
  EISDIR: ['failed', 'a folder stands in its place'],
  ENOTDIR: ['failed', 'a file stands where a folder of its path should be'],
  ENOENT: ['unreachable', 'there is no such folder on the machine that Pasticcio runs on'],
}

/** Runs something, and names what goes wrong in words of our own. */
async function told<T>(path: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof PlaceError) throw error
    const { code = '', message } = error as NodeJS.ErrnoException
    const [kind, words] = WORDS[code] ?? (['failed', message] as const)
    throw new PlaceError(kind, `${path}: ${words}.`, { cause: error })
  }
}

/** "No such file" alone is an answer; everything else is an error. */
async function absentAsNull<T>(work: Promise<T>): Promise<T | null> {
  try {
    return await work
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    if (code === 'ENOENT' || code === 'ENOTDIR') return null
    throw error
  }
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

async function syncFolder(folder: string): Promise<void> {
  const handle = await open(folder, 'r')
  try {
    await handle.sync()
  } finally {
    await handle.close()
  }
}
