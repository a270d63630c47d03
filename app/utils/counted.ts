/** A number with what it counts, in the right number: "1 file", "3 files", "no files". */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count === 0 ? 'no' : count} ${count === 1 ? one : many}`
}
