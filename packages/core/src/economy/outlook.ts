import { quantile } from './box'
import { simulate, type Plan, type Run } from './simulate'

/** What many runs from different seeds come to: the middle, and between which eight of ten lie. */
export interface Spread {
  readonly low: number
  readonly middle: number
  readonly high: number
}

export interface Outlook {
  readonly runs: number
  /** All money there is, at the start and at the end of each day. */
  readonly supply: readonly Spread[]
  /** What a tenth, half and nine tenths of the players have at most, at the end; the middle of all runs. */
  readonly balances: readonly [number, number, number]
  /** What the richest tenth has of all, at the end. */
  readonly richest: number
  /** Hours of play until half of a kind could pay a goal; null where they could not in half of the runs. */
  readonly reached: readonly { readonly goal: string; readonly kind: string; readonly hours: number | null }[]
}

/**
 * Lives the days of several plans, each from as many seeds as there are runs, one after the other.
 * @param told after each run how many are done
 */
export function liveAll(plans: readonly Plan[], runs: number, told: (done: number) => void = () => undefined): Outlook[] {
  let done = 0
  return plans.map((plan) => {
    const lived: Run[] = []
    for (let i = 0; i < runs; i++) {
      lived.push(simulate({ ...plan, seed: plan.seed + i }))
      told(++done)
    }
    return outlookOf(lived)
  })
}

/** What some runs of the same plan come to, at least one. */
export function outlookOf(runs: readonly Run[]): Outlook {
  const days = runs[0]!.days.length
  const ends = runs.map((run) => run.days.at(-1))
  const at = (of: (run: Run) => number): Spread => spreadOf(runs.map(of))
  const middle = (of: (end: NonNullable<(typeof ends)[number]>) => number): number =>
    spreadOf(ends.flatMap((end) => (end ? [of(end)] : []))).middle
  return {
    runs: runs.length,
    supply: [at(({ start }) => start), ...Array.from({ length: days }, (_x, day) => at((run) => run.days[day]!.supply))],
    balances: [middle((end) => end.balances[0]), middle((end) => end.balances[1]), middle((end) => end.balances[2])],
    richest: middle((end) => end.richest),
    reached: runs[0]!.reached.map(({ goal, kind }, i) => {
      const hours = runs.map((run) => run.reached[i]!.hours ?? Number.POSITIVE_INFINITY).sort((a, b) => a - b)
      const half = hours[Math.ceil(hours.length / 2) - 1]!
      return { goal, kind, hours: Number.isFinite(half) ? half : null }
    }),
  }
}

function spreadOf(numbers: readonly number[]): Spread {
  if (numbers.length === 0) return { low: 0, middle: 0, high: 0 }
  const sorted = [...numbers].sort((a, b) => a - b)
  return { low: quantile(sorted, 0.1), middle: quantile(sorted, 0.5), high: quantile(sorted, 0.9) }
}
