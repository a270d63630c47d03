import { ConsoleError, type ConsoleErrorCode } from '../consoles'
import { PlaceError, type PlaceErrorCode } from '../places'

/** A request that cannot be met. `message` is fit for users; `cause` is for the log only. */
export class ServiceError extends Error {
  /** What the answer tells beside the message, as both sides of a conflict. */
  readonly data: Readonly<Record<string, unknown>>

  constructor(
    readonly code: ErrorCode,
    readonly status: number,
    message: string,
    options: ErrorOptions & { readonly data?: Readonly<Record<string, unknown>> } = {},
  ) {
    super(message, options)
    this.name = 'ServiceError'
    this.data = options.data ?? {}
  }
}

export type ErrorCode =
  | 'not-signed-in'
  | 'not-allowed'
  | 'not-found'
  | 'too-many-attempts'
  | 'name-taken'
  | 'last-owner'
  | 'invitation-gone'
  | 'not-tried'
  | 'bad-input'
  | 'bad-family'
  | 'bad-package'
  | 'bad-link'
  | 'private-address'
  | 'wrong-hash'
  | 'cancelled'
  | 'bad-folder'
  | 'outside-folder'
  | 'too-large'
  | 'no-access'
  | 'disk-full'
  | 'unreachable'
  | 'claimed'
  | 'database-busy'
  | 'database-failed'
  | 'plan-changed'
  | 'assumptions-changed'
  | 'in-use'
  | 'wrong-method'
  | 'place-failed'
  | 'server-stopped'
  | 'server-running'
  | 'server-failed'
  | 'did-not-stop'
  | 'busy'
  | 'drift'
  | 'not-text'
  | 'names-no-file'
  | 'picture-differs'
  | 'does-not-fit'
  | 'ended'
  | 'draft-changed'
  | 'has-errors'
  | 'not-utf8'
  | 'decisions-open'
  | 'drafts-open'
  | 'plan-blocked'
  | 'not-fetched'
  | 'nothing-to-do'

export const notFound = (what: string): ServiceError => new ServiceError('not-found', 404, `There is no ${what}.`)

const PLACE: Readonly<Record<PlaceErrorCode, readonly [ErrorCode, number]>> = {
  outside: ['outside-folder', 400],
  changed: ['drift', 409],
  claimed: ['claimed', 409],
  denied: ['no-access', 502],
  'too-large': ['too-large', 413],
  full: ['disk-full', 507],
  'read-only': ['no-access', 502],
  unreachable: ['unreachable', 502],
  failed: ['place-failed', 502],
}

const CONSOLE: Readonly<Record<ConsoleErrorCode, readonly [ErrorCode, number]>> = {
  'not-running': ['server-stopped', 409],
  running: ['server-running', 409],
  'did-not-start': ['server-failed', 502],
  unreachable: ['unreachable', 502],
}

/** What SQLite says (https://www.sqlite.org/rescode.html), by the beginning of its code. */
const DATABASE: readonly (readonly [RegExp, ErrorCode, number, string])[] = [
  [
    /^SQLITE_(BUSY|LOCKED)/,
    'database-busy',
    503,
    'Another program, such as a backup, holds Pasticcio’s database. Nothing of this was done; try again in a moment.',
  ],
  [
    /^SQLITE_CONSTRAINT/,
    'busy',
    409,
    'Somebody else did the same, or removed what this is about, at the same moment. Nothing of this was done; look once more.',
  ],
  [
    // also what comes in is written there, to files
    /^(SQLITE_FULL|ENOSPC|EDQUOT)$/,
    'disk-full',
    507,
    'The disk that holds Pasticcio’s data is full. Nothing of this was done, and what was kept before is safe; make room, and try again.',
  ],
  [
    /^SQLITE_(READONLY|CANTOPEN|PERM)/,
    'database-failed',
    503,
    'Pasticcio may not write its data. Nothing of this was done, and what was kept before is safe; give its account the right to write in its data folder.',
  ],
  [
    /^SQLITE_(IOERR|CORRUPT|NOTADB)/,
    'database-failed',
    503,
    'Pasticcio’s database cannot be read or written as it should. The game servers’ files are as they are. Look after the disk, and take the data folder back from a backup if this stays.',
  ],
]

/** Errors of places, consoles and the database as those of services; others are given back as they are. */
export function asServiceError(error: unknown): unknown {
  const known = error instanceof PlaceError ? PLACE[error.code] : error instanceof ConsoleError ? CONSOLE[error.code] : null
  if (known) return new ServiceError(known[0], known[1], (error as Error).message, { cause: error })
  const code = String((error as { code?: unknown } | null)?.code ?? '')
  const found = DATABASE.find(([pattern]) => pattern.test(code))
  return found ? new ServiceError(found[1], found[2], found[3], { cause: error }) : error
}
