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
  | 'bad-package'
  | 'bad-link'
  | 'bad-folder'
  | 'outside-folder'
  | 'too-large'
  | 'no-access'
  | 'disk-full'
  | 'unreachable'
  | 'place-failed'
  | 'server-stopped'
  | 'server-running'
  | 'server-failed'
  | 'busy'
  | 'drift'
  | 'draft-changed'
  | 'has-errors'
  | 'not-utf8'
  | 'decisions-open'
  | 'drafts-open'
  | 'plan-blocked'
  | 'nothing-to-do'

export const notFound = (what: string): ServiceError => new ServiceError('not-found', 404, `There is no ${what}.`)

const PLACE: Readonly<Record<PlaceErrorCode, readonly [ErrorCode, number]>> = {
  outside: ['outside-folder', 400],
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

/** Errors of places and consoles as those of services; others are given back as they are. */
export function asServiceError(error: unknown): unknown {
  const known = error instanceof PlaceError ? PLACE[error.code] : error instanceof ConsoleError ? CONSOLE[error.code] : null
  return known ? new ServiceError(known[0], known[1], (error as Error).message, { cause: error }) : error
}
