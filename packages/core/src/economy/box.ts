/** What some numbers are like, as a box plot shows it. */
export interface Box {
  readonly low: number
  readonly quarter: number
  readonly middle: number
  readonly threeQuarters: number
  readonly high: number
}

/**
 * The number below which a share of some lie, between two of them in proportion (R. J. Hyndman and Y. Fan, Sample Quantiles in
 * Statistical Packages, 1996, definition 7). @param sorted from the least, at least one
 */
export function quantile(sorted: ArrayLike<number>, share: number): number {
  const at = (sorted.length - 1) * share
  const below = Math.floor(at)
  const first = sorted[below]!
  return first + (at - below) * ((sorted[below + 1] ?? first) - first)
}

/** Fewer than these tell nothing of what is usual. */
const FEWEST = 5

/** The box of some numbers with whiskers at 5 and 95 of 100; null for too few of them. */
export function boxOf(numbers: readonly number[]): Box | null {
  if (numbers.length < FEWEST) return null
  const sorted = [...numbers].sort((a, b) => a - b)
  const [low, quarter, middle, threeQuarters, high] = [0.05, 0.25, 0.5, 0.75, 0.95].map((share) => quantile(sorted, share)) as [
    number,
    number,
    number,
    number,
    number,
  ]
  return { low, quarter, middle, threeQuarters, high }
}

/**
 * Whether a number is far from the others: more than one and a half times the height of the box away from it (J. W. Tukey, Exploratory
 * Data Analysis, 1977).
 */
export function isFar({ quarter, threeQuarters }: Box, number: number): boolean {
  const reach = 1.5 * (threeQuarters - quarter)
  return number < quarter - reach || number > threeQuarters + reach
}
