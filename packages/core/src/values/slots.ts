/** What is in one slot of a rack; `items` are places in the list that names it, more than one where it is named twice. */
export interface Slot {
  readonly number: number
  readonly items: readonly number[]
}

/** The slots of a rack in rows of nine, from the first number to the end of the row that holds the last. */
export function rackOf(numbers: readonly number[], first: number, rows = 1): readonly Slot[] {
  const last = Math.max(first - 1, ...numbers.filter((number) => number < first + MOST))
  const size = Math.max(rows, Math.ceil((last - first + 1) / 9)) * 9
  const slots = Array.from({ length: size }, (_, i) => ({ number: first + i, items: [] as number[] }))
  numbers.forEach((number, i) => slots[number - first]?.items.push(i))
  return slots
}

/** More slots than this are drawn by no game. */
const MOST = 108

/** The first slot after one that is free; null where the rack is full. */
export const nextFree = (slots: readonly Slot[], after: number): number | null =>
  (slots.find(({ number, items }) => number > after && items.length === 0) ?? slots.find(({ items }) => items.length === 0))?.number ?? null
