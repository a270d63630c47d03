import type { Driver } from '../drivers'

/** A regular file as it stands in a place. */
export interface PlaceFile {
  /** Relative to the server's folder, with slashes. */
  readonly path: string
  /** In bytes. */
  readonly size: number
  /** When it was last written, in milliseconds since 1970; whole seconds where the place knows no better. */
  readonly changed: number
}

/** A file written under a temporary name, which `commit` puts in its place. */
export interface Staged {
  readonly path: string
  readonly temporary: string
}

/** What a place can do; those who write adapt to it. */
export interface PlaceAbilities {
  /** Whether `commit` replaces a file in one step that happens or does not. */
  readonly replaceInOneStep: boolean
  /** Whether what was written is known to be on the disk. */
  readonly sync: boolean
  /** Whether files keep their modes. */
  readonly modes: boolean
}

/**
 * Where the files of one game server are. Paths are relative to its folder, with slashes, and none leads out of it, also
 * through links. All methods throw `PlaceError`. tests/server/place-contract.ts holds every driver to this.
 */
export interface Place {
  readonly can: PlaceAbilities
  /**
   * Whether its folder is there and may be read and written. Writes nothing.
   * @returns what tells this place from all others, whatever it is called @throws PlaceError saying what is wrong
   */
  probe(): Promise<string>
  /** A regular file, also through a link; null where nothing, or something else, stands. */
  stat(path: string): Promise<PlaceFile | null>
  /** The bytes of a file; null where there is none. @throws PlaceError `too-large` for more than `most` bytes, which are not read */
  read(path: string, most: number): Promise<Buffer | null>
  /** Regular files below a folder, in order; links are not followed, temporary files left out. A missing folder has none. */
  list(path: string, depth: number): Promise<PlaceFile[]>
  /** Writes beside the file; the file itself is as it was. Folders that are missing are made. */
  stage(path: string, bytes: Uint8Array): Promise<Staged>
  commit(staged: Staged): Promise<void>
  /** Takes a staged file away, if it is still there. */
  discard(staged: Staged): Promise<void>
  /** Takes a file away. @returns whether there was one */
  remove(path: string): Promise<boolean>
  /** Removes what an interrupted writing left in the folders of these paths. */
  sweep(paths: readonly string[]): Promise<void>
  close(): Promise<void>
}

export type PlaceErrorCode = 'outside' | 'denied' | 'too-large' | 'full' | 'read-only' | 'unreachable' | 'failed'

/** Something a place could not do. `message` names the path and is fit for users. */
export class PlaceError extends Error {
  constructor(
    readonly code: PlaceErrorCode,
    message: string,
    options?: ErrorOptions,
  ) {
    super(message, options)
    this.name = 'PlaceError'
  }
}

/** A kind of place. */
export interface PlaceDriver<Settings extends object = object> extends Driver<Settings> {
  open(settings: Settings): Place
}

export function outside(path: string): PlaceError {
  return new PlaceError('outside', `${path} leads out of the server's folder.`)
}

export function tooLarge(path: string, size: number, most: number): PlaceError {
  const megabytes = (bytes: number): string => `${Math.round(bytes / 1048576)} MB`
  return new PlaceError(
    'too-large',
    `${path} has ${megabytes(size)}, and files over ${megabytes(most)} are not opened here. Split it, or change it where it lies.`,
  )
}
