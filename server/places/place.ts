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

/** What stood at a path until it was replaced or removed, kept under another name for as long as that matters. */
export interface Replaced {
  readonly path: string
  /** Null where nothing stood there. */
  readonly kept: string | null
}

/** Looks at what stands at a path at the last moment before it is replaced; false leaves it there. */
export type Still = (now: Buffer | null) => boolean

/** Hears what could not be looked into, and of which path; the others are listed all the same. */
export type PassedOver = (error: PlaceError, path: string) => void

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
  /**
   * Regular files below a folder, in order, also links to such; links to folders are not followed, and temporary files
   * are left out. A missing folder has none. What cannot be looked into is thrown, or told to `passedOver` and left out.
   */
  list(path: string, depth: number, passedOver?: PassedOver): Promise<PlaceFile[]>
  /** Writes beside the file; the file itself is as it was. Folders that are missing are made. */
  stage(path: string, bytes: Uint8Array): Promise<Staged>
  /**
   * Puts a staged file in its place, if what stands there right before is still what it should be. What stood there is
   * kept until it is released, since somebody may have it open and write on.
   * @throws PlaceError `changed`; then the staged file is still one
   */
  commit(staged: Staged, still?: Still): Promise<Replaced>
  /** What was replaced, as it is by now. */
  before(replaced: Replaced): Promise<Buffer | null>
  release(replaced: Replaced): Promise<void>
  /** Takes a staged file away, if it is still there. */
  discard(staged: Staged): Promise<void>
  /** Takes a file away, as `commit` replaces one. @returns null where there was none @throws PlaceError `changed` */
  remove(path: string, still?: Still): Promise<Replaced | null>
  /** Removes what an interrupted writing left in the folders of these paths. */
  sweep(paths: readonly string[]): Promise<void>
  /** Keeps other installations from writing here. @returns lets it go @throws PlaceError `claimed` where one does already */
  claim(): Promise<() => void>
  close(): Promise<void>
}

export type PlaceErrorCode = 'outside' | 'changed' | 'claimed' | 'denied' | 'too-large' | 'full' | 'read-only' | 'unreachable' | 'failed'

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
  return new PlaceError('outside', `${path} leads out of the server's folder, where nothing is looked at. Put the file itself there.`)
}

export function changed(path: string): PlaceError {
  return new PlaceError('changed', `${path} was changed on the server at this very moment. Open it to see both, and decide.`)
}

export function tooLarge(path: string, size: number, most: number): PlaceError {
  const megabytes = (bytes: number): string => `${Math.round(bytes / 1048576)} MB`
  return new PlaceError(
    'too-large',
    `${path} has ${megabytes(size)}, and files over ${megabytes(most)} are not opened here. Split it, or change it where it lies.`,
  )
}
