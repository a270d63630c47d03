import { PlaceError, type PlaceErrorCode } from './place'

const WORDS: Readonly<Record<string, readonly [PlaceErrorCode, string]>> = {
  EACCES: ['denied', 'Pasticcio may not read or write it. Give its account the right to, as the game server has it'],
  EPERM: ['denied', 'Pasticcio may not change it. Give its account the right to, as the game server has it'],
  EROFS: ['read-only', 'the disk is mounted read-only. Make it writable, and try again'],
  ENOSPC: ['full', 'the disk is full. Make room on it, and try again'],
  EDQUOT: ['full', 'the room allowed for it is used up. Make room, and try again'],
  EISDIR: ['failed', 'a folder stands in its place'],
  ENOTDIR: ['failed', 'a file stands where a folder of its path should be'],
  EMFILE: ['failed', 'too many files are open on this machine'],
  EIO: ['failed', 'the disk does not answer as it should; look after it'],
  ELOOP: ['failed', 'it is a link that leads to itself'],
  ENAMETOOLONG: ['failed', 'its name is too long'],
  ENOENT: ['unreachable', 'there is no such folder on the machine that Pasticcio runs on'],
}

/** Runs something, and names what goes wrong in words of our own. */
export async function told<T>(path: string, work: () => Promise<T>): Promise<T> {
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
export async function absentAsNull<T>(work: Promise<T>): Promise<T | null> {
  try {
    return await work
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    if (code === 'ENOENT' || code === 'ENOTDIR') return null
    throw error
  }
}
