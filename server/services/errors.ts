/** A request that cannot be met. `message` is fit for users; `cause` is for the log only. */
export class ServiceError extends Error {
  constructor(
    readonly code: ErrorCode,
    readonly status: number,
    message: string,
    options?: ErrorOptions,
  ) {
    super(message, options)
    this.name = 'ServiceError'
  }
}

export type ErrorCode =
  | 'not-signed-in'
  | 'not-allowed'
  | 'not-found'
  | 'bad-input'
  | 'bad-package'
  | 'bad-link'
  | 'outside-folder'
  | 'too-large'
  | 'server-stopped'
  | 'server-running'
  | 'server-failed'
  | 'busy'
  | 'drift'
  | 'has-errors'
  | 'not-utf8'
  | 'decisions-open'
  | 'drafts-open'
  | 'plan-blocked'
  | 'nothing-to-do'

export const notFound = (what: string): ServiceError => new ServiceError('not-found', 404, `There is no ${what}.`)
