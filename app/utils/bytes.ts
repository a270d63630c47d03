const UNITS = ['bytes', 'KB', 'MB', 'GB', 'TB'] as const

/** A size in words, with as many digits as tell it from another: `812 bytes`, `1.4 MB`, `23 MB`. */
export function bytesOf(bytes: number): string {
  const at = bytes < 1000 ? 0 : Math.min(UNITS.length - 1, Math.floor(Math.log(bytes) / Math.log(1024)) || 1)
  const amount = bytes / 1024 ** at
  return `${amount < 10 && at > 0 ? amount.toFixed(1) : Math.round(amount)} ${UNITS[at]}`
}
