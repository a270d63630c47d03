/** The version of this program, as it tells of itself. */
export const VERSION = '0.1.0'
