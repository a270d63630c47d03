const KB = 1024
const MB = 1024 * KB

/**
 * How large things may be, in bytes. One policy: what one part of the program takes in, all others can handle, and what
 * is too large for a page is named there and leaves the rest of the page as it is. Told to users in docs/security.md.
 */
export const SIZES = {
  /** A package, wherever it comes from; also any file that a change replaces, since it is kept for going back. */
  package: 64 * MB,
  /** What a package may unpack to. */
  archive: {
    entries: 4000,
    entry: 64 * MB,
    total: 256 * MB,
    /** Times its own size, looked at when it unpacks to more than `free`. */
    ratio: 100,
    free: 16 * MB,
    descriptor: 1 * MB,
    /** All default settings of a package together. */
    defaults: 16 * MB,
  },
  /** A settings file that is shown, edited and checked. */
  settings: 16 * MB,
  /** A picture or another file that a setting names, when it is shown or uploaded. */
  picture: 8 * MB,
  /** The list of a plugin site. */
  siteList: 4 * MB,
  /** The body of a request: one that anybody may send, one of those who are signed in, one with a settings file in it. */
  openBody: 16 * KB,
  body: 256 * KB,
  settingsBody: 40 * MB,
} as const
