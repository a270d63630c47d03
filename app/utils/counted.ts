/** A number with what it counts, in the right number: "1 file", "3 files", "no files". */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count === 0 ? 'no' : count.toLocaleString('en')} ${count === 1 ? one : many}`
}

/** A unit in the plural, as fields are named after it: `second` gives “seconds”, `millisecond` “ms”. */
export const plural = (unit: string): string => (unit === 'millisecond' ? 'ms' : unit === '' ? '' : `${unit}s`)
