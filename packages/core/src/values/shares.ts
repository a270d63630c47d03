/**
 * Weights as percentages of their sum, rounded to tenths so that they come to 100.0 (largest remainder). All noughts give
 * null: nothing can be drawn.
 */
export function sharesOf(weights: readonly number[]): readonly number[] | null {
  const sum = weights.reduce((total, weight) => total + weight, 0)
  if (!(sum > 0) || weights.some((weight) => !(weight >= 0))) return null
  const exact = weights.map((weight) => (weight / sum) * 1000)
  const tenths = exact.map(Math.floor)
  const missing = 1000 - tenths.reduce((total, tenth) => total + tenth, 0)
  const byRest = exact.map((amount, i) => ({ i, rest: amount - Math.floor(amount) })).sort((a, b) => b.rest - a.rest || a.i - b.i)
  for (const { i } of byRest.slice(0, Math.round(missing))) tenths[i]!++
  return tenths.map((tenth) => tenth / 10)
}
