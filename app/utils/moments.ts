/** A point in time as people read it, in their own time zone: day, month, hours and minutes, and seconds where they matter. */
export function momentOf(iso: string, { seconds = false } = {}): string {
  const time = seconds
    ? ({ hour: '2-digit', minute: '2-digit', second: '2-digit' } as const)
    : ({ hour: '2-digit', minute: '2-digit' } as const)
  return new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', ...time })
}
