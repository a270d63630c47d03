/** Where a command writes: standard output and error, or a test. */
export interface Streams {
  out(text: string): void
  err(text: string): void
}
