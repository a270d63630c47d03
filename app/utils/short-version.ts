/** A version as it is said: `3.0`, not `3.0.0`. */
export function shortVersion(version: string): string {
  return version.replace(/\.0$/, '')
}
