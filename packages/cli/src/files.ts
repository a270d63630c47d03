import { randomBytes } from 'node:crypto'
import { chmod, lstat, mkdir, open, readdir, readFile, realpath, rename, stat, unlink } from 'node:fs/promises'
import { dirname, join, relative } from 'node:path'
import { formatOf, type FormatId } from '@pasticcio/core'
import { CliError, EXIT } from './errors'

/** Reads a text file as UTF-8. @throws CliError when it cannot be read or is not UTF-8. */
export async function readText(path: string): Promise<string> {
  let bytes: Buffer
  try {
    bytes = await readFile(path)
  } catch (error) {
    throw new CliError(EXIT.misuse, `${path} cannot be read: ${(error as Error).message}`, { cause: error })
  }
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes)
  } catch (error) {
    throw new CliError(EXIT.unparsable, `${path} is not UTF-8 text. Save it as UTF-8 first.`, { cause: error })
  }
}

/** Writes a file so that at any moment either the old or the new text is there: temporary name, fsync, rename. Mode and links stay. */
export async function writeAtomically(path: string, text: string): Promise<void> {
  const target = await realpath(path).catch(() => path)
  const mode = await stat(target).then(
    (info) => info.mode & 0o7777,
    () => null,
  )
  const temporary = join(dirname(target), `.${randomBytes(6).toString('hex')}.tmp`)
  try {
    await mkdir(dirname(target), { recursive: true })
    const file = await open(temporary, 'wx', mode ?? 0o644)
    try {
      await file.writeFile(text, 'utf8')
      await file.sync()
    } finally {
      await file.close()
    }
    if (mode !== null) await chmod(temporary, mode)
    await rename(temporary, target)
  } catch (error) {
    await unlink(temporary).catch(() => undefined)
    throw new CliError(EXIT.misuse, `${path} cannot be written: ${(error as Error).message}`, { cause: error })
  }
}

export async function isFolder(path: string): Promise<boolean> {
  return stat(path).then(
    (info) => info.isDirectory(),
    () => false,
  )
}

/** The settings files below a folder, as paths relative to it, in order. Links and hidden folders are left out. */
export async function listFiles(folder: string): Promise<string[]> {
  const found: string[] = []
  const visit = async (at: string): Promise<void> => {
    for (const name of (await readdir(at)).sort()) {
      const path = join(at, name)
      const info = await lstat(path)
      if (info.isDirectory() && !name.startsWith('.')) await visit(path)
      else if (info.isFile() && formatOf(name)) found.push(relative(folder, path))
    }
  }
  await visit(folder)
  return found
}

/** The format by option or ending. @throws CliError when neither tells. */
export function requireFormat(path: string, format?: FormatId): FormatId {
  const found = format ?? formatOf(path)
  if (!found) throw new CliError(EXIT.misuse, `${path}: its ending tells no format. Say it with --format.`)
  return found
}
