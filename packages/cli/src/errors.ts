export const EXIT = { done: 0, misuse: 1, unparsable: 2, look: 3 } as const

/** A command that cannot be done, with the exit code and words for it. */
export class CliError extends Error {
  constructor(
    readonly exit: number,
    message: string,
    options?: ErrorOptions,
  ) {
    super(message, options)
    this.name = 'CliError'
  }
}
