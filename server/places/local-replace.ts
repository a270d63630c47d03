/*
 * Replacing files of this machine so that nothing others write meanwhile is lost: what stands there gets a second name
 * before a new file takes its first, and that it is still the same is looked at in the step right before.
 */
import { randomBytes } from 'node:crypto'
import { constants, linkSync, renameSync, statSync, unlinkSync, type BigIntStats } from 'node:fs'
import { chown, copyFile, link, mkdir, open, readFile, stat, unlink, type FileHandle } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { absentAsNull } from './local-errors'
import { PlaceError, changed, type Still } from './place'

/** So often a file may change while it is looked at. */
const TRIES = 20

/** A name beside a file, which listings leave out and an interrupted change sweeps away. */
export const temporaryBeside = (full: string): string => join(dirname(full), `.${randomBytes(8).toString('hex')}.tmp`)

/**
 * Puts a temporary file in the place of another.
 * @returns the name under which what stood there is kept; null where nothing did
 * @throws PlaceError `changed`
 */
export async function replaceFile(path: string, full: string, temporary: string, still: Still): Promise<string | null> {
  return whileStill(path, full, still, (was) => {
    if (was === null) {
      // fails where somebody put a file there since, which a renaming would write over
      linkSync(temporary, full)
      unlinkSync(temporary)
    } else renameSync(temporary, full)
  })
}

/** Takes a file away. @returns the name under which it is kept; null where there is none @throws PlaceError `changed` */
export async function moveAway(path: string, full: string, still: Still): Promise<string | null> {
  if (!(await absentAsNull(stat(full))) && still(null)) return null
  return whileStill(path, full, still, (was) => {
    if (was !== null) unlinkSync(full)
  })
}

async function whileStill(path: string, full: string, still: Still, act: (was: BigIntStats | null) => void): Promise<string | null> {
  for (let tries = 0; tries < TRIES; tries++) {
    const was = await absentAsNull(stat(full, { bigint: true }))
    if (was && !was.isFile()) throw new PlaceError('failed', `${path}: a folder stands in its place.`)
    const kept = was ? await keep(full) : null
    if (was && kept === null) continue
    try {
      if (!still(kept === null ? null : await readFile(kept))) throw changed(path)
      if (actIfSame(full, was, act)) {
        await syncFolder(dirname(full))
        return kept
      }
    } catch (error) {
      await dropKept(kept)
      throw error
    }
    await dropKept(kept)
  }
  throw changed(path)
}

/** Without a pause between the look and the act, so that hardly anything fits in between. */
function actIfSame(full: string, was: BigIntStats | null, act: (was: BigIntStats | null) => void): boolean {
  const now = statSync(full, { bigint: true, throwIfNoEntry: false }) ?? null
  const isSame =
    now === null || was === null
      ? now === was
      : now.ino === was.ino && now.dev === was.dev && now.size === was.size && now.mtimeNs === was.mtimeNs
  if (!isSame) return false
  try {
    act(was)
    return true
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST') return false
    throw error
  }
}

/** Gives a file a second name; on disks without such names, a copy does. Null where the file is gone. */
async function keep(full: string): Promise<string | null> {
  const name = temporaryBeside(full)
  try {
    await link(full, name)
  } catch (error) {
    const { code = '' } = error as NodeJS.ErrnoException
    if (code === 'ENOENT') return null
    if (!['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'EMLINK', 'ENOSYS'].includes(code)) throw error
    await copyFile(full, name, constants.COPYFILE_EXCL)
  }
  return name
}

export async function dropKept(kept: string | null): Promise<void> {
  if (kept !== null) await absentAsNull(unlink(kept))
}

interface Owner {
  readonly uid: number
  readonly gid: number
}

/** A file keeps its owner and group where we may give them; where we may not, it is ours, as any program's would be. */
export async function takeOwner(file: Pick<FileHandle, 'chown'>, { uid, gid }: Owner): Promise<void> {
  await file.chown(uid, gid).catch(() => undefined)
}

/** Makes the folders of a path that are missing, with the owner of the one they are made in, and on the disk for good. */
export async function makeFolders(folder: string): Promise<void> {
  const first = await mkdir(folder, { recursive: true })
  if (first === undefined) return
  const owner = await stat(dirname(first))
  for (let at = folder; ; at = dirname(at)) {
    await takeOwner({ chown: (uid, gid) => chown(at, uid, gid) }, owner)
    await syncFolder(dirname(at))
    if (at === first) return
  }
}

export async function syncFolder(folder: string): Promise<void> {
  const handle = await open(folder, 'r')
  try {
    await handle.sync()
  } finally {
    await handle.close()
  }
}
