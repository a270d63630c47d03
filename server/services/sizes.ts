const MB = 1024 * 1024

/**
 * How large things may be, in bytes. One policy: what one part of the program takes in, all others can handle, and what
 * is too large for a page is named there and leaves the rest of the page as it is.
 */
export const SIZES = {
  /** A package, wherever it comes from; also any file that a change replaces, since it is kept for going back. */
  package: 64 * MB,
  /** One file inside a package that is unpacked in memory. */
  member: 16 * MB,
  /** A settings file that is shown, edited and checked. */
  settings: 16 * MB,
  /** Files in one package. */
  members: 4000,
} as const
