import { randomBytes } from 'node:crypto'
import { lstat, mkdir, open, readFile, readdir, realpath, rename, stat, unlink } from 'node:fs/promises'
import { dirname, join, posix, relative, sep } from 'node:path'
import { ServiceError } from '../services/errors'

const LARGEST = 16 * 1024 * 1024

/** The files of a game server on this machine. Paths are relative to its folder, with slashes; none leads out of it. */
export class LocalFiles {
  constructor(private readonly folder: string) {}

  /** @throws ServiceError `outside-folder` for a path that leads out, also through links. */
  private async resolve(path: string): Promise<string> {
    const clean = posix.normalize(path)
    if (path.includes('\0') || posix.isAbsolute(clean) || clean === '..' || clean.startsWith('../')) throw outside(path)
    const root = await realpath(this.folder)
    const full = join(root, clean)
    const real = await realpath(full).catch(async () => join(await nearestReal(dirname(full)), full.slice(dirname(full).length)))
    if (real !== root && !real.startsWith(root + sep)) throw outside(path)
    return full
  }

  /** The bytes of a file; null where there is none. */
  async read(path: string): Promise<Buffer | null> {
    const full = await this.resolve(path)
    const info = await stat(full).catch(() => null)
    if (!info?.isFile()) return null
    if (info.size > LARGEST)
      throw new ServiceError('too-large', 413, `${path} has ${Math.round(info.size / 1048576)} MB; files over 16 MB are not read.`)
    return readFile(full)
  }

  /** Regular files below a folder, in order; links are not followed. A missing folder has none. */
  async list(path: string, depth = 4): Promise<string[]> {
    const root = await realpath(this.folder)
    const start = await this.resolve(path)
    const found: string[] = []
    const visit = async (at: string, left: number): Promise<void> => {
      for (const name of (await readdir(at).catch(() => [])).sort()) {
        const full = join(at, name)
        const info = await lstat(full).catch(() => null)
        if (info?.isDirectory() && left > 0) await visit(full, left - 1)
        else if (info?.isFile() && !name.endsWith('.tmp')) found.push(relative(root, full).split(sep).join('/'))
      }
    }
    await visit(start, depth)
    return found
  }

  /** Writes under a temporary name and syncs it; gives the name for `commit`. The file itself is as it was. */
  async stage(path: string, bytes: Uint8Array): Promise<string> {
    const full = await realTarget(await this.resolve(path))
    await mkdir(dirname(full), { recursive: true })
    const mode = await stat(full).then(
      (info) => info.mode & 0o7777,
      () => 0o644,
    )
    const temporary = join(dirname(full), `.${randomBytes(8).toString('hex')}.tmp`)
    const file = await open(temporary, 'wx', mode)
    try {
      await file.writeFile(bytes)
      await file.chmod(mode)
      await file.sync()
    } finally {
      await file.close()
    }
    return temporary
  }

  /** Puts a staged file in its place, in one step that happens or does not. */
  async commit(path: string, temporary: string): Promise<void> {
    const full = await realTarget(await this.resolve(path))
    await rename(temporary, full)
    await syncFolder(dirname(full))
  }

  async discard(temporary: string): Promise<void> {
    await unlink(temporary).catch(() => undefined)
  }

  async remove(path: string): Promise<void> {
    const full = await this.resolve(path)
    await unlink(full).catch(() => undefined)
    await syncFolder(dirname(full))
  }

  /** Removes what an interrupted writing left in the folders of these paths. */
  async sweep(paths: readonly string[]): Promise<void> {
    for (const folder of new Set(paths.map((path) => posix.dirname(path)))) {
      const full = await this.resolve(folder)
      for (const name of await readdir(full).catch(() => []))
        if (/^\.[0-9a-f]{16}\.tmp$/.test(name)) await unlink(join(full, name)).catch(() => undefined)
    }
  }
}

function outside(path: string): ServiceError {
  return new ServiceError('outside-folder', 400, `${path} leads out of the server's folder.`)
}

async function nearestReal(folder: string): Promise<string> {
  try {
    return await realpath(folder)
  } catch {
    return join(await nearestReal(dirname(folder)), folder.slice(dirname(folder).length))
  }
}

/** A link stays a link: what it points to is written. */
async function realTarget(full: string): Promise<string> {
  return realpath(full).catch(() => full)
}

async function syncFolder(folder: string): Promise<void> {
  const handle = await open(folder, 'r')
  try {
    await handle.sync()
  } finally {
    await handle.close()
  }
}
