/** Why an operation cannot be done; the document is as it was. */
export class OperationError extends Error {
  constructor(
    readonly code: 'no-such-setting' | 'key-exists' | 'duplicate-key' | 'not-a-section' | 'cannot-hold' | 'would-not-read',
    message: string,
  ) {
    super(message)
    this.name = 'OperationError'
  }
}
