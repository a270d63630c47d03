/** Writes how the demo's servers ran over the last day. `now` is in seconds since 1970. */
export function writePast(file: string, now: number): void
