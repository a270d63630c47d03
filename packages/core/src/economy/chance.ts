/** Something that is drawn: an item, or another table, with its weight. */
export interface Drawn {
  readonly name: string
  readonly weight: number
}

/** Tables that are drawn from, by their names; what is named like one of them is drawn from that in turn. */
export type Tables = Readonly<Record<string, readonly Drawn[]>>

/** A table that leads back to itself, so that a draw from it would not end. */
export class EndlessDraw extends Error {
  readonly code = 'endless-draw'

  constructor(readonly path: readonly string[]) {
    super(`${path.join(' → ')} goes round in a circle`)
  }
}

/** Each entry with its share of all, 0 to 1: its weight over the sum of weights. Weights below nothing count as nothing. */
export function drawShares(table: readonly Drawn[]): readonly { readonly name: string; readonly share: number }[] {
  const sum = table.reduce((all, { weight }) => all + Math.max(0, weight), 0)
  return table.map(({ name, weight }) => ({ name, share: sum === 0 ? 0 : Math.max(0, weight) / sum }))
}

/**
 * How likely each thing is in the end, tables within tables drawn in turn: the sum over all ways to it of the products of shares.
 * @throws EndlessDraw where a table leads back to itself
 */
export function chancesIn(tables: Tables, name: string): ReadonlyMap<string, number> {
  const found = new Map<string, number>()
  const draw = (table: string, share: number, path: readonly string[]): void => {
    if (path.includes(table)) throw new EndlessDraw([...path, table])
    for (const entry of drawShares(tables[table]!)) {
      if (entry.share === 0) continue
      if (Object.hasOwn(tables, entry.name)) draw(entry.name, share * entry.share, [...path, table])
      else found.set(entry.name, (found.get(entry.name) ?? 0) + share * entry.share)
    }
  }
  if (Object.hasOwn(tables, name)) draw(name, 1, [])
  return found
}

/**
 * After how many tries somebody has it at least once in so many cases: the least n with 1 − (1 − p)ⁿ ≥ sure.
 * @param chance p, 0 to 1
 * @param sure 0 to 1, as 0.9 for nine of ten cases
 * @returns null where no number of tries will do
 */
export function triesUntil(chance: number, sure: number): number | null {
  if (sure <= 0) return 0
  if (chance <= 0 || (sure >= 1 && chance < 1)) return null
  if (chance >= 1) return 1
  const tries = Math.max(1, Math.ceil(Math.log1p(-sure) / Math.log1p(-chance)))
  // where the logarithms are rounded up over a whole number
  return tries > 1 && 1 - (1 - chance) ** (tries - 1) >= sure ? tries - 1 : tries
}
