/** Where a command writes: standard output and error, or a test. */
export interface Streams {
  out(text: string): void
  err(text: string): void
  /** Says how far something is, in the place of what it said before; left out where nobody looks on. */
  progress?(text: string): void
}
